/** Typed text into cells of the sheet, and what the cells show: one definition of each column that can be edited. */
import { Draft } from '../change/change.ts';
import { type Document, labelOf, projectOf } from '../model/document.ts';
import { type Activity, type ActivityType, type Constraint, type ConstraintKind, constraintKinds, MAX_DURATION } from '../model/schema.ts';
import { wbsCodeOf } from '../outline/outline.ts';
import { isMilestone, percentOf, remainingAt } from '../progress/percent.ts';
import { dateText, holderOf, withHolder, withLower } from '../plan/wishes.ts';
import { calendarFor } from '../schedule/bars.ts';
import { calendarsOf } from '../schedule/calendars.ts';
import { constraintNames, settle } from '../schedule/constraints.ts';
import { State } from '../schedule/network.ts';
import { placeOf, type ScheduleView } from '../schedule/view.ts';
import { type DayLengths, formatDuration, parseDuration } from '../time/duration.ts';
import { formatInstant, parseDay, parseInstant } from '../time/instant.ts';
import { parseTypedDate, showDay, showInstant } from '../time/typed-date.ts';
import { type ByCode, setTypedLinks } from './links.ts';
import { count, done, type NewId, type Outcome, refused } from './result.ts';

export const editableColumns = [
  'code',
  'name',
  'type',
  'wbs',
  'duration',
  'predecessors',
  'successors',
  'constraint',
  'deadline',
  'calendar',
  'percent',
  'cost',
  'actualStart',
  'actualFinish',
  'remaining',
  'suspend',
  'resume',
  'start',
  'finish',
  'notes',
] as const;
export type EditableColumn = (typeof editableColumns)[number];

/** Lengths of a day and a week in an activity's calendar. */
export function dayLengths(doc: Document, a: Pick<Activity, 'calendarId'>): DayLengths {
  const set = calendarsOf(doc).usable;
  const c = (a.calendarId !== null ? set.get(a.calendarId) : undefined) ?? set.get(projectOf(doc).calendarId);
  return c ?? { minutesPerDay: 480, daysPerWeek: 5 };
}

export const typeNames: Record<ActivityType, string> = {
  task: 'Task',
  startMilestone: 'Start milestone',
  finishMilestone: 'Finish milestone',
  levelOfEffort: 'Level of effort',
  margin: 'Margin',
};

const nearDay = (doc: Document): number => {
  const p = projectOf(doc);
  return Math.floor((parseInstant(p.dataDate ?? p.plannedStart) as number) / 1440);
};

/** A typed date in file form, with a clock time where one was typed. */
const typedDate = (doc: Document, text: string): string | undefined => parseTypedDate(text, nearDay(doc));

/** A typed date as an instant in the activity's calendar: the beginning or the end of that day's work. */
export function typedInstant(doc: Document, a: Pick<Activity, 'calendarId'>, text: string, end: 'start' | 'finish'): string | undefined {
  const t = typedDate(doc, text);
  if (t === undefined || t.length > 10) return t;
  const set = calendarsOf(doc).usable;
  const c = (a.calendarId !== null ? set.get(a.calendarId) : undefined) ?? set.get(projectOf(doc).calendarId);
  const day = parseDay(t) as number;
  if (!c) return `${t}T00:00`;
  return formatInstant(end === 'start' ? c.beginningOf(day) : c.endOf(day));
}

export function showConstraint(c: Constraint): string {
  return c.date === null ? constraintNames[c.kind] : `${constraintNames[c.kind]} ${showTypedDate(c.date)}`;
}

/** A date of the file form as people read it. */
export function showTypedDate(text: string): string {
  const day = parseDay(text);
  return day !== undefined ? showDay(day) : showInstant(parseInstant(text) ?? 0, 'start', true);
}

