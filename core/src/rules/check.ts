/**
 * The rules of rows, for everybody who changes or reads them: commands, the server for every change that arrives, the
 * reader of files and the plan check. What breaks a rule already may stay and be changed otherwise; nothing new may.
 */
import type { Change } from '../change/change.ts';
import type { Document } from '../model/document.ts';
import { takesAssignments } from '../model/assigned.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Problem, problem, warning } from '../model/problem.ts';
import { rowsOfOwn } from '../fields/own-values.ts';
import type { Activity, Link, OwnOf, Project } from '../model/schema.ts';
import { labelOfRow, nameOfRow, type Reference, type Row, type RowsOf, type Table, type TableName, tables, titleOf } from '../model/tables.ts';
import { parseInstant } from '../time/instant.ts';
import { showTypedDate } from '../time/typed-date.ts';
import { ownKey } from '../model/values.ts';
import type { Assignment, Resource, ResourceGroup } from '../model/resource-schema.ts';
import { assignmentObjections, groupObjections, resourceObjections } from './resources.ts';
import { activityObjections, type Objection } from './activity.ts';

/** What the rules look up beside the changed rows, as it stands before the changes. */
export interface Standing {
  row<T extends TableName>(table: T, id: string): ReturnType<RowsOf[T]['get']>;
  /** Another activity that has this number (in any case); undefined where none has. */
  withCode(code: string): readonly Activity[];
  /** Assignments of an activity. */
  assignmentsOf(activityId: string): Iterable<Assignment>;
  /** Activities with an actual date after an instant (file form). */
  actualsAfter(instant: string | null): Iterable<Activity>;
}

/** A document as it stands. */
export function standingOf(doc: Document): Standing {
  return {
    row: (table, id) => doc[table].get(id) as never,
    withCode: (code) => indexOf(doc).withCode(code),
    assignmentsOf: (id) => indexOf(doc).assignmentsOf(id),
    *actualsAfter(instant) {
      const limit = instant === null ? -Infinity : (parseInstant(instant) ?? Infinity);
      for (const a of doc.activities.values()) if (latestActual(a) > limit) yield a;
    },
  };
}

/** The later of an activity's actual dates; -Infinity where it has none. */
export const latestActual = (a: Pick<Activity, 'actualStart' | 'actualFinish'>): number =>
  Math.max(...[a.actualStart, a.actualFinish].map((t) => (t === null ? -Infinity : (parseInstant(t) ?? -Infinity))));

/** Problems of the shapes of the fields that changed; none where they can be stored. */
function shapeObjections(table: TableName, before: Row | null, after: Row): Objection[] {
  const { schema } = tables[table] as Table<Row>;
  const out: Objection[] = [];
  const [was, is] = [before as unknown as Record<string, unknown> | null, after as unknown as Record<string, unknown>];
  for (const [field, of] of Object.entries(schema.shape)) {
    if (was && was[field] === is[field]) continue;
    const parsed = of.safeParse(is[field]);
    if (!parsed.success) out.push({ code: 'WRONG_VALUE', field, text: `${titleOf(table, field)} cannot be taken: ${parsed.error.issues[0]?.message ?? 'it is of another kind'}.` });
  }
  return out;
}

/** What a row names that is not there, where it did not name it before: taken over, a file of the plan would be read otherwise. */
function referenceObjections(table: TableName, before: Row | null, after: Row, isThere: (table: TableName, id: string) => boolean): Objection[] {
  // The project's calendar and baseline are told in their own words; a logo that is gone is not drawn.
  if (table === 'project') return [];
  const [was, is] = [before as unknown as Record<string, unknown> | null, after as unknown as Record<string, unknown>];
  return (tables[table].refs as readonly Reference<Row>[]).flatMap((ref): Objection[] => {
    const value = is[ref.field];
    if (typeof value !== 'string' || was?.[ref.field] === value) return [];
    const id = ref.idIn ? ref.idIn(value) : value;
    if (id === undefined || isThere(ref.to, id)) return [];
    return [{ code: tables[ref.to].unknown, field: ref.field, text: `the ${tables[ref.to].word} that it names is not in the project any more. Choose another.` }];
  });
}

function linkObjections(l: Link, row: Standing['row']): Objection[] {
  if (l.from === l.to) return [{ code: 'LOOP', field: 'to', text: 'an activity cannot be linked to itself.' }];
  const margin = [l.from, l.to].some((id) => row('activities', id)?.type === 'margin');
  return margin && l.type !== 'FS' ? [{ code: 'MARGIN_LINK', field: 'type', text: 'into and out of a margin only finish-to-start counts.' }] : [];
}

