import { fast, slow } from './compare';
import { smallPlan } from './plans';

const RUNS = Number(process.env['YELLOWHAMMER_RUNS'] ?? (process.env['YELLOWHAMMER_LONG'] ? 20_000 : 700));

test(`the fast core and the slow twin agree on ${RUNS} random networks`, () => {
  const wrong: unknown[] = [];
  for (let seed = 1; seed <= RUNS && wrong.length < 3; seed++) {
    const plan = smallPlan(seed);
    const a = JSON.stringify(fast(plan));
    const b = JSON.stringify(slow(plan));
    if (a !== b) wrong.push({ seed });
  }
  expect(wrong).toEqual([]);
}, 3_600_000);
