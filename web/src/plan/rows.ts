/** The rows of the plan as sheet and timeline show them: one model for both. */
import { useMemo, useState } from 'react';
import { type DocIndex, indexOf } from '@yellowhammer/core/model/doc-index';
import { isGroupRow, type OutlineRow, PROJECT_ROW, projectRow } from '@yellowhammer/core/outline/outline';
import type { FieldContext } from '@yellowhammer/core/fields/field';
import { fieldOf } from '@yellowhammer/core/fields/list';
import type { Document } from '@yellowhammer/core/model/document';
import type { ActivityType } from '@yellowhammer/core/model/schema';
import type { Filter, Level } from '@yellowhammer/core/model/view-schema';
import { personName } from '../project/api';
import type { Target } from '@yellowhammer/core/view/put-in-group';
import { closedNodes } from '@yellowhammer/core/outline/depth';
import { laneHeight, packLane, type Packing, stackMiddle } from '@yellowhammer/core/outline/lane';
import type { RowRef } from '@yellowhammer/core/commands/outline';
import { type Places, PlacesOf } from '@yellowhammer/core/model/places';
import type { RowHeights } from '@yellowhammer/core/outline/heights';
import { traced } from '@yellowhammer/core/plan/trace';
import { tidy } from '@yellowhammer/core/view/filter';
import { everything, organise } from '@yellowhammer/core/view/organise';
import { Sums } from '@yellowhammer/core/view/sums';
import { readShort } from '@yellowhammer/core/view/words';
import { type PlanUi, usePlan } from '../app/store';
import { useKept, useShownBaseline } from './view/useKept';
import { useSession, useTopic, useView } from '../project/hooks';

/** A row that is being typed and is not in the plan yet. */
export interface DraftRow {
  kind: 'draft';
  id: 'draft';
  depth: number;
  /** The row it goes below; null at the end. */
  below: { kind: 'wbs' | 'activity'; id: string } | null;
  makes: 'activity' | 'wbs';
  /** Of the activity; a task without it. */
  type?: ActivityType;
  /** A node that goes into the node it is put below, as the last there. */
  inside?: boolean;
  /** The heading of groups that it goes right below. */
  heading?: string;
}

/** What is known of a row that is being typed. */
export type DraftOf = Pick<DraftRow, 'below' | 'makes' | 'type' | 'inside' | 'heading'>;

export type PlanRow = OutlineRow | DraftRow;

/** The row of the document that a row on the screen shows; none where a new one is being typed, and for the whole project. */
export const refOf = (r: PlanRow | undefined): RowRef | null => (!r || r.kind === 'draft' || r.id === PROJECT_ROW || isGroupRow(r.id) ? null : { kind: r.kind, id: r.id });

/** Links by the activity that they lead to and come from: maps of the document's index. */
export type LinksOf = Pick<DocIndex, 'into' | 'outOf'>;

/** The heading that the rows at a place stand under, with the levels; null where nothing is grouped. */
export function targetAt(rows: readonly PlanRow[], at: number, levels: readonly Level[]): Target | null {
  for (let i = Math.min(at, rows.length - 1); i >= 0; i--) {
    const r = rows[i]!;
    if (r.kind === 'wbs' && r.group) return { levels, heading: r.group };
  }
  return null;
}

/** What sheet and timeline show. */
export interface Shown {
  rows: PlanRow[];
  place: Places;
  links: LinksOf;
  /** Nodes and headings that are closed. */
  closed: ReadonlySet<string>;
  /** Activities that the filters let through, and all. */
  shown: number;
  all: number;
  headings: readonly { id: string; depth: number }[];
  /** What fields sum up to in nodes and headings. */
  sums: Sums;
}

/** Conditions that are typed under the heads of columns, with the view's own; null where there are none. */
export function filterOf(doc: Document, ui: Pick<PlanUi, 'filter' | 'headFilters'>): Filter | null {
  const typed = Object.entries(ui.headFilters ?? {}).flatMap(([key, text]) => {
    const f = text.trim() === '' ? undefined : fieldOf(doc, key);
    const c = f && readShort(doc, f, text);
    return c && !('error' in c) ? [c] : [];
  });
  const own = tidy(ui.filter);
  return typed.length === 0 ? own : { match: 'all', of: [...(own ? [own] : []), ...typed] };
}

