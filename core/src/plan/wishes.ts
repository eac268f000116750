/** What it means when a person wants work to start or finish on a date: which constraint or length that becomes. */
import type { Document } from '../model/document.ts';
import { projectOf } from '../model/document.ts';
import type { Activity, Constraint, ConstraintKind, Link } from '../model/schema.ts';
import { constraintNames } from '../schedule/constraints.ts';
import { NONE, State } from '../schedule/network.ts';
import { linkState, placeOf, type ScheduleView } from '../schedule/view.ts';
import type { CompiledCalendar } from '../time/calendar.ts';
import { formatInstant, type Instant, MINUTES_PER_DAY, parseInstant } from '../time/instant.ts';
import { calendarFor } from '../schedule/calendars.ts';

/** Kinds that hold a date by themselves: a wish moves them instead of adding another. */
const holders: ConstraintKind[] = ['pinnedStart', 'pinnedFinish', 'startOn', 'finishOn'];
export const holderOf = (a: Pick<Activity, 'constraints'>): Constraint | undefined => a.constraints.find((c) => holders.includes(c.kind));

const isLower = (k: ConstraintKind): boolean => k === 'startNotBefore' || k === 'finishNotBefore';

/** An instant as a date alone where that means the same in the calendar, else with its time. */
export function dateText(c: CompiledCalendar, t: Instant, end: 'start' | 'finish'): string {
  const day = Math.floor((end === 'finish' ? t - 1 : t) / MINUTES_PER_DAY);
  const text = formatInstant(t);
  const plain = end === 'start' ? c.beginningOf(day) === t : c.endOf(day) === t;
  return plain ? formatInstant(day * MINUTES_PER_DAY).slice(0, 10) : text;
}

/** Constraints with the lower bound put in the place of those that are there; null takes it away. */
export function withLower(a: Pick<Activity, 'constraints'>, lower: Constraint | null): Constraint[] {
  const rest = a.constraints.filter((c) => !isLower(c.kind));
  return lower ? [...rest, lower] : rest;
}

/** Constraints with the date that is held moved to another. */
export const withHolder = (a: Pick<Activity, 'constraints'>, held: Constraint, date: string): Constraint[] => a.constraints.map((c) => (c === held ? { ...c, date } : c));

/** How a moved date is told: `moves the pinned start`. */
export const holderWords = (held: Constraint): string => `moves the constraint ${constraintNames[held.kind]}`;

/**
 * The earliest start that logic, the data date and the planned start leave an unstarted activity, its own lower
 * constraints left out; undefined where it is not computed. `into`: the links into it.
 */
export function earliestByLogic(doc: Document, view: ScheduleView, a: Activity, into: readonly Link[]): Instant | undefined {
  const i = placeOf(view, a.id);
  const c = calendarFor(doc, a);
  if (i === undefined || !c || view.state[i] !== State.unstarted) return undefined;
  const project = projectOf(doc);
  const floor = Math.max(parseInstant(project.plannedStart) as number, project.dataDate === null ? NONE : (parseInstant(project.dataDate) as number));
  // The position that a link asks for is the early position less its slack (before a levelling delay).
  const early = c.position(view.finish[i]!) - view.length[i]! - (a.levellingDelay ?? 0);
  let position = c.position(floor);
  for (const l of into) {
    const state = linkState(view, l.id);
    if (state && state.slack !== NONE) position = Math.max(position, early - state.slack);
  }
  for (const x of view.carried) if (x.to === a.id) position = Math.max(position, early - x.slack);
  return c.startInstant(position);
}
