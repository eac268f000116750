/**
 * What each activity costs and brings in all, without where it lies: what sheet, roll-ups, filters and computed fields
 * show. The same figures as the rows of parts.ts added up, which the tests hold together.
 */
import { figuresOf } from '../load/figures.ts';
import { loadOne, standingAt, standsAs } from '../load/pieces.ts';
import { assignedTo, assigneeOf } from '../model/assigned.ts';
import { indexOf } from '../model/doc-index.ts';
import type { Document } from '../model/document.ts';
import type { Expense } from '../model/money-schema.ts';
import type { Assignment, Resource, Role } from '../model/resource-schema.ts';
import type { Activity } from '../model/schema.ts';
import type { Computed } from '../schedule/compute.ts';
import { assignmentRows, expenseFigures, lumpActual, type MoneyRow, moneyOf, roundHalf, type Stand, type Tariff, tariffsOf } from './parts.ts';

/** Hundredths of the project's currency of one activity. */
interface Sums {
  /** Cost at completion of the assignments, and of the expenses beside the lump sum. */
  assigned: number;
  spent: number;
  /** Budget of assignments and expenses, without the lump sum. */
  budget: number;
  /** Actual cost of assignments, expenses and the lump sum. */
  actual: number;
  committed: number;
  /** Income at completion, as planned, and what has come. */
  income: number;
  incomeBudget: number;
  incomeActual: number;
}
const none: Sums = { assigned: 0, spent: 0, budget: 0, actual: 0, committed: 0, income: 0, incomeBudget: 0, incomeActual: 0 };
const kinds = Object.keys(none) as (keyof Sums)[];

/** The same by place in the view. */
export type Costs = Record<keyof Sums, Float64Array>;

/** Whole cost at completion of an activity, in the currency. `i`: its place; undefined where it is not computed yet. */
export const costAt = (c: Costs | undefined, i: number | undefined, a: Pick<Activity, 'cost'>): number =>
  c && i !== undefined ? (Math.round(a.cost * 100) + c.assigned[i]! + c.spent[i]!) / 100 : a.cost;

/** What was found of an activity, and how long it holds: while its rows, its standing and the rates between its dates stay. Another data date is another row of the project, with which all of it ends. */
interface Known extends Omit<Stand, 'standing'> {
  a: Activity;
  assignments: readonly Assignment[];
  expenses: readonly Expense[];
  state: Stand['standing']['state'];
  d: number;
  r: number;
  finish: number;
  /** No rate changes between these; where `exact`, it holds for its very dates alone. */
  low: number;
  high: number;
  exact: boolean;
  sums: Sums;
}

/** What is kept of a document from one computation to the next. */
interface Kept {
  version: number;
  known: Map<string, Known>;
  /** The same by place, while activities stand where they stood and nobody's assignments or expenses have changed: then nothing is looked up. */
  at: (Known | undefined)[];
  ids: readonly string[];
  booked: number;
  costs: Costs;
}

const made = new WeakMap<Computed, Costs>();
const memory = new WeakMap<Document, Kept>();

/** Whether what was found of an activity is true of it now. Makes nothing: it is asked of every activity after each edit. */
function holds(known: Known, a: Activity, r: Computed, k: number): boolean {
  if (known.a !== a || !standsAs(r, k, known)) return false;
  const start = r.early.start[k]!;
  const finish = r.early.finish[k]!;
  return known.exact ? known.start === start && known.finish === finish : start >= known.low && finish <= known.high;
}

/** Costs of every activity of a computed plan; made once for a computation, and what did not change since the last one is kept: the whole list where nothing did. */
export function costsOf(doc: Document, r: Computed): Costs {
  const there = made.get(r);
  if (there) return there;
  const costs = findCosts(doc, r);
  made.set(r, costs);
  return costs;
}

/** Whether that is what stands at a place. Not a function within the loop: that would make a scope for each activity. */
const same = (costs: Costs, i: number, sums: Sums): boolean => kinds.every((kind) => costs[kind][i] === sums[kind]);

