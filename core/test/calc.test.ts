/** The command line: exit codes, standard input, options. */
import { spawnSync } from 'node:child_process';
import { resolve } from 'node:path';
import { planFileOf } from './helpers';

const root = resolve(__dirname, '../..');
const calc = (args: string[], input: string) => {
  const r = spawnSync('npm', ['run', '-s', 'calc', '--', ...args], { cwd: root, input, encoding: 'utf8', maxBuffer: 1 << 28 });
  return { status: r.status, json: JSON.parse(r.stdout) as Record<string, unknown> & { problems: { code: string }[] } };
};
const sound = JSON.stringify(
  planFileOf({
    activities: [
      ['A', '3d'],
      ['B', '1d'],
    ],
    links: ['A > B'],
  }),
);

test.each<[string, string[], string, number, string[]]>([
  ['all computed', ['-'], sound, 0, []],
  ['errors set aside', ['-'], JSON.stringify(planFileOf({ activities: [['A', '3d', { duration: 'x' }]] })), 1, ['WRONG_VALUE']],
  ['not a project', ['-'], '{"a":1}', 2, ['NOT_A_PROJECT']],
  ['no JSON', ['-'], 'hello', 2, ['NOT_JSON']],
  ['no such file', ['nowhere.json'], '', 2, ['UNREADABLE']],
  ['wrong usage', ['-', '--paths', 'many'], sound, 2, ['USAGE']],
])(
  '%s',
  (_, args, input, status, codes) => {
    const r = calc(args, input);
    expect([r.status, r.json.problems.map((p) => p.code)]).toEqual([status, codes]);
  },
  30_000,
);

test('paths and an explanation on request', () => {
  const r = calc(['-', '--paths', '2', '--to', 'B', '--why', 'B'], sound);
  expect(r.status).toBe(0);
  expect(r.json['paths']).toEqual([{ slackDays: 0, joins: null, activities: ['A', 'B'] }]);
  expect((r.json['why'] as { bounds: { governs: boolean; text: string }[] }).bounds[0]).toMatchObject({ governs: true, text: 'A A, finish to start' });
}, 30_000);
