/** Small plans for tests, written as a list; and results read back in short words. */
import { applyChanges, invertChanges } from '@yellowhammer/core/change/change';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { writeDocument } from '@yellowhammer/core/model/file';
import type { CodeSet, OwnField } from '@yellowhammer/core/model/schema';
import type { Problem } from '@yellowhammer/core/model/problem';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { placeOf, type ScheduleView, viewOf } from '@yellowhammer/core/schedule/view';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { scheduleJson } from '@yellowhammer/core/schedule/schedule-json';

const five = [
  ['08:00', '12:00'],
  ['13:00', '17:00'],
];
export const fiveDays = { id: 'five', name: 'Five', week: [five, five, five, five, five, [], []] };
export const clock = { id: 'clock', name: 'Clock', week: Array.from({ length: 7 }, () => [['00:00', '24:00']]) };
export const six = { id: 'six', name: 'Six', week: [five, five, five, five, five, [['08:00', '12:00']], []] };
export const nights = {
  id: 'nights',
  name: 'Nights',
  week: [[['20:00', '28:00']], [['20:00', '28:00']], [['20:00', '28:00']], [['20:00', '28:00']], [['20:00', '28:00']], [], []],
};

/** Days of eight hours in minutes. */
export const d = (days: number): number => days * 480;

export interface PlanText {
  /** `A 3d`, `M finish`, `B margin 5d`, `L effort`; with `@calendar` and fields as an object. */
  activities: [string, string, Record<string, unknown>?][];
  /** `A > B`, `A SS+2d > B`. Days of eight hours; `m` for minutes. */
  links?: string[];
  project?: Record<string, unknown>;
  options?: Record<string, unknown>;
  calendars?: Record<string, unknown>[];
}

const types: Record<string, string> = { start: 'startMilestone', finish: 'finishMilestone', effort: 'levelOfEffort' };

export function planFileOf(p: PlanText): Record<string, unknown> {
  return {
    format: 'yellowhammer-project',
    version: 1,
    project: { id: 'project', code: 'T', name: 'Test', plannedStart: '2026-03-02T08:00', calendarId: 'five', options: p.options ?? {}, ...p.project },
    calendars: [fiveDays, clock, six, nights, ...(p.calendars ?? [])],
    activities: p.activities.map(([id, size, more]) => {
      const calendar = /@(\w+)/.exec(size)?.[1];
      const days = /(\d+(?:\.\d+)?)d/.exec(size);
      const minutes = /(\d+)m\b/.exec(size);
      const kind = types[size.split(/\s/)[0]!] ?? (size.startsWith('margin') ? 'margin' : 'task');
      return { id, code: id, name: id, type: kind, duration: days ? d(Number(days[1])) : minutes ? Number(minutes[1]) : 0, ...(calendar ? { calendarId: calendar } : {}), ...more };
    }),
    links: (p.links ?? []).map((text, i) => {
      const m = /^(\w+)\s*(FS|SS|FF|SF)?\s*([+-]\d+(?:\.\d+)?[dm])?\s*(?:\[(.+)\])?\s*>\s*(\w+)$/.exec(text);
      if (!m) throw new Error(`cannot read the link ${text}`);
      const lag = m[3] ? Number.parseFloat(m[3]) * (m[3].endsWith('d') ? 480 : 1) : 0;
      return { id: `l${i}`, from: m[1], to: m[5], type: m[2] ?? 'FS', lag, ...(m[4] ? { lagCalendar: m[4] } : {}) };
    }),
  };
}

export function documentOf(p: PlanText): Document {
  const read = readProjectFile(planFileOf(p));
  if (!read.file) throw new Error(JSON.stringify(read.problems));
  return read.file.document;
}

/** A plan with people and money in it: resources are named by their ids and are labour, assignments are of one unit, unless they say otherwise. */
export function peopledPlan(
  p: PlanText,
  more: Partial<Record<'accounts' | 'resourceGroups' | 'roles' | 'resources' | 'crews' | 'assignments' | 'expenses', Record<string, unknown>[]>>,
): Document {
  const file = {
    ...planFileOf(p),
    ...more,
    resources: (more.resources ?? []).map((r) => ({ name: r['id'], kind: 'labour', ...r })),
    assignments: (more.assignments ?? []).map((x, n) => ({ id: `x${n}`, units: 1, ...x })),
    expenses: (more.expenses ?? []).map((e, n) => ({ id: `e${n}`, activityId: 'A', ...e })),
  };
  const read = readProjectFile(JSON.parse(JSON.stringify(file)));
  if (!read.file) throw new Error(JSON.stringify(read.problems));
  return read.file.document;
}

export interface Row {
  earlyStart: string;
  earlyFinish: string;
  lateStart: string | null;
  lateFinish: string | null;
  totalFloat: { minutes: number; days: number } | null;
  freeFloat: { minutes: number; days: number } | null;
  critical: boolean;
  onLongestPath: boolean;
  length: number;
  remainingStart: string | null;
  drivingLinks: string[];
  state: string;
}
export interface Result {
  finish: string;
  a: Record<string, Row>;
  links: { id: string; slack: { minutes: number } | null; driving: boolean }[];
  carried: { from: string; to: string; through: string; slack: { minutes: number }; driving: boolean }[];
  problems: Problem[];
  codes: string[];
  /** `02 Mar 08:00 - 04 Mar 17:00` without the year, for short tables. */
  dates: Record<string, string>;
}

