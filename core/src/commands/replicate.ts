/** Copying rows many times in one step, with their logic, and with the links to what is not copied as is chosen. */
import { Draft } from '../change/change.ts';
import { indexOf } from '../model/doc-index.ts';
import type { Document } from '../model/document.ts';
import { type Link, MAX_NAME, noProgress } from '../model/schema.ts';
import { numbersOf } from '../model/numbers.ts';
import { putAttached } from './attached.ts';
import { copyRows } from './copy-rows.ts';
import { readPattern } from './name-pattern.ts';
import { parentOf, type RowRef, siblings, spacedRanks } from './outline.ts';
import { count, type NewId, type Outcome, refused, settled } from './result.ts';

export interface Replication {
  /** How many copies; a pattern that counts says it by itself. */
  times: number;
  /** Name of the copied rows on top: `Level {2..6}`, `{name} {2..6}`. */
  names: string;
  /** In the names of rows inside, this text becomes what follows; empty: names inside stay. */
  replace: string;
  replaceBy: string;
  /** Links from what is not copied into the rows: one milestone then releases every copy. */
  incoming: boolean;
  /** Links from the rows to what is not copied: all copies then end in one milestone. */
  outgoing: boolean;
  /** Each copy follows the one before it: its first activities after the last ones of that. */
  chained: boolean;
}

/** What replicating would make, or why it cannot. */
export interface Replicated {
  outcome: Outcome;
  copies: number;
  rows: number;
  /** Links among the copied rows, into them and out of them, and from copy to copy. */
  links: { among: number; incoming: number; outgoing: number; chained: number };
  /** Names of the first rows on top, for the preview. */
  names: string[];
}

const MOST_COPIES = 500;
const MOST_MADE = 50_000;
/** The project a clip would be taken from does not matter here: nothing leaves the document. */
const HERE = 'here';

/** Links between the rows and what is not copied. */
export function linksOutside(doc: Document, refs: readonly RowRef[]): { incoming: Link[]; outgoing: Link[]; among: Link[] } {
  const clip = copyRows(doc, HERE, refs, false);
  const inside = new Set(clip?.activities.map((a) => a.id));
  const index = indexOf(doc);
  const all = clip?.activities ?? [];
  return {
    among: clip?.links ?? [],
    incoming: all.flatMap((a) => index.linksInto(a.id).filter((l) => !inside.has(l.from))),
    outgoing: all.flatMap((a) => index.linksOutOf(a.id).filter((l) => !inside.has(l.to))),
  };
}

