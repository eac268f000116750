/** The project file: the same bytes round and round, and nothing that is read ever throws. */
import fc from 'fast-check';
import { writeDocument, writeProjectFile } from '@yellowhammer/core/model/file';
import { readProjectFile, readProjectText } from '@yellowhammer/core/model/read-file';
import { scheduleJson } from '@yellowhammer/core/schedule/schedule-json';
import { differencesOf } from '@yellowhammer/core/compare/views';
import { compareStates } from '@yellowhammer/core/compare/compare';
import { PlanPages } from '@yellowhammer/core/report/plan-report';
import { reportTable } from '@yellowhammer/core/report/plan-table';
import { rollUp } from '@yellowhammer/core/rollup/rollup';
import { plannedPercent, progressPoint } from '@yellowhammer/core/rollup/progress-line';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { viewOf } from '@yellowhammer/core/schedule/view';
import { compileCalendar, resolveCalendar } from '@yellowhammer/core/schedule/calendars';
import { parseInstant } from '@yellowhammer/core/time/instant';
import type { Document } from '@yellowhammer/core/model/document';
import type { Computed } from '@yellowhammer/core/schedule/compute';
import { compute, d, documentOf, planFileOf } from './helpers';
import { planFile, smallPlan } from './twin/plans';

test('write, read, write gives the same bytes', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 100_000 }), (seed) => {
      const first = readProjectFile(JSON.parse(JSON.stringify(planFile(smallPlan(seed))))).file;
      if (!first) throw new Error('not read');
      const text = writeProjectFile(first);
      const again = readProjectText(text);
      expect(again.problems).toEqual([]);
      expect(again.file && writeProjectFile(again.file)).toBe(text);
    }),
    { numRuns: 60 },
  );
});

test.each([
  ['', 'NOT_JSON'],
  ['{"half":', 'NOT_JSON'],
  ['[]', 'NOT_A_PROJECT'],
  ['{"format":"something-else","version":1}', 'NOT_A_PROJECT'],
  ['{"format":"yellowhammer-project","version":7}', 'VERSION'],
  ['{"format":"yellowhammer-project","version":1}', 'NO_PROJECT'],
  [JSON.stringify({ ...planFileOf({ activities: [] }), calendars: [] }), 'UNKNOWN_CALENDAR'],
])('%s is no project', (text, code) => {
  const r = readProjectText(text);
  expect(r.file).toBeUndefined();
  expect(r.problems.map((p) => p.code)).toContain(code);
  expect(r.problems[0]!.message.length).toBeGreaterThan(20);
});

describe('what is wrong is set aside and named; the rest is computed', () => {
  test.each<[string, Record<string, unknown>, string, string]>([
    ['text for a duration counts as 0', { duration: 'ten' }, 'duration', '03-02 08:00 - 03-02 08:00'],
    ['a negative duration counts as 0', { duration: -5 }, 'duration', '03-02 08:00 - 03-02 08:00'],
    ['a date out of range', { deadline: '1850-01-01' }, 'deadline', '03-02 08:00 - 03-02 17:00'],
    ['an unknown calendar', { calendarId: 'moon' }, 'calendarId', '03-02 08:00 - 03-02 17:00'],
    ['an unknown WBS node', { wbsId: 'w' }, 'wbsId', '03-02 08:00 - 03-02 17:00'],
    ['a wrong constraint', { constraints: [{ kind: 'maybe', date: '2026-03-05' }] }, 'constraints.0', '03-02 08:00 - 03-02 17:00'],
    ['an unknown type', { type: 'thing' }, 'type', '03-02 08:00 - 03-02 17:00'],
  ])('%s', (_, fields, field, dates) => {
    const r = compute({
      activities: [
        ['A', '1d', fields],
        ['B', '1d'],
      ],
      links: [],
    });
    expect(r.problems.map((p) => [p.where.id, p.where.field])).toEqual([['A', field]]);
    expect(r.dates['A']).toBe(dates);
    expect(r.dates['B']).toBe('03-02 08:00 - 03-02 17:00');
  });
  test('links to nowhere, of no type, with a lag in words', () => {
    const file = planFileOf({
      activities: [
        ['A', '1d'],
        ['B', '1d'],
      ],
    });
    file['links'] = [{ id: 'x', from: 'A', to: 'Z' }, { id: 'y', from: 'A', to: 'B', type: 'QQ' }, { id: 'z', from: 'A', to: 'B', lag: 'long' }, 7];
    const r = readProjectFile(file);
    expect(r.problems.map((p) => p.code)).toEqual(['WRONG_VALUE', 'WRONG_VALUE', 'WRONG_TYPE', 'UNKNOWN_ACTIVITY']);
    expect([...(r.file?.document.links.values() ?? [])]).toEqual([expect.objectContaining({ id: 'z', lag: 0 })]);
  });
  test('ids and numbers that stand twice', () => {
    const file = planFileOf({
      activities: [
        ['A', '1d'],
        ['A', '2d'],
        ['B', '1d', { code: 'A' }],
      ],
    });
    const r = readProjectFile(file);
    expect(r.problems.map((p) => p.code)).toEqual(['DUPLICATE_ID', 'DUPLICATE_CODE']);
    expect([...(r.file?.document.activities.values() ?? [])].map((a) => a.code)).toEqual(['A', 'A-2']);
  });
});

