/** Loads and working calendars with figures worked by hand (resource rules, sections 1, 2, 4 to 6). */
import { bucketingOf, loadJson } from '@yellowhammer/core/load/load-json';
import { loadsOf } from '@yellowhammer/core/load/load';
import { loadTable } from '@yellowhammer/core/load/table';
import { sumsBetween } from '@yellowhammer/core/load/steps';
import { partsLeft, partsOf, shareDone } from '@yellowhammer/core/load/spread';
import { NetworkMemory } from '@yellowhammer/core/schedule/memory';
import { schedule, scheduleDates } from '@yellowhammer/core/schedule/schedule';
import { applyChanges } from '@yellowhammer/core/change/change';
import { explain } from '@yellowhammer/core/schedule/explain';
import type { Document } from '@yellowhammer/core/model/document';
import { formatInstant, parseInstant } from '@yellowhammer/core/time/instant';
import { peopledPlan, type PlanText, sure } from './helpers';

const docOf = (p: PlanText, more: Parameters<typeof peopledPlan>[1]): Document => peopledPlan(p, { resourceGroups: [{ id: 'g', name: 'Gang' }], ...more });
interface Bucket {
  from: string;
  demand: number;
  capacity: number | null;
  over: number;
  peak: number;
  overByMean: boolean;
  hiddenPeak: boolean;
  state: string;
}
function loads(
  doc: Document,
  bucket: string,
  from?: string,
  to?: string,
): Record<string, { buckets: Bucket[]; runs: { from: string; to: string; excess: number; over: number }[] }> {
  const { computed } = schedule(doc);
  const b = bucketingOf(doc, bucket);
  if (typeof b === 'string') throw new Error(b);
  const json = loadJson(doc, sure(computed), b, from === undefined ? undefined : parseInstant(from), to === undefined ? undefined : parseInstant(to)) as {
    subjects: { id: string }[];
  };
  return Object.fromEntries(json.subjects.map((s) => [s.id, s])) as never;
}
const dates = (doc: Document, id: string): string => {
  const { computed } = schedule(doc);
  const why = explain(doc, sure(computed), id);
  return `${why.start} ${why.finish}`;
};
const hour = 60_000;
const away = (from: string, to = from): Record<string, unknown> => ({ name: 'leave', from, to, yearly: false, work: [] });

describe('working calendars', () => {
  const plan: PlanText = {
    activities: [
      ['A', '3d', {}],
      ['B', '1d', {}],
    ],
    links: ['A > B'],
  };
  test('days off of one who drives move work, and the reason names both', () => {
    const doc = docOf(plan, { resources: [{ id: 'ana', daysOff: [away('2026-03-03')] }], assignments: [{ activityId: 'A', resourceId: 'ana', work: 3 * 480_000 }] });
    expect(dates(doc, 'A')).toBe('2026-03-02T08:00 2026-03-05T17:00');
    const late = docOf(
      {
        ...plan,
        activities: [
          ['A', '1d', {}],
          ['B', '1d', {}],
        ],
      },
      { resources: [{ id: 'ana', daysOff: [away('2026-03-03')] }], assignments: [{ activityId: 'B', resourceId: 'ana', work: 480_000 }] },
    );
    const why = explain(late, sure(schedule(late).computed), 'B');
    expect(why.start).toBe('2026-03-04T08:00');
    expect(sure(why.bounds.find((b) => b.kind === 'link')).moved).toContain('ana: leave');
  });
  test.each([
    ['who does not drive', {}, { drives: false }],
    ['an activity that keeps its days', { keepsDays: true }, {}],
    ['a material', {}, { resourceId: 'lime', drives: true }],
    ['availability 0', {}, { resourceId: 'none' }],
  ])('%s moves nothing', (_, activity, assignment) => {
    const doc = docOf(
      { activities: [['A', '3d', activity]] },
      {
        resources: [
          { id: 'ana', daysOff: [away('2026-03-03')] },
          { id: 'lime', kind: 'material' },
          { id: 'none', availability: [{ from: '2026-01-01', units: 0 }] },
        ],
        assignments: [{ activityId: 'A', resourceId: 'ana', work: 3 * 480_000, ...assignment }],
      },
    );
    expect(dates(doc, 'A')).toBe('2026-03-02T08:00 2026-03-04T17:00');
  });
  test('two who drive: only minutes in which both work; extra hours of one are none of the own calendar', () => {
    const doc = docOf(
      { activities: [['A', '1d', {}]] },
      {
        resources: [
          { id: 'ana', daysOff: [{ ...away('2026-03-02'), work: [['13:00', '20:00']] }] },
          { id: 'ben', daysOff: [{ ...away('2026-03-03'), work: [['06:00', '10:00']] }] },
        ],
        assignments: [
          { activityId: 'A', resourceId: 'ana', work: 480_000 },
          { activityId: 'A', resourceId: 'ben', work: 480_000 },
        ],
      },
    );
    // Monday 13 to 17, Tuesday 8 to 10, then two hours of Wednesday.
    expect(dates(doc, 'A')).toBe('2026-03-02T13:00 2026-03-04T10:00');
  });
  test('where they never work together the own calendar holds, and the problem names them', () => {
    const doc = docOf(
      { activities: [['A', '2d', {}]] },
      { resources: [{ id: 'ana', calendarId: 'nights' }], assignments: [{ activityId: 'A', resourceId: 'ana', work: 960_000 }] },
    );
    expect(dates(doc, 'A')).toBe('2026-03-02T08:00 2026-03-03T17:00');
    const { problems } = schedule(doc);
    expect(sure(problems.find((p) => p.code === 'ALWAYS_AWAY')).message).toContain('ana');
  });
  test('399 days away are waited for, 400 are not', () => {
    const until = (to: string): string =>
      dates(
        docOf(
          { activities: [['A', '1d @clock', {}]], project: { calendarId: 'clock' } },
          { resources: [{ id: 'ana', daysOff: [away('2026-03-02', to)] }], assignments: [{ activityId: 'A', resourceId: 'ana', work: 480_000 }] },
        ),
        'A',
      );
    // 2 March 2026 to 4 April 2027 are 399 days.
    expect(until('2027-04-04')).toBe('2027-04-05T00:00 2027-04-05T08:00');
    expect(until('2027-04-05')).toBe('2026-03-02T08:00 2026-03-02T16:00');
  });
  test('lags are counted on own calendars', () => {
    const doc = docOf(
      {
        activities: [
          ['A', '1d', {}],
          ['B', '1d', {}],
        ],
        links: ['A FS+1d > B'],
      },
      { resources: [{ id: 'ana', daysOff: [away('2026-03-03', '2026-03-04')] }], assignments: [{ activityId: 'A', resourceId: 'ana', work: 480_000 }] },
    );
    expect(dates(doc, 'B')).toBe('2026-03-04T08:00 2026-03-04T17:00');
  });
});

