/** Many links in one act: what can be made is made, what cannot is named with its reason. */
import { Draft } from '../change/change.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Document, projectOf } from '../model/document.ts';
import type { ProblemCode } from '../model/problem-codes.ts';
import type { Activity, Link, LinkType } from '../model/schema.ts';
import { takeOut } from './attached.ts';
import { LinkPlan } from './link-plan.ts';
import { count, done, type NewId, type Outcome, refused, settled } from './result.ts';

/** A link that is wanted. */
export type Wish = Pick<Link, 'from' | 'to' | 'type' | 'lag' | 'lagCalendar'>;

/** A wish that is not fulfilled, and why; `loop`: the activities of the loop that it would close, in order. */
export interface Skipped {
  from: string;
  to: string;
  code: ProblemCode;
  message: string;
  loop?: string[];
}

/** What an act on many links would do. */
export interface Linking {
  outcome: Outcome;
  made: number;
  skipped: Skipped[];
}

/** Minutes of a lag behind a predecessor: a day is as long as its calendar's. */
export type LagOf = (predecessor: Activity) => number;
const noLag: LagOf = () => 0;

/** Which of some wishes can be fulfilled together, the first ones first. Those that cannot are left out and named. */
function fulfil(doc: Document, label: (n: number) => string, wishes: readonly Wish[], newId: NewId, gone: ReadonlySet<string> = new Set(), draft = new Draft(doc)): Linking {
  const plan = new LinkPlan(doc, gone);
  const skipped: Skipped[] = [];
  let rank = indexOf(doc).nextLinkRank();
  for (const w of wishes) {
    const no = plan.refusal(w);
    if (no) {
      const { code, message } = no.problems[0]!;
      skipped.push({ from: w.from, to: w.to, code, message, ...(no.loop ? { loop: no.loop } : {}) });
      continue;
    }
    const row: Link = { id: newId(), rank: rank++, ...w };
    plan.add(row);
    draft.set('links', row.id, row);
  }
  const made = plan.made.map((l) => l.id);
  if (draft.changes.length === 0)
    return { outcome: skipped[0] ? refused(skipped[0].code, skipped[0].message) : refused('NOTHING_SELECTED', 'There is nothing to link.'), made: 0, skipped };
  return { outcome: settled(doc, label(made.length), draft.changes, made), made: made.length, skipped };
}

/** Each of these to each of those, of one type and lag. */
export function linkEach(doc: Document, these: readonly string[], those: readonly string[], type: LinkType, newId: NewId, lag: LagOf = noLag): Linking {
  const wishes = these.flatMap((from) => {
    const a = doc.activities.get(from);
    const minutes = a ? lag(a) : 0;
    return those.map((to): Wish => ({ from, to, type, lag: minutes, lagCalendar: null }));
  });
  return fulfil(doc, (n) => `Link ${these.length} to ${those.length}: ${count(n, 'link')}`, wishes, newId);
}

export type Side = 'predecessors' | 'successors';

/** The links at one side of an activity. */
export const linksAt = (doc: Document, id: string, side: Side): readonly Link[] => (side === 'predecessors' ? indexOf(doc).linksInto(id) : indexOf(doc).linksOutOf(id));

/** What copied links have instead of their own types and lags; `only`: the links that are copied. */
export interface CopyOptions {
  only?: ReadonlySet<string>;
  type?: LinkType;
  lag?: LagOf;
}

/** Gives many activities the predecessors (or successors) of one, with their types, lags and lag calendars or with others. */
export function copyLinks(doc: Document, source: string, targets: readonly string[], side: Side, options: CopyOptions, newId: NewId): Linking {
  const own = doc.activities.get(source);
  const links = linksAt(doc, source, side).filter((l) => options.only?.has(l.id) ?? true);
  const wishes = targets
    .filter((id) => id !== source)
    .flatMap((id) =>
      links.map((l): Wish => {
        const [from, to] = side === 'predecessors' ? [l.from, id] : [id, l.to];
        const before = doc.activities.get(from);
        const given = options.lag && before ? { lag: options.lag(before), lagCalendar: null } : { lag: l.lag, lagCalendar: l.lagCalendar };
        return { from, to, type: options.type ?? l.type, ...given };
      }),
    );
  return fulfil(doc, (n) => `Copy ${side} of ${own?.code ?? source}: ${count(n, 'link')}`, wishes, newId);
}