test.each<[string, Record<string, unknown>, string]>([
  ['more problems than are listed', { activities: Array.from({ length: 1500 }, (_, i) => ({ id: `a${i}`, duration: 'x' })) }, 'MORE_PROBLEMS'],
  [
    'more rows than are read',
    { calendars: Array.from({ length: 301 }, (_, i) => ({ ...(planFileOf({ activities: [] })['calendars'] as object[])[0], id: i ? `c${i}` : 'five', name: `C${i}` })) },
    'TOO_MANY_ROWS',
  ],
  ['nodes deeper than can be handled', { wbs: Array.from({ length: 130 }, (_, i) => ({ id: `w${i}`, name: `W${i}`, parentId: i ? `w${i - 1}` : null })) }, 'WBS_DEPTH'],
  [
    'a baseline that is a restore point',
    {
      snapshots: [{ id: 's', kind: 'restorePoint', at: '2026-03-01T00:00:00.000Z' }],
      copies: { s: planFileOf({ activities: [] }) },
      project: { ...(planFileOf({ activities: [] })['project'] as object), baselineId: 's' },
    },
    'UNKNOWN_BASELINE',
  ],
])('%s: said, and the rest is read', (_, more, code) => {
  const r = readProjectFile({ ...planFileOf({ activities: [] }), ...more });
  expect(r.problems.map((p) => p.code)).toContain(code);
  expect(r.problems.length).toBeLessThanOrEqual(1001);
  expect(r.file).toBeDefined();
  const depth = (id: string | null): number => (id === null ? 0 : 1 + depth(r.file?.document.wbs.get(id)?.parentId ?? null));
  expect(Math.max(0, ...[...(r.file?.document.wbs.keys() ?? [])].map(depth))).toBeLessThanOrEqual(100);
  expect(r.file?.document.project.get('project')?.baselineId ?? null).toBeNull();
});

test('thousands of rows that cannot be read: the file is refused as a whole, and quickly', () => {
  const r = readProjectFile({ ...planFileOf({ activities: [] }), activities: Array.from({ length: 6000 }, () => ({})) });
  expect([r.file, r.problems[0]!.code]).toEqual([undefined, 'UNSOUND']);
});

test('no figure is anything but finite or empty, whatever a calendar states', () => {
  for (const hoursPerDay of [0.001, 24, 1e-9]) {
    const r = compute({
      activities: [
        ['A', '1d @odd'],
        ['B', '2d'],
      ],
      calendars: [{ id: 'odd', name: 'Odd', basedOn: 'five', hoursPerDay, daysPerWeek: 1e-6 }],
    });
    const text = JSON.stringify(r.json, (_, v: unknown) => (typeof v === 'number' && !Number.isFinite(v) ? 'NOT FINITE' : v));
    expect(text).not.toContain('NOT FINITE');
    expect(r.a['A']!.totalFloat?.days).not.toBeNull();
  }
});