test('a network that is kept follows who comes, goes, is away and drives as one made anew does', () => {
  const doc = docOf(
    {
      activities: [
        ['A', '3d', {}],
        ['B', '2d', {}],
      ],
      links: ['A > B'],
    },
    { resources: [{ id: 'ana', daysOff: [away('2026-03-03')] }, { id: 'ben' }], assignments: [{ activityId: 'A', resourceId: 'ana', work: 1_440_000 }] },
  );
  const memory = new NetworkMemory();
  const finishes: string[] = [];
  const look = (): void => {
    const kept = sure(scheduleDates(doc, memory).computed);
    const anew = sure(scheduleDates(doc).computed);
    expect([...kept.early.finish]).toEqual([...anew.early.finish]);
    expect([...kept.late.totalFloat]).toEqual([...anew.late.totalFloat]);
    finishes.push(formatInstant(kept.projectFinish).slice(5, 10));
  };
  const put = <T extends 'assignments' | 'resources' | 'activities'>(table: T, id: string, fields: object | null): void => {
    const before = doc[table].get(id) ?? null;
    applyChanges(doc, [{ table, id, before, after: fields && ({ ...before, ...fields } as never) }]);
    look();
  };
  look();
  put('activities', 'A', { keepsDays: true });
  put('activities', 'A', { keepsDays: false });
  put('assignments', 'x0', { drives: false });
  put('assignments', 'x0', { drives: true, resourceId: 'ben' });
  put('resources', 'ben', { daysOff: [away('2026-03-04', '2026-03-05')] });
  put('assignments', 'x0', null);
  expect(finishes).toEqual(['03-09', '03-06', '03-09', '03-06', '03-06', '03-10', '03-06']);
});

describe('spread', () => {
  test('parts of a length, rounded; what has none gives its weight on', () => {
    expect(partsOf(100, [19, 17, 15, 13, 11, 9, 7, 5, 3, 1]).map((p) => [p.from, p.to, Math.round(p.share * 100)])).toEqual(
      [19, 17, 15, 13, 11, 9, 7, 5, 3, 1].map((w, n) => [n * 10, n * 10 + 10, w]),
    );
    expect(partsOf(1, [1, 1, 2])).toEqual([{ from: 0, to: 1, share: 1 }]);
    // 3 minutes, 5 parts of weight 1: boundaries 0.6, 1.2, 1.8, 2.4, 3 lie at 1, 1, 2, 2, 3.
    expect(partsOf(3, [1, 1, 1, 1, 1]).map((p) => p.share)).toEqual([0.2, 0.4, 0.4]);
    expect(partsOf(0, [1])).toEqual([]);
  });
  test('the share that is done, and what is left of it', () => {
    expect(shareDone(100, [3, 1], 25)).toBeCloseTo(0.375);
    expect(shareDone(0, [1], 0)).toBe(1);
    // Three quarters of the first half are left by half of its length, then the second half: boundaries at 50/3, 200/3 of what is left.
    expect(partsLeft(150, 100, [3, 1], 25).map((p) => [p.from, p.to, Math.round(p.share * 1000) / 1000])).toEqual([
      [0, 50, 0.6],
      [50, 150, 0.4],
    ]);
    expect(partsLeft(10, 100, [1, 0], 60)).toEqual([{ from: 0, to: 10, share: 1 }]);
  });
});

