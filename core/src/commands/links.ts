/** Commands on links, and links as people type them: `120fs+2d, 130`. */
import { Draft } from '../change/change.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Document, labelOf } from '../model/document.ts';
import { type Activity, type Link, type LinkType } from '../model/schema.ts';
import { type DayLengths, formatDuration, parseDuration } from '../time/duration.ts';
import { dayLengths } from '../schedule/calendars.ts';
import { LinkPlan } from './link-plan.ts';
import { count, done, type NewId, type Outcome, refused, settled } from './result.ts';

/** Adds one link. */
export function addLink(doc: Document, link: { from: string; to: string; type?: LinkType; lag?: number }, newId: NewId): Outcome {
  const row: Link = { id: newId(), rank: indexOf(doc).nextLinkRank(), from: link.from, to: link.to, type: link.type ?? 'FS', lag: link.lag ?? 0, lagCalendar: null };
  const no = new LinkPlan(doc).refusal(row);
  if (no) return no;
  const draft = new Draft(doc);
  draft.set('links', row.id, row);
  return settled(doc, `Link ${doc.activities.get(row.from)?.code} to ${doc.activities.get(row.to)?.code}`, draft.changes, [row.id]);
}

/** Links activities in the order given, each to the next. Pairs that are linked already are left as they are. */
export function linkInOrder(doc: Document, ids: readonly string[], newId: NewId, type: LinkType = 'FS', lag = 0): Outcome {
  if (ids.length < 2) return refused('SELECT_TWO', 'Select two or more activities, in the order in which they follow each other.');
  const plan = new LinkPlan(doc);
  let rank = indexOf(doc).nextLinkRank();
  const draft = new Draft(doc);
  for (let i = 1; i < ids.length; i++) {
    const row: Link = { id: newId(), rank, from: ids[i - 1]!, to: ids[i]!, type, lag, lagCalendar: null };
    if (plan.isLinked(row)) continue;
    const no = plan.refusal(row);
    if (no) return no;
    rank++;
    plan.add(row);
    draft.set('links', row.id, row);
  }
  if (plan.made.length === 0) return refused('DUPLICATE_LINK', 'These activities are linked already.');
  return settled(
    doc,
    `Link ${count(ids.length, 'activity')}`,
    draft.changes,
    plan.made.map((l) => l.id),
  );
}

/** Changes type, lag or lag calendar of a link. */
export function editLink(doc: Document, id: string, fields: Partial<Pick<Link, 'type' | 'lag' | 'lagCalendar'>>): Outcome {
  const link = doc.links.get(id);
  if (!link) return refused('UNKNOWN_LINK', 'That link is not in the plan any more.');
  const next = { ...link, ...fields };
  if (next.type !== link.type) {
    const no = new LinkPlan(doc, new Set([id])).refusal(next);
    if (no) return no;
  }
  const draft = new Draft(doc);
  draft.set('links', id, next);
  return settled(doc, `Change link ${doc.activities.get(link.from)?.code} to ${doc.activities.get(link.to)?.code}`, draft.changes);
}