test('any JSON in any place: problems come back as a list, nothing throws, nothing hangs', () => {
  const sound = JSON.stringify(
    planFileOf({
      activities: [
        ['A', '3d'],
        ['B', '2d', { constraints: [{ kind: 'startOn', date: '2026-03-05' }] }],
        ['M', 'margin 2d'],
      ],
      links: ['A > B', 'B > M'],
      project: { dataDate: '2026-03-03T08:00' },
    }),
  );
  const odd = fc.oneof(fc.jsonValue({ maxDepth: 2 }), fc.constantFrom<unknown>('2026-02-30', '9999-99-99T99:99', 1e308, -1, 'calendar:', '__proto__', [['08:00']], { id: {} }));
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(), odd), { minLength: 1, maxLength: 4 }), (edits) => {
      const json = JSON.parse(sound) as unknown;
      for (const [n, value] of edits) {
        // A place somewhere in the file, chosen by walking down by the digits of a number.
        let at = json as Record<string, unknown>;
        for (let k = n; ; k = Math.floor(k / 7)) {
          const keys = Object.keys(at);
          if (keys.length === 0) break;
          const key = keys[k % keys.length]!;
          const next = at[key];
          if (k > 6 && typeof next === 'object' && next !== null) at = next as Record<string, unknown>;
          else {
            // A copy: a later edit may land inside it, and JSON holds nothing that holds itself.
            at[key] = structuredClone(value);
            break;
          }
        }
      }
      const read = readProjectFile(json);
      if (read.file) {
        const out = scheduleJson(read.file.document, read.problems, { paths: 3, why: 'A' });
        expect(Array.isArray(out.json['problems'])).toBe(true);
        expect(readProjectText(writeProjectFile(read.file)).file).toBeDefined();
      } else expect(read.problems.length).toBeGreaterThan(0);
    }),
    { numRuns: 300 },
  );
});

const computed = (doc: Document): Computed => {
  const r = schedule(doc).computed;
  if (!r) throw new Error('not computed');
  return r;
};

