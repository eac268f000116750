/** Commands on the project as a whole: making one, its settings, baselines, going back. */
import { applyChanges, type Change, diffDocuments, Draft, sameValue } from '../change/change.ts';
import { type Document, emptyDocument, ordered, projectOf } from '../model/document.ts';
import { type Calendar, defaultOptions, type Interval, type Options, type Project, type Snapshot, type SnapshotKind } from '../model/schema.ts';
import { parseInstant } from '../time/instant.ts';
import { done, type NewId, type Outcome, refused } from './result.ts';

const day: Interval[] = [
  [480, 720],
  [780, 1020],
];

/** The week a new project starts with. */
const standardCalendar = (id: string): Calendar => ({
  id,
  rank: 0,
  name: 'Five-day week',
  basedOn: null,
  week: [day, day, day, day, day, [], []],
  exceptions: [],
  hoursPerDay: null,
  daysPerWeek: null,
  sharedId: null,
});

export interface NewProject {
  code: string;
  name: string;
  /** `YYYY-MM-DDTHH:MM`. */
  plannedStart: string;
  requiredFinish?: string | null;
  currency?: string;
  calendar?: Calendar;
}

/** The document of a new project. */
export function newProject(args: NewProject, newId: NewId): Document {
  const doc = emptyDocument();
  const calendar = args.calendar ?? standardCalendar(newId());
  const project: Project = {
    id: 'project',
    rank: 0,
    code: args.code,
    name: args.name,
    plannedStart: args.plannedStart,
    dataDate: null,
    requiredFinish: args.requiredFinish ?? null,
    calendarId: calendar.id,
    options: defaultOptions,
    baselineId: null,
    currency: args.currency ?? '',
    notes: '',
  };
  applyChanges(doc, [
    { table: 'calendars', id: calendar.id, before: null, after: calendar },
    { table: 'project', id: 'project', before: null, after: project },
  ]);
  return doc;
}

const settingNames: Partial<Record<keyof Project, string>> = {
  name: 'name',
  code: 'code',
  plannedStart: 'planned start',
  requiredFinish: 'required finish',
  calendarId: "project's calendar",
  dataDate: 'data date',
  baselineId: 'baseline to compare with',
};

/** Changes settings of the project. Actuals must not come to lie after an earlier data date. */
export function setProject(doc: Document, fields: Partial<Omit<Project, 'id' | 'rank' | 'options'>>): Outcome {
  const project = projectOf(doc);
  if (fields.calendarId !== undefined && !doc.calendars.has(fields.calendarId))
    return refused('UNKNOWN_CALENDAR', 'That calendar is not in the project.', { table: 'project', field: 'calendarId' });
  if (fields.baselineId && doc.snapshots.get(fields.baselineId)?.kind !== 'baseline')
    return refused('UNKNOWN_BASELINE', 'That baseline is not in the project.', { table: 'project', field: 'baselineId' });
  for (const [field, name] of [
    ['plannedStart', 'planned start'],
    ['requiredFinish', 'required finish'],
    ['dataDate', 'data date'],
  ] as const) {
    const value = fields[field];
    if (typeof value === 'string' && parseInstant(value) === undefined)
      return refused('WRONG_DATE', `The ${name} cannot be read. Type it as 12 mar 2027.`, { table: 'project', field });
  }
  const [start, required] = [fields.plannedStart ?? project.plannedStart, fields.requiredFinish === undefined ? project.requiredFinish : fields.requiredFinish];
  if ((fields.plannedStart !== undefined || fields.requiredFinish) && required !== null && (parseInstant(required) as number) <= (parseInstant(start) as number))
    return refused('FINISH_BEFORE_START', 'The required finish would lie before the planned start. Type a later finish, or an earlier start.', {
      table: 'project',
      field: 'requiredFinish',
    });
  if (fields.dataDate !== undefined) {
    const limit = fields.dataDate === null ? -Infinity : (parseInstant(fields.dataDate) as number);
    for (const a of doc.activities.values()) {
      const last = Math.max(...[a.actualStart, a.actualFinish].map((t) => (t === null ? -Infinity : (parseInstant(t) as number))));
      if (last > limit)
        return refused('ACTUAL_AFTER_DATA_DATE', `${a.code} ${a.name} has an actual date after that data date. Take the actual back first, or choose a later data date.`, {
          table: 'activities',
          id: a.id,
        });
    }
  }
  const draft = new Draft(doc);
  draft.patch('project', 'project', fields);
  const names = Object.keys(fields).map((k) => settingNames[k as keyof Project] ?? k);
  return done(`Set ${names.join(', ')} of ${project.code}`, draft.changes);
}