/** Reads `start not before 12 mar`; a list is parted by commas. */
export function parseConstraints(doc: Document, text: string): { constraints: Constraint[] } | { error: string } {
  const constraints: Constraint[] = [];
  for (const part of text
    .split(/[,;]/)
    .map((p) => p.trim())
    .filter(Boolean)) {
    const kind = [...constraintKinds].sort((a, b) => constraintNames[b].length - constraintNames[a].length).find((k) => part.toLowerCase().startsWith(constraintNames[k]));
    if (!kind) return { error: `${part} is no constraint. Type one of: ${constraintKinds.map((k) => constraintNames[k]).join(', ')}, with a date.` };
    const rest = part.slice(constraintNames[kind].length).trim();
    if (kind === 'asLateAsPossible') {
      if (rest) return { error: 'As late as possible takes no date.' };
      constraints.push({ kind, date: null });
      continue;
    }
    const date = typedDate(doc, rest);
    if (date === undefined) return { error: rest ? `The date ${rest} cannot be read. Type it as 12 mar 2027.` : `Type a date after ${constraintNames[kind]}.` };
    constraints.push({ kind, date });
  }
  return checkConstraints(constraints) ?? { constraints };
}

/** The refusal of constraints that cannot stand together; undefined where they can. */
function checkConstraints(constraints: readonly Constraint[]): { error: string } | undefined {
  const { dropped } = settle(constraints);
  if (dropped.length === 0) return undefined;
  const kind: ConstraintKind = constraints[dropped[0]!]!.kind;
  return { error: `${constraintNames[kind]} cannot stand beside the other constraint: one bounds from below, one from above, and a pinned date stands alone.` };
}

/** Sets one column of one activity from typed text. Empty text clears what can be empty. */
export function setCell(doc: Document, id: string, column: EditableColumn, text: string, newId: NewId, byCode?: ByCode, view?: ScheduleView | null): Outcome {
  const a = doc.activities.get(id);
  if (!a) return refused('UNKNOWN_ACTIVITY', 'That activity is not in the plan any more.');
  if (column === 'predecessors' || column === 'successors') return setTypedLinks(doc, id, column, text, (x) => dayLengths(doc, x), newId, byCode);
  const read = column === 'start' || column === 'finish' ? readDate(doc, a, column, text.trim(), view) : readCell(doc, a, column, text.trim(), byCode);
  if ('ask' in read)
    return {
      ...refused('ASK', `${labelOf(a)}: ${read.ask}`, { table: 'activities', id, label: labelOf(a), field: column }),
      choices: read.choices.map((c) => ({ label: c.label, outcome: setActivities(doc, [id], c.fields) })),
    };
  if ('error' in read) return refused('WRONG_VALUE', `${labelOf(a)}: ${read.error}`, { table: 'activities', id, label: labelOf(a), field: column });
  return setActivities(doc, [id], read.fields);
}

/** What typed text comes to: fields, a refusal, or a question with its answers. */
type Read = { fields: Partial<Activity> } | { error: string } | { ask: string; choices: { label: string; fields: Partial<Activity> }[] };

