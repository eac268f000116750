/**
 * The tables of a project, each described once. The document, its copies, the file and its reader, differences, the
 * database's columns and statements, names of rows and references follow from these descriptions (docs/extending.md).
 */
import { z } from 'zod';
import type { ProblemCode } from './problem-codes.ts';
import { type Account, accountSchema, type Currency, currencySchema, type Expense, expenseDefaults, expenseSchema } from './money-schema.ts';
import {
  type Assignment,
  assignmentDefaults,
  assignmentSchema,
  type Crew,
  crewSchema,
  groupSchema,
  type Resource,
  resourceDefaults,
  type ResourceGroup,
  resourceSchema,
  type Role,
  roleSchema,
} from './resource-schema.ts';
import {
  type Activity,
  activityDefaults,
  activitySchema,
  type AttachedFile,
  type Calendar,
  calendarSchema,
  type CodeSet,
  codeSetSchema,
  type DatedNote,
  datedNoteSchema,
  defaultOptions,
  fileSchema,
  type Link,
  linkSchema,
  type Look,
  lookSchema,
  type OwnField,
  ownFieldSchema,
  type Picture,
  pictureSchema,
  type Project,
  projectSchema,
  type SavedView,
  savedViewSchema,
  type Snapshot,
  snapshotSchema,
  wbsDefaults,
  type WbsNode,
  wbsSchema,
} from './schema.ts';

export interface Rows {
  calendars: Calendar;
  project: Project;
  wbs: WbsNode;
  activities: Activity;
  links: Link;
  snapshots: Snapshot;
  datedNotes: DatedNote;
  files: AttachedFile;
  pictures: Picture;
  codeSets: CodeSet;
  ownFields: OwnField;
  looks: Look;
  savedViews: SavedView;
  accounts: Account;
  currencies: Currency;
  resourceGroups: ResourceGroup;
  roles: Role;
  resources: Resource;
  crews: Crew;
  assignments: Assignment;
  expenses: Expense;
}
export type TableName = keyof Rows;
export type Row = Rows[TableName];

/** Rows by table, as names of rows need them. */
export type RowsOf = { readonly [T in TableName]: ReadonlyMap<string, Rows[T]> };

/** A field that names a row of another table (or of its own). */
export interface Reference<R> {
  field: keyof R & string;
  to: TableName;
  /** What the other row is to this one: "calendar", "WBS node". */
  word: string;
  /** What happens where the other row is not there: the field is emptied, the row is dropped, or the whole is refused. */
  missing: 'clear' | 'drop' | 'refuse';
  /** What the field says instead, where it is not simply emptied. */
  instead?: string;
  /** How that is told after "is not in the file;". */
  said: string;
  /** The id in the field's value, where it is not the value itself; undefined where it names no row. */
  idIn?: (value: string) => string | undefined;
}

export interface Table<R> {
  /** What a person calls one row and several. */
  word: string;
  words: string;
  /** The code of a problem with a row that is not there. */
  unknown: ProblemCode;
  schema: z.ZodObject & z.ZodType<R>;
  /** What stands in for a field that is absent or wrong. Fields that are not here make their row unusable. */
  defaults: Partial<R>;
  /** Fields whose wrong value makes the row unusable although an absent one has a default. */
  vital?: readonly (keyof R & string)[];
  /** How a person names a row, without the word for its table. */
  label: (row: R, rows: RowsOf) => string;
  refs: readonly Reference<R>[];
  /** Fields whose texts no two rows may share, whatever their case. */
  unique?: readonly (keyof R & string)[];
  /** The field that names the parent, where the rows form a tree. */
  parent?: keyof R & string;
  /** Most rows that are read from a file. */
  most: number;
  /** What fields are called in a sentence, where that is not their name in words. */
  titles?: Partial<Record<keyof R & string, string>>;
  /** The table in the database, and columns that are not the field in lower case with underscores. */
  sql: { table: string; columns?: Partial<Record<keyof R & string, string>> };
  /** Outside of the copies that snapshots keep. */
  beside?: true;
}

/** How a person names an activity: its number and name. */
const activityLabel = (a: Pick<Activity, 'code' | 'name'>): string => (a.name ? `${a.code} ${a.name}` : a.code);