export function compute(p: PlanText, json: { paths?: number; to?: string; why?: string } = {}): Result & { json: Record<string, unknown> } {
  const read = readProjectFile(planFileOf(p));
  if (!read.file) throw new Error(JSON.stringify(read.problems));
  const out = scheduleJson(read.file.document, read.problems, json).json;
  const list = out['activities'] as (Row & { id: string })[];
  const problems = out['problems'] as Problem[];
  const short = (t: string): string => t.slice(5).replace('T', ' ');
  return {
    finish: out['projectFinish'] as string,
    a: Object.fromEntries(list.map((x) => [x.id, x])),
    links: out['links'] as Result['links'],
    carried: out['carriedLogic'] as Result['carried'],
    problems,
    codes: problems.map((x) => x.code),
    dates: Object.fromEntries(list.map((x) => [x.id, `${short(x.earlyStart)} - ${short(x.earlyFinish)}`])),
    json: out,
  };
}

/** Worked examples as a table: the plan, and the dates of some of its activities. */
export const table = (name: string, cases: [string, PlanText, Record<string, string>][]): void => {
  describe(name, () => {
    test.each(cases)('%s', (_, plan, expected) => {
      expect(compute(plan).dates).toMatchObject(expected);
    });
  });
};

/** What a test takes for granted; missing, the test fails here instead of somewhere later. */
export function sure<T>(value: T): NonNullable<T> {
  if (value === undefined || value === null) throw new Error('The test expected a value here.');
  return value;
}

/** Carries a command out; a refusal fails the test with its sentence. Returns what was made. */
export function must(doc: Document, outcome: Outcome): string[] {
  if (!outcome.ok) throw new Error(outcome.problems[0]!.message);
  applyChanges(doc, outcome.changes);
  return outcome.made ?? [];
}

/** What is shown of a plan; throws where it cannot be computed. */
export function viewIn(doc: Document): ScheduleView {
  const { computed, problems } = schedule(doc);
  if (!computed) throw new Error(JSON.stringify(problems));
  return viewOf(doc, computed, problems, undefined);
}

/** The early finish of an activity. */
export function finishIn(doc: Document, id: string): string {
  const v = viewIn(doc);
  return formatInstant(v.finish[placeOf(v, id) ?? -1]!);
}

/** Carries an outcome out, and checks that it can be taken back to the byte. The rows that were made. */
export function mustBack(doc: Document, o: Outcome): string[] {
  const before = JSON.stringify(writeDocument(doc));
  const made = must(doc, o);
  const back = copyDocument(doc);
  if (o.ok) applyChanges(back, invertChanges(o.changes));
  expect(JSON.stringify(writeDocument(back))).toBe(before);
  return made;
}

/** The first sentence of a refusal. */
export const says = (o: Outcome): string => (o.ok ? 'taken' : (o.problems[0]?.message ?? ''));

/** Puts a WBS node into a plan, or an activity into a node, past all commands. */
export const nodeInto = (doc: Document, id: string, parentId: string | null, rank: number, lane = false): void =>
  void doc.wbs.set(id, { id, rank, parentId, name: id, code: '', lane, notes: '', values: {} });
export const putInto = (doc: Document, id: string, wbsId: string | null, rank: number): void => void doc.activities.set(id, { ...sure(doc.activities.get(id)), wbsId, rank });

/** What a command says: its label, or the code, the sentence and the place of its first refusal. */
export function tells(o: Outcome): string {
  if (o.ok) return o.label;
  const { code, message, where } = o.problems[0]!;
  return `${code} ${message} @${[where.table, where.id, where.label, where.field].filter((x) => x !== undefined).join('/')}`;
}

/** A code set with values, each with an id of the set's and its own short name; a parent is named by that id. */
export const codeSetOf = (id: string, name: string, values: [short: string, name?: string, parentId?: string | null, colour?: string | null][], about = ''): CodeSet => ({
  id,
  rank: 0,
  name,
  about,
  sharedId: null,
  values: values.map(([short, long = '', parentId = null, colour = null]) => ({ id: `${id}.${short}`, short, name: long, parentId, colour, about: '' })),
});
/** A field of activities that holds text, unless it is said otherwise. */
export const ownFieldOf = (id: string, name: string, more: Partial<OwnField> = {}): OwnField => ({
  id,
  rank: 0,
  name,
  key: id,
  about: '',
  of: 'activities',
  kind: 'text',
  unit: '',
  choices: [],
  standard: null,
  required: false,
  sum: 'same',
  expression: '',
  ...more,
});

/** Commands as a table: what each says on a plan of its own; what is taken can be taken back to the byte. */
export const tellsEach = (name: string, plan: () => Document, cases: [string, (doc: Document) => Outcome, string][]): void =>
  describe(name, () => {
    test.each(cases)('%s', (_, run, told) => {
      const doc = plan();
      const o = run(doc);
      expect(tells(o)).toBe(told);
      if (o.ok) mustBack(doc, o);
    });
  });

export function reaches(edges: readonly (readonly [number, number])[], from: number, to: number, seen = new Set<number>()): boolean {
  if (from === to) return true;
  seen.add(from);
  return edges.some(([a, b]) => a === from && !seen.has(b) && reaches(edges, b, to, seen));
}
