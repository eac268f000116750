/**
 * Prints the computed schedule of a project file as JSON.
 *   npm run -s calc -- FILE [--paths K [--to ID]] [--why ID] [--fields KEY,KEY]      (FILE may be - for standard input)
 * Exit 0: all computed; 1: errors were set aside and the rest computed; 2: nothing computed, {problems}.
 */
import { readFileSync, writeSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { fieldTexts } from '@yellowhammer/core/fields/texts';
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

let args;
try {
  args = parseArgs({ allowPositionals: true, options: { paths: { type: 'string' }, to: { type: 'string' }, why: { type: 'string' }, fields: { type: 'string' } } });
} catch (e) {
  fail([problem('USAGE', `${(e as Error).message}. Usage: calc FILE [--paths K [--to ID]] [--why ID] [--fields KEY,KEY]`)]);
}
const file = args.positionals[0];
if (file === undefined || args.positionals.length > 1)
  fail([problem('USAGE', 'Usage: calc FILE [--paths K [--to ID]] [--why ID] [--fields KEY,KEY]; FILE may be - for standard input.')]);
const paths = args.values.paths === undefined ? undefined : Number(args.values.paths);
if (paths !== undefined && !(Number.isInteger(paths) && paths >= 1 && paths <= 100_000)) fail([problem('USAGE', '--paths takes a whole number from 1 to 100000.')]);
if (args.values.to !== undefined && paths === undefined) fail([problem('USAGE', '--to goes with --paths.')]);
let text: string;
try {
  text = readFileSync(file === '-' ? 0 : file, 'utf8');
} catch (e) {
  fail([problem('UNREADABLE', `${file} cannot be read: ${(e as Error).message}`)]);
}
const read = readProjectText(text);
if (!read.file) fail(read.problems);
const baseline = read.file.copies.get(projectOf(read.file.document).baselineId ?? '');
const { json, computed } = scheduleJson(read.file.document, read.problems, { paths, to: args.values.to, why: args.values.why, baseline });
if (args.values.fields !== undefined && computed) {
  const texts = fieldTexts(read.file.document, args.values.fields.split(',').filter(Boolean), baseline);
  if ('problem' in texts) fail([texts.problem]);
  json['fields'] = texts.rows;
}
print(json);
process.exitCode = !computed ? 2 : hasErrors(json['problems'] as Problem[]) ? 1 : 0;
