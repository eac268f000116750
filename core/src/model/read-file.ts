/**
 * Reading a project file. Nothing throws: what is wrong is set aside and listed with its row and field, and the
 * rest is read (scheduling rules, section 9).
 */
import { dayOfText, intervalOfFile } from './read-values.ts';
import { type Document, emptyDocument, labelOf } from './document.ts';
import { FILE_FORMAT, FILE_VERSION, type ProjectFile } from './file.ts';
import { type Place, type Problem, problem, warning } from './problem.ts';
import {
  type Activity,
  activityDefaults,
  type Calendar,
  type Constraint,
  constraintSchema,
  defaultOptions,
  type Exception,
  exceptionSchema,
  type Interval,
  intervalSchema,
  type Link,
  optionsSchema,
  type Project,
  rowSchemas,
  type Rows,
  type TableName,
} from './schema.ts';

type Raw = Record<string, unknown>;
const isObject = (v: unknown): v is Raw => typeof v === 'object' && v !== null && !Array.isArray(v);

export interface ReadResult {
  /** Undefined where the text is no project file at all. */
  file?: ProjectFile;
  problems: Problem[];
}

/** Reads the text of a project file. */
export function readProjectText(text: string): ReadResult {
  let json: unknown;
  try {
    json = JSON.parse(text.charCodeAt(0) === 0xfeff ? text.slice(1) : text);
  } catch (e) {
    return { problems: [problem('NOT_JSON', `This is not readable as JSON: ${(e as Error).message}. Nothing was read.`)] };
  }
  return readProjectFile(json);
}

/** Reads a project file that is already parsed. */
export function readProjectFile(json: unknown): ReadResult {
  const problems: Problem[] = [];
  if (!isObject(json) || json['format'] !== FILE_FORMAT)
    return { problems: [problem('NOT_A_PROJECT', `This is not a project file: its "format" is not "${FILE_FORMAT}". Nothing was read.`)] };
  if (json['version'] !== FILE_VERSION) {
    const text = `The file has version ${JSON.stringify(json['version'])}; this program reads version ${FILE_VERSION}. Open it with a matching version.`;
    return { problems: [problem('VERSION', text, { field: 'version' })] };
  }
  const document = readDocument(json, problems, '');
  if (!document) return { problems };
  const copies = new Map<string, Document>();
  const rawCopies = isObject(json['copies']) ? json['copies'] : {};
  for (const id of [...document.snapshots.keys()]) {
    const raw = rawCopies[id];
    const copy = isObject(raw) ? readDocument({ ...raw, snapshots: [] }, problems, `copy ${id}: `) : undefined;
    if (copy) copies.set(id, copy);
    else {
      problems.push(problem('SNAPSHOT_WITHOUT_COPY', `Snapshot ${id} has no readable copy in "copies"; it was set aside.`, { table: 'snapshots', id }));
      document.snapshots.delete(id);
    }
  }
  checkBaseline(document, problems);
  return { file: { document, copies }, problems };
}

function checkBaseline(doc: Document, problems: Problem[]): void {
  const project = doc.project.get('project') as Project;
  if (project.baselineId === null || doc.snapshots.has(project.baselineId)) return;
  problems.push(problem('UNKNOWN_BASELINE', 'The baseline to compare with is not in the file; none is chosen.', { table: 'project', field: 'baselineId' }));
  doc.project.set('project', Object.freeze({ ...project, baselineId: null }));
}

/** What stands in for a field that is absent or wrong. Fields that are not here make their row unusable. */
const defaults: { [T in TableName]: Raw } = {
  project: {
    id: 'project',
    code: 'PROJECT',
    name: '',
    dataDate: null,
    requiredFinish: null,
    options: defaultOptions,
    baselineId: null,
    currency: '',
    notes: '',
  },
  calendars: { name: '', basedOn: null, week: null, exceptions: [], hoursPerDay: null, daysPerWeek: null, sharedId: null },
  wbs: { parentId: null, name: '', notes: '' },
  activities: activityDefaults,
  links: { type: 'FS', lag: 0, lagCalendar: null },
  snapshots: { name: '', description: '', dataDate: null },
};

/** Fields whose wrong value makes the row unusable although an absent one has a default. */
const vital: Partial<Record<TableName, string[]>> = { links: ['type'], project: ['id'] };

function readDocument(json: Raw, problems: Problem[], prefix: string): Document | undefined {
  const doc = emptyDocument();
  const report = (code: string, message: string, where: Place): void => {
    problems.push(problem(code, prefix + message, where));
  };
  const project = readRow('project', json['project'], 0, report, projectExtras(report));
  readTable(json, 'calendars', doc, report);
  readTable(json, 'wbs', doc, report);
  readTable(json, 'activities', doc, report);
  readTable(json, 'links', doc, report);
  readTable(json, 'snapshots', doc, report);
  if (!project) {
    report('NO_PROJECT', 'The file has no readable project row (plannedStart and calendarId are needed). Nothing was read.', { table: 'project' });
    return undefined;
  }
  doc.project.set('project', Object.freeze(project));
  if (!doc.calendars.has(project.calendarId)) {
    report('UNKNOWN_CALENDAR', `The project's calendar ${project.calendarId} is not in the file. Nothing can be computed without it.`, {
      table: 'project',
      field: 'calendarId',
    });
    return undefined;
  }
  checkReferences(doc, report);
  uniqueCodes(doc, problems, prefix);
  return doc;
}

