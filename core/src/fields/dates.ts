/** Fields of dates, durations and floats. */
import { isMilestone, isSpanning, typeNames } from '../model/activity-kinds.ts';
import type { Document } from '../model/document.ts';
import { type Activity, MAX_DURATION } from '../model/schema.ts';
import { dateText, holderOf, withHolder, withLower } from '../plan/wishes.ts';
import { daysBetween } from '../rollup/summary.ts';
import type { CompiledCalendar } from '../time/calendar.ts';
import { calendarFor, dayLengths } from '../schedule/calendars.ts';
import { constraintNames, instantOf } from '../schedule/constraints.ts';
import { NONE, State } from '../schedule/network.ts';
import { formatDuration, parseDuration } from '../time/duration.ts';
import { parseInstant } from '../time/instant.ts';
import { showInstant, showTypedDate } from '../time/typed-date.ts';
import { type ActivityCell, field, type Field, inDays, instant, type Read } from './field.ts';
import { parseConstraints, showConstraint, typedDate, typedInstant, unreadableDate } from './typed.ts';

/** Working minutes of a typed duration, or why it is none. */
export function readMinutes(doc: Document, a: Activity, text: string): number | { error: string } {
  const minutes = parseDuration(text, dayLengths(doc, a));
  if (minutes === undefined || text === '') return { error: `${text || 'an empty duration'} cannot be read as a duration. Type it as 10d, 4h, 2w or 30m.` };
  if (minutes < 0) return { error: 'a duration cannot be negative.' };
  return minutes > MAX_DURATION ? { error: 'that duration is too long.' } : minutes;
}

/**
 * A date typed into Start or Finish: on unstarted work a start becomes *start not before* (or moves the date that is
 * held), a finish the duration that ends there; on started work a finish becomes what remains.
 */
function readDate(column: 'start' | 'finish', text: string, { doc, a, view, i }: ActivityCell): Read {
  if (isSpanning(a)) return { error: `the dates of a ${typeNames[a.type].toLowerCase()} follow from the work around it.` };
  const c = calendarFor(doc, a);
  const uncomputed = { error: 'its dates are not computed yet. Wait a moment, then type it again.' };
  if (!c) return uncomputed;
  const dates = view && i !== undefined ? { view, i } : undefined;
  const state = dates ? dates.view.state[dates.i] : a.actualFinish !== null ? State.finished : a.actualStart !== null ? State.started : State.unstarted;
  const started = state === State.started;
  if (state === State.finished) return { error: `it is finished. Change the column Actual ${column}.` };
  if (column === 'start' && started) return { error: 'it has started. Change the column Actual start.' };
  const held = started ? undefined : holderOf(a);
  if (text === '') {
    if (held) return { error: `its date is held by the constraint ${constraintNames[held.kind]}. Empty the column Constraint to let it go.` };
    return isMilestone(a) || column === 'start'
      ? { fields: { constraints: withLower(a, null) } }
      : { error: 'type the date on which it should end; to change how long it takes, use the column Duration.' };
  }
  const t = typedInstant(doc, a, text, column);
  if (t === undefined) return { error: unreadableDate(text) };
  const at = parseInstant(t) as number;
  if (!started && (column === 'start' || isMilestone(a))) {
    const date = dateText(c, at, column);
    if (held) return { fields: { constraints: withHolder(a, held, date) } };
    return { fields: { constraints: withLower(a, { kind: column === 'start' ? 'startNotBefore' : 'finishNotBefore', date }) } };
  }
  // A row that is new has no dates yet: its finish is counted from the date that it may not begin before.
  const from = dates ? (started ? dates.view.aheadFrom : dates.view.start)[dates.i] : started ? undefined : notBefore(a, c);
  if (from === undefined) return uncomputed;
  if (at < from) return { error: `that lies before ${started ? 'what remains begins' : 'its start'}, ${showInstant(from, 'start', true)}. Type a later date.` };
  const minutes = c.position(at) - c.position(from);
  return { fields: started ? { remaining: minutes } : { duration: minutes } };
}

/** Where work begins at *start not before*. */
function notBefore(a: Activity, c: CompiledCalendar): number | undefined {
  const held = a.constraints.find((x) => x.kind === 'startNotBefore');
  return held?.date ? c.startInstant(c.position(instantOf(held.date, 'start', c))) : undefined;
}