describe('loads', () => {
  test('a peak that the week hides, found by day and by run', () => {
    const doc = docOf(
      {
        activities: [
          ['A', '1d', {}],
          ['B', '240m', {}],
          ['C', '4d', {}],
        ],
        links: ['A > C'],
      },
      {
        resources: [{ id: 'ana', groupId: 'g', roleId: null, availability: [{ from: '2026-01-01', units: 2 }] }],
        assignments: [
          { activityId: 'A', resourceId: 'ana', units: 1.5, work: 720_000 },
          { activityId: 'B', resourceId: 'ana', units: 1, work: 240_000 },
        ],
      },
    );
    const week = sure(loads(doc, 'week')['ana']).buckets[0];
    expect(week).toMatchObject({ from: '2026-03-02T00:00', demand: 16 * hour, capacity: 80 * hour, over: 2 * hour, peak: 2.5, overByMean: false, hiddenPeak: true, state: 'over' });
    expect(sure(loads(doc, 'week')['ana']).runs).toMatchObject([{ from: '2026-03-02T08:00', to: '2026-03-02T12:00', excess: 0.5, over: 2 * hour }]);
    const day = sure(loads(doc, 'day', '2026-03-02T00:00', '2026-03-04T00:00')['g']).buckets;
    expect(day.map((b) => [b.demand / hour, b.state])).toEqual([
      [16, 'over'],
      [0, 'free'],
    ]);
  });
  test('who is away is no overload of many; a run goes on over time without capacity and demand', () => {
    const doc = docOf(
      { activities: [['A', '2d @clock', { duration: 2880 }]] },
      { resources: [{ id: 'ana' }], assignments: [{ activityId: 'A', resourceId: 'ana', units: 1, work: 2_880_000, drives: false }] },
    );
    const b = sure(loads(doc, 'hour', '2026-03-02T08:00', '2026-03-02T19:00')['ana']).buckets;
    expect(b.map((x) => x.state)).toEqual(['full', 'full', 'full', 'full', 'away', 'full', 'full', 'full', 'full', 'away', 'away']);
    const two = docOf({ activities: [['A', '2d', {}]] }, { resources: [{ id: 'ana' }], assignments: [{ activityId: 'A', resourceId: 'ana', units: 2, work: 1_920_000 }] });
    expect(sure(loads(two, 'day')['ana']).runs).toMatchObject([{ from: '2026-03-02T08:00', to: '2026-03-03T17:00', excess: 1 }]);
  });
  test('units change on the date of the interval that is worked, also past midnight', () => {
    const doc = docOf(
      { activities: [['A', '1d', {}]] },
      {
        resources: [
          {
            id: 'ana',
            calendarId: 'nights',
            availability: [
              { from: '2026-03-03', units: 1 },
              { from: '2026-03-03', units: 3 },
              { from: '2026-03-01', units: 2 },
            ],
          },
        ],
      },
    );
    const b = sure(loads(doc, 'hour', '2026-03-03T02:00', '2026-03-03T22:00')['ana']).buckets;
    // Until 04:00 it is Monday's night with two; Tuesday's, from 20:00, has three: of one date the last counts.
    expect([b[0], b[1], b[2], b[18]].map((x) => sure(sure(x).capacity) / hour)).toEqual([2, 2, 0, 3]);
  });
  test('shifts: intervals less than two hours apart are one; time between belongs to the one before', () => {
    const doc = docOf(
      { activities: [['A', '1d @clock', { duration: 1440 }]] },
      { resources: [{ id: 'ana', calendarId: 'clock' }], assignments: [{ activityId: 'A', resourceId: 'ana', units: 1, work: 1_440_000 }] },
    );
    const b = sure(loads(doc, 'shift:nights', '2026-03-02T08:00', '2026-03-03T21:00')['ana']).buckets;
    expect(b.map((x) => [x.from, x.demand / hour])).toEqual([
      ['2026-02-27T20:00', 12],
      ['2026-03-02T20:00', 12],
      ['2026-03-03T20:00', 0],
    ]);
    expect(bucketingOf(doc, 'shift:nobody')).toMatch(/no calendar nobody/);
    expect(bucketingOf(doc, 'decade')).toMatch(/a bucket is hour/);
  });
  test('progress: what is done lies before the data date, what is left after it', () => {
    const doc = docOf(
      { activities: [['A', '4d', { actualStart: '2026-03-02T08:00', remaining: 960 }]], project: { dataDate: '2026-03-05T08:00' } },
      { resources: [{ id: 'ana' }], assignments: [{ activityId: 'A', resourceId: 'ana', units: 1, work: 1_920_000 }] },
    );
    // Half is done, over three days; the other half on Thursday and Friday.
    expect(sure(loads(doc, 'day')['ana']).buckets.map((b) => Math.round((b.demand / hour) * 100) / 100)).toEqual([5.33, 5.33, 5.33, 8, 8]);
  });
  test('assignments that cannot stand are set aside and listed', () => {
    const doc = docOf(
      {
        activities: [
          ['A', '1d', {}],
          ['M', 'finish', {}],
        ],
      },
      {
        resources: [{ id: 'ana' }],
        assignments: [
          { activityId: 'A', resourceId: 'ana', work: 480_000 },
          { activityId: 'A', resourceId: 'ana', work: 480_000, actualWork: 5 },
          { activityId: 'M', resourceId: 'ana' },
          { activityId: 'A', resourceId: 'ana', work: 480_000, delay: 60, actualWork: 5 },
        ],
      },
    );
    const codes = schedule(doc).problems.map((p) => p.code);
    expect(codes.filter((c) => c === 'ASSIGNMENT_SET_ASIDE')).toHaveLength(2);
    expect(codes).toEqual(expect.arrayContaining(['PROGRESS_SET_ASIDE', 'WORK_DISAGREES']));
    expect(sure(loads(doc, 'day')['ana']).buckets[0]).toMatchObject({ demand: 16 * hour });
  });
});