/** `window`: the instants in view, for what lies in them. */
export function useRows(draft: DraftOf | null, window: { from: number; to: number } | null): Shown {
  const { doc } = useSession();
  const version = useTopic('outline');
  const linkVersion = useTopic('links');
  const view = useView();
  const { collapsed, trace, focus, projectRow: withProject, sort, filter, quick, headFilters, groups, mode } = usePlan();
  const docVersion = useTopic('doc');
  const baseline = useShownBaseline();
  const kept = useKept(filter);
  // The document changes inside; versions say when. Typing a duration moves no row, so nothing is built anew then.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const links = useMemo((): LinksOf => ({ into: indexOf(doc).into, outOf: indexOf(doc).outOf }), [doc, linkVersion]);
  const asked = filterOf(doc, { filter, headFilters });
  const asks = JSON.stringify(asked);
  // What rows are chosen, grouped or sorted by: without any of it, neither dates nor values change which rows there are.
  const choosing = trace !== null || sort.length > 0 || groups.length > 0 || quick.length > 0 || asked !== null;
  const dates = choosing ? view : null;
  const compared = choosing ? baseline : null;
  const values = choosing ? docVersion : 0;
  const me = quick.includes('mine') ? personName() : '';
  const inWindow = quick.includes('inWindow') ? `${window?.from} ${window?.to}` : '';
  const organised = useMemo(() => {
    // Network and month have no rows that could be closed.
    const closed = mode === 'timeline' ? closedNodes(doc, collapsed) : new Set<string>();
    const context: FieldContext = { doc, view, baseline, clock: false, kept };
    const found = organise(context, {
      ...everything,
      filter: asked,
      quick,
      me,
      window,
      only: trace ? traced(doc, view, trace) : null,
      focus: focus && !trace ? new Set(focus) : null,
      groups: trace ? [] : groups,
      sort,
      closed,
      flat: trace !== null,
    });
    const rows: PlanRow[] = !trace && !focus && withProject ? [projectRow(doc), ...found.rows] : found.rows;
    const members = new Map(found.rows.flatMap((r) => (r.kind === 'wbs' && r.group ? [[r.id, r.group.members] as const] : [])));
    return { ...found, rows, closed, members };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [doc, version, collapsed, trace, focus, withProject, sort, quick, groups, mode, asks, dates, compared, values, inWindow, me, kept]);
  const sums = useMemo(
    () => new Sums({ doc, view, baseline, clock: false }, organised.members),
    // Sums follow every value; they are reckoned only where a row in view shows one.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [doc, view, baseline, organised, docVersion],
  );
  const [places] = useState(() => new PlacesOf());
  const shown = useMemo(() => {
    const { closed, shown, all, headings } = organised;
    let rows = organised.rows;
    if (draft) {
      const after = draft.heading ?? draft.below?.id;
      const at = after !== undefined ? rows.findIndex((r) => r.id === after) : rows.length - 1;
      let place = at + 1;
      let depth = rows[at]?.depth ?? 0;
      const below = rows[at];
      if (below?.kind === 'wbs') {
        if (draft.makes === 'activity' || below.group) depth++;
        else if (draft.inside) {
          while (place < rows.length && rows[place]!.depth > depth) place++;
          depth++;
        }
        // A node goes after all that is in the node it is put below.
        else while (place < rows.length && rows[place]!.depth > depth) place++;
      }
      rows = [...rows.slice(0, place), { kind: 'draft', id: 'draft', depth: draft.below || draft.heading ? depth : 0, ...draft }, ...rows.slice(place)];
    }
    return { rows, place: places.in(rows.map((r) => r.id)), closed, shown, all, headings };
  }, [organised, draft, places]);
  return { ...shown, links, sums };
}

/** The closed lanes in view of the plan: how the activities of each lie in it. */
export interface Lanes {
  packs: ReadonlyMap<string, Packing>;
  /** The lane that an activity is drawn in. */
  laneOf: ReadonlyMap<string, string>;
  /** Heights of lanes in rows of the usual height. */
  heights: ReadonlyMap<string, number>;
}

export function useLanes(rows: readonly PlanRow[]): Lanes {
  const { doc } = useSession();
  const view = useView();
  const ids = useMemo(() => rows.flatMap((r) => (r.kind === 'wbs' && r.lane ? [r.id] : [])), [rows]);
  // Dates move activities from stack to stack; without a lane nothing depends on them.
  const dates = ids.length > 0 ? view : null;
  return useMemo(() => {
    const packs = new Map(dates ? ids.map((id) => [id, packLane(doc, dates, id)]) : []);
    const laneOf = new Map<string, string>();
    for (const [lane, pack] of packs) for (const id of pack.stackOf.keys()) laneOf.set(id, lane);
    return { packs, laneOf, heights: new Map([...packs].map(([id, p]) => [id, laneHeight(p.stacks)])) };
  }, [doc, dates, ids]);
}

/** Middle of an activity in pixels of the timeline: of its row, or of its stack in a lane; undefined where it is not shown. */
export function middleOf(id: string, place: Places, lanes: Lanes, heights: RowHeights): number | undefined {
  const own = place.get(id);
  if (own !== undefined) return heights.middle(own);
  const lane = lanes.laneOf.get(id);
  const pack = lane === undefined ? undefined : lanes.packs.get(lane);
  const row = place.get(lane ?? '');
  if (!pack || row === undefined) return undefined;
  return heights.top(row) + heights.height(row) * stackMiddle(pack.stackOf.get(id) ?? 0, pack.stacks);
}

/** The activities of a closed lane that lie at a height of the timeline. */
export function inStack(row: PlanRow | undefined, at: number, y: number, lanes: Lanes, heights: RowHeights): string[] {
  const pack = row ? lanes.packs.get(row.id) : undefined;
  if (!pack) return [];
  const stack = Math.min(pack.stacks - 1, Math.floor(((y - heights.top(at)) / heights.height(at)) * pack.stacks));
  return [...pack.stackOf].flatMap(([id, s]) => (s === stack ? [id] : []));
}
