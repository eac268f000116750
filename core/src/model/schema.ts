/** The entities of a project as Zod schemas: what every border checks against. See docs/file-format.md. */
import { z } from 'zod';
import { MINUTES_PER_DAY, parseDay, parseInstant } from '../time/instant.ts';
import { isWhole } from './text.ts';
import { lookRuleSchema, viewSettingsSchema } from './view-schema.ts';

export const MAX_DURATION = 60_000_000;
export const MAX_NAME = 500;
/** Bytes that one attached file may have, and all files of a project together. */
export const MAX_FILE = 10 * 1024 * 1024;
export const MAX_FILES = 30 * 1024 * 1024;
/** Bytes and pixels of a side that a picture may have. */
export const MAX_PICTURE = 2 * 1024 * 1024;
export const MAX_PIXELS = 2048;

export const text = (most: number): z.ZodString => z.string().max(most).refine(isWhole, 'it holds half a character');
export const id = text(100).min(1);
export const name = text(MAX_NAME);
export const rank = z.number().min(-1e15).max(1e15);
export const day = z.string().refine((s) => parseDay(s) !== undefined, 'a date YYYY-MM-DD in 1990 to 2199 is wanted');
const instant = z.string().refine((s) => parseInstant(s) !== undefined, 'an instant YYYY-MM-DDTHH:MM in 1990 to 2199 is wanted');
const dayOrInstant = z.string().refine((s) => parseDay(s) !== undefined || parseInstant(s) !== undefined, 'a date YYYY-MM-DD or YYYY-MM-DDTHH:MM in 1990 to 2199 is wanted');
export const minutes = z.int('whole minutes are wanted').min(0, 'it cannot be negative').max(MAX_DURATION, 'it is longer than a plan can be');
const sha256 = z.string().regex(/^[0-9a-f]{64}$/, 'a SHA-256 in hexadecimal digits is wanted');
export const money = z.number().min(-1e12).max(1e12);
export const notes = text(20_000);
/** Values that people give beside the fields of the product: of codes and fields of their own, by key. One place for all, so that none needs a column. */
const storedValue = z.union([text(20_000), z.number().min(-1e15).max(1e15), z.boolean()]);
export type StoredValue = z.infer<typeof storedValue>;
export const values = z.record(text(100), storedValue).default({});
/** Values of code sets and own fields, by key. */
export type StoredValues = z.infer<typeof values>;

