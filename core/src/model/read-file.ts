/**
 * Reading a project file. Nothing throws: what is wrong is set aside and listed with its row and field, and the
 * rest is read (scheduling rules, section 9).
 */
import { type Document, emptyDocument, labelOf } from './document.ts';
import { isMilestone } from './activity-kinds.ts';
import { FILE_FORMAT, FILE_VERSION, type ProjectFile } from './file.ts';
import { jsonParts, limits } from './limits.ts';
import { type Problem, problem } from './problem.ts';
import { ProblemList, Unsound } from './read-problems.ts';
import { isObject, type Raw, readRow } from './read-row.ts';
import type { Account } from './money-schema.ts';
import type { ResourceGroup } from './resource-schema.ts';
import type { Project } from './schema.ts';
import { labelOfRow, nameOfRow, type Reference, referredId, type Row, type TableName, tableNames, tables } from './tables.ts';

export interface ReadResult {
  /** Undefined where the text is no project file at all. */
  file?: ProjectFile;
  problems: Problem[];
}

/** Reads the text of a project file. */
export function readProjectText(text: string): ReadResult {
  const parts = jsonParts(text);
  if (parts > limits.jsonParts) {
    const message = `The file holds ${parts.toLocaleString('en-GB')} objects and lists, more than the ${limits.jsonParts.toLocaleString('en-GB')} that are read. Nothing was read; take old copies out of it.`;
    return { problems: [problem('TOO_LARGE', message)] };
  }
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
  if (!isObject(json) || json['format'] !== FILE_FORMAT)
    return { problems: [problem('NOT_A_PROJECT', `This is not a project file: its "format" is not "${FILE_FORMAT}". Nothing was read.`)] };
  if (json['version'] !== FILE_VERSION) {
    const text = `The file has version ${JSON.stringify(json['version'])?.slice(0, 40)}; this program reads version ${FILE_VERSION}. Open it with a matching version.`;
    return { problems: [problem('VERSION', text, { field: 'version' })] };
  }
  const problems = new ProblemList();
  try {
    const document = readDocument(json, problems);
    if (!document) return { problems: problems.all };
    const copies = readCopies(json, document, problems);
    const contents = readContents(json, document, problems);
    checkBaseline(document, problems);
    return { file: { document, copies, ...(contents.size ? { contents } : {}) }, problems: problems.all };
  } catch (e) {
    if (!(e instanceof Unsound)) throw e;
    const text = `More than ${limits.wrongRows} rows cannot be read as they stand. The file is not sound; nothing was read. Write it anew from where it came.`;
    return { problems: [problem('UNSOUND', text), ...problems.all] };
  }
}

function readCopies(json: Raw, document: Document, problems: ProblemList): Map<string, Document> {
  const copies = new Map<string, Document>();
  const raws = isObject(json['copies']) ? json['copies'] : {};
  for (const id of [...document.snapshots.keys()]) {
    const raw = Object.hasOwn(raws, id) ? raws[id] : undefined;
    problems.prefix = `copy ${id}: `;
    const copy = isObject(raw) ? readDocument({ ...raw, snapshots: [] }, problems) : undefined;
    problems.prefix = '';
    if (copy) copies.set(id, copy);
    else {
      problems.add('SNAPSHOT_WITHOUT_COPY', `No readable copy of snapshot ${id} is in "copies"; it was set aside.`, { table: 'snapshots', id });
      document.snapshots.delete(id);
    }
  }
  return copies;
}

/** What attached files and pictures hold. Whether it is what its hash says, the one who keeps it looks at. */
function readContents(json: Raw, document: Document, problems: ProblemList): Map<string, string> {
  const raws = isObject(json['contents']) ? json['contents'] : {};
  const contents = new Map<string, string>();
  for (const [hash, text] of Object.entries(raws)) if (typeof text === 'string' && /^[0-9a-f]{64}$/.test(hash) && BASE64.test(text)) contents.set(hash, text);
  for (const table of ['files', 'pictures'] as const)
    for (const f of document[table].values())
      if (!contents.has(f.hash))
        problems.warn(
          'FILE_WITHOUT_CONTENT',
          `${table === 'files' ? 'File' : 'Picture'} ${f.name}: what it holds is not in "contents" of the file. It is listed, but can be ${table === 'files' ? 'opened' : 'shown'} only where its content is known already.`,
          { table, id: f.id, label: f.name },
        );
  return contents;
}
const BASE64 = /^[A-Za-z0-9+/]*={0,2}$/;

