/** The rows of the plan as sheet and timeline show them: one model for both. */
import { useMemo } from 'react';
import { type DocIndex, indexOf } from '@yellowhammer/core/model/doc-index';
import { focused, type OutlineRow, outlineRows } from '@yellowhammer/core/outline/outline';
import type { RowRef } from '@yellowhammer/core/commands/outline';
import { traced } from '@yellowhammer/core/plan/trace';
import { usePlan } from '../app/store';
import { useSession, useTopic, useView } from '../project/hooks';

/** A row that is being typed and is not in the plan yet. */
export interface DraftRow {
  kind: 'draft';
  id: 'draft';
  depth: number;
  /** The row it goes below; null at the end. */
  below: { kind: 'wbs' | 'activity'; id: string } | null;
  makes: 'activity' | 'wbs';
  /** A node that goes into the node it is put below, as the last there. */
  inside?: boolean;
}

/** What is known of a row that is being typed. */
export type DraftOf = Pick<DraftRow, 'below' | 'makes' | 'inside'>;

export type PlanRow = OutlineRow | DraftRow;

/** The row of the document that a row on the screen shows; none where a new one is being typed. */
export const refOf = (r: PlanRow | undefined): RowRef | null => (!r || r.kind === 'draft' ? null : { kind: r.kind, id: r.id });

/** Links by the activity that they lead to and come from: maps of the document's index. */
export type LinksOf = Pick<DocIndex, 'into' | 'outOf'>;

/** Rows from top to bottom with collapsed nodes, filters and the row being typed; and the place of each id. */
export function useRows(draft: DraftOf | null): { rows: PlanRow[]; place: Map<string, number>; links: LinksOf } {
  const { doc } = useSession();
  const version = useTopic('outline');
  const linkVersion = useTopic('links');
  const view = useView();
  const { collapsed, trace, onlyCritical, focus } = usePlan();
  // The document changes inside; versions say when. Typing a duration moves no row, so nothing is built anew then.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const links = useMemo((): LinksOf => ({ into: indexOf(doc).into, outOf: indexOf(doc).outOf }), [doc, linkVersion]);
  return useMemo(() => {
    let rows: PlanRow[] = outlineRows(doc, trace || onlyCritical ? new Set() : new Set(Object.keys(collapsed)));
    if (trace || onlyCritical) {
      const keep = trace ? traced(doc, view, trace) : new Set(view ? view.ids.filter((_, i) => view.critical[i] === 1) : []);
      rows = rows.filter((r) => r.kind === 'activity' && keep.has(r.id));
    } else if (focus) rows = focused(rows, new Set(focus));
    if (draft) {
      const at = draft.below ? rows.findIndex((r) => r.id === draft.below?.id) : rows.length - 1;
      let place = at + 1;
      let depth = rows[at]?.depth ?? 0;
      const below = rows[at];
      if (below?.kind === 'wbs') {
        if (draft.makes === 'activity') depth++;
        else if (draft.inside) {
          while (place < rows.length && rows[place]!.depth > depth) place++;
          depth++;
        }
        // A node goes after all that is in the node it is put below.
        else while (place < rows.length && rows[place]!.depth > depth) place++;
      }
      rows = [...rows.slice(0, place), { kind: 'draft', id: 'draft', depth: draft.below ? depth : 0, ...draft }, ...rows.slice(place)];
    }
    return { rows, place: new Map(rows.map((r, i) => [r.id, i])), links };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [doc, version, collapsed, draft, trace, onlyCritical, focus, links, trace || onlyCritical ? view : null]);
}
