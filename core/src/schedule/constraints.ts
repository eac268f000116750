/** Which constraints of an activity hold, and the instants that they mean (scheduling rules, section 5). */
import { labelOf } from '../model/document.ts';
import { type Problem, problem } from '../model/problem.ts';
import type { Activity, ConstraintKind } from '../model/schema.ts';
import type { CompiledCalendar } from '../time/calendar.ts';
import { type Instant, parseDay, parseInstant } from '../time/instant.ts';
import { NONE, Pin } from './network.ts';

export interface Holding {
  startLow: Instant;
  finishLow: Instant;
  startHigh: Instant;
  finishHigh: Instant;
  pin: number;
  pinned: Instant;
  asLateAsPossible: boolean;
}

const nothing = (): Holding => ({ startLow: NONE, finishLow: NONE, startHigh: NONE, finishHigh: NONE, pin: Pin.none, pinned: NONE, asLateAsPossible: false });

export const constraintNames: Record<ConstraintKind, string> = {
  startNotBefore: 'start not before',
  finishNotBefore: 'finish not before',
  startNotAfter: 'start not after',
  finishNotAfter: 'finish not after',
  startOn: 'start on',
  finishOn: 'finish on',
  pinnedStart: 'pinned start',
  pinnedFinish: 'pinned finish',
  asLateAsPossible: 'as late as possible',
};

const isPin = (k: ConstraintKind): boolean => k === 'pinnedStart' || k === 'pinnedFinish';
const bounds = (k: ConstraintKind): { below: boolean; above: boolean } => ({
  below: /NotBefore|On$/.test(k) || isPin(k),
  above: /NotAfter|On$/.test(k) || isPin(k),
});

/** Which end a date without a time means. */
export type End = 'start' | 'finish';

/** The instant of a date typed with or without a time, in a calendar. */
export function instantOf(text: string, end: End, calendar: CompiledCalendar): Instant {
  const day = parseDay(text);
  if (day === undefined) return parseInstant(text) ?? NONE;
  return end === 'start' ? calendar.beginningOf(day) : calendar.endOf(day);
}

/** What of two settled lists is kept: the kinds that hold together, the first of each bound, pins before all else. */
export function settle(list: readonly { kind: ConstraintKind }[]): { kept: number[]; dropped: number[] } {
  const kept: number[] = [];
  const dropped: number[] = [];
  const pinned = list.some((c) => isPin(c.kind));
  const used = { below: false, above: false, pinnedStart: false, pinnedFinish: false, asLateAsPossible: false };
  list.forEach((c, n) => {
    let ok: boolean;
    if (pinned) {
      // As late as possible does not act under a pin, but it is no second bound either: it is set aside with the rest.
      ok = isPin(c.kind) && !used[c.kind as 'pinnedStart'];
      if (ok) used[c.kind as 'pinnedStart'] = true;
    } else if (c.kind === 'asLateAsPossible') {
      ok = !used.asLateAsPossible;
      used.asLateAsPossible = true;
    } else {
      const b = bounds(c.kind);
      ok = !(b.below && used.below) && !(b.above && used.above);
      if (ok) {
        used.below ||= b.below;
        used.above ||= b.above;
      }
    }
    (ok ? kept : dropped).push(n);
  });
  return { kept, dropped };
}

/**
 * The constraints that hold for an activity in a state. `zero`: it has no length, so start and finish constraints
 * mean the same instant, read as the end of the date's work (on a start milestone as its beginning).
 */
export function holdingConstraints(a: Activity, calendar: CompiledCalendar, started: boolean, zero: boolean, problems: Problem[]): Holding {
  const h = nothing();
  const { kept, dropped } = settle(a.constraints);
  for (const n of dropped) {
    const name = constraintNames[a.constraints[n]!.kind];
    const why = a.constraints.some((c) => isPin(c.kind)) ? 'a pinned date overrules it' : 'an earlier constraint already bounds that side';
    problems.push(
      problem('CONSTRAINT_SET_ASIDE', `${labelOf(a)}: the constraint ${name} was set aside, because ${why}. Remove one of them.`, {
        table: 'activities',
        id: a.id,
        label: labelOf(a),
        field: `constraints.${n}`,
      }),
    );
  }
  const endOf = (k: ConstraintKind): End => {
    if (zero && !started) return a.type === 'startMilestone' ? 'start' : 'finish';
    return /^start|^pinnedStart/.test(k) ? 'start' : 'finish';
  };
  const pins = kept.filter((n) => isPin(a.constraints[n]!.kind));
  for (const n of kept) {
    const { kind, date } = a.constraints[n]!;
    if (kind === 'asLateAsPossible') {
      h.asLateAsPossible = !started && pins.length === 0;
      continue;
    }
    const t = instantOf(date as string, endOf(kind), calendar);
    if (isPin(kind)) {
      if (started) {
        if (kind === 'pinnedFinish') h.finishLow = h.finishHigh = t;
      } else if (h.pin === Pin.none || kind === 'pinnedStart') {
        h.pin = kind === 'pinnedStart' ? Pin.start : Pin.finish;
        h.pinned = t;
      }
      continue;
    }
    const atStart = kind.startsWith('start');
    if (atStart && started) continue;
    const b = bounds(kind);
    if (b.below) h[atStart ? 'startLow' : 'finishLow'] = t;
    if (b.above) h[atStart ? 'startHigh' : 'finishHigh'] = t;
  }
  return h;
}