/** What an attached thing belongs to. It goes where its owner is not there. */
const owners: readonly Reference<{ activityId: string | null; wbsId: string | null }>[] = [
  { field: 'activityId', to: 'activities', word: 'activity', missing: 'drop', said: 'it was set aside' },
  { field: 'wbsId', to: 'wbs', word: 'WBS node', missing: 'drop', said: 'it was set aside' },
];

/** In the order in which rows may refer to rows of earlier tables. */
export const tables: { readonly [T in TableName]: Table<Rows[T]> } = {
  calendars: {
    word: 'calendar',
    words: 'calendars',
    unknown: 'UNKNOWN_CALENDAR',
    schema: calendarSchema,
    defaults: { name: '', basedOn: null, week: null, exceptions: [], hoursPerDay: null, daysPerWeek: null, sharedId: null },
    label: (c) => c.name,
    refs: [{ field: 'basedOn', to: 'calendars', word: 'the calendar it is based on,', missing: 'clear', said: 'it stands alone' }],
    unique: ['name'],
    most: 300,
    titles: { hoursPerDay: 'hours of a day', daysPerWeek: 'days of a week', sharedId: 'shared calendar' },
    sql: { table: 'calendars' },
  },
  project: {
    word: 'project',
    words: 'projects',
    unknown: 'UNKNOWN_PROJECT',
    schema: projectSchema,
    defaults: {
      id: 'project',
      code: 'PROJECT',
      name: '',
      dataDate: null,
      requiredFinish: null,
      options: defaultOptions,
      baselineId: null,
      currency: '',
      notes: '',
      stage: 'live',
      logoId: null,
      values: {},
    },
    vital: ['id'],
    label: (p) => p.name || p.code,
    refs: [
      { field: 'calendarId', to: 'calendars', word: 'calendar', missing: 'refuse', said: 'nothing can be computed without it' },
      { field: 'baselineId', to: 'snapshots', word: 'baseline', missing: 'clear', said: 'none is chosen' },
      { field: 'logoId', to: 'pictures', word: 'logo', missing: 'clear', said: 'it has none' },
    ],
    most: 1,
    titles: { values: 'own fields', stage: 'what it is', calendarId: "project's calendar", baselineId: 'baseline to compare with', logoId: 'logo' },
    sql: { table: 'project_settings' },
  },
  wbs: {
    word: 'WBS node',
    words: 'WBS nodes',
    unknown: 'UNKNOWN_WBS',
    schema: wbsSchema,
    defaults: wbsDefaults,
    label: (w) => w.name,
    refs: [{ field: 'parentId', to: 'wbs', word: 'parent', missing: 'clear', said: 'it was put at the top' }],
    parent: 'parentId',
    most: 50_000,
    titles: { parentId: 'WBS node above', rank: 'place', values: 'codes and own fields' },
    sql: { table: 'wbs' },
  },
  activities: {
    word: 'activity',
    words: 'activities',
    unknown: 'UNKNOWN_ACTIVITY',
    schema: activitySchema,
    defaults: activityDefaults,
    label: activityLabel,
    refs: [
      { field: 'wbsId', to: 'wbs', word: 'WBS node', missing: 'clear', said: 'it was put at the top' },
      { field: 'calendarId', to: 'calendars', word: 'calendar', missing: 'clear', said: "the project's is taken" },
      { field: 'pictureId', to: 'pictures', word: 'picture', missing: 'clear', said: 'the usual sign is drawn' },
      { field: 'lookId', to: 'looks', word: 'bar look', missing: 'clear', said: 'it is drawn as the view has it' },
    ],
    unique: ['code'],
    most: 200_000,
    titles: {
      code: 'number',
      wbsId: 'WBS node',
      calendarId: 'calendar',
      pictureId: 'picture',
      lookId: 'bar look',
      constraints: 'constraint',
      remaining: 'remaining duration',
      suspend: 'suspended from',
      resume: 'resume date',
      rank: 'place',
      values: 'codes and own fields',
      address: 'web address',
      basis: 'duration basis',
      keepsDays: 'keeps its days',
      quantityUnit: 'unit of the quantity',
      rate: 'production rate',
      responsible: 'responsible person',
      hidden: 'hidden from the picture',
    },
    sql: { table: 'activities' },
  },
  links: {
    word: 'link',
    words: 'links',
    unknown: 'UNKNOWN_LINK',
    schema: linkSchema,
    defaults: { type: 'FS', lag: 0, lagCalendar: null },
    vital: ['type'],
    label: (l, rows) => `${rows.activities.get(l.from)?.code ?? l.from} to ${rows.activities.get(l.to)?.code ?? l.to}`,
    refs: [
      { field: 'from', to: 'activities', word: 'activity', missing: 'drop', said: 'the link was set aside' },
      { field: 'to', to: 'activities', word: 'activity', missing: 'drop', said: 'the link was set aside' },
      {
        field: 'lagCalendar',
        to: 'calendars',
        word: 'lag calendar',
        missing: 'clear',
        instead: 'predecessor',
        said: "the predecessor's is taken",
        idIn: (v) => (v.startsWith('calendar:') ? v.slice(9) : undefined),
      },
    ],
    most: 500_000,
    titles: { from: 'predecessor', to: 'successor', rank: 'place' },
    sql: { table: 'links', columns: { from: 'from_id', to: 'to_id' } },
  },
  snapshots: {
    word: 'kept copy',
    words: 'kept copies',
    unknown: 'UNKNOWN_BASELINE',
    schema: snapshotSchema,
    defaults: { name: '', description: '', dataDate: null },
    label: (s) => s.name,
    refs: [],
    most: 2_000,
    sql: { table: 'snapshots' },
    beside: true,
  },
  datedNotes: {
    word: 'dated note',
    words: 'dated notes',
    unknown: 'UNKNOWN_NOTE',
    schema: datedNoteSchema,
    defaults: { activityId: null, wbsId: null, at: '2000-01-01T00:00:00.000Z', who: '' },
    label: (n) => `${n.at.slice(0, 10)} ${n.text.slice(0, 40)}`.trim(),
    refs: owners,
    most: 200_000,
    titles: { at: 'day', who: 'author', activityId: 'activity', wbsId: 'WBS node' },
    sql: { table: 'dated_notes' },
  },
  files: {
    word: 'file',
    words: 'files',
    unknown: 'UNKNOWN_FILE',
    schema: fileSchema,
    defaults: { activityId: null, wbsId: null, at: '2000-01-01T00:00:00.000Z', who: '' },
    vital: ['size'],
    label: (f) => f.name,
    refs: owners,
    most: 20_000,
    titles: { at: 'day', who: 'author', activityId: 'activity', wbsId: 'WBS node', hash: 'content' },
    sql: { table: 'files' },
  },
  pictures: {
    word: 'picture',
    words: 'pictures',
    unknown: 'UNKNOWN_PICTURE',
    schema: pictureSchema,
    defaults: {},
    label: (p) => p.name,
    refs: [],
    unique: ['name'],
    most: 500,
    titles: { hash: 'content' },
    sql: { table: 'pictures' },
  },
  codeSets: {
    word: 'code set',
    words: 'code sets',
    unknown: 'UNKNOWN_CODE_SET',
    schema: codeSetSchema,
    defaults: { about: '', values: [], sharedId: null },
    label: (s) => s.name,
    refs: [],
    unique: ['name'],
    most: 200,
    titles: { sharedId: 'shared code set' },
    sql: { table: 'code_sets' },
  },
  ownFields: {
    word: 'own field',
    words: 'own fields',
    unknown: 'UNKNOWN_FIELD',
    schema: ownFieldSchema,
    defaults: { key: '', about: '', of: 'activities', unit: '', choices: [], standard: null, required: false, sum: 'same', expression: '' },
    vital: ['kind'],
    label: (f) => f.name,
    refs: [],
    unique: ['name'],
    most: 500,
    titles: { standard: 'value of new rows', of: 'what has it', key: 'name in expressions', sum: 'sum' },
    sql: { table: 'own_fields', columns: { of: 'belongs_to' } },
  },
  looks: {
    word: 'bar look',
    words: 'bar looks',
    unknown: 'UNKNOWN_LOOK',
    schema: lookSchema,
    defaults: { about: '', rules: [] },
    label: (l) => l.name,
    refs: [],
    unique: ['name'],
    most: 200,
    sql: { table: 'looks' },
  },
  savedViews: {
    word: 'saved view',
    words: 'saved views',
    unknown: 'UNKNOWN_VIEW',
    schema: savedViewSchema,
    defaults: { about: '' },
    vital: ['settings'],
    label: (v) => v.name,
    refs: [],
    unique: ['name'],
    most: 500,
    sql: { table: 'saved_views' },
  },
  accounts: {
    word: 'account',
    words: 'accounts',
    unknown: 'UNKNOWN_ACCOUNT',
    schema: accountSchema,
    defaults: { parentId: null, code: '', sharedId: null },
    label: (a) => (a.code ? `${a.code} ${a.name}` : a.name),
    refs: [{ field: 'parentId', to: 'accounts', word: 'account above', missing: 'clear', said: 'it was put at the top' }],
    parent: 'parentId',
    most: 5_000,
    titles: { parentId: 'account above', rank: 'place', sharedId: 'shared account' },
    sql: { table: 'accounts' },
  },
  currencies: {
    word: 'currency',
    words: 'currencies',
    unknown: 'UNKNOWN_CURRENCY',
    schema: currencySchema,
    defaults: {},
    label: (c) => c.name,
    refs: [],
    unique: ['name'],
    most: 100,
    titles: { asOf: 'day of the rate' },
    sql: { table: 'currencies' },
  },
  resourceGroups: {
    word: 'group of resources',
    words: 'groups of resources',
    unknown: 'UNKNOWN_GROUP',
    schema: groupSchema,
    defaults: { parentId: null },
    label: (g) => g.name,
    refs: [{ field: 'parentId', to: 'resourceGroups', word: 'group above', missing: 'clear', said: 'it was put at the top' }],
    parent: 'parentId',
    most: 5_000,
    titles: { parentId: 'group above', rank: 'place' },
    sql: { table: 'resource_groups' },
  },
  roles: {
    word: 'role',
    words: 'roles',
    unknown: 'UNKNOWN_ROLE',
    schema: roleSchema,
    defaults: { about: '', colour: null, availability: [], rates: [], perUse: 0, accountId: null, sharedId: null },
    label: (r) => r.name,
    refs: [{ field: 'accountId', to: 'accounts', word: 'account', missing: 'clear', said: 'none is taken' }],
    unique: ['name'],
    most: 5_000,
    titles: { perUse: 'cost of each use', accountId: 'account', sharedId: 'shared role' },
    sql: { table: 'roles' },
  },
  resources: {
    word: 'resource',
    words: 'resources',
    unknown: 'UNKNOWN_RESOURCE',
    schema: resourceSchema,
    defaults: resourceDefaults,
    vital: ['kind'],
    label: (r) => r.name,
    refs: [
      { field: 'groupId', to: 'resourceGroups', word: 'group', missing: 'clear', said: 'it stands in none' },
      { field: 'roleId', to: 'roles', word: 'role', missing: 'clear', said: 'it has none' },
      { field: 'calendarId', to: 'calendars', word: 'calendar', missing: 'clear', said: "the project's is taken" },
      { field: 'accountId', to: 'accounts', word: 'account', missing: 'clear', said: 'none is taken' },
    ],
    unique: ['name'],
    most: 20_000,
    titles: {
      groupId: 'group',
      roleId: 'role',
      calendarId: 'calendar',
      accountId: 'account',
      perUse: 'cost of each use',
      sharedId: 'shared resource',
      values: 'codes and own fields',
    },
    sql: { table: 'resources' },
  },
  crews: {
    word: 'crew',
    words: 'crews',
    unknown: 'UNKNOWN_CREW',
    schema: crewSchema,
    defaults: { about: '', lines: [], sharedId: null },
    label: (c) => c.name,
    refs: [],
    unique: ['name'],
    most: 2_000,
    titles: { sharedId: 'shared crew' },
    sql: { table: 'crews' },
  },
  assignments: {
    word: 'assignment',
    words: 'assignments',
    unknown: 'UNKNOWN_ASSIGNMENT',
    schema: assignmentSchema,
    defaults: assignmentDefaults,
    vital: ['units', 'work', 'quantity'],
    label: (x, rows) =>
      `${(x.resourceId !== null ? rows.resources.get(x.resourceId)?.name : rows.roles.get(x.roleId ?? '')?.name) ?? ''} on ${rows.activities.get(x.activityId)?.code ?? x.activityId}`.trim(),
    refs: [
      { field: 'activityId', to: 'activities', word: 'activity', missing: 'drop', said: 'the assignment was set aside' },
      { field: 'resourceId', to: 'resources', word: 'resource', missing: 'drop', said: 'the assignment was set aside' },
      { field: 'roleId', to: 'roles', word: 'role', missing: 'drop', said: 'the assignment was set aside' },
      { field: 'accountId', to: 'accounts', word: 'account', missing: 'clear', said: 'none is taken' },
    ],
    most: 500_000,
    titles: { activityId: 'activity', resourceId: 'resource', roleId: 'role', quantityPer: 'quantity for each of the activity', ownSpread: 'own spread' },
    sql: { table: 'assignments' },
  },
  expenses: {
    word: 'expense',
    words: 'expenses',
    unknown: 'UNKNOWN_EXPENSE',
    schema: expenseSchema,
    defaults: expenseDefaults,
    vital: ['budget', 'income', 'when'],
    label: (e, rows) => `${e.name || (e.income ? 'income' : 'expense')} on ${rows.activities.get(e.activityId)?.code ?? e.activityId}`,
    refs: [
      { field: 'activityId', to: 'activities', word: 'activity', missing: 'drop', said: 'the expense was set aside' },
      { field: 'accountId', to: 'accounts', word: 'account', missing: 'clear', said: 'none is taken' },
      { field: 'currencyId', to: 'currencies', word: 'currency', missing: 'clear', said: "its budget is in the project's" },
    ],
    most: 500_000,
    titles: { activityId: 'activity', accountId: 'account', currencyId: 'currency', foreignBudget: 'budget in that currency' },
    sql: { table: 'expenses' },
  },
};