/** Links that lead from one of some activities to another of them. */
export function linksAmong(doc: Document, ids: readonly string[]): Link[] {
  const among = new Set(ids);
  return ids.flatMap((id) =>
    indexOf(doc)
      .linksInto(id)
      .filter((l) => among.has(l.from)),
  );
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
export function parseLinks(doc: Document, text: string, lengths: (a: Activity) => DayLengths): { links: TypedLink[] } | { error: string } {
  const links: TypedLink[] = [];
  const index = indexOf(doc);
  for (const part of text.split(/[,;\n]/).map((p) => p.trim())) {
    if (part === '') continue;
    // A whole entry may be a code that looks like one with a type, so codes are tried first.
    let activity = index.byCode(part);
    let type: LinkType = 'FS';
    let lagText = '';
    if (!activity) {
      const m = /^(.*?)\s*(fs|ss|ff|sf)?\s*([+\-−]\s*[\d.,\swdhm]+)?$/i.exec(part);
      const code = m?.[1]?.trim().toLowerCase() ?? '';
      activity = index.byCode(code);
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

/** Puts typed links on one side of an activity into a draft; the refusal of the first that may not be. `gone`: links that go with it. */
function putTyped(
  draft: Draft,
  id: string,
  side: 'predecessors' | 'successors',
  typed: readonly TypedLink[],
  gone: ReadonlySet<string>,
  newId: NewId,
): { made: readonly Link[] } | { no: Outcome } {
  const plan = new LinkPlan(draft.doc, gone);
  let rank = indexOf(draft.doc).nextLinkRank();
  for (const t of typed) {
    const [from, to] = side === 'predecessors' ? [t.activity.id, id] : [id, t.activity.id];
    const row: Link = { id: newId(), rank: rank++, from, to, type: t.type, lag: t.lag, lagCalendar: null };
    const no = plan.refusal(row);
    if (no) return { no };
    plan.add(row);
    draft.set('links', row.id, row);
  }
  return { made: plan.made };
}

/** Adds typed links on one side of an activity to those that are there. */
export function addTypedLinks(doc: Document, id: string, side: 'predecessors' | 'successors', text: string, newId: NewId): Outcome {
  const own = doc.activities.get(id);
  if (!own) return refused('UNKNOWN_ACTIVITY', 'That activity is not in the plan any more.');
  const parsed = parseLinks(doc, text, side === 'predecessors' ? (x) => dayLengths(doc, x) : () => dayLengths(doc, own));
  if ('error' in parsed) return refused('WRONG_LINK', parsed.error, { table: 'activities', id, label: labelOf(own), field: side });
  const draft = new Draft(doc);
  const put = putTyped(draft, id, side, parsed.links, new Set(), newId);
  if ('no' in put) return put.no;
  const { made } = put;
  if (made.length === 0) return refused('WRONG_LINK', 'Type an activity number, then a type and a lag if you want: 120fs+2d.');
  return settled(
    doc,
    `Add ${side} of ${own.code}`,
    draft.changes,
    made.map((l) => l.id),
  );
}

/** Makes the predecessors (or successors) of an activity what is typed: links are added, changed and deleted to fit. */
export function setTypedLinks(doc: Document, id: string, side: 'predecessors' | 'successors', text: string, lengths: (a: Activity) => DayLengths, newId: NewId): Outcome {
  const own = doc.activities.get(id);
  if (!own) return refused('UNKNOWN_ACTIVITY', 'That activity is not in the plan any more.');
  const where = { table: 'activities', id, label: labelOf(own), field: side };
  const parsed = parseLinks(doc, text, side === 'predecessors' ? lengths : () => lengths(own));
  if ('error' in parsed) return refused('WRONG_LINK', parsed.error, where);
  const index = indexOf(doc);
  const here = side === 'predecessors' ? index.linksInto(id) : index.linksOutOf(id);
  const other = (l: Link): string => (side === 'predecessors' ? l.from : l.to);
  const draft = new Draft(doc);
  const kept = new Set<string>();
  for (const t of parsed.links) {
    const match = here.find((l) => other(l) === t.activity.id && l.type === t.type);
    if (match) kept.add(match.id);
  }
  const gone = new Set(here.flatMap((l) => (kept.has(l.id) ? [] : [l.id])));
  for (const l of gone) draft.set('links', l, null);
  const fresh = parsed.links.filter((t) => {
    const match = here.find((l) => kept.has(l.id) && other(l) === t.activity.id && l.type === t.type);
    if (match && match.lag !== t.lag) draft.patch('links', match.id, { lag: t.lag });
    return !match;
  });
  const put = putTyped(draft, id, side, fresh, gone, newId);
  if ('no' in put) return put.no;
  return settled(doc, `Set ${side} of ${own.code}`, draft.changes);
}