function checkBaseline(doc: Document, problems: ProblemList): void {
  const project = doc.project.get('project') as Project;
  if (project.baselineId === null) return;
  const chosen = doc.snapshots.get(project.baselineId);
  if (chosen?.kind === 'baseline') return;
  const text = chosen
    ? `What the file compares with, ${chosen.name || chosen.id}, is no baseline; none is chosen.`
    : 'The baseline to compare with is not in the file; none is chosen.';
  problems.add('UNKNOWN_BASELINE', text, { table: 'project', field: 'baselineId' });
  doc.project.set('project', Object.freeze({ ...project, baselineId: null }));
}

function readDocument(json: Raw, problems: ProblemList): Document | undefined {
  const doc = emptyDocument();
  const project = readRow('project', json['project'], 0, problems);
  for (const table of tableNames) if (table !== 'project') readTable(json, table, doc, problems);
  if (!project) {
    problems.add('NO_PROJECT', 'The file has no readable project row (plannedStart and calendarId are needed). Nothing was read.', { table: 'project' });
    return undefined;
  }
  doc.project.set('project', Object.freeze(project));
  if (!doc.calendars.has(project.calendarId)) {
    problems.add('UNKNOWN_CALENDAR', `The project's calendar ${project.calendarId} is not in the file. Nothing can be computed without it.`, {
      table: 'project',
      field: 'calendarId',
    });
    return undefined;
  }
  checkReferences(doc, problems);
  uniqueCodes(doc, problems);
  milestoneDurations(doc, problems);
  materialNeverDrives(doc);
  return doc;
}

function readTable(json: Raw, table: Exclude<TableName, 'project'>, doc: Document, problems: ProblemList): void {
  const list = json[table];
  if (list === undefined) return;
  if (!Array.isArray(list)) {
    problems.add('WRONG_TYPE', `"${table}" should be a list of rows; it was set aside.`, { table });
    return;
  }
  const map = doc[table] as Map<string, unknown>;
  const { most } = tables[table];
  if (list.length > most) {
    const text = `"${table}" has ${list.length} rows, more than the ${most} that are read; row ${most + 1} and those after it were set aside.`;
    problems.add('TOO_MANY_ROWS', text, { table });
  }
  for (let n = 0; n < list.length && n < most; n++) {
    const row = readRow(table, list[n], n, problems);
    if (!row) continue;
    if (map.has(row.id))
      problems.wrongRow('DUPLICATE_ID', `Row ${n + 1} of ${table} has the id ${row.id} of an earlier row; it was set aside.`, { table, id: row.id, field: 'id' });
    else map.set(row.id, Object.freeze(row));
  }
}

/** References to rows that are not there are set aside as the tables say; a row goes with one that it cannot do without. */
function checkReferences(doc: Document, problems: ProblemList): void {
  for (const table of tableNames) {
    const refs = tables[table].refs as readonly Reference<Row>[];
    if (table === 'wbs') checkOutline(doc, problems);
    if (table === 'resourceGroups' || table === 'accounts') checkTree(doc, table, problems);
    for (const [id, row] of doc[table])
      for (const ref of refs) {
        // Whether it is a baseline too is looked at when all copies are read; a tree has its own check.
        if (ref.to === 'snapshots' || ref.missing === 'refuse' || ref.field === tables[table].parent) continue;
        const other = referredId(ref, row);
        if (other === undefined || doc[ref.to].has(other)) continue;
        const text = `${nameOfRow(table, row, doc)}: ${ref.word} ${other} is not in the file; ${ref.said}.`;
        problems.add(tables[ref.to].unknown, text, { table, id, label: labelOfRow(table, row, doc), field: ref.field });
        if (ref.missing === 'drop') {
          doc[table].delete(id);
          break;
        }
        const now = doc[table].get(id) as Row;
        (doc[table] as Map<string, Row>).set(id, Object.freeze({ ...now, [ref.field]: ref.instead ?? null }));
      }
  }
}

