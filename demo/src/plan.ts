/** Writes a large project file: npm run -w demo plan -- --size N --seed S [--out FILE]. */
import { writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { largePlan } from './generate.ts';

const { values } = parseArgs({ options: { size: { type: 'string', default: '10000' }, seed: { type: 'string', default: '1' }, out: { type: 'string' } } });
const size = Number(values.size);
const seed = Number(values.seed);
if (!Number.isInteger(size) || size < 1 || size > 200_000 || !Number.isInteger(seed)) {
  console.error('Usage: npm run -w demo plan -- --size N (1 to 200000) --seed S [--out FILE]');
  process.exit(2);
}
const out = values.out ?? `plan-${size}-${seed}.yellowhammer.json`;
writeFileSync(out, writeProjectFile({ document: largePlan(size, seed), copies: new Map() }));
console.log(`Wrote ${out}: ${size} activities, seed ${seed}.`);
