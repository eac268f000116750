import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { fast, slow } from '../twin/compare';
import { smallPlan } from '../twin/plans';

/**
 * The networks that breaks are asked: the first 120 of the 700 of `npm test`, and of the others those that notice what these
 * do not (found by asking all of them; a break that none of the 700 notices is not noticed here either).
 */
const TELLING = [154, 158, 232, 265, 270, 340, 349, 390, 443, 676];
const SEEDS = [...Array.from({ length: 120 }, (_, i) => i + 1), ...TELLING];
/** Where the answers of the slow twin are kept: they are the same for each of some thousand breaks, and take far longer. */
const KEPT = process.env['YELLOWHAMMER_SLOW_ANSWERS'];

function slowAnswers(): Map<number, string> {
  const kept = KEPT && existsSync(KEPT) ? new Map(JSON.parse(readFileSync(KEPT, 'utf8')) as [number, string][]) : new Map<number, string>();
  const missing = SEEDS.filter((seed) => !kept.has(seed));
  for (const seed of missing) kept.set(seed, JSON.stringify(slow(smallPlan(seed))));
  if (KEPT && missing.length > 0) writeFileSync(KEPT, JSON.stringify([...kept]));
  return kept;
}

// Several tests, so that a break asks only for the plans whose code it touches; the telling ones come first, since they are few.
const parts = [TELLING, ...Array.from({ length: 5 }, (_, part) => SEEDS.slice(0, 120).filter((seed) => seed % 5 === part))];
for (const [part, seeds] of parts.entries())
  test(`the fast core answers as the slow twin, part ${part + 1} of ${SEEDS.length} random networks`, () => {
    const answers = slowAnswers();
    for (const seed of seeds) expect(JSON.stringify(fast(smallPlan(seed)))).toBe(answers.get(seed));
  });