function readCell(doc: Document, a: Activity, column: PlainColumn, text: string, byCode?: ByCode): Read {
  switch (column) {
    case 'name':
      return text.length > 500 ? { error: 'the name is longer than 500 characters.' } : { fields: { name: text } };
    case 'notes':
      return text.length > 20_000 ? { error: 'the notes are longer than 20,000 characters.' } : { fields: { notes: text } };
    case 'code': {
      if (!text || text.length > 40) return { error: 'a number of 1 to 40 characters is needed, since links are typed with it.' };
      if (/[,;]/.test(text)) return { error: 'a number cannot hold a comma, since links are parted by commas.' };
      const other = byCode ? byCode.get(text.toLowerCase()) : [...doc.activities.values()].find((x) => x.code.toLowerCase() === text.toLowerCase());
      return other && other.id !== a.id ? { error: `number ${text} is taken by ${other.name || 'another activity'}.` } : { fields: { code: text } };
    }
    case 'type': {
      const type = (Object.keys(typeNames) as ActivityType[]).find((t) => t === text || typeNames[t].toLowerCase() === text.toLowerCase());
      if (!type) return { error: `${text} is no type. Choose task, start milestone, finish milestone, level of effort or margin.` };
      return { fields: typeFields(a, type) };
    }
    case 'wbs': {
      const node = text === '' ? null : findNode(doc, text);
      if (node === undefined) return { error: `there is no WBS node ${text}. Type its outline number or its name, or nothing for the top level.` };
      if (node === a.wbsId) return { fields: {} };
      const ranks = [...doc.wbs.values(), ...doc.activities.values()].filter((r) => ('parentId' in r ? r.parentId : r.wbsId) === node).map((r) => r.rank);
      return { fields: { wbsId: node, rank: Math.max(-1, ...ranks) + 1 } };
    }
    case 'duration':
    case 'remaining': {
      if (text === '' && column === 'remaining') return { fields: { remaining: null } };
      const minutes = parseDuration(text, dayLengths(doc, a));
      if (minutes === undefined || text === '') return { error: `${text || 'an empty duration'} cannot be read as a duration. Type it as 10d, 4h, 2w or 30m.` };
      if (minutes < 0) return { error: 'a duration cannot be negative.' };
      if (minutes > MAX_DURATION) return { error: 'that duration is too long.' };
      if (column === 'remaining') {
        if (a.actualStart === null) return { error: 'it has not started. Enter an actual start first.' };
        return { fields: { remaining: minutes } };
      }
      if (isMilestone(a) && minutes > 0) return { error: 'a milestone has no duration. Make it a task first.' };
      if (a.type === 'levelOfEffort') return { error: 'the length of a level of effort follows from the work that it spans. Change its links, or make it a task.' };
      // What has been done stays done: a new duration changes what remains.
      const left = a.actualStart !== null && a.actualFinish === null && a.remaining !== null ? { remaining: Math.max(0, a.remaining + minutes - a.duration) } : {};
      return { fields: { duration: minutes, ...left } };
    }
    case 'calendar': {
      if (text === '') return { fields: { calendarId: null } };
      const c = doc.calendars.get(text) ?? [...doc.calendars.values()].find((x) => x.name.toLowerCase() === text.toLowerCase());
      return c ? { fields: { calendarId: c.id } } : { error: `there is no calendar ${text}. Make it in the Library first.` };
    }
    case 'constraint': {
      const parsed = parseConstraints(doc, text);
      return 'error' in parsed ? parsed : { fields: { constraints: parsed.constraints } };
    }
    case 'deadline': {
      if (text === '') return { fields: { deadline: null } };
      const date = typedDate(doc, text);
      return date === undefined ? { error: `the date ${text} cannot be read. Type it as 12 mar 2027.` } : { fields: { deadline: date } };
    }
    case 'cost': {
      const n = text === '' ? 0 : Number(text.replace(/[\s,]/g, ''));
      return Number.isFinite(n) && Math.abs(n) <= 1e12 ? { fields: { cost: n } } : { error: `${text} cannot be read as an amount.` };
    }
    case 'percent': {
      const n = Number(text.replace('%', '').replace(',', '.').trim() || '0');
      if (!Number.isFinite(n) || n < 0 || n > 100) return { error: `${text} is no percentage from 0 to 100.` };
      return readPercent(doc, a, n);
    }
    case 'suspend':
    case 'resume': {
      if (text === '') return { fields: column === 'suspend' ? { suspend: null, resume: null } : { resume: null } };
      if (a.type !== 'task') return { error: 'only a task can be suspended.' };
      if (a.actualStart === null || a.actualFinish !== null) return { error: 'only work that has started and not finished can be suspended. Enter its actual start first.' };
      const t = typedInstant(doc, a, text, column === 'suspend' ? 'finish' : 'start');
      return t === undefined ? { error: unreadable(text) } : { fields: { [column]: t } };
    }
    case 'actualStart':
    case 'actualFinish': {
      if (text === '') return { fields: column === 'actualStart' ? { actualStart: null, actualFinish: null, remaining: null } : { actualFinish: null } };
      const t = typedInstant(doc, a, text, column === 'actualStart' ? 'start' : 'finish');
      return t === undefined ? { error: unreadable(text) } : { fields: { [column]: t } };
    }
  }
}