export const colour = z
  .string()
  .regex(/^#[0-9a-f]{6}$/, 'a colour such as #4a6355 is wanted')
  .nullable()
  .default(null);

export const intervalSchema = z
  .tuple([z.int().min(0).max(1439), z.int().min(1).max(2879)])
  .refine(([a, b]) => b > a && b <= a + MINUTES_PER_DAY, 'an interval runs forward, at most 24 hours');
export type Interval = z.infer<typeof intervalSchema>;

export const exceptionSchema = z.object({
  name,
  from: day,
  to: day,
  yearly: z.boolean(),
  /** Working intervals on each of its days; empty for no work. */
  work: z.array(intervalSchema).max(48),
});
export type Exception = z.infer<typeof exceptionSchema>;

export const calendarSchema = z.object({
  id,
  rank,
  name,
  basedOn: id.nullable(),
  /** Monday to Sunday; null: no pattern of its own. */
  week: z.array(z.array(intervalSchema).max(48)).length(7).nullable(),
  exceptions: z.array(exceptionSchema).max(2000),
  hoursPerDay: z.number().gt(0).max(24).nullable(),
  daysPerWeek: z.number().gt(0).max(7).nullable(),
  /** The shared calendar that this is the project's copy of; null: it belongs to the project alone. */
  sharedId: id.nullable().default(null),
});
export type Calendar = z.infer<typeof calendarSchema>;

export const activityTypes = ['task', 'startMilestone', 'finishMilestone', 'levelOfEffort', 'margin'] as const;
export type ActivityType = (typeof activityTypes)[number];

export const constraintKinds = [
  'startNotBefore',
  'finishNotBefore',
  'startNotAfter',
  'finishNotAfter',
  'startOn',
  'finishOn',
  'pinnedStart',
  'pinnedFinish',
  'asLateAsPossible',
] as const;
export type ConstraintKind = (typeof constraintKinds)[number];

export const constraintSchema = z
  .object({ kind: z.enum(constraintKinds), date: dayOrInstant.nullable() })
  .refine((c) => (c.kind === 'asLateAsPossible') === (c.date === null), 'every constraint but as late as possible has a date');
export type Constraint = z.infer<typeof constraintSchema>;

/** What stays when those who do an activity change. */
export const bases = ['fixedDuration', 'fixedWork', 'productionRate'] as const;
export type Basis = (typeof bases)[number];

export const activitySchema = z.object({
  id,
  rank,
  /** Short number that people type in links, unique in the project. */
  code: text(40).min(1),
  name,
  wbsId: id.nullable(),
  type: z.enum(activityTypes),
  /** Working minutes of its calendar; planned length for a margin, 0 for milestones. */
  duration: minutes,
  /** Null: the project's calendar. */
  calendarId: id.nullable(),
  constraints: z.array(constraintSchema).max(10),
  deadline: dayOrInstant.nullable(),
  actualStart: instant.nullable(),
  actualFinish: instant.nullable(),
  /** Working minutes; null: all of the duration. */
  remaining: minutes.nullable(),
  suspend: instant.nullable(),
  resume: instant.nullable(),
  /** Working minutes added by levelling; null: none. A delay of 0 counts as one (rules, section 5). */
  levellingDelay: minutes.nullable().default(null),
  /** Budgeted cost, in the project's currency. */
  cost: money,
  /** 1 to 9; what is more important is higher. */
  priority: z.int('a whole number is wanted').min(1, 'it is from 1 to 9').max(9, 'it is from 1 to 9').default(5),
  /** A colour of its own, `#4a6355`; null: as the picture has it. */
  colour,
  /** The picture that stands for it where it is a milestone; null: the usual sign. */
  pictureId: id.nullable().default(null),
  /** The bar look that it has of its own; null: as the view has it. */
  lookId: id.nullable().default(null),
  /** An address on the web, or empty. */
  address: text(2_000)
    .refine((s) => s === '' || /^https?:\/\/\S+$/.test(s), 'an address that begins with http:// or https:// is wanted')
    .default(''),
  /** Left out of the picture, though computed. */
  hidden: z.boolean().default(false),
  /** What stays when crews change (resource rules, section 3). */
  basis: z.enum(bases).default('fixedDuration'),
  /** It takes place whoever is away: those who do it do not cut its calendar. */
  keepsDays: z.boolean().default(false),
  /** How much there is to do, at most three decimals; null: not counted. */
  quantity: z.number().min(0, 'it cannot be negative').max(1e9).nullable().default(null),
  quantityUnit: text(20).default(''),
  /** Of the quantity in a working day of its calendar, by one crew; null: not known. */
  rate: z.number().gt(0, 'it is above 0').max(1e9).nullable().default(null),
  /** How many crews do it. */
  crews: z.number().gt(0, 'it is above 0').max(1_000).default(1),
  /** Who answers for it; no assignment. */
  responsible: text(100).default(''),
  notes,
  values,
});
export type Activity = z.infer<typeof activitySchema>;

/** Work that has not been begun, and is not held back: what copies have, and what a change of type leaves. */
export const noProgress = { actualStart: null, actualFinish: null, remaining: null, suspend: null, resume: null, levellingDelay: null } satisfies Partial<Activity>;

/** What a plain activity has in the fields that need not be told. */
export const activityDefaults = {
  name: '',
  wbsId: null,
  type: 'task',
  duration: 0,
  calendarId: null,
  constraints: [],
  deadline: null,
  ...noProgress,
  cost: 0,
  priority: 5,
  colour: null,
  pictureId: null,
  lookId: null,
  address: '',
  hidden: false,
  basis: 'fixedDuration',
  keepsDays: false,
  quantity: null,
  quantityUnit: '',
  rate: null,
  crews: 1,
  responsible: '',
  notes: '',
  values: {},
} satisfies Partial<Activity>;

export const linkTypes = ['FS', 'SS', 'FF', 'SF'] as const;
export type LinkType = (typeof linkTypes)[number];
/** Where a lag is counted; a link may also name any calendar by `calendar:ID`. */
const lagCalendars = ['predecessor', 'successor', 'project', 'elapsed'] as const;

export const linkSchema = z.object({
  id,
  rank,
  from: id,
  to: id,
  type: z.enum(linkTypes),
  /** Working minutes of the lag calendar; negative is a lead. */
  lag: z.int('whole minutes are wanted').min(-MAX_DURATION, 'it is longer than a plan can be').max(MAX_DURATION, 'it is longer than a plan can be'),
  lagCalendar: z.union([z.enum(lagCalendars), z.string().regex(/^calendar:.+$/)]).nullable(),
});
export type Link = z.infer<typeof linkSchema>;

/** A part of a WBS code as it is given by hand: a point parts it from the next, a comma would part links. */
const wbsPart = (most: number): z.ZodString => text(most).regex(/^[^\s.,;]*$/, 'a WBS code has no blank, point, comma or semicolon in its parts');

export const wbsSchema = z.object({
  id,
  rank,
  parentId: id.nullable(),
  name,
  /** Its own part of the WBS code, given by hand; empty: numbered by its place. */
  code: wbsPart(20).default(''),
  /** Shown as one row with its activities side by side while it is closed. */
  lane: z.boolean().default(false),
  notes,
  values,
});
export type WbsNode = z.infer<typeof wbsSchema>;

/** What a plain WBS node has in the fields that need not be told. */
export const wbsDefaults = { parentId: null, name: '', code: '', lane: false, notes: '', values: {} } satisfies Partial<WbsNode>;

/** The activity or the WBS node that something is attached to; neither: the project. */
const owner = { activityId: id.nullable(), wbsId: id.nullable() };
/** Who made something, and when: UTC, ISO 8601. */
const madeBy = { at: z.iso.datetime(), who: text(100) };

export const datedNoteSchema = z.object({ id, rank, ...owner, ...madeBy, text: text(20_000).min(1) });
/** A note with its day and author. */
export type DatedNote = z.infer<typeof datedNoteSchema>;

export const fileSchema = z.object({
  id,
  rank,
  ...owner,
  ...madeBy,
  name: text(255).min(1),
  /** Bytes. */
  size: z.int().min(0).max(MAX_FILE, 'it is larger than a file may be'),
  /** SHA-256 of its content, by which the content is kept. */
  hash: sha256,
});
/** What is known of an attached file; its content is kept beside the document. */
export type AttachedFile = z.infer<typeof fileSchema>;

/** Kinds of pictures that are kept; others are drawn anew as one of these before they are sent. */
export const pictureTypes = ['image/png', 'image/jpeg'] as const;
export const pictureSchema = z.object({
  id,
  rank,
  name: text(100).min(1),
  /** Bytes. */
  size: z.int().min(0).max(MAX_PICTURE, 'it is larger than a picture may be'),
  /** SHA-256 of its content, by which the content is kept. */
  hash: sha256,
  type: z.enum(pictureTypes),
  /** Pixels. */
  width: z.int().min(1).max(MAX_PIXELS),
  height: z.int().min(1).max(MAX_PIXELS),
});
/** A picture of the project: its logo, or a sign on milestones. Its content is kept beside the document. */
export type Picture = z.infer<typeof pictureSchema>;

/** A value of a code set; values may lie in one another. */
export const codeValueSchema = z.object({ id, parentId: id.nullable().default(null), short: text(40).min(1), name: name.default(''), colour, about: text(2_000).default('') });
export type CodeValue = z.infer<typeof codeValueSchema>;

export const codeSetSchema = z.object({
  id,
  rank,
  name: text(100).min(1),
  about: text(2_000),
  /** In their order. */ values: z.array(codeValueSchema).max(2_000),
  sharedId: id.nullable().default(null),
});
/** A classification of activities: each has at most one of its values. */
export type CodeSet = z.infer<typeof codeSetSchema>;

export const ownKinds = ['text', 'number', 'money', 'date', 'duration', 'yesNo', 'choice', 'address', 'computed'] as const;
/** How a field sums up. */
export const sums = ['sum', 'least', 'greatest', 'mean', 'same', 'count', 'none', 'again'] as const;
export type OwnKind = (typeof ownKinds)[number];
export const ownOf = ['activities', 'wbs', 'resources', 'assignments', 'project'] as const;
/** The table whose rows have a field. */
export type OwnOf = (typeof ownOf)[number];

export const ownFieldSchema = z.object({
  id,
  rank,
  name: text(100).min(1),
  /** What it is called in expressions. */
  key: z.string().regex(/^([A-Za-z][A-Za-z0-9]{0,59})?$/, 'a name of letters and digits is wanted, a letter first'),
  about: text(2_000),
  of: z.enum(ownOf),
  kind: z.enum(ownKinds),
  /** Told behind numbers. */
  unit: text(20),
  /** What is chosen from, in order. */
  choices: z.array(text(100).min(1)).max(500),
  /** What new rows have; null: nothing. */
  standard: storedValue.nullable(),
  /** The plan check lists rows without it. */
  required: z.boolean(),
  /** How it sums up to nodes and groups; `again`: the expression on the summed fields. */
  sum: z.enum(sums),
  /** Of a computed field. */
  expression: text(2_000),
});
/** A field that people have made for themselves. */
export type OwnField = z.infer<typeof ownFieldSchema>;

export const savedViewSchema = z.object({ id, rank, name: text(100).min(1), about: text(2_000), settings: viewSettingsSchema });
/** A way of seeing the plan, kept under a name. */
export type SavedView = z.infer<typeof savedViewSchema>;

export const lookSchema = z.object({ id, rank, name: text(100).min(1), about: text(2_000), /** The first that fits a row wins. */ rules: z.array(lookRuleSchema).max(50) });
/** How bars are drawn, by rules. */
export type Look = z.infer<typeof lookSchema>;

export const optionsSchema = z.object({
  statusLogic: z.enum(['retainedLogic', 'progressOverride']),
  lagCalendar: z.enum(lagCalendars),
  criticalBy: z.enum(['float', 'longestPath']),
  /** Days of each activity's calendar. */
  criticalThreshold: z.number().min(-10_000).max(10_000),
  nearCriticalThreshold: z.number().min(-10_000).max(10_000),
  /** Where float is measured to. */
  floatTo: z.enum(['projectFinish', 'requiredFinish']),
  percentWeight: z.enum(['duration', 'cost']),
  /** First number of new activities, and how many each is above the last. */
  numberFrom: z.int().min(1).max(1_000_000).default(101),
  numberStep: z.int().min(1).max(1_000).default(1),
  /** What stands before the number of a WBS node, by its level; levels that are not named have none. */
  wbsPrefixes: z.array(wbsPart(6)).max(9).default([]),
  /** Of new activities. */
  basis: z.enum(bases).default('fixedDuration'),
  /** First day of a week of loads: 0 for Monday to 6 for Sunday. */
  weekStart: z.int().min(0).max(6).default(0),
});
export type Options = z.infer<typeof optionsSchema>;

export const stages = ['live', 'idea', 'whatIf', 'closed'] as const;
/** What a project is: only a live one counts where resources are asked for over projects. */
export type Stage = (typeof stages)[number];

export const projectSchema = z.object({
  id: z.literal('project'),
  rank,
  code: text(40).min(1),
  name,
  plannedStart: instant,
  dataDate: instant.nullable(),
  requiredFinish: instant.nullable(),
  calendarId: id,
  options: optionsSchema,
  /** The baseline that is compared with; null: none is drawn. */
  baselineId: id.nullable(),
  currency: text(10),
  notes,
  stage: z.enum(stages),
  /** The picture that stands for the project on screen and paper; null: none. */
  logoId: id.nullable(),
  values,
});
export type Project = z.infer<typeof projectSchema>;

const snapshotKinds = ['baseline', 'restorePoint', 'statusUpdate'] as const;
export type SnapshotKind = (typeof snapshotKinds)[number];

/** What is known of a complete copy; the copy itself is kept beside the document. */
export const snapshotSchema = z.object({
  id,
  rank,
  kind: z.enum(snapshotKinds),
  name,
  description: text(20_000),
  /** When it was made, UTC, ISO 8601. */
  at: z.iso.datetime(),
  dataDate: instant.nullable(),
});
export type Snapshot = z.infer<typeof snapshotSchema>;

export const defaultOptions: Options = {
  statusLogic: 'retainedLogic',
  lagCalendar: 'predecessor',
  criticalBy: 'float',
  criticalThreshold: 0,
  nearCriticalThreshold: 5,
  floatTo: 'projectFinish',
  percentWeight: 'duration',
  numberFrom: 101,
  numberStep: 1,
  wbsPrefixes: [],
  basis: 'fixedDuration',
  weekStart: 0,
};
