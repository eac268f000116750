/** Commands on the project as a whole: making one, its settings, baselines, going back. */
import { applyChanges, type Change, diffDocuments, Draft, sameValue } from '../change/change.ts';
import { type Document, emptyDocument, ordered, projectOf } from '../model/document.ts';
import { type Calendar, defaultOptions, type Interval, type Options, type Project, type Snapshot, type SnapshotKind } from '../model/schema.ts';
import { done, type NewId, type Outcome, refused, settled } from './result.ts';
import { titleOf } from '../model/tables.ts';

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
    stage: 'live',
    logoId: null,
    values: {},
  };
  applyChanges(doc, [
    { table: 'calendars', id: calendar.id, before: null, after: calendar },
    { table: 'project', id: 'project', before: null, after: project },
  ]);
  return doc;
}

/** Changes settings of the project. Actuals must not come to lie after an earlier data date. */
export function setProject(doc: Document, fields: Partial<Omit<Project, 'id' | 'rank' | 'options'>>): Outcome {
  const project = projectOf(doc);
  const draft = new Draft(doc);
  draft.patch('project', 'project', fields);
  const names = Object.keys(fields).map((k) => titleOf('project', k));
  return settled(doc, `Set ${names.join(', ')} of ${project.code}`, draft.changes);
}

/** Changes options of the project. */
export function setOptions(doc: Document, options: Partial<Options>): Outcome {
  const draft = new Draft(doc);
  draft.patch('project', 'project', { options: { ...projectOf(doc).options, ...options } });
  return settled(doc, 'Change project options', draft.changes);
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
  return settled(doc, `Keep baseline ${args.name.trim()}`, draft.changes, [args.id]);
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
  return { ...done(`Go back to ${s.name}`, kept), restores: snapshotId };
}

export const baselinesOf = (doc: Document): Snapshot[] => ordered(doc, 'snapshots').filter((s) => s.kind === 'baseline');
