/** Demand over projects: what others ask of shared resources and roles counts beside that of the open project. */
import { asksOfShared, type Elsewhere } from '@yellowhammer/core/load/elsewhere';
import { loadsOf, type Subject } from '@yellowhammer/core/load/load';
import { type AskedBy, loadTable, stretchOf } from '@yellowhammer/core/load/table';
import type { Document } from '@yellowhammer/core/model/document';
import type { Computed } from '@yellowhammer/core/schedule/compute';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { formatInstant, parseInstant } from '@yellowhammer/core/time/instant';
import { peopledPlan, sure } from './helpers';

const at = (text: string): number => sure(parseInstant(text));
const riggers = (id: string, more: Record<string, unknown> = {}) => ({
  id,
  name: 'Riggers',
  sharedId: 'riggers',
  roleId: 'rig',
  availability: [{ from: '2026-01-01', units: 3 }],
  ...more,
});
const roles = [{ id: 'rig', name: 'Rigger', sharedId: 'rigger' }];
const work = (units: number, days: number): Record<string, unknown> => ({ units, work: units * days * 480_000 });
/** Two riggers from Monday 2 March to Friday 6 March. */
const here = (): Document =>
  peopledPlan(
    {
      activities: [
        ['A', '5d', {}],
        ['Z', '6d', {}],
      ],
    },
    {
      roles,
      resourceGroups: [{ id: 'g', name: 'Lifting', rank: 0, parentId: null }],
      resources: [riggers('r', { groupId: 'g' }), { id: 'own', name: 'Own', sharedId: null }],
      assignments: [
        { activityId: 'A', resourceId: 'r', ...work(2, 5) },
        { activityId: 'A', resourceId: 'own', ...work(1, 5) },
      ],
    },
  );
/** Two riggers from Wednesday 4 March to Tuesday 10 March, and a rigger who is not named yet. */
const there = (): Document =>
  peopledPlan(
    { activities: [['B', '5d', {}]], project: { plannedStart: '2026-03-04T08:00' } },
    {
      roles: [{ ...sure(roles[0]), id: 'other role' }],
      resources: [riggers('z', { roleId: 'other role' }), { id: 'own', name: 'Own' }],
      assignments: [
        { activityId: 'B', resourceId: 'z', ...work(2, 5) },
        { activityId: 'B', resourceId: 'own', ...work(1, 5) },
        { activityId: 'B', roleId: 'other role', ...work(1, 5) },
      ],
    },
  );
const computed = (doc: Document): Computed => sure(schedule(doc).computed);
const over = (project: Document): Elsewhere => ({
  projects: [{ id: 'p', code: 'SLIP', name: 'Slip', stage: 'live', archived: false }],
  asks: asksOfShared(project, computed(project)).map((a) => ({ ...a, project: 0 })),
});
const subject = (list: readonly Subject[], kind: string, id: string): Subject => sure(list.find((s) => s.kind === kind && s.id === id));

test('three riggers are enough for each project, and not for both', () => {
  const doc = here();
  const r = computed(doc);
  const alone = loadsOf(doc, r);
  expect(subject(alone.subjects, 'resource', 'r').curve.runs()).toEqual([]);
  const both = loadsOf(doc, r, false, over(there()));
  const runs = subject(both.subjects, 'resource', 'r').curve.runs();
  expect(runs.map((x) => [formatInstant(x.from), formatInstant(x.to), x.excess, x.over])).toEqual([['2026-03-04T08:00', '2026-03-06T17:00', 1000, 3 * 480_000]]);
  // Five days of two, twice; what is not shared is nobody else's affair.
  expect([subject(both.subjects, 'resource', 'r').curve.total, subject(both.subjects, 'resource', 'own').curve.total]).toEqual([20 * 480_000, 5 * 480_000]);
  // The role has those who fill it, and what is asked of it by itself; the group has its members.
  expect(subject(both.subjects, 'role', 'rig').curve.total).toBe(25 * 480_000);
  expect(subject(both.subjects, 'group', 'g').curve.total).toBe(20 * 480_000);
  // A role that only the others ask for by itself counts among what is over.
  const table = sure(loadTable(doc, both, { kind: 'week', weekStart: 0 }, at('2026-03-02T00:00'), at('2026-03-16T00:00')));
  expect(table.runs.map((x) => [x.kind, x.id])).toEqual([
    ['role', 'rig'],
    ['resource', 'r'],
  ]);
  expect(table.rows.find((x) => x.id === 'r')?.cells.demand).toEqual(Float64Array.of(16 * 480_000, 4 * 480_000));
});

test('a stretch is put together by activity, by project and by role, and each way adds up to the demand', () => {
  const doc = here();
  const r = computed(doc);
  const loads = loadsOf(doc, r, false, over(there()));
  const [from, to] = [at('2026-03-04T00:00'), at('2026-03-05T00:00')];
  const told = (by: AskedBy, kind: 'resource' | 'role', id: string) => {
    const s = sure(stretchOf(doc, r, loads, kind, id, from, to, by));
    expect(s.asks.reduce((sum, a) => sum + a.work, 0)).toBe(s.cell.demand);
    return s.asks.map((a) => [a.label, a.project?.code ?? null, a.activityId, a.work / 480_000, a.float]).sort();
  };
  expect(told('activity', 'resource', 'r')).toEqual([
    ['A A', null, 'A', 2, 480],
    ['SLIP: B B', 'SLIP', null, 2, 0],
  ]);
  expect(told('project', 'role', 'rig')).toEqual([
    ['SLIP', 'SLIP', null, 3, null],
    ['T', null, null, 2, null],
  ]);
  expect(told('role', 'role', 'rig')).toEqual([['Rigger', null, null, 5, null]]);
  // The steps of those who ask add up as well.
  const s = sure(stretchOf(doc, r, loads, 'resource', 'r', from, to));
  const noon = at('2026-03-04T10:00');
  const value = (steps: { at: number[]; value: number[] }): number => steps.value[steps.at.findLastIndex((t) => t <= noon)] ?? 0;
  expect(s.asks.map(value)).toEqual([2000, 2000]);
});

test('work at one instant counts, before it not', () => {
  const doc = here();
  const r = computed(doc);
  const asks = over(there());
  const jump = { ...sure(asks.asks[0]), steps: { at: [], value: [] }, jumps: [{ at: at('2026-03-03T12:00'), work: 5000 }] };
  const loads = loadsOf(doc, r, false, { ...asks, asks: [jump] });
  const work = (to: string): number => stretchOf(doc, r, loads, 'resource', 'r', at('2026-03-03T11:00'), at(to))?.asks.find((a) => a.project)?.work ?? 0;
  expect([work('2026-03-03T12:00'), work('2026-03-03T12:01')]).toEqual([0, 5000]);
});
