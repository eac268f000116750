/** What saved views and bar looks are made of, as Zod schemas: filters, groups, sorts, columns. */
import { z } from 'zod';

const key = z.string().min(1).max(100);
const colour = z.string().regex(/^#[0-9a-f]{6}$/);

/** A date that moves with the plan: from a point, so many days, weeks or months on. */
export const relativeDateSchema = z.object({
  from: z.enum(['dataDate', 'today', 'weekStart', 'monthStart']),
  shift: z.int().min(-10_000).max(10_000),
  unit: z.enum(['d', 'w', 'm']),
});
export type RelativeDate = z.infer<typeof relativeDateSchema>;

export const comparisons = [
  'is',
  'isNot',
  'oneOf',
  'under',
  'contains',
  'containsNot',
  'starts',
  'less',
  'atMost',
  'more',
  'atLeast',
  'between',
  'empty',
  'notEmpty',
  'changed',
] as const;
export type ComparisonName = (typeof comparisons)[number];

const operand = z.union([z.string().max(500), z.number(), z.boolean(), relativeDateSchema]);
export type Operand = z.infer<typeof operand>;

export const conditionSchema = z.object({
  field: key,
  is: z.enum(comparisons),
  /** None for empty; two for between; any number for one of. Days are told as YYYY-MM-DD, durations and floats in days. */
  values: z.array(operand).max(200),
});
export type Condition = z.infer<typeof conditionSchema>;

export interface Filter {
  match: 'all' | 'any' | 'none';
  of: (Condition | Filter)[];
}
/** Deepest nesting of a filter. */
export const MOST_DEPTH = 6;

function filterOf(depth: number): z.ZodType<Filter> {
  const part = depth > 1 ? z.union([conditionSchema, filterOf(depth - 1)]) : conditionSchema;
  return z.object({ match: z.enum(['all', 'any', 'none']), of: z.array(part as z.ZodType<Condition | Filter>).max(50) });
}
export const filterSchema = filterOf(MOST_DEPTH);

export const spans = ['day', 'week', 'month', 'quarter', 'year'] as const;
export const usualColumns: readonly string[] = [
  'code',
  'name',
  'duration',
  'start',
  'finish',
  'float',
  'predecessors',
  'percent',
  'baselineFinish',
  'finishVariance',
  'calendar',
  'constraint',
  'successors',
  'wbs',
];

/**
 * A level of groups: a field, or the WBS (`wbs`); dates by a span, numbers (and durations, in days) by a step; of what lies
 * in one another (the WBS, values of a code set) so many levels from the top, or all.
 */
export const levelSchema = z.object({
  key,
  span: z.enum(spans).optional(),
  step: z.number().positive().max(1e12).optional(),
  levels: z.int().min(1).max(20).optional(),
});
export type Level = z.infer<typeof levelSchema>;

export const sortSchema = z.object({ key, descending: z.boolean() });

/** Quick filters on top of any other. */
export const quickNames = ['critical', 'near', 'inWindow', 'behind', 'mine'] as const;
export type Quick = (typeof quickNames)[number];

const barTextsSchema = z.object({ before: key.nullable(), on: key.nullable(), after: key.nullable() });
export type BarTexts = z.infer<typeof barTextsSchema>;

/** The time that a view shows. `around`: calendar days before and after the data date. */
const rangeSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('whole') }),
  z.object({ kind: z.literal('fixed'), from: z.number(), pixelsPerDay: z.number().positive() }),
  z.object({ kind: z.literal('around'), before: z.number().min(0).max(20_000), after: z.number().min(1).max(20_000) }),
]);
export type TimeRange = z.infer<typeof rangeSchema>;

