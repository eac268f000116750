/** Fields of progress. */
import { isMilestone, isSpanning, typeNames } from '../model/activity-kinds.ts';
import { type Document, projectOf } from '../model/document.ts';
import type { Activity } from '../model/schema.ts';
import { percentOf, remainingAt } from '../progress/percent.ts';
import { plannedPercent, progressPoint } from '../rollup/progress-line.ts';
import { calendarFor } from '../schedule/calendars.ts';
import type { BaselineView } from '../schedule/view.ts';
import { parseInstant } from '../time/instant.ts';
import { showTypedDate } from '../time/typed-date.ts';
import { readMinutes } from './dates.ts';
import { field, type Field, type Read } from './field.ts';
import { typedInstant, unreadableDate } from './typed.ts';
import { typedNumber } from '../model/number-text.ts';

/** Planned percent at the data date and working days ahead of the baseline; undefined without a data date or a baseline of it. */
export function progressAgainst(c: { doc: Document; baseline: BaselineView | null }, a: Activity): { planned: number; ahead: number } | undefined {
  const base = c.baseline?.dates.get(a.id);
  const { dataDate } = projectOf(c.doc);
  const calendar = calendarFor(c.doc, a);
  // A level of effort and a margin follow the work around them: they are never ahead or behind.
  if (!base || dataDate === null || !calendar || isSpanning(a)) return undefined;
  const at = parseInstant(dataDate) as number;
  return { planned: plannedPercent(calendar, base, at), ahead: progressPoint(a, calendar, base, at).days };
}

function readPercent(doc: Document, a: Activity, n: number): Read {
  if (isSpanning(a)) return { error: `a ${typeNames[a.type].toLowerCase()} takes no progress; it follows the work around it.` };
  const dataDate = projectOf(doc).dataDate;
  if (n === 0 && a.actualStart === null && a.actualFinish === null) return { fields: {} };
  if (n === 0) {
    const back = { label: 'Not started: take the actual dates back', fields: { actualStart: null, actualFinish: null, remaining: null, suspend: null, resume: null } };
    const all = { label: 'Started, and all of it remains', fields: { actualFinish: null, remaining: a.duration } };
    return { ask: `it has an actual start of ${showTypedDate(a.actualStart ?? a.actualFinish ?? '')}. Has it started or not?`, choices: a.type === 'task' ? [all, back] : [back] };
  }
  if (dataDate === null) return { error: 'the project has no data date yet. Set the data date first, in Update.' };
  if (n < 100 && a.type !== 'task') return { error: 'a milestone is either reached (100) or not (0).' };
  if (a.actualStart === null && n < 100) return { error: 'it has not started. Enter its actual start first, in Update or in the column Actual start.' };
  if (a.actualStart === null) return { error: 'it has no actual dates. Enter its actual start and finish first, in Update or in the sheet.' };
  return { fields: { actualFinish: null, remaining: remainingAt(a.duration, n) } };
}

type DateKey = 'actualStart' | 'actualFinish' | 'suspend' | 'resume';

const dateField = (key: DateKey, title: string, about: string, end: 'start' | 'finish', read: Field['read']): Field =>
  field<number>({
    key,
    title,
    about,
    kind: 'date',
    group: 'Progress',
    width: 110,
    stored: key,
    end,
    sum: key === 'actualFinish' ? 'greatest' : 'least',
    inspector: true,
    value: ({ a }) => (a[key] === null ? null : (parseInstant(a[key]) ?? null)),
    show: (_, { a }) => showTypedDate(a[key] ?? ''),
    read,
  });

const readActual =
  (key: 'actualStart' | 'actualFinish'): Field['read'] =>
  (text, { doc, a }) => {
    if (text === '') return { fields: key === 'actualStart' ? { actualStart: null, actualFinish: null, remaining: null } : { actualFinish: null } };
    const t = typedInstant(doc, a, text, key === 'actualStart' ? 'start' : 'finish');
    return t === undefined ? { error: unreadableDate(text) } : { fields: { [key]: t } };
  };

const readStop =
  (key: 'suspend' | 'resume'): Field['read'] =>
  (text, { doc, a }) => {
    if (text === '') return { fields: key === 'suspend' ? { suspend: null, resume: null } : { resume: null } };
    if (a.type !== 'task') return { error: 'only a task can be suspended.' };
    if (a.actualStart === null || a.actualFinish !== null) return { error: 'only work that has started and not finished can be suspended. Enter its actual start first.' };
    const t = typedInstant(doc, a, text, key === 'suspend' ? 'finish' : 'start');
    return t === undefined ? { error: unreadableDate(text) } : { fields: { [key]: t } };
  };

export const progressFields = [
  field<number>({
    key: 'percent',
    title: 'Done',
    about: 'Percent complete by time; of a WBS node weighted as the project says.',
    kind: 'percent',
    group: 'Progress',
    width: 52,
    paper: 34,
    sum: 'mean',
    inspector: true,
    value: ({ a }) => (isSpanning(a) ? null : percentOf(a)),
    node: ({ rollup }) => rollup?.percent ?? null,
    read(text, { doc, a }) {
      const n = typedNumber(text.replace('%', '').trim() || '0');
      return n !== undefined && n >= 0 && n <= 100 ? readPercent(doc, a, n) : { error: `${text} is no percentage from 0 to 100.` };
    },
  }),
  field<number>({
    key: 'remaining',
    title: 'Remaining',
    about: 'Working time that is left of started work.',
    kind: 'duration',
    group: 'Progress',
    width: 70,
    stored: 'remaining',
    sum: 'none',
    inspector: true,
    value: ({ a }) => (a.actualStart === null || a.actualFinish !== null || isMilestone(a) ? null : (a.remaining ?? a.duration)),
    read(text, { doc, a }) {
      if (text === '') return { fields: { remaining: null } };
      const minutes = readMinutes(doc, a, text);
      if (typeof minutes !== 'number') return minutes;
      return a.actualStart === null ? { error: 'it has not started. Enter an actual start first.' } : { fields: { remaining: minutes } };
    },
  }),
  dateField('actualStart', 'Actual start', 'When it started.', 'start', readActual('actualStart')),
  dateField('actualFinish', 'Actual finish', 'When it finished.', 'finish', readActual('actualFinish')),
  dateField('suspend', 'Suspended', 'From when it rests.', 'finish', readStop('suspend')),
  dateField('resume', 'Resumes', 'When it goes on.', 'start', readStop('resume')),
  field<number>({
    key: 'baselinePercent',
    title: 'Baseline percent',
    about: 'Percent complete when the baseline that is compared with was kept.',
    kind: 'percent',
    group: 'Progress',
    width: 100,
    computed: true,
    sum: 'none',
    value: ({ baseline, a }) => baseline?.dates.get(a.id)?.percent ?? null,
    node: ({ baseline, node }) => baseline?.nodes.get(node.id)?.percent ?? null,
  }),
  field<number>({
    key: 'planned',
    title: 'Planned',
    about: 'Percent that should be done at the data date, by the baseline.',
    kind: 'percent',
    group: 'Progress',
    width: 60,
    computed: true,
    sum: 'none',
    value: (c) => progressAgainst(c, c.a)?.planned ?? null,
  }),
  field<number>({
    key: 'ahead',
    title: 'Ahead',
    about: 'Working days ahead of the baseline at the data date; negative is behind.',
    kind: 'difference',
    group: 'Progress',
    width: 60,
    computed: true,
    sum: 'least',
    value: (c) => progressAgainst(c, c.a)?.ahead ?? null,
  }),
];
