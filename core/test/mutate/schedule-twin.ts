import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { fast, slow } from '../twin/compare';
import { smallPlan } from '../twin/plans';

const PLANS = 120;
/** Where the answers of the slow twin are kept: they are the same for each of some thousand breaks, and take far longer. */
const KEPT = process.env['YELLOWHAMMER_SLOW_ANSWERS'];

function slowAnswers(): string[] {
  if (KEPT && existsSync(KEPT)) return JSON.parse(readFileSync(KEPT, 'utf8')) as string[];
  const answers = Array.from({ length: PLANS }, (_, i) => JSON.stringify(slow(smallPlan(i + 1))));
  if (KEPT) writeFileSync(KEPT, JSON.stringify(answers));
  return answers;
}

// Five tests, so that a break asks only for the plans whose code it touches.
for (let part = 0; part < 5; part++)
  test(`the fast core answers as the slow twin, part ${part + 1} of ${PLANS} random networks`, () => {
    const answers = slowAnswers();
    for (let i = part; i < PLANS; i += 5) expect(JSON.stringify(fast(smallPlan(i + 1)))).toBe(answers[i]);
  });