/** Copies rows with all in them `times` times, below the last of them. Copies have no progress. */
export function replicate(doc: Document, refs: readonly RowRef[], how: Replication, newId: NewId): Replicated {
  const none = { copies: 0, rows: 0, links: { among: 0, incoming: 0, outgoing: 0, chained: 0 }, names: [] };
  const no = (...args: Parameters<typeof refused>): Replicated => ({ outcome: refused(...args), ...none });
  const clip = copyRows(doc, HERE, refs, false);
  const [first] = clip?.top ?? [];
  if (!clip || !first) return no('NOTHING_SELECTED', 'Select rows first.');
  const parent = parentOf(doc, first);
  if (clip.top.some((r) => parentOf(doc, r) !== parent))
    return no('MIXED_LEVELS', 'The selected rows are in different WBS nodes. Select rows of one node, or the nodes themselves.');
  const pattern = readPattern(how.names);
  const inner = readPattern(how.replaceBy);
  for (const p of [pattern, inner]) if ('error' in p) return no('WRONG_ENTRY', p.error);
  if ('error' in pattern || 'error' in inner) return no('WRONG_ENTRY', 'The pattern cannot be read.');
  const times = Math.min(...[pattern.count ?? how.times, ...(how.replace && inner.count !== null ? [inner.count] : [])]);
  if (!Number.isInteger(times) || times < 1 || times > MOST_COPIES) return no('WRONG_RANGE', `Between 1 and ${MOST_COPIES} copies can be made at once.`);
  const rowsOfOne = clip.wbs.length + clip.activities.length;
  if (rowsOfOne * times > MOST_MADE) return no('TOO_MANY_ROWS', `That would be ${rowsOfOne * times} rows; at most ${MOST_MADE} can be made at once.`);
  const { incoming, outgoing } = linksOutside(doc, refs);
  const draft = new Draft(doc);
  const numbers = numbersOf(doc);
  const onTop = new Map(clip.top.map((r, i) => [r.id, i]));
  const ranks = spacedRanks(draft, siblings(doc, parent), clip.top[clip.top.length - 1]?.id ?? null, clip.top.length * times);
  // Ends of the rows: what nothing among them leads to, and what leads to nothing among them.
  const entered = new Set(clip.links.map((l) => l.to));
  const left = new Set(clip.links.map((l) => l.from));
  const work = clip.activities.filter((a) => a.type !== 'levelOfEffort');
  const firsts = work.filter((a) => !entered.has(a.id));
  const lasts = work.filter((a) => !left.has(a.id));
  const made: string[] = [];
  const names: string[] = [];
  const links = { among: 0, incoming: 0, outgoing: 0, chained: 0 };
  let rank = indexOf(doc).nextLinkRank();
  const link = (l: Omit<Link, 'id' | 'rank'>, kind: keyof typeof links): void => {
    const row: Link = { ...l, id: newId(), rank: rank++ };
    draft.set('links', row.id, row);
    links[kind]++;
  };
  let before = new Map<string, string>();
  for (let n = 0; n < times; n++) {
    const ids = new Map<string, string>();
    for (const r of [...clip.wbs, ...clip.activities]) ids.set(r.id, newId());
    const idOf = (id: string): string => ids.get(id) ?? id;
    const nameOf = (id: string, name: string): string =>
      (onTop.has(id) ? pattern.text(n, name) : how.replace ? name.split(how.replace).join(inner.text(n, how.replace)) : name).slice(0, MAX_NAME);
    const rankOf = (id: string, own: number): number => {
      const i = onTop.get(id);
      return i === undefined ? own : ranks[n * clip.top.length + i]!;
    };
    for (const w of clip.wbs)
      draft.set('wbs', idOf(w.id), { ...w, id: idOf(w.id), parentId: onTop.has(w.id) ? parent : idOf(w.parentId ?? ''), rank: rankOf(w.id, w.rank), name: nameOf(w.id, w.name) });
    for (const a of clip.activities)
      draft.set('activities', idOf(a.id), {
        ...a,
        ...noProgress,
        id: idOf(a.id),
        code: numbers.next(),
        wbsId: onTop.has(a.id) ? parent : idOf(a.wbsId ?? ''),
        rank: rankOf(a.id, a.rank),
        name: nameOf(a.id, a.name),
      });
    putAttached(draft, clip, (id) => ids.get(id), newId);
    for (const r of clip.top) {
      made.push(idOf(r.id));
      const row = r.kind === 'wbs' ? draft.get('wbs', idOf(r.id)) : draft.get('activities', idOf(r.id));
      names.push(row?.name ?? '');
    }
    for (const l of clip.links) link({ ...l, from: idOf(l.from), to: idOf(l.to) }, 'among');
    if (how.incoming) for (const l of incoming) link({ ...l, to: idOf(l.to) }, 'incoming');
    if (how.outgoing) for (const l of outgoing) link({ ...l, from: idOf(l.from) }, 'outgoing');
    if (how.chained) for (const a of lasts) for (const b of firsts) link({ from: before.get(a.id) ?? a.id, to: idOf(b.id), type: 'FS', lag: 0, lagCalendar: null }, 'chained');
    before = ids;
  }
  return { outcome: settled(doc, `Replicate ${count(clip.top.length, 'row')} ${times} times`, draft.changes, made), copies: times, rows: rowsOfOne * times, links, names };
}