const unreadable = (text: string): string => `the date ${text} cannot be read. Type it as 12 mar 2027.`;
/** Columns whose text is read from the row alone. */
type PlainColumn = Exclude<EditableColumn, 'predecessors' | 'successors' | 'start' | 'finish'>;

/**
 * A date typed into Start or Finish: on unstarted work a start becomes *start not before* (or moves the date that is
 * held), a finish the duration that ends there; on started work a finish becomes what remains.
 */
function readDate(doc: Document, a: Activity, column: 'start' | 'finish', text: string, view: ScheduleView | null | undefined): Read {
  if (a.type === 'levelOfEffort' || a.type === 'margin') return { error: `the dates of a ${typeNames[a.type].toLowerCase()} follow from the work around it.` };
  const i = view ? placeOf(view, a.id) : undefined;
  const c = calendarFor(doc, a);
  if (!view || i === undefined || !c) return { error: 'its dates are not computed yet. Wait a moment, then type it again.' };
  const started = view.state[i] === State.started;
  if (view.state[i] === State.finished) return { error: `it is finished. Change the column Actual ${column}.` };
  if (column === 'start' && started) return { error: 'it has started. Change the column Actual start.' };
  const held = started ? undefined : holderOf(a);
  if (text === '') {
    if (held) return { error: `its date is held by the constraint ${constraintNames[held.kind]}. Empty the column Constraint to let it go.` };
    return isMilestone(a) || column === 'start'
      ? { fields: { constraints: withLower(a, null) } }
      : { error: 'type the date on which it should end; to change how long it takes, use the column Duration.' };
  }
  const t = typedInstant(doc, a, text, column);
  if (t === undefined) return { error: unreadable(text) };
  const at = parseInstant(t) as number;
  if (!started && (column === 'start' || isMilestone(a))) {
    const date = dateText(c, at, column);
    if (held) return { fields: { constraints: withHolder(a, held, date) } };
    return { fields: { constraints: withLower(a, { kind: column === 'start' ? 'startNotBefore' : 'finishNotBefore', date }) } };
  }
  const from = started ? view.aheadFrom[i]! : view.start[i]!;
  if (at < from) return { error: `that lies before ${started ? 'what remains begins' : 'its start'}, ${showInstant(from, 'start', true)}. Type a later date.` };
  const minutes = c.position(at) - c.position(from);
  return { fields: started ? { remaining: minutes } : { duration: minutes } };
}

/** A WBS node by its outline number or its name; undefined where there is none. */
function findNode(doc: Document, text: string): string | undefined {
  const low = text.toLowerCase();
  return [...doc.wbs.values()].find((w) => wbsCodeOf(doc, w.id) === text || w.name.toLowerCase() === low)?.id;
}