function projectObjections(p: Project, row: Standing['row']): Objection[] {
  const out: Objection[] = [];
  if (p.requiredFinish !== null && (parseInstant(p.requiredFinish) ?? 0) <= (parseInstant(p.plannedStart) ?? 0))
    out.push({
      code: 'FINISH_BEFORE_START',
      field: 'requiredFinish',
      text: 'the required finish would lie before the planned start. Type a later finish, or an earlier start.',
    });
  if (p.baselineId !== null && row('snapshots', p.baselineId)?.kind !== 'baseline')
    out.push({ code: 'UNKNOWN_BASELINE', field: 'baselineId', text: 'the baseline to compare with is not in the project.' });
  if (!row('calendars', p.calendarId)) out.push({ code: 'UNKNOWN_CALENDAR', field: 'calendarId', text: 'its calendar is not in the project.' });
  return out;
}

function objections(table: TableName, row: Row, dataDate: string | null, find: Standing['row']): Objection[] {
  if (table === 'activities') return activityObjections(row as Activity, dataDate);
  if (table === 'links') return linkObjections(row as Link, find);
  if (table === 'project') return projectObjections(row as Project, find);
  if (table === 'assignments') return assignmentObjections(row as Assignment, find);
  if (table === 'resourceGroups') return groupObjections(row as ResourceGroup, find);
  if (table === 'resources') return resourceObjections(row as Resource);
  return [];
}

/** Rules that changes would break and that the rows did not break before. Empty where the changes can be taken. */
export function changeProblems(changes: readonly Change[], standing: Standing): Problem[] {
  const out: Problem[] = [];
  const after = new Map<string, Row | null>();
  for (const c of changes) after.set(`${c.table}/${c.id}`, c.after);
  const now = ((table: TableName, id: string) => {
    const key = `${table}/${id}`;
    return after.has(key) ? (after.get(key) ?? undefined) : standing.row(table, id);
  }) as Standing['row'];
  const was = standing.row('project', 'project')?.dataDate ?? null;
  const is = now('project', 'project')?.dataDate ?? null;
  // Made for the first that is said: of most changes nothing is.
  let behind: RowsOf | undefined;
  const named = (): RowsOf => (behind ??= rowsBehind(now));
  // Many rows name the same few, and the server looks each up in its tables.
  const known = new Map<string, boolean>();
  const isThere = (table: TableName, id: string): boolean => {
    const key = `${table}/${id}`;
    let there = known.get(key);
    if (there === undefined) known.set(key, (there = now(table, id) !== undefined));
    return there;
  };
  const say = (table: TableName, row: Row, o: Objection): void =>
    void out.push(problem(o.code, `${nameOfRow(table, row, named())}: ${o.text}`, { table, id: row.id, label: labelOfRow(table, row, named()), field: o.field }));
  for (const c of changes) {
    // A row that changes twice is judged as it ends.
    if (c.after === null || after.get(`${c.table}/${c.id}`) !== c.after) continue;
    const shape = shapeObjections(c.table, c.before, c.after);
    for (const o of shape) say(c.table, c.after, o);
    if (shape.length) continue;
    for (const o of referenceObjections(c.table, c.before, c.after, isThere)) say(c.table, c.after, o);
    const broken = objections(c.table, c.after, is, now);
    if (broken.length) {
      const before = c.before ? new Set(objections(c.table, c.before, was, standing.row).map((o) => o.text)) : new Set<string>();
      for (const o of broken) if (!before.has(o.text)) say(c.table, c.after, o);
    }
    if (c.table === 'activities' && c.before && c.before !== c.after && !takesAssignments(c.after as Activity) && takesAssignments(c.before as Activity)) {
      const left = [...standing.assignmentsOf(c.id)].filter((x) => now('assignments', x.id)?.activityId === c.id);
      if (left.length)
        say(c.table, c.after, {
          code: 'WRONG_TYPE',
          field: 'type',
          text: `${left.length === 1 ? 'somebody is' : `${left.length} resources are`} assigned to it, and a milestone or margin takes none. Take them off first.`,
        });
    }
    if (c.table === 'activities') {
      const taken = codeTaken(c.after as Activity, c.before as Activity | null, standing, now, after);
      if (taken) say(c.table, c.after, taken);
    }
  }
  if (is !== was) {
    for (const a of standing.actualsAfter(is)) {
      if (after.has(`activities/${a.id}`)) continue;
      out.push(
        problem(
          'ACTUAL_AFTER_DATA_DATE',
          `${nameOfRow('activities', a, named())} has an actual date after ${is === null ? 'there is a data date' : `the data date ${showTypedDate(is)}`}. Take the actual back first, or choose a later data date.`,
          { table: 'activities', id: a.id, label: labelOfRow('activities', a, named()) },
        ),
      );
      break;
    }
  }
  return out;
}