/** Puts WBS nodes at the top whose parents are unknown or run in a loop, and lifts those that lie too deep. */
function checkOutline(doc: Document, problems: ProblemList): void {
  const depths = new Map<string, number>();
  let tooDeep = 0;
  for (const start of [...doc.wbs.keys()]) {
    // Up to a node whose depth is known or to the top; then down again. Every node is passed once.
    const way: string[] = [];
    const onWay = new Set<string>();
    let at: string | null = start;
    while (at !== null && !depths.has(at)) {
      const node = doc.wbs.get(at);
      const lost = node === undefined || onWay.has(at);
      if (lost) {
        const child = doc.wbs.get(way[way.length - 1]!);
        if (child) {
          const text = `WBS node ${child.name} has a parent that is unknown or lies below itself; it was put at the top.`;
          problems.add('WBS_PARENT', text, { table: 'wbs', id: child.id, label: child.name, field: 'parentId' });
          doc.wbs.set(child.id, Object.freeze({ ...child, parentId: null }));
        }
        at = null;
        break;
      }
      way.push(at);
      onWay.add(at);
      at = node.parentId;
    }
    let depth = at === null ? 0 : (depths.get(at) as number);
    for (let i = way.length - 1; i >= 0; i--) {
      const id = way[i]!;
      const node = doc.wbs.get(id);
      depth++;
      if (node && depth > limits.wbsDepth) {
        // Beside its parent, which lies at the deepest level.
        const parent = node.parentId === null ? undefined : doc.wbs.get(node.parentId);
        doc.wbs.set(id, Object.freeze({ ...node, parentId: parent?.parentId ?? null }));
        depth = limits.wbsDepth;
        if (tooDeep++ === 0)
          problems.add('WBS_DEPTH', `WBS node ${node.name} lies more than ${limits.wbsDepth} levels deep; it and others like it were put beside the node that they were in.`, {
            table: 'wbs',
            id,
            label: node.name,
            field: 'parentId',
          });
      }
      depths.set(id, depth);
    }
  }
}

/** Puts groups or accounts at the top whose parents are unknown or run in a loop. */
function checkTree(doc: Document, table: 'resourceGroups' | 'accounts', problems: ProblemList): void {
  const rows = doc[table] as Map<string, ResourceGroup | Account>;
  const sound = new Set<string>();
  for (const start of [...rows.keys()]) {
    const way = new Set<string>();
    for (let at: string | null = start; at !== null && !sound.has(at);) {
      way.add(at);
      const row: ResourceGroup | Account = rows.get(at) as ResourceGroup;
      const above: string | null = row.parentId;
      if (above !== null && (way.has(above) || !rows.has(above))) {
        const { word, unknown } = tables[table];
        problems.add(unknown, `The ${word} ${row.name} lies in one that is unknown or lies in it; it was put at the top.`, { table, id: at, label: row.name, field: 'parentId' });
        rows.set(at, Object.freeze({ ...row, parentId: null }));
        break;
      }
      at = above;
    }
    for (const id of way) sound.add(id);
  }
}

/** A milestone has no duration: what a file says of one is set aside. */
function milestoneDurations(doc: Document, problems: ProblemList): void {
  for (const [id, a] of doc.activities) {
    if (!isMilestone(a) || a.duration === 0) continue;
    problems.warn('WRONG_VALUE', `Activity ${labelOf(a)}: a milestone has no duration; its duration was set to 0.`, {
      table: 'activities',
      id,
      label: labelOf(a),
      field: 'duration',
    });
    doc.activities.set(id, Object.freeze({ ...a, duration: 0 }));
  }
}

/** Nothing is lost by it, whatever a file says or leaves out: for material it counts for nothing, and commands refuse it. */
function materialNeverDrives(doc: Document): void {
  for (const [id, x] of doc.assignments)
    if (x.drives && x.resourceId !== null && doc.resources.get(x.resourceId)?.kind === 'material') doc.assignments.set(id, Object.freeze({ ...x, drives: false }));
}

function uniqueCodes(doc: Document, problems: ProblemList): void {
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
    problems.warn('DUPLICATE_CODE', `Activity ${labelOf(a)} has the code of an earlier one; it is now ${code}.`, { table: 'activities', id, field: 'code' });
    doc.activities.set(id, Object.freeze({ ...a, code }));
  }
}
