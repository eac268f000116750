/**
 * What costs money and what brings it, and when (resource rules, section 7): each assignment and expense as rows of
 * cumulative money, in exact fractions of hundredths until a row is rounded.
 */
import type { Document } from '../model/document.ts';
import type { Expense } from '../model/money-schema.ts';
import type { Resource, Role } from '../model/resource-schema.ts';
import type { Activity } from '../model/schema.ts';
import { indexOf } from '../model/doc-index.ts';
import { resourceOf } from '../model/assigned.ts';
import { inForce, takesOver } from '../load/capacity.ts';
import { type Loaded, loadedOf, type Piece, standingAt, workBefore } from '../load/pieces.ts';
import type { Standing } from '../load/figures.ts';
import type { Computed } from '../schedule/compute.ts';
import { calendarFor, elapsedCalendar } from '../schedule/calendars.ts';
import { resourceTime } from '../schedule/working.ts';
import { type Instant, MINUTES_PER_DAY, parseDay } from '../time/instant.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import { plainTime } from '../time/patched.ts';

/** Money that comes evenly with a piece of work or time, or at once. In hundredths. */
export type Flow = { kind: 'piece'; piece: Piece; from: Instant; to: Instant; perWork: number } | { kind: 'lump'; at: Instant; amount: number; before: boolean };

/** One row of money: an assignment or expense, its actual or its remaining part, of one account. */
export interface MoneyRow {
  source: 'assignment' | 'expense' | 'lump';
  /** Id of the assignment or expense; of the activity for its lump sum. */
  id: string;
  activityId: string;
  accountId: string | null;
  income: boolean;
  part: 'actual' | 'remaining' | 'budget';
  flows: Flow[];
}

/** Rates of one resource or role: amounts in hundredths for each thousandth of work, from an instant on. */
export interface Tariff {
  from: Instant;
  perWork: number;
  accountId: string | null;
}

/** What a thousandth of a unit-minute (or of a measure) costs, from when on; the first holds from ever. */
export function tariffsOf(doc: Document, who: Resource | Role): Tariff[] {
  if ('kind' in who && who.kind === 'material')
    return inForce(who.prices).map(({ day, entry }, n) => ({ from: n === 0 ? -Infinity : day * MINUTES_PER_DAY, perWork: entry.price / 10, accountId: entry.accountId ?? null }));
  const own = calendarFor(doc, { calendarId: null });
  const time = 'kind' in who ? resourceTime(doc, who) : own && plainTime(own);
  // A thousandth of a unit-minute is 1/60,000 of an hour; money is counted in hundredths.
  return inForce(who.rates).map(({ day, entry }, n) => ({
    from: n === 0 ? -Infinity : time ? takesOver(time, day) : day * MINUTES_PER_DAY,
    perWork: entry.perHour / 600,
    accountId: entry.accountId ?? null,
  }));
}

/** Rows of all assignments and expenses of a plan; `late`: with late dates. Linear. */
export function moneyRows(doc: Document, r: Computed, late = false): MoneyRow[] {
  const out: MoneyRow[] = [];
  const tariffs = new Map<string, Tariff[]>();
  for (const l of loadedOf(doc, r, late)) {
    const { resourceId, roleId } = l.assignment;
    const who = resourceId !== null ? resourceOf(doc, l.assignment) : doc.roles.get(roleId ?? '');
    if (!who) continue;
    let of = tariffs.get(who.id);
    if (!of) tariffs.set(who.id, (of = tariffsOf(doc, who)));
    assignmentRows(l, who, of, out);
  }
  const { network: net } = r;
  net.rows.forEach((a, i) => {
    const list = indexOf(doc).expensesOf(a.id);
    if (list.length === 0 && a.cost === 0) return;
    const place = placeIn(r, net.nodeOf[i]!, a, late);
    // The lump sum of the sheet lies evenly over its activity.
    if (a.cost !== 0) expenseRows(place, lumpOf(a), 'lump', a, out);
    for (const e of list) expenseRows(place, e, 'expense', a, out);
  });
  return out;
}

/** Adds money to the row of its part and account among those of one assignment, which begin at `first`. */
function put(out: MoneyRow[], first: number, l: Loaded, part: MoneyRow['part'], accountId: string | null, flow: Flow): void {
  for (let i = first; i < out.length; i++)
    if (out[i]!.part === part && out[i]!.accountId === accountId) {
      out[i]!.flows.push(flow);
      return;
    }
  out.push({ source: 'assignment', id: l.assignment.id, activityId: l.activity.id, accountId, income: false, part, flows: [flow] });
}

