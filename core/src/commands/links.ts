/** Commands on links, and links as people type them: `120fs+2d, 130`. */
import { Draft } from '../change/change.ts';
import { type Document, labelOf, ordered } from '../model/document.ts';
import { type Activity, type Link, type LinkType } from '../model/schema.ts';
import { type DayLengths, formatDuration, parseDuration } from '../time/duration.ts';
import { count, done, type NewId, type Outcome, refused } from './result.ts';

/** Activities by code, made once for a command over many rows. */
export type ByCode = ReadonlyMap<string, Activity>;
export const activitiesByCode = (doc: Document): ByCode => new Map([...doc.activities.values()].map((a) => [a.code.toLowerCase(), a]));

interface Edge {
  from: string;
  to: string;
}

/** The activities from one to another along links, in order; undefined where there is no way. */
export function pathBetween(edges: Iterable<Edge>, from: string, to: string): string[] | undefined {
  const out = new Map<string, string[]>();
  for (const l of edges) {
    const list = out.get(l.from);
    if (list) list.push(l.to);
    else out.set(l.from, [l.to]);
  }
  const before = new Map<string, string>([[from, '']]);
  const queue = [from];
  for (let i = 0; i < queue.length; i++) {
    if (queue[i] === to) {
      const path: string[] = [];
      for (let at = to; at; at = before.get(at) ?? '') path.unshift(at);
      return path;
    }
    for (const next of out.get(queue[i]!) ?? [])
      if (!before.has(next)) {
        before.set(next, queue[i]!);
        queue.push(next);
      }
  }
  return undefined;
}

/** Why a link may not be there: itself, a margin's type, a second one, or a loop (named in order). Undefined if it may. */
function refusal(doc: Document, links: readonly Link[], link: Pick<Link, 'from' | 'to' | 'type'>, own?: string): Outcome | undefined {
  const a = doc.activities.get(link.from);
  const b = doc.activities.get(link.to);
  if (!a || !b) return refused('UNKNOWN_ACTIVITY', 'An activity of that link is not in the plan any more.');
  const where = { table: 'activities', id: b.id, label: labelOf(b) };
  if (a === b) return refused('LOOP', `${labelOf(a)} cannot be linked to itself.`, where);
  if (link.type !== 'FS' && (a.type === 'margin' || b.type === 'margin'))
    return refused('MARGIN_LINK', `Into and out of a margin only finish-to-start counts, so ${a.code} to ${b.code} cannot be ${link.type}.`, where);
  if (links.some((l) => l.id !== own && l.from === link.from && l.to === link.to && l.type === link.type))
    return refused('DUPLICATE_LINK', `${a.code} and ${b.code} are already linked ${link.type}. Change the lag of that link instead.`, where);
  const path = pathBetween(
    links.filter((l) => l.id !== own),
    link.to,
    link.from,
  );
  if (!path) return undefined;
  const names = [...path, link.to].map((id) => doc.activities.get(id)?.code ?? id);
  return refused('LOOP', `Linking ${a.code} to ${b.code} would close a loop: ${names.join(' > ')}. Delete one of the links between them first.`, where);
}

const nextRank = (links: readonly Link[]): number => links.reduce((n, l) => Math.max(n, l.rank), -1) + 1;

/** Adds one link. */
export function addLink(doc: Document, link: { from: string; to: string; type?: LinkType; lag?: number }, newId: NewId): Outcome {
  const links = ordered(doc, 'links');
  const row: Link = { id: newId(), rank: nextRank(links), from: link.from, to: link.to, type: link.type ?? 'FS', lag: link.lag ?? 0, lagCalendar: null };
  const no = refusal(doc, links, row);
  if (no) return no;
  const draft = new Draft(doc);
  draft.set('links', row.id, row);
  return done(`Link ${doc.activities.get(row.from)?.code} to ${doc.activities.get(row.to)?.code}`, draft.changes, [row.id]);
}

/** Links activities in the order given, each to the next. Pairs that are linked already are left as they are. */
export function linkInOrder(doc: Document, ids: readonly string[], newId: NewId, type: LinkType = 'FS', lag = 0): Outcome {
  if (ids.length < 2) return refused('SELECT_TWO', 'Select two or more activities, in the order in which they follow each other.');
  const links = [...ordered(doc, 'links')];
  const draft = new Draft(doc);
  const made: string[] = [];
  for (let i = 1; i < ids.length; i++) {
    const row: Link = { id: newId(), rank: nextRank(links), from: ids[i - 1]!, to: ids[i]!, type, lag, lagCalendar: null };
    if (links.some((l) => l.from === row.from && l.to === row.to && l.type === type)) continue;
    const no = refusal(doc, links, row);
    if (no) return no;
    links.push(row);
    draft.set('links', row.id, row);
    made.push(row.id);
  }
  if (made.length === 0) return refused('DUPLICATE_LINK', 'These activities are linked already.');
  return done(`Link ${count(ids.length, 'activity')}`, draft.changes, made);
}

