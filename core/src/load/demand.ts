/** Demand of assignments as step functions of time. */
import type { Instant } from '../time/instant.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import { intensityOf, type Loaded, type Piece } from './pieces.ts';
import { type Steps, StepList, sumOfAll } from './steps.ts';

/** Demand of pieces as steps, one calendar after the other; and what lies at single instants. */
export function demandOf(loaded: readonly Pick<Loaded, 'pieces'>[]): { steps: Steps; jumps: { at: Instant; work: number }[] } {
  const byCalendar = new Map<WorkCalendar, Piece[]>();
  const jumps: { at: Instant; work: number }[] = [];
  for (const l of loaded)
    for (const p of l.pieces) {
      if (p.to === p.from) {
        jumps.push({ at: p.from, work: p.work });
        continue;
      }
      const list = byCalendar.get(p.calendar);
      if (list) list.push(p);
      else byCalendar.set(p.calendar, [p]);
    }
  return { steps: sumOfAll([...byCalendar].map(([c, pieces]) => stepsOn(c, pieces))), jumps: jumps.sort((a, b) => a.at - b.at) };
}

/** Pieces of one calendar: added up on its positions, then laid out on its working time. */
function stepsOn(c: WorkCalendar, pieces: readonly Piece[]): Steps {
  const begins = [...pieces].sort((a, b) => a.from - b.from);
  const ends = [...pieces].sort((a, b) => a.to - b.to);
  const out = new StepList();
  let [i, j, active, sum] = [0, 0, 0, 0];
  let at = begins[0]!.from;
  while (j < ends.length) {
    const next = i < begins.length && begins[i]!.from < ends[j]!.to ? begins[i]!.from : ends[j]!.to;
    if (active > 0 && next > at) for (const [a, b] of c.stretches(c.startInstant(at), c.finishInstant(next))) out.add(a, b, sum);
    at = next;
    for (; j < ends.length && ends[j]!.to === at; j++, active--) sum -= intensityOf(ends[j]!);
    // What floating point leaves of nothing is nothing.
    if (active === 0) sum = 0;
    for (; i < begins.length && begins[i]!.from === at; i++, active++) sum += intensityOf(begins[i]!);
  }
  return out;
}