function findCosts(doc: Document, r: Computed): Costs {
  const { network: net } = r;
  const index = indexOf(doc);
  const last = memory.get(doc);
  const kept: Kept = last?.version === index.tariffVersion ? last : { version: index.tariffVersion, known: new Map(), at: [], ids: [], booked: -1, costs: emptyCosts(0) };
  memory.set(doc, kept);
  const inPlace = kept.ids === net.ids && kept.booked === index.bookedVersion;
  if (!inPlace) Object.assign(kept, { ids: net.ids, booked: index.bookedVersion, at: new Array<Known | undefined>(net.size).fill(undefined), costs: emptyCosts(net.size) });
  const tariffs = new Map<string, Tariff[]>();
  // A list that somebody may hold is never changed.
  let out = inPlace ? undefined : kept.costs;
  for (let i = 0; i < net.size; i++) {
    const a = net.rows[i]!;
    let known = kept.at[i];
    if (inPlace && !known && a.cost === 0) continue;
    const assignments = inPlace && known ? known.assignments : index.assignmentsOf(a.id);
    const expenses = inPlace && known ? known.expenses : index.expensesOf(a.id);
    if (!known && assignments.length === 0 && expenses.length === 0 && a.cost === 0) continue;
    const k = net.nodeOf[i]!;
    if (inPlace && known && holds(known, a, r, k)) continue;
    known = kept.known.get(a.id);
    if (!known || known.assignments !== assignments || known.expenses !== expenses || !holds(known, a, r, k)) {
      const standing = standingAt(r, k);
      const dates = { start: r.early.start[k]!, finish: r.early.finish[k]! };
      known = { a, assignments, expenses, ...standing, ...dates, dataDate: net.dataDate, low: -Infinity, high: Infinity, exact: false, sums: { ...none } };
      add(doc, r, k, known, standing, tariffs);
      kept.known.set(a.id, known);
    }
    kept.at[i] = known;
    const { sums } = known;
    const shown = out ?? kept.costs;
    if (same(shown, i, sums)) continue;
    out ??= copyOf(kept.costs);
    for (const kind of kinds) out[kind][i] = sums[kind];
  }
  if (out) kept.costs = out;
  return kept.costs;
}

const emptyCosts = (n: number): Costs => Object.fromEntries(kinds.map((k) => [k, new Float64Array(n)])) as Costs;
/** Of a plan without activities. */
export const costsOfNothing: Costs = emptyCosts(0);
const copyOf = (c: Costs): Costs => Object.fromEntries(kinds.map((k) => [k, c[k].slice()])) as Costs;

function add(doc: Document, r: Computed, k: number, known: Known, standing: Stand['standing'], tariffs: Map<string, Tariff[]>): void {
  const { a, sums } = known;
  const stand: Stand = { standing, start: known.start, dataDate: known.dataDate };
  for (const x of assignedTo(doc, a)) {
    const who = assigneeOf(doc, x);
    if (!who) continue;
    let of = tariffs.get(who.id);
    if (!of) tariffs.set(who.id, (of = tariffsOf(doc, who)));
    if (of.length === 0 && who.perUse === 0 && x.actualCost === null) continue;
    const only = onlyTariff(of, known);
    if (only !== undefined && a.type !== 'levelOfEffort') {
      addPlain(doc, sums, a, x, who, only, standing);
      continue;
    }
    known.exact = true;
    const rows: MoneyRow[] = [];
    assignmentRows(loadOne(doc, r, a, x, k, standing, false), who, of, rows);
    for (const row of rows) addAssigned(sums, row.part, moneyOf(row));
  }
  if (a.cost !== 0) sums.actual += lumpActual(stand, a.cost);
  for (const e of known.expenses) {
    // Without a date it counts as at the start, which may be before or after the data date.
    if (e.when === 'date' && e.date === null) known.exact = true;
    const { budget, actual, remaining } = expenseFigures(stand, e);
    sums[e.income ? 'income' : 'spent'] += actual + remaining;
    sums[e.income ? 'incomeBudget' : 'budget'] += budget;
    sums[e.income ? 'incomeActual' : 'actual'] += actual;
    if (!e.income) sums.committed += Math.round(e.committed * 100);
  }
}

function addAssigned(sums: Sums, part: MoneyRow['part'], amount: number): void {
  if (part === 'budget') sums.budget += amount;
  else sums.assigned += amount;
  if (part === 'actual') sums.actual += amount;
}

/** The one rate (0: none) that is in force all the time from start to finish, and between which instants; undefined where it changes on the way. */
function onlyTariff(tariffs: readonly Tariff[], known: Known): number | undefined {
  if (tariffs.length === 0) return 0;
  let n = 0;
  while (n + 1 < tariffs.length && tariffs[n + 1]!.from <= known.start) n++;
  const end = tariffs[n + 1]?.from ?? Infinity;
  if (known.finish > end) return undefined;
  known.low = Math.max(known.low, tariffs[n]!.from);
  known.high = Math.min(known.high, end);
  return tariffs[n]!.perWork;
}

/** An assignment whose rate does not change: what it costs does not depend on where its work lies. */
function addPlain(doc: Document, sums: Sums, a: Activity, x: Assignment, who: Resource | Role, perWork: number, standing: Stand['standing']): void {
  const { whole, actual, remaining } = figuresOf(doc, a, x, standing);
  const entered = x.actualCost !== null && standing.state !== 'unstarted' ? Math.round(x.actualCost * 100) : null;
  // No work: nothing is used, and nothing is planned.
  const use = actual + remaining === 0 ? 0 : Math.round(who.perUse * 100);
  addAssigned(sums, 'actual', entered ?? roundHalf(actual * perWork + (actual > 0 ? use : 0)));
  if (standing.state !== 'finished') addAssigned(sums, 'remaining', roundHalf(remaining * perWork + (actual > 0 || entered !== null ? 0 : use)));
  if (actual + remaining > 0) addAssigned(sums, 'budget', roundHalf(whole * perWork + use));
}
