/**
 * Prints the computed schedule of a project file as JSON.
 *   npm run -s calc -- FILE [--paths K [--to ID]] [--why ID] [--fields KEY,KEY]      (FILE may be - for standard input)
 * Exit 0: all computed; 1: errors were set aside and the rest computed; 2: nothing computed, {problems}.
 */
import { readFileSync, writeSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { fieldTexts } from '@yellowhammer/core/fields/texts';
import { moneyJson } from '@yellowhammer/core/cost/money-json';
import { bucketingOf, loadJson, spanEnd } from '@yellowhammer/core/load/load-json';
import { projectOf } from '@yellowhammer/core/model/document';
import { hasErrors, problem, type Problem } from '@yellowhammer/core/model/problem';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import { scheduleJson } from '@yellowhammer/core/schedule/schedule-json';

function print(value: unknown): void {
  const bytes = Buffer.from(`${JSON.stringify(value)}\n`);
  for (let at = 0; at < bytes.length;) {
    try {
      at += writeSync(1, bytes, at);
    } catch (e) {
      if ((e as NodeJS.ErrnoException).code !== 'EAGAIN') throw e;
    }
  }
}

function fail(problems: Problem[]): never {
  print({ problems });
  process.exit(2);
}

const USAGE = 'Usage: calc FILE [--paths K [--to ID]] [--why ID] [--fields KEY,KEY] [--load BUCKET] [--money BUCKET] [--from D] [--to D]';

const typed = () =>
  parseArgs({
    allowPositionals: true,
    options: {
      paths: { type: 'string' },
      to: { type: 'string' },
      why: { type: 'string' },
      fields: { type: 'string' },
      load: { type: 'string' },
      money: { type: 'string' },
      from: { type: 'string' },
    },
  });
let args: ReturnType<typeof typed>;
try {
  args = typed();
} catch (e) {
  fail([problem('USAGE', `${(e as Error).message}. ${USAGE}`)]);
}
const file = args.positionals[0];
if (file === undefined || args.positionals.length > 1) fail([problem('USAGE', `${USAGE}; FILE may be - for standard input.`)]);
const paths = args.values.paths === undefined ? undefined : Number(args.values.paths);
if (paths !== undefined && !(Number.isInteger(paths) && paths >= 1 && paths <= 100_000)) fail([problem('USAGE', '--paths takes a whole number from 1 to 100000.')]);
const { load, money } = args.values;
const bucketed = load ?? money;
if (args.values.to !== undefined && paths === undefined && bucketed === undefined) fail([problem('USAGE', '--to goes with --paths, --load or --money.')]);
if (args.values.from !== undefined && bucketed === undefined) fail([problem('USAGE', '--from goes with --load or --money.')]);
/** A date or an instant as the end of a span. */
function endOf(end: 'from' | 'to'): number | undefined {
  const typed = bucketed === undefined ? undefined : args.values[end];
  if (typed === undefined) return undefined;
  return spanEnd(typed, end) ?? fail([problem('USAGE', `--${end} takes a date YYYY-MM-DD or an instant YYYY-MM-DDTHH:MM, not ${typed}.`)]);
}
const [from, to] = [endOf('from'), endOf('to')];
if (from !== undefined && to !== undefined && to <= from) fail([problem('USAGE', '--to lies before --from.')]);
let text: string;
try {
  text = readFileSync(file === '-' ? 0 : file, 'utf8');
} catch (e) {
  fail([problem('UNREADABLE', `${file} cannot be read: ${(e as Error).message}`)]);
}
const read = readProjectText(text);
if (!read.file) fail(read.problems);
const baseline = read.file.copies.get(projectOf(read.file.document).baselineId ?? '');
const { json, computed } = scheduleJson(read.file.document, read.problems, { paths, to: bucketed === undefined ? args.values.to : undefined, why: args.values.why, baseline });
if (args.values.fields !== undefined && computed) {
  const texts = fieldTexts(read.file.document, args.values.fields.split(',').filter(Boolean), baseline);
  if ('problem' in texts) fail([texts.problem]);
  json['fields'] = texts.rows;
}
for (const [key, typed, make] of [
  ['load', load, loadJson],
  ['money', money, moneyJson],
] as const) {
  if (typed === undefined || !computed) continue;
  const bucketing = bucketingOf(read.file.document, typed);
  if (typeof bucketing === 'string') fail([problem('USAGE', `--${key} ${typed}: ${bucketing}.`)]);
  const made = make(read.file.document, computed, bucketing, from, to);
  if (typeof made === 'string') fail([problem('USAGE', `--${key} ${typed}: ${made}.`)]);
  json[key] = made;
}
print(json);
process.exitCode = !computed ? 2 : hasErrors(json['problems'] as Problem[]) ? 1 : 0;