/** Rows of one assignment: by part and account. */
export function assignmentRows(l: Loaded, who: Resource | Role, tariffs: readonly Tariff[], out: MoneyRow[]): void {
  const { assignment: x, activity, figures, pieces } = l;
  const first = out.length;
  const general = x.accountId ?? who.accountId ?? null;
  const entered = x.actualCost !== null && l.began && activity.type !== 'levelOfEffort' ? Math.round(x.actualCost * 100) : null;
  if (entered !== null) {
    const actualPieces = pieces.filter((p) => p.actual);
    const spans = actualPieces.length ? actualPieces : l.actualSpan ? [{ ...l.actualSpan, work: 1 }] : [];
    const all = spans.reduce((n, p) => n + p.work, 0);
    for (const piece of spans) put(out, first, l, 'actual', general, { kind: 'piece', piece, from: -Infinity, to: Infinity, perWork: entered / all });
  }
  const total = figures.actual + figures.remaining;
  for (const piece of pieces)
    for (let n = 0; n < tariffs.length; n++) {
      const t = tariffs[n]!;
      const to = tariffs[n + 1]?.from ?? Infinity;
      if (t.perWork === 0 || (tariffs.length > 1 && workBefore(piece, to) - workBefore(piece, t.from) <= 0)) continue;
      const account = x.accountId ?? t.accountId ?? who.accountId ?? null;
      if (!piece.actual || entered === null) put(out, first, l, piece.actual ? 'actual' : 'remaining', account, { kind: 'piece', piece, from: t.from, to, perWork: t.perWork });
      // The budget is what all that was planned costs where it lies now.
      put(out, first, l, 'budget', account, { kind: 'piece', piece, from: t.from, to, perWork: (t.perWork * figures.whole) / total });
    }
  const use = Math.round(who.perUse * 100);
  if (use === 0 || total === 0) return;
  const lump = { kind: 'lump', at: l.start, amount: use, before: false } as const;
  put(out, first, l, 'budget', general, lump);
  if (entered === null) put(out, first, l, figures.actual > 0 ? 'actual' : 'remaining', general, lump);
}

/** How an activity stands, for what follows of its expenses. */
export interface Stand {
  standing: Standing;
  start: Instant;
  /** Null: there is none. */
  dataDate: Instant | null;
}

/** Where the parts of an expense of an activity lie. */
interface PlaceOf extends Stand {
  finish: Instant;
  /** The data date, or the floor. */
  now: Instant;
  /** Even over what is done, over what is left, and over all of it. */
  done: Piece | null;
  left: Piece | null;
  all: Piece;
}

/** Even money over working time; over elapsed time where there is none, at once where there is no time. */
function pieceOf(c: WorkCalendar, from: Instant, to: Instant, actual: boolean): Piece {
  const [p, q] = [c.position(from), c.position(to)];
  if (q > p) return { calendar: c, from: p, to: q, work: 1, actual };
  const clock = elapsedCalendar();
  return to > from ? { calendar: clock, from: clock.position(from), to: clock.position(to), work: 1, actual } : { calendar: c, from: to, to, work: 1, actual };
}

function placeIn(r: Computed, k: number, a: Activity, late: boolean): PlaceOf {
  const { network: net, early } = r;
  const c = net.calendars[net.calendar[k]!]!;
  const standing = standingAt(r, k);
  const now = net.dataDate ?? net.projectFloor;
  const unstarted = standing.state === 'unstarted';
  const lateToo = late && a.type !== 'levelOfEffort' && r.late.finishPos[k]! >= 0;
  const start = unstarted && lateToo ? r.lateStart[k]! : early.start[k]!;
  const finish = standing.state !== 'finished' && lateToo ? r.lateFinish[k]! : early.finish[k]!;
  const ahead = lateToo ? r.late.finishPos[k]! - early.length[k]! : early.startPos[k]!;
  const length = early.length[k]!;
  const left: Piece | null =
    standing.state === 'finished' || a.type === 'levelOfEffort'
      ? null
      : length > 0
        ? { calendar: c, from: ahead, to: ahead + length, work: 1, actual: false }
        : { calendar: c, from: finish, to: finish, work: 1, actual: false };
  const done = unstarted ? null : pieceOf(c, early.start[k]!, Math.min(standing.state === 'finished' ? early.finish[k]! : now, Math.max(now, early.start[k]!)), true);
  if (a.type === 'levelOfEffort') {
    const cut = net.dataDate === null ? early.start[k]! : Math.min(Math.max(net.dataDate, early.start[k]!), early.finish[k]!);
    return {
      standing,
      start,
      finish,
      dataDate: net.dataDate,
      now,
      done: cut > early.start[k]! ? pieceOf(c, early.start[k]!, cut, true) : null,
      left: pieceOf(c, cut, early.finish[k]!, false),
      all: pieceOf(c, start, finish, false),
    };
  }
  return { standing, start, finish, dataDate: net.dataDate, now, done, left, all: unstarted && left ? left : pieceOf(c, start, finish, false) };
}

