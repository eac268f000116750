/** What a menu at the pointer is about: a row, a WBS node, a bar, a link or a head. */
import type { Document } from '@yellowhammer/core/model/document';
import { labelOf } from '@yellowhammer/core/model/document';
import { nameOfRow } from '@yellowhammer/core/model/tables';
import type { MenuAt } from '../commands/CommandMenu';
import { columnOf } from './columns';
import { type RowHeights, rowKinds } from '@yellowhammer/core/outline/heights';
import { linkAt } from './link-at';
import type { PlanRow } from './rows';

interface Around {
  rows: readonly PlanRow[];
  heights: RowHeights;
  body: HTMLElement | null;
  doc: Document;
}

/** Undefined where the browser's own menu is wanted: in a text that is being typed. */
export function menuAt(e: React.MouseEvent, { rows, heights, body, doc }: Around): (MenuAt & { row?: string; field?: string }) | undefined {
  const target = e.target as Element;
  if (target.closest('input, textarea, select')) return undefined;
  const at = { x: e.clientX, y: e.clientY };
  const head = target.closest<HTMLElement>('.head-cell')?.dataset['column'];
  if (head) return { ...at, where: 'head', title: columnOf(doc, head)?.title ?? head, column: head };
  const link = linkAt(e);
  const known = link === undefined ? undefined : doc.links.get(link);
  if (known) return { ...at, where: 'link', title: `${nameOfRow('links', known, doc)} (${known.type})`, link: known.id };
  if (!target.closest('.plan-scroll')) return undefined;
  const row = rows[heights.rowAt(e.clientY - (body?.getBoundingClientRect().top ?? 0))];
  if (!row || row.kind === 'draft') return { ...at, where: rowKinds.draft.where, title: 'The plan' };
  const field = target.closest<HTMLElement>('[data-column]')?.dataset['column'];
  const inSheet = target.closest('.sheet') !== null;
  if (row.kind === 'wbs') return { ...at, where: rowKinds.wbs.where, title: row.node.name || 'WBS node', row: row.id, field: inSheet ? (field ?? 'name') : undefined };
  const a = doc.activities.get(row.id) ?? row.activity;
  return { ...at, where: inSheet ? rowKinds.activity.where : 'bar', title: labelOf(a), row: row.id, field: inSheet ? (field ?? 'name') : undefined };
}