/** Changes type, lag or lag calendar of a link. */
export function editLink(doc: Document, id: string, fields: Partial<Pick<Link, 'type' | 'lag' | 'lagCalendar'>>): Outcome {
  const link = doc.links.get(id);
  if (!link) return refused('UNKNOWN_LINK', 'That link is not in the plan any more.');
  const next = { ...link, ...fields };
  if (next.type !== link.type) {
    const no = refusal(doc, ordered(doc, 'links'), next, id);
    if (no) return no;
  }
  const draft = new Draft(doc);
  draft.set('links', id, next);
  return done(`Change link ${doc.activities.get(link.from)?.code} to ${doc.activities.get(link.to)?.code}`, draft.changes);
}

export function deleteLinks(doc: Document, ids: readonly string[]): Outcome {
  const draft = new Draft(doc);
  for (const id of ids) draft.set('links', id, null);
  if (draft.changes.length === 0) return refused('UNKNOWN_LINK', 'That link is not in the plan any more.');
  return done(`Delete ${count(draft.changes.length, 'link')}`, draft.changes);
}

export interface TypedLink {
  activity: Activity;
  type: LinkType;
  lag: number;
}

/** Reads `120fs+2d, 130`: codes with type and lag. The message of a wrong entry names it. */
export function parseLinks(byCode: ByCode, text: string, lengths: (a: Activity) => DayLengths): { links: TypedLink[] } | { error: string } {
  const links: TypedLink[] = [];
  for (const part of text.split(/[,;\n]/).map((p) => p.trim())) {
    if (part === '') continue;
    // A whole entry may be a code that looks like one with a type, so codes are tried first.
    let activity = byCode.get(part.toLowerCase());
    let type: LinkType = 'FS';
    let lagText = '';
    if (!activity) {
      const m = /^(.*?)\s*(fs|ss|ff|sf)?\s*([+\-−]\s*[\d.,\swdhm]+)?$/i.exec(part);
      const code = m?.[1]?.trim().toLowerCase() ?? '';
      activity = byCode.get(code);
      if (!m || !activity) return { error: `There is no activity ${m?.[1] || part}. Type an activity number, then a type and a lag if you want: 120fs+2d.` };
      type = ((m[2]?.toUpperCase() as LinkType | undefined) ?? 'FS') satisfies LinkType;
      lagText = m[3] ?? '';
    }
    const lag = lagText ? parseDuration(lagText, lengths(activity)) : 0;
    if (lag === undefined) return { error: `The lag in ${part} cannot be read. Type it as +2d, -4h or +1w.` };
    if (links.some((l) => l.activity === activity && l.type === type)) return { error: `${activity.code} ${type} stands there twice.` };
    links.push({ activity, type, lag });
  }
  return { links };
}

/** A link as it is typed: `120`, `120FS+2d`, `130SS`. */
export function formatLink(other: Pick<Activity, 'code'>, link: Pick<Link, 'type' | 'lag'>, lengths: DayLengths): string {
  const lag = link.lag === 0 ? '' : `${link.lag > 0 ? '+' : '-'}${formatDuration(Math.abs(link.lag), lengths)}`;
  return link.type === 'FS' && !lag ? other.code : `${other.code}${link.type}${lag}`;
}

/** Makes the predecessors (or successors) of an activity what is typed: links are added, changed and deleted to fit. */
export function setTypedLinks(
  doc: Document,
  id: string,
  side: 'predecessors' | 'successors',
  text: string,
  lengths: (a: Activity) => DayLengths,
  newId: NewId,
  byCode: ByCode = activitiesByCode(doc),
): Outcome {
  const own = doc.activities.get(id);
  if (!own) return refused('UNKNOWN_ACTIVITY', 'That activity is not in the plan any more.');
  const where = { table: 'activities', id, label: labelOf(own), field: side };
  const parsed = parseLinks(byCode, text, side === 'predecessors' ? lengths : () => lengths(own));
  if ('error' in parsed) return refused('WRONG_LINK', parsed.error, where);
  let links = [...ordered(doc, 'links')];
  const here = links.filter((l) => (side === 'predecessors' ? l.to : l.from) === id);
  const other = (l: Link): string => (side === 'predecessors' ? l.from : l.to);
  const draft = new Draft(doc);
  const kept = new Set<string>();
  for (const t of parsed.links) {
    const match = here.find((l) => other(l) === t.activity.id && l.type === t.type);
    if (match) kept.add(match.id);
  }
  for (const l of here) if (!kept.has(l.id)) draft.set('links', l.id, null);
  links = links.filter((l) => !here.includes(l) || kept.has(l.id));
  for (const t of parsed.links) {
    const match = here.find((l) => kept.has(l.id) && other(l) === t.activity.id && l.type === t.type);
    if (match) {
      if (match.lag !== t.lag) draft.patch('links', match.id, { lag: t.lag });
      continue;
    }
    const [from, to] = side === 'predecessors' ? [t.activity.id, id] : [id, t.activity.id];
    const row: Link = { id: newId(), rank: nextRank(links), from, to, type: t.type, lag: t.lag, lagCalendar: null };
    const no = refusal(doc, links, row);
    if (no) return no;
    links.push(row);
    draft.set('links', row.id, row);
  }
  return done(`Set ${side} of ${own.code}`, draft.changes);
}