/** The lump sum of an activity as an expense. Written out: a spread of the defaults costs ten times as much, and there is one for each activity. */
const lumpOf = (a: Activity): Expense => ({
  id: a.id,
  rank: 0,
  activityId: a.id,
  name: '',
  accountId: null,
  income: false,
  budget: a.cost,
  committed: 0,
  actual: null,
  remaining: null,
  when: 'even',
  date: null,
  quantity: null,
  price: null,
  currencyId: null,
  foreignBudget: null,
});

/** Whether the event of an expense has been, and the share of an even one that is done. */
function progressOf(p: Stand, e: Pick<Expense, 'when' | 'date'>): { been: boolean; share: number } {
  const { state, d, r } = p.standing;
  if (e.when === 'start') return { been: state !== 'unstarted', share: state !== 'unstarted' ? 1 : 0 };
  if (e.when === 'finish') return { been: state === 'finished', share: state === 'finished' ? 1 : 0 };
  if (e.when === 'date') {
    const been = p.dataDate !== null && dateOf(e, p) <= p.dataDate;
    return { been, share: been ? 1 : 0 };
  }
  const share = state === 'finished' ? 1 : state === 'unstarted' ? 0 : d > 0 ? Math.min(Math.max((d - r) / d, 0), 1) : r === 0 ? 1 : 0;
  return { been: state !== 'unstarted', share };
}
const dateOf = (e: Pick<Expense, 'date'>, p: Stand): Instant => (e.date === null ? p.start : (parseDay(e.date) ?? 0) * MINUTES_PER_DAY);

/** Actual and remaining of an expense in hundredths, as entered or as they follow. */
export function expenseFigures(p: Stand, e: Expense): { budget: number; actual: number; remaining: number } {
  const budget = Math.round(e.budget * 100);
  const { share } = progressOf(p, e);
  const actual = e.actual !== null ? Math.round(e.actual * 100) : roundHalf(budget * share);
  const left = p.standing.state === 'finished' && e.when !== 'date' ? 0 : budget < 0 ? Math.min(0, budget - actual) : Math.max(0, budget - actual);
  return { budget, actual, remaining: e.remaining !== null ? Math.round(e.remaining * 100) : left };
}
/** Actual of a lump sum, in hundredths: the share that is done. */
export const lumpActual = (p: Stand, cost: number): number => roundHalf(Math.round(cost * 100) * progressOf(p, even).share);
const even = { when: 'even', date: null } as const;

/** Half up, whatever the sign. */
export const roundHalf = (n: number): number => Math.floor(n + 0.5 + 1e-6);

function expenseRows(p: PlaceOf, e: Expense, source: MoneyRow['source'], a: Activity, out: MoneyRow[]): void {
  const { budget, actual, remaining } = expenseFigures(p, e);
  const { been } = progressOf(p, e);
  if (actual !== 0)
    out.push(expenseRow(e, source, a, 'actual', !been ? lumpAt(p.now, actual, false) : e.when === 'even' ? evenly(p.done ?? p.all, actual) : atEvent(p, e, actual)));
  if (remaining !== 0) {
    const over = e.when === 'even' ? p.standing.state === 'finished' : been;
    out.push(expenseRow(e, source, a, 'remaining', over ? lumpAt(p.now, remaining, false) : e.when === 'even' ? evenly(p.left ?? p.all, remaining) : atEvent(p, e, remaining)));
  }
  if (budget !== 0) out.push(expenseRow(e, source, a, 'budget', e.when === 'even' ? evenly(p.all, budget) : atEvent(p, e, budget)));
}

const expenseRow = (e: Expense, source: MoneyRow['source'], a: Activity, part: MoneyRow['part'], flow: Flow): MoneyRow => ({
  source,
  id: e.id,
  activityId: a.id,
  accountId: e.accountId,
  income: e.income,
  part,
  flows: [flow],
});
const evenly = (piece: Piece, amount: number): Flow => ({ kind: 'piece', piece, from: -Infinity, to: Infinity, perWork: amount });
const lumpAt = (at: Instant, amount: number, before: boolean): Flow => ({ kind: 'lump', at, amount, before });
/** At the event of an expense: what lies at a finish counts before it. */
function atEvent(p: PlaceOf, e: Expense, amount: number): Flow {
  const at = e.when === 'start' ? p.start : e.when === 'finish' ? p.finish : dateOf(e, p);
  return lumpAt(at, amount, e.when === 'finish');
}

/** Money of a row before an instant, in whole hundredths, half up. What lies at a finish counts before it, all else after. */
export function moneyBefore(row: Pick<MoneyRow, 'flows'>, t: Instant): number {
  let sum = 0;
  for (const f of row.flows) {
    if (f.kind === 'lump') {
      if (f.before ? f.at <= t : f.at < t) sum += f.amount;
    } else sum += (workBefore(f.piece, Math.min(t, f.to)) - workBefore(f.piece, Math.min(t, f.from))) * f.perWork;
  }
  return roundHalf(sum);
}

/** All money of a row, in whole hundredths. */
export const moneyOf = (row: Pick<MoneyRow, 'flows'>): number => moneyBefore(row, Infinity);