describe('roll-ups, comparing, reports', () => {
  const file = (more: Record<string, unknown> = {}): Document => {
    const f = planFileOf({
      project: { dataDate: '2026-03-04T08:00', ...more },
      activities: [
        ['A', '2d', { wbsId: 'w2', cost: 100, actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00' }],
        ['B', '6d', { wbsId: 'w2', cost: 900 }],
        ['M', 'finish', { wbsId: 'w1' }],
      ],
      links: ['A > B', 'B > M'],
    });
    f['wbs'] = [
      { id: 'w1', name: 'All' },
      { id: 'w2', name: 'Part', parentId: 'w1' },
    ];
    const doc = readProjectFile(f).file?.document;
    if (!doc) throw new Error('not read');
    return doc;
  };
  test('dates, working duration, percent by duration and by cost, cost', () => {
    // B runs from 4 to 11 March; the node from 2 to 11: eight working days.
    const doc = file();
    expect(rollUp(doc, computed(doc)).get('w2')).toMatchObject({
      start: parseInstant('2026-03-02T08:00'),
      finish: parseInstant('2026-03-11T17:00'),
      duration: d(8),
      percent: 25,
      cost: 1000,
    });
    const byCost = file({ options: { percentWeight: 'cost' } });
    expect(rollUp(byCost, computed(byCost)).get('w1')?.percent).toBe(10);
  });
  test('what changed, by how much, and what did not', () => {
    const before = file();
    const after = file();
    after.activities.set('B', { ...(after.activities.get('B') as never as object), duration: d(8), name: 'B' } as never);
    after.activities.set('X', { ...(after.activities.get('M') as never as object), id: 'X', code: 'X', name: 'X' } as never);
    const c = compareStates({ doc: before, computed: computed(before) }, { doc: after, computed: computed(after) });
    expect([c.finishMoved, c.changed, c.added, c.removed]).toEqual([2, 2, 1, 0]);
    expect(c.rows.find((r) => r.id === 'B')).toMatchObject({ change: 'changed', start: 0, finish: 2, duration: 2 });
    expect(c.rows.find((r) => r.id === 'A')).toMatchObject({ change: 'same' });
    expect(c.rows.find((r) => r.id === 'w2')).toMatchObject({ kind: 'wbs', finish: 2, percent: -5 });
    expect(compareStates({ doc: after, computed: computed(after) }, { doc: before, computed: computed(before) }).removed).toBe(1);
  });
  test('what a change of an option would do, before it is taken over', () => {
    const doc = file();
    const other = file();
    const project = other.project.get('project');
    if (project) other.project.set('project', { ...project, dataDate: '2026-03-05T08:00' });
    const d = differencesOf(doc, viewOf(doc, computed(doc), [], undefined), viewOf(other, computed(other), [], undefined));
    expect([d.finishDays, d.moved.map((m) => [m.id, m.days])]).toEqual([
      1,
      [
        ['B', 1],
        ['M', 1],
      ],
    ]);
    expect([d.criticalBefore, d.criticalAfter]).toEqual([2, 2]);
  });
  test('the paper, its table, the view and the command line show the same dates', () => {
    const doc = file();
    const r = computed(doc);
    const view = viewOf(doc, r, [], undefined);
    const settings = {
      paper: 'a4' as const,
      landscape: true,
      title: '',
      subtitle: '',
      columns: ['code' as const, 'name' as const, 'start' as const, 'finish' as const],
      depth: 0,
      rows: 'all' as const,
      legend: true,
      baseline: true,
    };
    const report = new PlanPages({ doc, view, baseline: null, settings, measure: (t, size) => t.length * size * 0.5, printed: 'today' });
    const pages = Array.from({ length: report.count }, (_, n) => report.page(n));
    const texts = pages.flatMap((p) => p.shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : [])));
    const table = reportTable({ doc, view, baseline: null, settings });
    expect(table.rows.find((x) => x[0] === 'B')).toEqual(['B', 'B', '4 Mar 26', '11 Mar 26']);
    for (const cell of table.rows.flat()) if (cell) expect(texts).toContain(cell);
    const json = scheduleJson(doc, []).json as { projectFinish: string; activities: { id: string; earlyFinish: string; earlyStart: string }[] };
    expect(parseInstant(json.projectFinish)).toBe(view.projectFinish);
    json.activities.forEach((a, i) => expect([parseInstant(a.earlyStart), parseInstant(a.earlyFinish)]).toEqual([view.start[i], view.finish[i]]));
    expect(texts).toContain('11 Mar 26');
    expect(texts.some((t) => t.endsWith('page 1 of 1'))).toBe(true);
    for (const p of pages) for (const s of p.shapes) if (s.kind === 'rect') expect(s.x >= 0 && s.x + s.w <= p.width + 0.01 && s.y + s.h <= p.height).toBe(true);
  });
  test('the progress line: behind, ahead and on time', () => {
    const doc = documentOf({ activities: [] });
    const c = compileCalendar(resolveCalendar(doc.calendars, 'five') as never);
    const t = (s: string): number => parseInstant(s) as number;
    const base = { start: t('2026-03-02T08:00'), finish: t('2026-03-06T17:00') };
    const at = t('2026-03-05T08:00');
    const a = { type: 'task', duration: d(5), actualFinish: null } as const;
    expect(progressPoint({ ...a, actualStart: null, remaining: null } as never, c, base, at).days).toBe(-3);
    expect(progressPoint({ ...a, actualStart: '2026-03-02T08:00', remaining: d(1) } as never, c, base, at).days).toBe(1);
    expect(progressPoint({ ...a, actualStart: '2026-03-02T08:00', remaining: d(2) } as never, c, base, at).days).toBe(0);
    expect(progressPoint({ ...a, actualStart: '2026-03-02T08:00', actualFinish: '2026-03-04T17:00', remaining: null } as never, c, base, at).days).toBe(2);
    // Planned: Monday to Wednesday are three of its five days; nothing before it, all after it.
    const planned = (text: string): number => plannedPercent(c, base, t(text));
    expect(['2026-03-05T08:00', '2026-03-04T13:00', '2026-03-01T08:00', '2026-03-02T08:00', '2026-03-06T17:00', '2026-04-01T08:00'].map(planned)).toEqual([60, 50, 0, 0, 100, 100]);
    // Work of zero length is planned at its instant.
    expect([at, at - 1].map((x) => plannedPercent(c, { start: at, finish: at }, x))).toEqual([100, 0]);
    expect(writeDocument(doc)).toContain('"format": "yellowhammer-project"');
  });
});