type Report = (code: string, message: string, where: Place) => void;

function readTable(json: Raw, table: Exclude<TableName, 'project'>, doc: Document, report: Report): void {
  const list = json[table];
  if (list === undefined) return;
  if (!Array.isArray(list)) {
    report('WRONG_TYPE', `"${table}" should be a list of rows; it was set aside.`, { table });
    return;
  }
  const map = doc[table] as Map<string, unknown>;
  list.forEach((raw: unknown, n) => {
    const extras = table === 'calendars' ? calendarExtras(report) : table === 'activities' ? activityExtras(report) : undefined;
    const row = readRow(table, raw, n, report, extras);
    if (!row) return;
    if (map.has(row.id)) report('DUPLICATE_ID', `Row ${n + 1} of ${table} has the id ${row.id} of an earlier row; it was set aside.`, { table, id: row.id, field: 'id' });
    else map.set(row.id, Object.freeze(row));
  });
}

type Extras = (row: Raw, where: Place) => void;

function readRow<T extends TableName>(table: T, raw: unknown, n: number, report: Report, extras?: Extras): Rows[T] | undefined {
  if (!isObject(raw)) {
    report('WRONG_TYPE', `Row ${n + 1} of ${table} is not an object; it was set aside.`, { table });
    return undefined;
  }
  const row: Raw = { ...defaults[table], rank: n, ...withoutUndefined(raw) };
  if (table === 'activities' && row['code'] === undefined) row['code'] = String(row['id']).slice(0, 40);
  const where: Place = { table, ...(typeof row['id'] === 'string' ? { id: row['id'] } : {}) };
  const called = [row['code'], row['name']].filter((x) => typeof x === 'string' && x !== '').join(' ');
  if (called) where.label = called;
  extras?.(row, where);
  for (let tries = 0; tries < 40; tries++) {
    const parsed = rowSchemas[table].safeParse(row);
    if (parsed.success) return parsed.data as Rows[T];
    const issue = parsed.error.issues[0];
    const field = String(issue?.path[0] ?? '');
    const has = field === 'rank' || field in defaults[table];
    const text = `${table} row ${n + 1}${called ? ` (${called})` : ''}: ${field || 'the row'} cannot be read (${issue?.message ?? 'wrong'})`;
    if (!has || vital[table]?.includes(field)) {
      report('WRONG_VALUE', `${text}; the row was set aside.`, { ...where, field });
      return undefined;
    }
    report('WRONG_VALUE', `${text}; it was set aside${field === 'duration' || field === 'lag' ? ' and counts as 0' : ''}.`, { ...where, field });
    row[field] = field === 'rank' ? n : defaults[table][field];
  }
  return undefined;
}

const withoutUndefined = (o: Raw): Raw => Object.fromEntries(Object.entries(o).filter(([, v]) => v !== undefined));

/** Lists are read element by element, so that one wrong element does not take the others with it. */
function readList<E>(row: Raw, field: string, where: Place, report: Report, read: (v: unknown) => E | undefined): void {
  const list = row[field];
  if (!Array.isArray(list)) return;
  row[field] = list.flatMap((v: unknown, n) => {
    const e = read(v);
    if (e !== undefined) return [e];
    report('WRONG_VALUE', `${where.table} ${where.label ?? where.id ?? ''}: ${field}, entry ${n + 1}, cannot be read; it was set aside.`, { ...where, field: `${field}.${n}` });
    return [];
  });
}

const readInterval = (v: unknown): Interval | undefined => {
  const pair = intervalOfFile(v);
  const parsed = intervalSchema.safeParse(pair);
  return parsed.success ? parsed.data : undefined;
};

const calendarExtras =
  (report: Report): Extras =>
  (row, where) => {
    const week = row['week'];
    if (Array.isArray(week))
      row['week'] = week.map((_, n) => {
        const day: Raw = { [`week.${n}`]: week[n] };
        readList(day, `week.${n}`, where, report, readInterval);
        return day[`week.${n}`];
      });
    readList(row, 'exceptions', where, report, (v): Exception | undefined => {
      if (!isObject(v) || (v['work'] !== undefined && !Array.isArray(v['work']))) return undefined;
      const work = ((v['work'] ?? []) as unknown[]).map(readInterval);
      if (work.includes(undefined)) return undefined;
      const parsed = exceptionSchema.safeParse({ name: '', yearly: false, to: v['from'], ...v, work });
      if (!parsed.success) return undefined;
      const e = parsed.data;
      return !e.yearly && (dayOfText(e.to) as number) < (dayOfText(e.from) as number) ? undefined : e;
    });
  };