function readPercent(doc: Document, a: Activity, n: number): Read {
  if (a.type === 'levelOfEffort' || a.type === 'margin') return { error: `a ${typeNames[a.type].toLowerCase()} takes no progress; it follows the work around it.` };
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

/** What else changes with the type: milestones have no duration; margins and levels of effort no constraints or progress. */
function typeFields(a: Activity, type: ActivityType): Partial<Activity> {
  if (type === 'task') return { type, duration: a.duration || 480 };
  if (isMilestone({ type })) return { type, duration: 0, remaining: null };
  return { type, duration: a.duration || 480, constraints: [], actualStart: null, actualFinish: null, remaining: null, suspend: null, resume: null, levellingDelay: null };
}

/** Sets fields of activities after checking that they hold together. */
export function setActivities(doc: Document, ids: readonly string[], fields: Partial<Activity>): Outcome {
  const draft = new Draft(doc);
  const dataDate = projectOf(doc).dataDate;
  const there = ids.filter((id) => doc.activities.has(id));
  if (there.length === 0) return refused('UNKNOWN_ACTIVITY', ids.length === 1 ? 'That activity is not in the plan any more.' : 'Select activities first.');
  for (const id of there) {
    const a = doc.activities.get(id) as Activity;
    const next = { ...a, ...fields };
    const error = progressError(next, dataDate) ?? checkConstraints(next.constraints)?.error;
    if (error) return refused('WRONG_VALUE', `${labelOf(a)}: ${error}`, { table: 'activities', id, label: labelOf(a) });
    if (next.type === 'margin' && a.type !== 'margin' && [...doc.links.values()].some((l) => (l.from === id || l.to === id) && l.type !== 'FS'))
      return refused('MARGIN_LINK', `${labelOf(a)} has links other than finish-to-start. Change those first; a margin takes only FS.`, { table: 'activities', id });
    draft.set('activities', id, next);
  }
  const one = there.length === 1 ? doc.activities.get(there[0]!) : undefined;
  const what = Object.keys(fields)
    .filter((f) => f !== 'rank' || !('wbsId' in fields))
    .map((f) => fieldNames[f] ?? f)
    .join(', ');
  return done(`Set ${what} of ${one ? labelOf(one) : count(there.length, 'activity')}`, draft.changes);
}

const fieldNames: Record<string, string> = {
  code: 'number',
  wbsId: 'WBS node',
  calendarId: 'calendar',
  actualStart: 'actual start',
  actualFinish: 'actual finish',
  levellingDelay: 'levelling delay',
  remaining: 'remaining duration',
  suspend: 'suspended from',
  resume: 'resume date',
};

/** 24:00 and 00:00 of the next day are one instant, so texts are not compared. */
const instantAt = (text: string): number => parseInstant(text) ?? NaN;

/** Why progress fields cannot stand as they are; undefined where they can (rules, section 4). */
export function progressError(a: Activity, dataDate: string | null): string | undefined {
  for (const [field, word] of [
    ['actualStart', 'actual start'],
    ['actualFinish', 'actual finish'],
  ] as const) {
    const t = a[field];
    if (t === null) continue;
    if (dataDate === null) return 'the project has no data date yet. Set the data date before entering actual dates.';
    if (instantAt(t) > instantAt(dataDate))
      return `the ${word} ${showTypedDate(t)} lies after the data date ${showTypedDate(dataDate)}. Enter a date up to the data date, or move the data date in Update.`;
  }
  if (a.type === 'task') {
    if (a.actualFinish !== null && a.actualStart === null) return 'an actual finish needs an actual start. Enter the actual start first.';
    if (a.actualFinish !== null && a.actualStart !== null && instantAt(a.actualFinish) < instantAt(a.actualStart)) return 'the actual finish lies before the actual start.';
  }
  return undefined;
}

/** The text of a cell as it can be typed back. Links need the maps of links by activity. */
export function cellText(doc: Document, a: Activity, column: PlainColumn): string {
  switch (column) {
    case 'name':
    case 'code':
    case 'notes':
      return a[column];
    case 'type':
      return typeNames[a.type];
    case 'duration':
      return isMilestone(a) ? '' : formatDuration(a.duration, dayLengths(doc, a));
    case 'remaining':
      return a.actualStart === null || a.actualFinish !== null ? '' : formatDuration(a.remaining ?? a.duration, dayLengths(doc, a));
    case 'wbs':
      return wbsCodeOf(doc, a.wbsId);
    case 'constraint':
      return a.constraints.map(showConstraint).join(', ');
    case 'deadline':
      return a.deadline === null ? '' : showTypedDate(a.deadline);
    case 'calendar':
      return a.calendarId === null ? '' : (doc.calendars.get(a.calendarId)?.name ?? '');
    case 'percent':
      return a.type === 'levelOfEffort' || a.type === 'margin' ? '' : `${percentOf(a)}%`;
    case 'cost':
      return a.cost === 0 ? '' : String(a.cost);
    case 'actualStart':
    case 'actualFinish':
    case 'suspend':
    case 'resume':
      return a[column] === null ? '' : showTypedDate(a[column]);
  }
}
