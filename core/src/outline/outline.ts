/** The outline of a project: WBS nodes and activities as one list of rows, with WBS codes. */
import type { Document } from '../model/document.ts';
import type { Activity, WbsNode } from '../model/schema.ts';

export type OutlineRow = { kind: 'wbs'; id: string; depth: number; node: WbsNode; code: string } | { kind: 'activity'; id: string; depth: number; activity: Activity };

type Child = { rank: number; id: string; node?: WbsNode; activity?: Activity };

/** Children of every parent ('' for the top) in order. */
export function childrenOf(doc: Document): Map<string, Child[]> {
  const map = new Map<string, Child[]>();
  const put = (parent: string | null, child: Child): void => {
    const list = map.get(parent ?? '');
    if (list) list.push(child);
    else map.set(parent ?? '', [child]);
  };
  for (const node of doc.wbs.values()) put(node.parentId, { rank: node.rank, id: node.id, node });
  for (const activity of doc.activities.values()) put(activity.wbsId, { rank: activity.rank, id: activity.id, activity });
  for (const list of map.values()) list.sort((a, b) => a.rank - b.rank || (a.id < b.id ? -1 : 1));
  return map;
}

/** Outline numbers of WBS nodes: `2.1.3`. */
export function wbsCodes(doc: Document, children = childrenOf(doc)): Map<string, string> {
  const codes = new Map<string, string>();
  const stack: { parent: string; prefix: string }[] = [{ parent: '', prefix: '' }];
  for (let at = stack.pop(); at; at = stack.pop()) {
    let n = 0;
    for (const c of children.get(at.parent) ?? [])
      if (c.node) {
        const code = `${at.prefix}${++n}`;
        codes.set(c.id, code);
        stack.push({ parent: c.id, prefix: `${code}.` });
      }
  }
  return codes;
}

/** Outline number of one node, without numbering all of them. */
export function wbsCodeOf(doc: Document, id: string | null): string {
  const parts: number[] = [];
  for (let at = id === null ? undefined : doc.wbs.get(id), n = 0; at && n < 100; at = at.parentId === null ? undefined : doc.wbs.get(at.parentId), n++) {
    let place = 1;
    for (const w of doc.wbs.values()) if (w.parentId === at.parentId && (w.rank < at.rank || (w.rank === at.rank && w.id < at.id))) place++;
    parts.unshift(place);
  }
  return parts.join('.');
}

/** Rows from top to bottom; what lies in a collapsed node is left out. */
export function outlineRows(doc: Document, collapsed: ReadonlySet<string> = new Set()): OutlineRow[] {
  const children = childrenOf(doc);
  const codes = wbsCodes(doc, children);
  const rows: OutlineRow[] = [];
  const stack: { child: Child; depth: number }[] = [];
  const open = (parent: string, depth: number): void => {
    const list = children.get(parent) ?? [];
    for (let i = list.length - 1; i >= 0; i--) stack.push({ child: list[i]!, depth });
  };
  open('', 0);
  for (let at = stack.pop(); at; at = stack.pop()) {
    const { child, depth } = at;
    if (child.node) {
      rows.push({ kind: 'wbs', id: child.id, depth, node: child.node, code: codes.get(child.id) ?? '' });
      if (!collapsed.has(child.id)) open(child.id, depth + 1);
    } else if (child.activity) rows.push({ kind: 'activity', id: child.id, depth, activity: child.activity });
  }
  return rows;
}
