/** What a drag on the timeline means: the bar moved or stretched, as an outcome, with the dates that result and in words. */
import { setActivities } from '../commands/cells.ts';
import { addActivity, type RowRef } from '../commands/outline.ts';
import type { NewId, Outcome } from '../commands/result.ts';
import { indexOf } from '../model/doc-index.ts';
import type { Document } from '../model/document.ts';
import type { Activity, Link, LinkType } from '../model/schema.ts';
import { laneMembers } from '../outline/lane.ts';
import { State } from '../schedule/network.ts';
import { placeOf, type ScheduleView } from '../schedule/view.ts';
import { formatDuration } from '../time/duration.ts';
import { formatInstant, type Instant, MINUTES_PER_DAY } from '../time/instant.ts';
import { showInstant } from '../time/typed-date.ts';
import { dateText, earliestByLogic, holderOf, holderWords, withHolder, withLower } from './wishes.ts';
import { calendarFor, dayLengths } from '../schedule/calendars.ts';

export interface DragContext {
  doc: Document;
  view: ScheduleView;
  /** Links into the activity. */
  into: readonly Link[];
}

export interface DragResult {
  /** Dates as they will be. */
  start: Instant;
  finish: Instant;
  tip: string[];
  outcome: Outcome;
}

const dates = (start: Instant, finish: Instant): string =>
  start === finish ? showInstant(finish, 'finish') : `${showInstant(start, 'start')} to ${showInstant(finish, 'finish')}`;
const dayOf = (t: Instant): number => Math.floor(t / MINUTES_PER_DAY);

/** An unstarted bar moved so that it starts on the day of an instant, or on the next day of work. */
export function moveBar({ doc, view, into }: DragContext, a: Activity, wish: Instant): DragResult | undefined {
  const i = placeOf(view, a.id);
  const c = calendarFor(doc, a);
  if (i === undefined || !c || view.state[i] !== State.unstarted) return undefined;
  const length = a.type === 'task' ? a.duration : 0;
  const zero = length === 0;
  const startOn = (t: Instant): Instant => (zero && a.type !== 'startMilestone' ? t : c.startInstant(c.position(t)));
  const day = dayOf(wish);
  const wished = startOn(zero && a.type !== 'startMilestone' ? c.endOf(day) : c.beginningOf(day));
  const endOf = (start: Instant): Instant => (zero ? start : c.finishInstant(c.position(start) + length));
  const held = holderOf(a);
  if (held) {
    const atStart = held.kind === 'pinnedStart' || held.kind === 'startOn';
    const date = zero || atStart ? dateText(c, wished, zero && a.type !== 'startMilestone' ? 'finish' : 'start') : dateText(c, endOf(wished), 'finish');
    return {
      start: wished,
      finish: endOf(wished),
      tip: [dates(wished, endOf(wished)), holderWords(held)],
      outcome: setActivities(doc, [a.id], { constraints: withHolder(a, held, date) }),
    };
  }
  const earliest = earliestByLogic(doc, view, a, into) ?? wished;
  if (wished <= earliest) {
    // Logic asks for as much already: a constraint would say nothing.
    const start = startOn(earliest);
    const tip = [dates(start, endOf(start)), a.constraints.some((x) => x.kind.endsWith('NotBefore')) ? 'as logic has it, without the constraint' : 'logic holds it here'];
    return { start, finish: endOf(start), tip, outcome: setActivities(doc, [a.id], { constraints: withLower(a, null) }) };
  }
  const kind = zero && a.type !== 'startMilestone' ? 'finishNotBefore' : 'startNotBefore';
  const date = dateText(c, wished, kind === 'startNotBefore' ? 'start' : 'finish');
  return {
    start: wished,
    finish: endOf(wished),
    tip: [dates(wished, endOf(wished)), kind === 'startNotBefore' ? 'start not before that day' : 'not before that day'],
    outcome: setActivities(doc, [a.id], { constraints: withLower(a, { kind, date }) }),
  };
}

/** The right end stretched to the day of an instant: the duration, or what remains of started work. */
export function stretchFinish({ doc, view }: DragContext, a: Activity, wish: Instant): DragResult | undefined {
  const i = placeOf(view, a.id);
  const c = calendarFor(doc, a);
  if (i === undefined || !c || a.type !== 'task' || view.state[i] === State.finished) return undefined;
  const running = view.state[i] === State.started;
  const begin = running ? view.aheadFrom[i]! : view.start[i]!;
  const end = c.endOf(dayOf(Math.max(wish, begin + 1) - 1));
  const minutes = Math.max(c.position(end) - c.position(begin), Math.round(c.minutesPerDay / 2));
  const finish = c.finishInstant(c.position(begin) + minutes);
  const extra = running ? minutes - (a.remaining ?? a.duration) : 0;
  return {
    start: view.start[i]!,
    finish,
    tip: [`${running ? 'Remaining' : 'Duration'} ${formatDuration(minutes, c)}`, `finish ${showInstant(finish, 'finish')}`],
    outcome: setActivities(doc, [a.id], running ? { remaining: minutes, duration: Math.max(0, a.duration + extra) } : { duration: minutes }),
  };
}