/** All tables, in the order of the list. */
export const tableNames = Object.keys(tables) as TableName[];

/** What a stored field is called in a sentence: `planned start`. */
export const titleOf = (table: TableName, field: string): string =>
  (tables[table].titles as Record<string, string> | undefined)?.[field] ?? field.replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`);

/** The schema of a field inside what makes it optional. */
export function bare(schema: z.ZodType): z.ZodType {
  let at = schema;
  while (at instanceof z.ZodNullable || at instanceof z.ZodDefault) at = at.unwrap() as z.ZodType;
  return at;
}

/** The column of each field in the database; `json` where it is stored as text of JSON. */
export function columnsOf(table: TableName): { field: string; column: string; json: boolean }[] {
  const { schema, sql } = tables[table] as Table<Row>;
  const named: Partial<Record<string, string>> = sql.columns ?? {};
  return Object.entries(schema.shape as Record<string, z.ZodType>).map(([field, of]) => {
    const kind = bare(of);
    const mixed = kind instanceof z.ZodUnion && kind.options.some((o) => !(o instanceof z.ZodString || o instanceof z.ZodEnum));
    const json = mixed || kind instanceof z.ZodArray || kind instanceof z.ZodObject || kind instanceof z.ZodRecord || kind instanceof z.ZodBoolean;
    return { field, column: named[field] ?? field.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`), json };
  });
}

/** The id that a reference of a row names; undefined where it names none. */
export function referredId<R>(ref: Reference<R>, row: R): string | undefined {
  const value = row[ref.field] as string | null;
  return value === null ? undefined : ref.idIn ? ref.idIn(value) : value;
}

/** How a person names a row, without the word for its table. */
export const labelOfRow = (table: TableName, row: Row, rows: RowsOf): string => (tables[table] as Table<Row>).label(row, rows);

/** A row under its table's word, as a sentence begins with it: "Activity 120 Strip floor", "Link 110 to 120". */
export function nameOfRow(table: TableName, row: Row | null, rows: RowsOf): string {
  const { word, label } = tables[table] as Table<Row>;
  const called = row ? label(row, rows) : '';
  return `${word[0]!.toUpperCase()}${word.slice(1)}${called ? ` ${called}` : ''}`;
}

/** A row as it was stored before fields were added, with what those fields say where nobody gave them. */
export function completed<T extends TableName>(table: T, row: Rows[T]): Rows[T] {
  const { defaults } = tables[table];
  let out: Rows[T] | undefined;
  for (const key in defaults) if (!(key in row)) out = { ...(out ?? row), [key]: defaults[key] };
  return out ?? row;
}