/** Turns links round: the successor becomes the predecessor, and starts become finishes, so that FS stays FS and SS stays SS. */
export function reverseLinks(doc: Document, ids: readonly string[], newId: NewId): Linking {
  const links = ids.flatMap((id) => doc.links.get(id) ?? []);
  const draft = new Draft(doc);
  for (const l of links) draft.set('links', l.id, null);
  const wishes = links.map((l): Wish => ({ from: l.to, to: l.from, type: l.type, lag: l.lag, lagCalendar: l.lagCalendar }));
  const result = fulfil(doc, (n) => `Reverse ${count(n, 'link')}`, wishes, newId, new Set(ids), draft);
  // A link that cannot be turned would be lost: then none is.
  const first = result.skipped[0];
  return first ? { ...result, made: 0, outcome: refused(first.code, first.message) } : result;
}

/** Gives many links another type, lag or lag calendar. All or none: the first that may not be is named. */
export function changeLinks(doc: Document, ids: readonly string[], fields: { type?: LinkType; lag?: LagOf; lagCalendar?: Link['lagCalendar'] }): Outcome {
  const links = ids.flatMap((id) => doc.links.get(id) ?? []);
  if (links.length === 0) return refused('UNKNOWN_LINK', 'Choose links first.');
  const draft = new Draft(doc);
  const plan = new LinkPlan(doc, new Set(fields.type === undefined ? [] : ids));
  for (const l of links) {
    const before = doc.activities.get(l.from);
    const next: Link = {
      ...l,
      ...(fields.type === undefined ? {} : { type: fields.type }),
      ...(fields.lag && before ? { lag: fields.lag(before) } : {}),
      ...(fields.lagCalendar === undefined ? {} : { lagCalendar: fields.lagCalendar }),
    };
    if (fields.type !== undefined) {
      const no = plan.refusal(next);
      if (no) return no;
      plan.add(next);
    }
    draft.set('links', l.id, next);
  }
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', 'These links are so already.');
  return settled(doc, `Change ${count(draft.changes.length, 'link')}`, draft.changes);
}

/** Takes all links away at one side of activities, or at both. */
export function clearLinks(doc: Document, activities: readonly string[], side: Side | 'both'): Outcome {
  const draft = new Draft(doc);
  for (const id of activities)
    for (const s of side === 'both' ? (['predecessors', 'successors'] as const) : [side]) for (const l of linksAt(doc, id, s)) draft.set('links', l.id, null);
  if (draft.changes.length === 0) return refused('NOTHING_SELECTED', side === 'both' ? 'The selected activities have no links.' : `The selected activities have no ${side}.`);
  return done(`Delete ${count(draft.changes.length, 'link')}`, draft.changes);
}

/** Puts an activity into a link: what led past it now leads through it. The lag stays before the activity. */
export function insertIntoLink(doc: Document, linkId: string, activity: string, newId: NewId): Linking {
  const l = doc.links.get(linkId);
  if (!l) return { outcome: refused('UNKNOWN_LINK', 'That link is not in the plan any more.'), made: 0, skipped: [] };
  const draft = new Draft(doc);
  draft.set('links', l.id, null);
  const into: LinkType = l.type[0] === 'F' ? 'FS' : 'SS';
  const out: LinkType = l.type[1] === 'S' ? 'FS' : 'FF';
  const wishes: Wish[] = [
    { from: l.from, to: activity, type: into, lag: l.lag, lagCalendar: l.lagCalendar },
    { from: activity, to: l.to, type: out, lag: 0, lagCalendar: null },
  ];
  const plan = new LinkPlan(doc, new Set([l.id]));
  // What is linked so already needs no second link.
  const wanted = wishes.filter((w) => !plan.isLinked(w));
  const name = doc.activities.get(activity)?.code ?? '';
  const result = fulfil(doc, () => `Put ${name} into the link ${doc.activities.get(l.from)?.code} to ${doc.activities.get(l.to)?.code}`, wanted, newId, new Set([l.id]), draft);
  const first = result.skipped[0];
  return first ? { ...result, made: 0, outcome: refused(first.code, first.message) } : result;
}