const activityExtras =
  (report: Report): Extras =>
  (row, where) => {
    readList(row, 'constraints', where, report, (v): Constraint | undefined => {
      const parsed = constraintSchema.safeParse(isObject(v) ? { date: null, ...v } : v);
      return parsed.success ? parsed.data : undefined;
    });
  };

const projectExtras =
  (report: Report): Extras =>
  (row, where) => {
    if (!isObject(row['options'])) return;
    const options: Raw = { ...defaultOptions, ...row['options'] };
    for (let tries = 0; tries < 10; tries++) {
      const parsed = optionsSchema.safeParse(options);
      if (parsed.success) break;
      const field = String(parsed.error.issues[0]?.path[0]);
      report('WRONG_VALUE', `project: option ${field} cannot be read; the usual one is taken.`, { ...where, field: `options.${field}` });
      options[field] = defaultOptions[field as keyof typeof defaultOptions];
    }
    row['options'] = options;
  };

/** References to rows that are not there are set aside; a link with one goes as a whole. */
function checkReferences(doc: Document, report: Report): void {
  for (const [id, c] of doc.calendars)
    if (c.basedOn !== null && !doc.calendars.has(c.basedOn)) {
      report('UNKNOWN_CALENDAR', `Calendar ${c.name} is based on ${c.basedOn}, which is not in the file; it stands alone.`, {
        table: 'calendars',
        id,
        label: c.name,
        field: 'basedOn',
      });
      doc.calendars.set(id, Object.freeze<Calendar>({ ...c, basedOn: null }));
    }
  for (const [id, w] of doc.wbs) {
    if (w.parentId === null) continue;
    if (doc.wbs.has(w.parentId) && !wbsLoops(doc, id)) continue;
    report('WBS_PARENT', `WBS node ${w.name} has a parent that is unknown or lies below itself; it was put at the top.`, { table: 'wbs', id, label: w.name, field: 'parentId' });
    doc.wbs.set(id, Object.freeze({ ...w, parentId: null }));
  }
  for (const [id, a] of doc.activities) {
    const next: Activity = { ...a };
    const where = { table: 'activities', id, label: labelOf(a) };
    if (a.wbsId !== null && !doc.wbs.has(a.wbsId)) {
      report('UNKNOWN_WBS', `Activity ${labelOf(a)}: WBS node ${a.wbsId} is not in the file; it was put at the top.`, { ...where, field: 'wbsId' });
      next.wbsId = null;
    }
    if (a.calendarId !== null && !doc.calendars.has(a.calendarId)) {
      report('UNKNOWN_CALENDAR', `Activity ${labelOf(a)}: calendar ${a.calendarId} is not in the file; the project's is taken.`, { ...where, field: 'calendarId' });
      next.calendarId = null;
    }
    if (next.wbsId !== a.wbsId || next.calendarId !== a.calendarId) doc.activities.set(id, Object.freeze(next));
  }
  for (const [id, l] of doc.links) checkLink(doc, id, l, report);
}

function checkLink(doc: Document, id: string, l: Link, report: Report): void {
  const missing = [l.from, l.to].filter((end) => !doc.activities.has(end));
  if (missing.length) {
    report('UNKNOWN_ACTIVITY', `Link ${id}: activity ${missing.join(' and ')} is not in the file; the link was set aside.`, {
      table: 'links',
      id,
      field: doc.activities.has(l.from) ? 'to' : 'from',
    });
    doc.links.delete(id);
  } else if (l.lagCalendar?.startsWith('calendar:') && !doc.calendars.has(l.lagCalendar.slice(9))) {
    report('UNKNOWN_CALENDAR', `Link ${id}: lag calendar ${l.lagCalendar.slice(9)} is not in the file; the project's option is taken.`, {
      table: 'links',
      id,
      field: 'lagCalendar',
    });
    doc.links.set(id, Object.freeze<Link>({ ...l, lagCalendar: null }));
  }
}

function wbsLoops(doc: Document, id: string): boolean {
  let at: string | null | undefined = doc.wbs.get(id)?.parentId;
  for (let n = 0; at; n++) {
    if (at === id || n > doc.wbs.size) return true;
    at = doc.wbs.get(at)?.parentId;
  }
  return false;
}

function uniqueCodes(doc: Document, problems: Problem[], prefix: string): void {
  const seen = new Map<string, number>();
  for (const [id, a] of doc.activities) {
    let code = a.code;
    // The count of each code so far says where to go on, so that thousands of equal codes stay cheap.
    for (let n = (seen.get(code) ?? 0) + 1; seen.has(code); n++) {
      code = `${a.code.slice(0, 30)}-${n}`;
      seen.set(a.code, n);
    }
    seen.set(code, 1);
    if (code === a.code) continue;
    problems.push(warning('DUPLICATE_CODE', `${prefix}Activity ${labelOf(a)} has the code of an earlier one; it is now ${code}.`, { table: 'activities', id, field: 'code' }));
    doc.activities.set(id, Object.freeze({ ...a, code }));
  }
}