/** What a date typed into Start or Finish will do. */
function dateHint(column: 'start' | 'finish', { a, view, i }: ActivityCell): string | undefined {
  const state = view && i !== undefined ? view.state[i] : State.unstarted;
  if (state === State.finished) return undefined;
  if (state === State.started) return column === 'finish' ? 'sets what remains' : undefined;
  if (column === 'start') return 'sets start not before; empty takes it away';
  return isMilestone(a) ? 'sets finish not before' : 'sets the duration';
}

/** A figure of the schedule, or none. */
const known = (v: number | undefined): number | null => (v === undefined || v === NONE ? null : v);

const baselineOf = (end: 'start' | 'finish'): Pick<Field<number>, 'kind' | 'group' | 'end' | 'computed' | 'value' | 'node'> => ({
  kind: 'date',
  group: 'Dates',
  end,
  computed: true,
  value: ({ baseline, a }) => baseline?.dates.get(a.id)?.[end] ?? null,
  node: ({ baseline, node }) => baseline?.nodes.get(node.id)?.[end] ?? null,
});

/** Working days from one instant to another, in an activity's calendar or (null) the project's. */
function daysIn(doc: Document, calendarId: string | null, from: number, to: number): number | null {
  const c = calendarFor(doc, { calendarId });
  return c ? daysBetween(c, from, to) : null;
}