export const viewSettingsSchema = z.object({
  columns: z.array(key).max(100),
  widths: z.record(key, z.number().min(20).max(2_000)),
  /** Columns from the left that stay in view. */
  frozen: z.int().min(0).max(20),
  groups: z.array(levelSchema).max(6),
  sort: z.array(sortSchema).max(10),
  filter: filterSchema.nullable(),
  quick: z.array(z.enum(quickNames)).max(quickNames.length),
  /** Rows in focus; null: all. */
  focus: z.array(key).max(500).nullable(),
  /** Levels of the outline or of groups that are open; null: as they are. */
  depth: z.int().min(0).max(20).nullable(),
  /** A look of the list, or the field whose values colour the bars. */
  look: key.nullable(),
  colourBy: key.nullable(),
  texts: barTextsSchema,
  dense: z.boolean(),
  range: rangeSchema.nullable(),
  showLinks: z.enum(['all', 'driving', 'none']),
  showFloat: z.boolean(),
  /** Assignments under their activity: as lines of their own, as thin strips, or not. */
  assignments: z.enum(['hidden', 'strips', 'lines']).default('hidden'),
  /** What the graph in the dock is of: `resource ID`, `role ID`, `group ID`, `selected`, `all`, `flow`, `curve`; null: none. */
  graph: z.string().min(1).max(200).nullable().default(null),
  /** What the plan is compared with: `compared` is what the project compares with, `none` draws no baseline, `copy ID` is a kept copy. */
  baseline: z.string().min(1).max(110).default('compared'),
  projectRow: z.boolean(),
  legend: z.boolean(),
  sheetWidth: z.number().min(0).max(5_000),
  mode: z.enum(['timeline', 'network', 'month']),
  /** Fields in the boxes of the network below number and name, and how the boxes stand. */
  boxes: z.array(key).max(6),
  arrange: z.enum(['rank', 'time']),
  bands: z.boolean(),
  /** What the month shows: days of a month or whole weeks; all activities or milestones only. */
  monthBy: z.enum(['days', 'weeks']),
  onlyMilestones: z.boolean(),
});
export type ViewSettings = z.infer<typeof viewSettingsSchema>;

/** How a plan is seen where nobody has said anything. */
export const usualSettings: ViewSettings = {
  columns: [...usualColumns],
  widths: {},
  frozen: 0,
  groups: [],
  sort: [],
  filter: null,
  quick: [],
  focus: null,
  depth: null,
  look: null,
  colourBy: null,
  texts: { before: null, on: 'name', after: 'name' },
  dense: false,
  range: null,
  showLinks: 'all',
  showFloat: true,
  assignments: 'hidden',
  graph: null,
  baseline: 'compared',
  projectRow: false,
  legend: false,
  sheetWidth: 0,
  mode: 'timeline',
  boxes: ['start', 'finish', 'float'],
  arrange: 'rank',
  bands: false,
  monthBy: 'days',
  onlyMilestones: false,
};

/** The kept copy that a view compares with; null: what the project compares with. */
export const copyOfView = (s: Pick<ViewSettings, 'baseline'>): string | null => (s.baseline.startsWith('copy ') ? s.baseline.slice(5) : null);

/** What makes a view another one: all but time, levels and the width of the sheet, which follow the window. */
export type Seen = Omit<ViewSettings, 'depth' | 'range' | 'sheetWidth'>;
const { depth: _depth, range: _range, sheetWidth: _sheetWidth, ...usual } = usualSettings;
export const usualSeen: Seen = usual;
export const seenKeys = Object.keys(usual) as (keyof Seen)[];

export const hatchings = ['none', 'rising', 'falling', 'crossed', 'dotted', 'upright'] as const;
export type Hatching = (typeof hatchings)[number];

export const lookRuleSchema = z.object({
  /** What the rule is called in the legend. */
  name: z.string().max(100),
  filter: filterSchema,
  colour: colour.nullable(),
  /** Colours of the values of this field instead of one colour. */
  colourBy: key.nullable(),
  hatching: z.enum(hatchings),
  height: z.enum(['thin', 'usual', 'tall']),
  texts: barTextsSchema.nullable(),
});
export type LookRule = z.infer<typeof lookRuleSchema>;