/** Changes options of the project. */
export function setOptions(doc: Document, options: Partial<Options>): Outcome {
  const draft = new Draft(doc);
  draft.patch('project', 'project', { options: { ...projectOf(doc).options, ...options } });
  return done('Change project options', draft.changes);
}

const snapshotNames: Record<SnapshotKind, string> = { baseline: 'baseline', restorePoint: 'restore point', statusUpdate: 'status update' };

/** The change that keeps a complete copy; the server keeps the copy itself when it takes the change. */
export function snapshotChange(doc: Document, args: { id: string; kind: SnapshotKind; name: string; description?: string; at: string; dataDate?: string | null }): Change {
  const ranks = [...doc.snapshots.values()].map((s) => s.rank);
  const row: Snapshot = {
    id: args.id,
    rank: Math.max(-1, ...ranks) + 1,
    kind: args.kind,
    name: args.name,
    description: args.description ?? '',
    at: args.at,
    dataDate: args.dataDate === undefined ? projectOf(doc).dataDate : args.dataDate,
  };
  return { table: 'snapshots', id: args.id, before: null, after: row };
}

/** Keeps a baseline. What is compared with stays as it is, unless nothing is yet or `compare` says so. */
export function keepBaseline(doc: Document, args: { id: string; name: string; description: string; at: string; compare?: boolean }): Outcome {
  if (!args.name.trim()) return refused('NAME_NEEDED', 'Give the baseline a name, so that it can be told from others.', { field: 'name' });
  if ([...doc.snapshots.values()].some((s) => s.kind === 'baseline' && s.name === args.name.trim()))
    return refused('NAME_TAKEN', `There is a baseline ${args.name.trim()} already. Choose another name.`, { field: 'name' });
  if (doc.activities.size === 0) return refused('NOTHING_TO_KEEP', 'The plan has no activities yet. Add some before keeping a baseline.');
  const draft = new Draft(doc);
  draft.set('snapshots', args.id, snapshotChange(doc, { ...args, name: args.name.trim(), kind: 'baseline' }).after);
  if (args.compare || projectOf(doc).baselineId === null) draft.patch('project', 'project', { baselineId: args.id });
  return done(`Keep baseline ${args.name.trim()}`, draft.changes, [args.id]);
}

/** Deletes the entry of a kept copy (undo brings it back). */
export function deleteSnapshot(doc: Document, id: string): Outcome {
  const s = doc.snapshots.get(id);
  if (!s) return refused('UNKNOWN_SNAPSHOT', 'That copy is not there any more.');
  const draft = new Draft(doc);
  if (projectOf(doc).baselineId === id) draft.patch('project', 'project', { baselineId: null });
  draft.set('snapshots', id, null);
  return done(`Delete ${snapshotNames[s.kind]} ${s.name}`, draft.changes);
}

/** Makes the project what it was in a kept copy. Snapshots stay; everything else goes back, in one undoable act. */
export function goBackTo(doc: Document, snapshotId: string, copy: Document): Outcome {
  const s = doc.snapshots.get(snapshotId);
  if (!s) return refused('UNKNOWN_SNAPSHOT', 'That copy is not there any more.');
  const changes = diffDocuments(doc, copy);
  // The chosen baseline may have been deleted since, or chosen later: it stays as it is now.
  const baselineId = projectOf(doc).baselineId;
  const kept = changes.map((c) => (c.table === 'project' && c.after ? { ...c, after: { ...(c.after as Project), baselineId } } : c)).filter((c) => !sameValue(c.before, c.after));
  if (kept.length === 0) return refused('NOTHING_CHANGED', `The plan is as it was at ${s.name}; there is nothing to take back.`);
  return done(`Go back to ${s.name}`, kept);
}

export const baselinesOf = (doc: Document): Snapshot[] => ordered(doc, 'snapshots').filter((s) => s.kind === 'baseline');
