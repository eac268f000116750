/** The demo plan is true: it computes without errors, tells its story, and is the same every time. */
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { largePlan } from '@yellowhammer/demo/generate';
import { sky, slip, trail } from '@yellowhammer/demo/scenario';

test.each([
  ['SKY', sky, 130, 150],
  ['SLIP', slip, 38, 45],
  ['TRAIL', trail, 26, 34],
] as const)('%s computes without errors and reads back the same', (_, make, least, most) => {
  const file = make();
  expect(file.document.activities.size).toBeGreaterThanOrEqual(least);
  expect(file.document.activities.size).toBeLessThanOrEqual(most);
  expect(schedule(file.document).problems.filter((p) => p.severity === 'error')).toEqual([]);
  const text = writeProjectFile(file);
  const again = readProjectText(text);
  expect(again.problems).toEqual([]);
  expect(again.file && writeProjectFile(again.file)).toBe(text);
  expect(writeProjectFile(make())).toBe(text);
});

test('SKY: every activity has its area and stage, work has its trade; the small projects have trades of their own', () => {
  const told = ({ document: doc }: ReturnType<typeof sky>, name: string): [number, number] => {
    const set = [...doc.codeSets.values()].find((s) => s.name === name);
    return [set?.values.length ?? 0, [...doc.activities.values()].filter((a) => set && a.values[`code:${set.id}`] !== undefined).length];
  };
  const plan = sky();
  expect([told(plan, 'Area'), told(plan, 'Funding stage')]).toEqual([
    [6, plan.document.activities.size],
    [3, plan.document.activities.size],
  ]);
  expect(told(plan, 'Trade')[1]).toBeGreaterThan(80);
  expect([told(slip(), 'Trade')[0], told(trail(), 'Trades')[0]]).toEqual([7, 7]);
});

test('SKY: the storm moves the opening, the margin before the lift is partly used, carried logic holds the inspection', () => {
  const { document: doc, copies } = sky();
  const kinds = [...doc.snapshots.values()].map((s) => s.kind);
  expect([kinds.filter((k) => k === 'baseline').length, kinds.filter((k) => k === 'statusUpdate').length]).toEqual([2, 3]);
  const r = schedule(doc).computed;
  if (!r) throw new Error('not computed');
  const grant = [...doc.snapshots.values()].find((s) => s.name === 'Grant plan');
  const before = schedule(copies.get(grant?.id ?? '') ?? doc).computed;
  expect(before && before.projectFinish < r.projectFinish).toBe(true);
  expect(formatInstant(r.projectFinish).slice(0, 7)).toBe('2027-09');
  const node = (code: string): number => r.network.nodeOf[r.network.ids.indexOf([...doc.activities.values()].find((a) => a.code === code)?.id ?? '')]!;
  const left = r.early.length[node('635')]!;
  expect(left > 0 && left < r.network.duration[node('635')]!).toBe(true);
  expect(r.slack.carried.length).toBeGreaterThan(0);
  const types = new Set([...doc.links.values()].map((l) => l.type));
  expect([...types].sort()).toEqual(['FF', 'FS', 'SF', 'SS']);
});

test('large plans have the size, the mix and the seed that was asked for', () => {
  const doc = largePlan(1000, 3);
  expect(doc.activities.size).toBe(1000);
  expect(doc.links.size / 1000).toBeGreaterThan(1.4);
  expect(new Set([...doc.links.values()].map((l) => l.type)).size).toBe(4);
  expect(schedule(doc).problems.filter((p) => p.severity === 'error')).toEqual([]);
  expect(largePlan(1000, 3)).toEqual(doc);
  expect(largePlan(1000, 4)).not.toEqual(doc);
});