test('steps between boundaries: units over time, also before the first and after the last of them', () => {
  const steps = { at: [100, 160, 200], value: [2, 5, 0] };
  expect(sumsBetween(steps, [0, 100, 130, 170, 300, 400])).toEqual([0, 60, 60 + 50, 150, 0]);
  expect(sumsBetween(steps, [110, 120])).toEqual([20]);
  expect(sumsBetween({ at: [], value: [] }, [0, 10])).toEqual([0]);
});

test('a crew: who belongs to it, each once, all that is asked of them against all that they have; not in what is printed', () => {
  const doc = peopledPlan(
    {
      activities: [
        ['A', '1d'],
        ['B', '1d'],
        ['C', '1d'],
      ],
    },
    {
      roles: [
        { id: 'mason', name: 'mason' },
        { id: 'other', name: 'other' },
      ],
      resources: [
        { id: 'ana', roleId: 'mason', availability: [{ from: '2026-01-01', units: 2 }] },
        { id: 'bo', roleId: 'mason' },
        { id: 'cy' },
        { id: 'lime', kind: 'material', unit: 't' },
      ],
      crews: [
        {
          id: 'gang',
          name: 'Gang',
          lines: [
            { resourceId: 'ana', roleId: null, units: 1 },
            { resourceId: null, roleId: 'mason', units: 1 },
            { resourceId: 'lime', roleId: null, units: 1 },
          ],
        },
        { id: 'none', name: 'None', lines: [] },
      ],
      assignments: [
        { activityId: 'A', resourceId: 'ana', units: 2, work: 960_000 },
        { activityId: 'B', roleId: 'mason', units: 2, work: 960_000 },
        { activityId: 'C', resourceId: 'cy', work: 480_000 },
        { activityId: 'C', resourceId: 'lime', quantity: 3, work: 0 },
      ],
    },
  );
  const all = loadsOf(doc, sure(schedule(doc).computed));
  const table = sure(loadTable(doc, all, { kind: 'day', weekStart: 0 }, sure(parseInstant('2026-03-02T00:00')), sure(parseInstant('2026-03-03T00:00'))));
  const told = table.rows.filter((r) => r.kind === 'crew').map((r) => [r.name, r.sort, r.there, r.cells.demand[0]! / 60_000, sure(r.cells.capacity)[0]! / 60_000, r.cells.peak[0]]);
  // Ana twice and two masons on eight hours, of three people; neither Cy nor lime is in it.
  expect(told).toEqual([
    ['Gang', 'crew', 3000, 32, 24, 4000],
    ['None', 'crew', expect.anything(), 0, 0, 0],
  ]);
  // Nothing is counted twice for it, and no line is printed.
  expect([table.counts.over, table.runs.every((r) => r.kind !== 'crew')]).toEqual([table.rows.filter((r) => r.id === 'mason').map((r) => r.runs)[0], true]);
  expect(JSON.stringify(loadJson(doc, sure(schedule(doc).computed), { kind: 'day', weekStart: 0 }, undefined, undefined))).not.toContain('Gang');
});