/** Whether a number that is new to a row belongs to another one, there or in the same changes. */
function codeTaken(a: Activity, before: Activity | null, standing: Standing, now: Standing['row'], after: ReadonlyMap<string, Row | null>): Objection | undefined {
  if (before && before.code.toLowerCase() === a.code.toLowerCase()) return undefined;
  const code = a.code.toLowerCase();
  let other = standing.withCode(code).find((x) => x.id !== a.id && now('activities', x.id)?.code.toLowerCase() === code);
  if (!other) {
    let numbers = newCodes.get(after);
    if (!numbers) {
      numbers = new Map();
      for (const [key, row] of after)
        if (row && key.startsWith('activities/') && !numbers.has((row as Activity).code.toLowerCase())) numbers.set((row as Activity).code.toLowerCase(), row as Activity);
      newCodes.set(after, numbers);
    }
    const first = numbers.get(code);
    if (first && first.id !== a.id) other = first;
  }
  return other && { code: 'DUPLICATE_CODE', field: 'code', text: `number ${a.code} is taken by ${other.name || 'another activity'}.` };
}
const newCodes = new WeakMap<object, Map<string, Activity>>();

/** Rows looked up one by one, as labels need them. */
function rowsBehind(now: Standing['row']): RowsOf {
  const table = <T extends TableName>(t: T): RowsOf[T] => ({ get: (id: string) => now(t, id) }) as unknown as RowsOf[T];
  return Object.fromEntries(Object.keys(tables).map((t) => [t, table(t as TableName)])) as unknown as RowsOf;
}

const fine: readonly Objection[] = [];
const judgements = new WeakMap<Activity, { dataDate: string | null; found: readonly Objection[] }>();

/** What is wrong with an activity. Rows are frozen, so one that has not changed is judged once for a data date. */
function judged(a: Activity, dataDate: string | null): readonly Objection[] {
  const last = judgements.get(a);
  if (last && last.dataDate === dataDate) return last.found;
  const found = activityObjections(a, dataDate);
  judgements.set(a, { dataDate, found: found.length ? found : fine });
  return found;
}

/** Where a field of a table is typed. */
const placesOfOwn: Record<OwnOf, string> = {
  activities: 'in the column',
  wbs: 'in the column',
  resources: 'in the Library, under',
  assignments: 'in the inspector of its activity, under',
  project: 'in the project settings, under',
};

/**
 * What the plan check says of rows as they stand: rules that they break, and numbers that two of them share. What
 * computing has said of the same field (`known`) is not said again.
 */
export function standingProblems(doc: Document, known: readonly Problem[] = []): Problem[] {
  const out: Problem[] = [];
  const dataDate = doc.project.get('project')?.dataDate ?? null;
  const find = standingOf(doc).row;
  const said = new Set(known.map((p) => `${p.where.id ?? ''} ${(p.where.field ?? '').split('.')[0]!.replace('actualFinish', 'actualStart')}`));
  const say = (table: TableName, row: Row, o: Objection): void => {
    if (!said.has(`${row.id} ${o.field}`))
      out.push(warning(o.code, `${nameOfRow(table, row, doc)}: ${o.text}`, { table, id: row.id, label: labelOfRow(table, row, doc), field: o.field }));
  };
  for (const a of doc.activities.values()) for (const o of judged(a, dataDate)) say('activities', a, o);
  for (const p of doc.project.values()) for (const o of projectObjections(p, find)) say('project', p, o);
  for (const f of doc.ownFields.values()) {
    if (!f.required) continue;
    const empty = rowsOfOwn(doc, f.of).filter((r) => r.values[ownKey(f.id)] === undefined);
    const [row] = empty;
    if (!row) continue;
    const label = labelOfRow(f.of, row, doc);
    const { word, words } = tables[f.of];
    const text =
      f.of === 'project'
        ? `The project has no ${f.name}. Give it in the project settings.`
        : `${empty.length} ${empty.length === 1 ? `${word} has` : `${words} have`} no ${f.name}, ${label} among them. Give it ${placesOfOwn[f.of]} ${f.name}.`;
    out.push(warning('FIELD_EMPTY', text, { table: f.of, id: row.id, label, field: ownKey(f.id) }));
  }
  for (const list of indexOf(doc).sharedCodes()) {
    const names = list.map((a) => a.name || 'without a name').join(', ');
    const text = `Number ${list[0]!.code} is used by ${list.length} activities: ${names}. Give each its own, since links are typed with it.`;
    out.push(warning('DUPLICATE_CODE', text, { table: 'activities', id: list[1]!.id, label: labelOfRow('activities', list[1]!, doc), field: 'code' }));
  }
  return out;
}
