/** Who and what does the work, and what of it: resources, roles, crews, assignments (resource rules, sections 1, 2). */
import { z } from 'zod';
import { colour, day, exceptionSchema, id, minutes, money, name, notes, rank, text, values } from './schema.ts';

/** Units are shown with at most three decimals, and counted in thousandths. */
export const threeDecimals = (n: number): boolean => Math.abs(n * 1000 - Math.round(n * 1000)) < 1e-6;
const units = z.number().min(0, 'it cannot be negative').max(1_000_000, 'more than 1,000,000 units cannot be there').refine(threeDecimals, 'at most three decimals are wanted');
/** Thousandths of a unit-minute. */
const work = z.int('whole thousandths of a unit-minute are wanted').min(0, 'it cannot be negative').max(9e15, 'it is more work than can be counted');
const quantity = z.number().min(0, 'it cannot be negative').max(1e9).refine(threeDecimals, 'at most three decimals are wanted');
const sharedId = id.nullable().default(null);

export const availabilitySchema = z.object({ from: day, units });
/** From a date on so many units are there. */
export type Availability = z.infer<typeof availabilitySchema>;
/** From a date on an hour of one unit costs so much. */
export const rateSchema = z.object({ from: day, perHour: money, accountId: id.nullable().default(null) });
export type Rate = z.infer<typeof rateSchema>;
/** From a date on one of its measure costs so much. */
export const priceSchema = z.object({ from: day, price: money, accountId: id.nullable().default(null) });
export type Price = z.infer<typeof priceSchema>;

export const groupSchema = z.object({ id, rank, parentId: id.nullable(), name: name.min(1) });
/** A group of resources; groups lie in groups. */
export type ResourceGroup = z.infer<typeof groupSchema>;

export const roleSchema = z.object({
  id,
  rank,
  name: name.min(1),
  about: text(2_000),
  colour,
  /** Stated by itself; empty: the resources whose own role it is. */
  availability: z.array(availabilitySchema).max(500),
  rates: z.array(rateSchema).max(500),
  perUse: money,
  accountId: id.nullable(),
  sharedId,
});
/** A kind of work that resources can fill. */
export type Role = z.infer<typeof roleSchema>;

export const resourceKinds = ['labour', 'equipment', 'material'] as const;
export type ResourceKind = (typeof resourceKinds)[number];

export const resourceSchema = z.object({
  id,
  rank,
  name: name.min(1),
  kind: z.enum(resourceKinds),
  groupId: id.nullable(),
  /** Its own role. */
  roleId: id.nullable(),
  /** Roles that it can fill besides. */
  otherRoles: z.array(id).max(100),
  /** Null: the project's calendar. */
  calendarId: id.nullable(),
  /** Last exceptions of its calendar; intervals are worked. */
  daysOff: z.array(exceptionSchema).max(2_000),
  /** Empty: one unit. Material has no limit. */
  availability: z.array(availabilitySchema).max(500),
  rates: z.array(rateSchema).max(500),
  prices: z.array(priceSchema).max(500),
  /** Cost of each use. */
  perUse: money,
  /** What its costs are booked to, where nothing nearer says. */
  accountId: id.nullable(),
  /** What a material is measured in. */
  unit: text(20),
  mail: text(200),
  phone: text(50),
  colour,
  notes,
  values,
  sharedId,
});
/** A person, a gang, a machine or a material. */
export type Resource = z.infer<typeof resourceSchema>;

export const crewLineSchema = z.object({ resourceId: id.nullable(), roleId: id.nullable(), units: units.gt(0, 'it is above 0') });
export const crewSchema = z.object({ id, rank, name: name.min(1), about: text(2_000), lines: z.array(crewLineSchema).max(100), sharedId });
/** Resources and roles that are assigned together. */
export type Crew = z.infer<typeof crewSchema>;
export type CrewLine = z.infer<typeof crewLineSchema>;

export const spreads = ['even', 'early', 'late', 'middle', 'own'] as const;
export type Spread = (typeof spreads)[number];

export const assignmentSchema = z.object({
  id,
  rank,
  activityId: id,
  /** One of the two. */
  resourceId: id.nullable(),
  roleId: id.nullable(),
  units: units.gt(0, 'it is above 0'),
  /** Thousandths of a unit-minute; 0 for a material and on a level of effort. */
  work,
  /** Of a material. */
  quantity,
  /** Of a material, for each unit of the activity's quantity, instead; null: the quantity is stated. */
  quantityPer: quantity.nullable(),
  /** Working minutes of the activity from its start. */
  delay: minutes,
  spread: z.enum(spreads),
  /** Weights of equal parts where the spread is its own. */
  ownSpread: z
    .array(z.int().min(0).max(1_000_000))
    .max(20)
    .refine((w) => w.length === 0 || (w.length > 1 && w.some((x) => x > 0)), '2 to 20 whole numbers, not all 0, are wanted'),
  /** Its working time cuts the activity's calendar, and its work can set the duration. */
  drives: z.boolean(),
  /** Entered; null: as it follows from the progress of the activity. */
  actualWork: work.nullable(),
  remainingWork: work.nullable(),
  actualQuantity: quantity.nullable(),
  remainingQuantity: quantity.nullable(),
  /** With what each use costs. */
  actualCost: money.nullable(),
  accountId: id.nullable(),
  values,
});
/** What a resource or a role does in an activity. */
export type Assignment = z.infer<typeof assignmentSchema>;

/** What a plain assignment has in the fields that need not be told. */
export const assignmentDefaults = {
  resourceId: null,
  roleId: null,
  units: 1,
  work: 0,
  quantity: 0,
  quantityPer: null,
  delay: 0,
  spread: 'even',
  ownSpread: [],
  drives: true,
  actualWork: null,
  remainingWork: null,
  actualQuantity: null,
  remainingQuantity: null,
  actualCost: null,
  accountId: null,
  values: {},
} satisfies Partial<Assignment>;

/** What a plain resource has in the fields that need not be told. */
export const resourceDefaults = {
  kind: 'labour',
  groupId: null,
  roleId: null,
  otherRoles: [],
  calendarId: null,
  daysOff: [],
  availability: [],
  rates: [],
  prices: [],
  perUse: 0,
  accountId: null,
  unit: '',
  mail: '',
  phone: '',
  colour: null,
  notes: '',
  values: {},
  sharedId: null,
} satisfies Partial<Resource>;