/** The id of the calendar that a lag is counted in, `elapsed` where it is the clock's; null: of the activity's default, the project's. */
export function lagCalendarId(doc: Document, l: Pick<Link, 'from' | 'to' | 'lagCalendar'>): string {
  const { options, calendarId } = projectOf(doc);
  const choice = l.lagCalendar ?? options.lagCalendar;
  const of = (id: string): string => doc.activities.get(id)?.calendarId ?? calendarId;
  if (choice === 'predecessor') return of(l.from);
  if (choice === 'successor') return of(l.to);
  return choice === 'project' ? calendarId : choice === 'elapsed' ? 'elapsed' : choice.slice(9);
}

/**
 * The links that stand in for an activity that is taken out of its logic, as if it took no time: from each predecessor to
 * each successor, from the end that led in to the end that was led to, with both lags.
 */
function bridges(doc: Document, before: readonly Link[], after: readonly Link[]): Wish[] {
  return before.flatMap((p) =>
    after.map((s): Wish => {
      const margin = doc.activities.get(p.from)?.type === 'margin' || doc.activities.get(s.to)?.type === 'margin';
      const type = margin ? 'FS' : (`${p.type[0]}${s.type[1]}` as LinkType);
      const lag = p.lag + s.lag;
      // The lag goes on being counted where it was; of two, where the longer one was.
      const counted = Math.abs(s.lag) > Math.abs(p.lag) ? s : p;
      const plain: Pick<Link, 'from' | 'to' | 'lagCalendar'> = { from: p.from, to: s.to, lagCalendar: null };
      const wanted = lagCalendarId(doc, counted);
      const lagCalendar = lag === 0 || lagCalendarId(doc, plain) === wanted ? null : wanted === 'elapsed' ? 'elapsed' : (`calendar:${wanted}` as const);
      return { from: p.from, to: s.to, type, lag, lagCalendar };
    }),
  );
}

/**
 * Joins the predecessors of activities to their successors and takes the activities out of the logic; with `remove` out
 * of the plan as well. A chain of them is bridged as a whole.
 */
export function joinAround(doc: Document, ids: readonly string[], remove: boolean, newId: NewId): Outcome {
  const out = ids.filter((id) => doc.activities.has(id));
  if (out.length === 0) return refused('NOTHING_SELECTED', 'Select activities first.');
  const links = new Map<string, Link>();
  const gone = new Set<string>();
  const at = (id: string, end: 'from' | 'to'): Link[] => [
    ...(end === 'to' ? indexOf(doc).linksInto(id) : indexOf(doc).linksOutOf(id)).filter((l) => !gone.has(l.id)),
    ...[...links.values()].filter((l) => l[end] === id),
  ];
  let n = 0;
  for (const id of out) {
    const [before, after] = [at(id, 'to'), at(id, 'from')];
    const wishes = bridges(doc, before, after);
    for (const l of [...before, ...after]) if (!links.delete(l.id)) gone.add(l.id);
    for (const w of wishes) {
      const twin = [...links.values()].find((l) => l.from === w.from && l.to === w.to && l.type === w.type);
      // Two ways round: the longer lag holds both.
      if (twin && twin.lag >= w.lag) continue;
      if (twin) links.delete(twin.id);
      const key = `bridge ${n++}`;
      links.set(key, { id: key, rank: 0, ...w });
    }
  }
  const draft = new Draft(doc);
  for (const id of gone) draft.set('links', id, null);
  let rank = indexOf(doc).nextLinkRank();
  const plan = new LinkPlan(doc, gone);
  for (const l of links.values()) {
    const there = plan.same(l);
    if (there) {
      if (there.lag < l.lag) draft.patch('links', there.id, { lag: l.lag, lagCalendar: l.lagCalendar });
      continue;
    }
    const row: Link = { ...l, id: newId(), rank: rank++ };
    draft.set('links', row.id, row);
  }
  if (remove) for (const id of out) takeOut(draft, { kind: 'activity', id });
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', 'The selected activities have no links.');
  const name = count(out.length, 'activity');
  return settled(doc, remove ? `Dissolve ${name}` : `Join around ${name}`, draft.changes);
}