/** The left end stretched to the day of an instant: the finish holds, start and duration change. Unstarted tasks only. */
export function stretchStart(context: DragContext, a: Activity, wish: Instant): DragResult | undefined {
  const { doc, view, into } = context;
  const i = placeOf(view, a.id);
  const c = calendarFor(doc, a);
  if (i === undefined || !c || a.type !== 'task' || view.state[i] !== State.unstarted) return undefined;
  const finish = view.finish[i]!;
  const last = c.position(finish);
  const half = Math.round(c.minutesPerDay / 2);
  const earliest = earliestByLogic(doc, view, a, into) ?? wish;
  const position = Math.min(Math.max(c.position(c.beginningOf(dayOf(wish))), c.position(earliest)), last - half);
  const start = c.startInstant(position);
  const minutes = last - position;
  const held = holderOf(a);
  const bound = start <= earliest ? null : { kind: 'startNotBefore' as const, date: dateText(c, start, 'start') };
  const atStart = held?.kind === 'pinnedStart' || held?.kind === 'startOn';
  const constraints = held ? (atStart ? withHolder(a, held, dateText(c, start, 'start')) : a.constraints) : withLower(a, bound);
  const words = held ? (atStart ? holderWords(held) : 'the held finish stays') : bound ? 'start not before that day' : 'as early as logic allows';
  return {
    start,
    finish,
    tip: [`Duration ${formatDuration(minutes, c)}`, `start ${showInstant(start, 'start')}, ${words}`],
    outcome: setActivities(doc, [a.id], { duration: minutes, constraints }),
  };
}

/** The calendar that a new activity below a row takes. */
const calendarAbove = (doc: Document, below: RowRef | null): Pick<Activity, 'calendarId'> =>
  (below?.kind === 'activity' ? doc.activities.get(below.id) : undefined) ?? { calendarId: null };

/** A bar drawn on empty ground from one instant to another: a new activity of that length, not before its first day, below a row. */
export function drawBar(doc: Document, from: Instant, to: Instant, below: RowRef | null, newId: NewId): DragResult {
  // A new activity takes the calendar of the one above it.
  const above = calendarAbove(doc, below);
  const c = calendarFor(doc, above);
  const lengths = dayLengths(doc, above);
  const start = c ? c.startInstant(c.position(c.beginningOf(dayOf(Math.min(from, to))))) : Math.min(from, to);
  // At least a day of work, also where it is drawn over a weekend.
  const minutes = c ? Math.max(c.position(c.endOf(dayOf(Math.max(from, to)))) - c.position(start), c.minutesPerDay) : lengths.minutesPerDay;
  const finish = c ? c.finishInstant(c.position(start) + minutes) : Math.max(from, to);
  return {
    start,
    finish,
    tip: ['New activity', `${showInstant(start, 'start')} to ${showInstant(finish, 'finish')}`, formatDuration(minutes, lengths)],
    outcome: addActivity(doc, below, { duration: minutes, fields: { constraints: [{ kind: 'startNotBefore', date: formatInstant(start).slice(0, 10) }] } }, newId),
  };
}

/** Which link is drawn from an end of one bar to an instant over another: to the nearer of its ends, to the start where both are one. */
export function linkTypeAt(view: ScheduleView, other: number, fromStart: boolean, at: Instant): LinkType {
  const [start, finish] = [view.start[other]!, view.finish[other]!];
  const toFinish = finish > start && at > (start + finish) / 2;
  return `${fromStart ? 'S' : 'F'}${toFinish ? 'F' : 'S'}`;
}

/**
 * A bar drawn in a lane: a new activity in that node. Where it is linked as it is drawn, it follows what ends last before
 * it and is held by that link alone; else it does not start before its first day.
 */
export function drawInLane(doc: Document, view: ScheduleView, lane: string, from: Instant, to: Instant, linked: boolean, newId: NewId): DragResult {
  const members = laneMembers(doc, lane).flatMap((id) => {
    const i = placeOf(view, id);
    return i === undefined ? [] : [{ id, finish: view.finish[i]!, start: view.start[i]! }];
  });
  const begin = Math.min(from, to);
  // Half a day of play: who draws beside a bar means its end.
  const ended = members.filter((m) => m.finish <= begin + MINUTES_PER_DAY / 2).sort((a, b) => b.finish - a.finish);
  const before = linked ? ended[0] : undefined;
  const last = [...members].sort((a, b) => b.start - a.start).find((m) => m.start <= begin);
  const inLane = indexOf(doc).childrenOf(lane);
  const place = inLane.find((c) => c.id === last?.id);
  const below: RowRef = place ? { kind: place.kind, id: place.id } : { kind: 'wbs', id: lane };
  const c = calendarFor(doc, calendarAbove(doc, below));
  const free = drawBar(doc, from, to, below, newId);
  const a = before && doc.activities.get(before.id);
  if (!before || !a || !c || !free.outcome.ok) return free;
  const minutes = Math.max(c.position(free.finish) - c.position(free.start), 1);
  const start = c.startInstant(c.position(before.finish));
  const finish = c.finishInstant(c.position(start) + minutes);
  const id = free.outcome.made?.[0] ?? '';
  const link: Link = { id: newId(), rank: indexOf(doc).nextLinkRank(), from: a.id, to: id, type: 'FS', lag: 0, lagCalendar: null };
  return {
    start,
    finish,
    tip: ['New activity', `after ${a.code} ${a.name}`.trim(), dates(start, finish), formatDuration(minutes, c)],
    // The link holds it, so it needs no date of its own.
    outcome: {
      ...free.outcome,
      changes: [
        ...free.outcome.changes.map((x) => (x.id === id ? { ...x, after: { ...(x.after as Activity), constraints: [] } } : x)),
        { table: 'links', id: link.id, before: null, after: link },
      ],
    },
  };
}
