/** How good proposals of levelling are: against the proven best of 30 activities, and against a bound that nothing can be under of 120. */
import { level, stepsFor } from '@yellowhammer/core/level/level';
import type { Document } from '@yellowhammer/core/model/document';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { type Instance, instanceOf, lowerBound, shortest } from './exact.ts';

const DAY = 1440;
const START = '2026-03-02T00:00';
const always = { id: 'always', name: 'Always', week: Array.from({ length: 7 }, () => [['00:00', '24:00']]) };

/** An instance as a plan: one calendar without stops, so that days are days. */
export function documentOf(p: Instance): Document {
  const read = readProjectFile({
    format: 'yellowhammer-project',
    version: 1,
    project: { id: 'project', code: 'X', name: 'Instance', plannedStart: START, calendarId: 'always' },
    calendars: [always],
    activities: p.days.map((d, i) => ({ id: `a${i}`, code: `${i}`, name: '', duration: d * DAY, rank: i })),
    links: p.preds.flatMap((list, i) => list.map((k, n) => ({ id: `l${i}-${n}`, from: `a${k}`, to: `a${i}`, rank: n }))),
    resources: p.there.map((units, r) => ({ id: `r${r}`, name: `R${r}`, kind: 'labour', rank: r, availability: [{ from: '2026-01-01', units }] })),
    assignments: p.asks.flatMap((list, i) =>
      list.flatMap((units, r) => (units > 0 ? [{ id: `x${i}-${r}`, activityId: `a${i}`, resourceId: `r${r}`, units, work: units * p.days[i]! * DAY * 1000, rank: r }] : [])),
    ),
  });
  if (!read.file) throw new Error(JSON.stringify(read.problems));
  return read.file.document;
}

/** Days of the proposal for an instance. */
export function levelledDays(p: Instance, steps = stepsFor(p.days.length)): number {
  const doc = documentOf(p);
  const found = level(doc, { resources: p.there.map((_, r) => `r${r}`), scope: null, withinFloat: false, steps });
  if (!found) throw new Error('the instance cannot be computed');
  // Instants count minutes from the same day as the planned start.
  return Math.round((found.finish.after - (parseInstant(START) ?? 0)) / DAY);
}

/** Prints the gaps; `few`: only some instances, for a look. */
export function levellingGaps(few = false): void {
  const mean = (list: readonly number[]): number => (list.length ? list.reduce((a, b) => a + b, 0) / list.length : 0);
  console.log('Levelling: how much longer than the best that is possible');
  const gaps: number[] = [];
  let unproven = 0;
  let short = 0;
  for (let seed = 1; seed <= (few ? 10 : 60); seed++) {
    const p = instanceOf(seed, 30);
    const days = levelledDays(p);
    const best = shortest(p, days, 400_000);
    if (!best.proven) unproven++;
    else gaps.push((days - best.days) / best.days);
    if (lowerBound(p) < days) short++;
  }
  console.log(
    `  30 activities, 4 resources, ${gaps.length} proven: mean ${(mean(gaps) * 100).toFixed(2)} %, worst ${(Math.max(...gaps) * 100).toFixed(1)} % (aim 3); ${unproven} not proven; ${short} are longer than the plain bound`,
  );
  const bounds: number[] = [];
  for (let seed = 1; seed <= (few ? 2 : 10); seed++) {
    const p = instanceOf(seed, 120);
    bounds.push(levelledDays(p) / lowerBound(p) - 1);
  }
  console.log(`  120 activities against a bound that nothing is under: mean ${(mean(bounds) * 100).toFixed(1)} %, worst ${(Math.max(...bounds) * 100).toFixed(1)} %`);
}