export const dateFields = [
  field<number>({
    key: 'duration',
    title: 'Duration',
    about: 'Working time that it takes; of a WBS node from its first start to its last finish; of a margin what is left of it.',
    kind: 'duration',
    group: 'Dates',
    width: 58,
    paper: 42,
    stored: 'duration',
    sum: 'greatest',
    inspector: true,
    value: ({ a, view, i }) => (isMilestone(a) ? null : isSpanning(a) && view && i !== undefined ? view.length[i]! : a.duration),
    show: (v, cell) => {
      const perDay = cell.view && cell.i !== undefined ? cell.view.minutesPerDay[cell.i]! : dayLengths(cell.doc, cell.a).minutesPerDay;
      return cell.a.type === 'margin' && cell.i !== undefined ? inDays(v, perDay) : formatDuration(v, { minutesPerDay: perDay });
    },
    edit: ({ doc, a }) => (isMilestone(a) ? '' : formatDuration(a.duration, dayLengths(doc, a))),
    node: ({ rollup }) => rollup?.duration ?? null,
    read(text, { doc, a }) {
      const minutes = readMinutes(doc, a, text);
      if (typeof minutes !== 'number') return minutes;
      if (isMilestone(a) && minutes > 0) return { error: 'a milestone has no duration. Make it a task first.' };
      if (a.type === 'levelOfEffort') return { error: 'the length of a level of effort follows from the work that it spans. Change its links, or make it a task.' };
      // What has been done stays done: a new duration changes what remains.
      const left = a.actualStart !== null && a.actualFinish === null && a.remaining !== null ? { remaining: Math.max(0, a.remaining + minutes - a.duration) } : {};
      return { fields: { duration: minutes, ...left } };
    },
  }),
  field<number>({
    key: 'start',
    title: 'Start',
    about: 'Early start; the actual one where it has started.',
    kind: 'date',
    group: 'Dates',
    width: 68,
    paper: 48,
    end: 'start',
    computed: true,
    sum: 'least',
    value: ({ view, i }) => instant(view?.start, i),
    node: ({ rollup }) => rollup?.start ?? null,
    read: (text, cell) => readDate('start', text, cell),
    hint: (cell) => dateHint('start', cell),
  }),
  field<number>({
    key: 'finish',
    title: 'Finish',
    about: 'Early finish; the actual one where it has finished.',
    kind: 'date',
    group: 'Dates',
    width: 68,
    paper: 48,
    end: 'finish',
    computed: true,
    sum: 'greatest',
    value: ({ view, i }) => instant(view?.finish, i),
    node: ({ rollup }) => rollup?.finish ?? null,
    read: (text, cell) => readDate('finish', text, cell),
    hint: (cell) => dateHint('finish', cell),
  }),
  field<number>({
    key: 'float',
    title: 'Float',
    about: 'Total float: how far it can move before the project finish does; of a WBS node the least in it.',
    kind: 'days',
    group: 'Dates',
    width: 52,
    paper: 36,
    computed: true,
    sum: 'least',
    value: ({ view, i }) => instant(view?.totalFloat, i),
    node: ({ rollup }) => (rollup && rollup.float !== NONE ? rollup.float : null),
  }),
  field<number>({
    key: 'freeFloat',
    title: 'Free float',
    about: 'How far it can move before anything else does.',
    kind: 'days',
    group: 'Dates',
    width: 66,
    computed: true,
    sum: 'least',
    value: ({ view, i }) => instant(view?.freeFloat, i),
  }),
  field<number>({
    key: 'lateStart',
    title: 'Late start',
    about: 'The latest start that does not move the end.',
    kind: 'date',
    group: 'Dates',
    width: 74,
    end: 'start',
    computed: true,
    sum: 'least',
    value: ({ view, i }) => instant(view?.lateStart, i),
  }),
  field<number>({
    key: 'lateFinish',
    title: 'Late finish',
    about: 'The latest finish that does not move the end.',
    kind: 'date',
    group: 'Dates',
    width: 74,
    end: 'finish',
    computed: true,
    sum: 'greatest',
    value: ({ view, i }) => instant(view?.lateFinish, i),
  }),
  field({
    key: 'constraint',
    title: 'Constraint',
    about: 'Dates that it must keep to, beside its logic.',
    kind: 'text',
    group: 'Dates',
    width: 150,
    stored: 'constraints',
    sum: 'same',
    inspector: true,
    value: ({ a }) => a.constraints.map(showConstraint).join(', ') || null,
    choices: () => Object.values(constraintNames),
    open: true,
    read(text, { doc }) {
      const parsed = parseConstraints(doc, text);
      return 'error' in parsed ? parsed : { fields: { constraints: parsed.constraints } };
    },
  }),
  field<number>({
    key: 'deadline',
    title: 'Deadline',
    about: 'A date that it should meet; it moves nothing, but the plan check tells when it is missed.',
    kind: 'date',
    group: 'Dates',
    width: 76,
    stored: 'deadline',
    end: 'finish',
    sum: 'least',
    inspector: true,
    value({ a, doc }) {
      const c = calendarFor(doc, a);
      return a.deadline === null || !c ? null : instantOf(a.deadline, 'finish', c);
    },
    show: (_, { a }) => showTypedDate(a.deadline ?? ''),
    read(text, { doc }) {
      if (text === '') return { fields: { deadline: null } };
      const date = typedDate(doc, text);
      return date === undefined ? { error: unreadableDate(text) } : { fields: { deadline: date } };
    },
  }),
  field<number>({ key: 'baselineStart', title: 'Baseline start', about: 'Start in the baseline that is compared with.', width: 88, sum: 'least', ...baselineOf('start') }),
  field<number>({
    key: 'baselineFinish',
    title: 'Baseline finish',
    about: 'Finish in the baseline that is compared with.',
    width: 92,
    paper: 62,
    sum: 'greatest',
    ...baselineOf('finish'),
  }),
  field<number>({
    key: 'baselineDuration',
    title: 'Baseline duration',
    about: 'Working time in the baseline that is compared with.',
    kind: 'duration',
    group: 'Dates',
    width: 104,
    computed: true,
    sum: 'greatest',
    value: ({ baseline, a }) => (isMilestone(a) ? null : (baseline?.dates.get(a.id)?.duration ?? null)),
    node: ({ baseline, node }) => baseline?.nodes.get(node.id)?.duration ?? null,
  }),
  field<number>({
    key: 'baselineFloat',
    title: 'Baseline float',
    about: 'Total float in the baseline that is compared with; of a WBS node the least in it.',
    kind: 'days',
    group: 'Dates',
    width: 88,
    computed: true,
    sum: 'least',
    value: ({ baseline, a }) => known(baseline?.dates.get(a.id)?.float),
    node: ({ baseline, node }) => known(baseline?.nodes.get(node.id)?.float),
  }),
  field<number>({
    key: 'finishVariance',
    title: 'Finish moved',
    short: 'Moved',
    about: 'Working days by which the finish is later than in the baseline.',
    kind: 'difference',
    group: 'Dates',
    width: 84,
    paper: 38,
    computed: true,
    sum: 'greatest',
    value({ doc, baseline, view, i, a }) {
      const [b, now] = [baseline?.dates.get(a.id), instant(view?.finish, i)];
      return b && now !== null ? daysIn(doc, a.calendarId, b.finish, now) : null;
    },
    node({ doc, baseline, node, rollup }) {
      const b = baseline?.nodes.get(node.id);
      return b && rollup && rollup.finish !== NONE ? daysIn(doc, null, b.finish, rollup.finish) : null;
    },
  }),
];
