/** Rules of rows: what no command and no change may bring about, whoever asks. */
import { applyChanges, type Change, checkChanges } from '@yellowhammer/core/change/change';
import { SyncedProject } from '@yellowhammer/core/change/synced';
import { setActivities, setCell, setCells } from '@yellowhammer/core/commands/cells';
import { editLink, linkInOrder } from '@yellowhammer/core/commands/links';
import { addActivity } from '@yellowhammer/core/commands/outline';
import { keepBaseline, newProject, setOptions, setProject } from '@yellowhammer/core/commands/project';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import type { Activity } from '@yellowhammer/core/model/schema';
import { changeProblems, standingOf, standingProblems } from '@yellowhammer/core/rules/check';
import type { TableName } from '@yellowhammer/core/model/tables';
import { documentOf, must, peopledPlan, planFileOf, sure } from './helpers';

let ids = 0;
const newId = (): string => `new${++ids}`;
const plan = (): Document =>
  documentOf({
    project: { dataDate: '2026-03-05T00:00', requiredFinish: '2026-04-01T17:00' },
    activities: [
      ['A', '3d'],
      ['B', '2d', { actualStart: '2026-03-02T08:00' }],
      ['M', 'finish'],
      ['R', 'margin 4d'],
      ['L', 'effort'],
    ],
    links: ['A > B', 'A SS > L'],
  });
const why = (o: Outcome): string => (o.ok ? '' : o.problems.map((p) => `${p.code} ${p.where.field ?? ''}: ${p.message}`).join('\n'));

describe('commands refuse what breaks a rule, with the row, the field and the reason', () => {
  test.each<[string, (doc: Document) => Outcome, RegExp]>([
    ['a planned start that is none', (d) => setProject(d, { plannedStart: 'nonsense' }), /WRONG_VALUE plannedStart: Project Test: planned start cannot be taken: an instant/],
    ['a required finish before the planned start', (d) => setProject(d, { requiredFinish: '2026-03-02T08:00' }), /FINISH_BEFORE_START requiredFinish/],
    ['a planned start after the required finish', (d) => setProject(d, { plannedStart: '2026-04-01T17:00' }), /FINISH_BEFORE_START/],
    ['a calendar that is not there', (d) => setProject(d, { calendarId: 'none' }), /UNKNOWN_CALENDAR calendarId/],
    ['a baseline that is none', (d) => setProject(d, { baselineId: 'none' }), /UNKNOWN_BASELINE baselineId/],
    ['a data date before an actual date', (d) => setProject(d, { dataDate: '2026-03-02T07:59' }), /ACTUAL_AFTER_DATA_DATE : Activity B B has an actual date after the data date/],
    ['no data date where there are actual dates', (d) => setProject(d, { dataDate: null }), /ACTUAL_AFTER_DATA_DATE/],
    ['an option out of its range', (d) => setOptions(d, { nearCriticalThreshold: 1e9 }), /WRONG_VALUE options/],
    ['a negative duration', (d) => setActivities(d, ['A'], { duration: -60 }), /WRONG_VALUE duration: Activity A A: duration cannot be taken: it cannot be negative/],
    ['half a minute', (d) => setActivities(d, ['A'], { duration: 0.5 }), /WRONG_VALUE duration/],
    ['a duration beyond all plans', (d) => setActivities(d, ['A'], { duration: 60_000_001 }), /WRONG_VALUE duration/],
    ['a name of 501 characters', (d) => setActivities(d, ['A'], { name: 'x'.repeat(501) }), /WRONG_VALUE name/],
    ['a milestone of two days', (d) => setActivities(d, ['M'], { duration: 960 }), /WRONG_VALUE duration: Activity M M: a milestone has no duration/],
    ['a task with a length made a milestone', (d) => setActivities(d, ['A'], { type: 'finishMilestone' }), /a milestone has no duration/],
    ['a lag of a million millions', (d) => editLink(d, 'l0', { lag: 1e12 }), /WRONG_VALUE lag: Link A to B: lag cannot be taken/],
    ['half a minute of lag', (d) => editLink(d, 'l0', { lag: 0.5 }), /WRONG_VALUE lag/],
    ['a lag out of range on new links', (d) => linkInOrder(d, ['B', 'M'], newId, 'FS', 1e12), /WRONG_VALUE lag/],
    ['a number that another has', (d) => setActivities(d, ['A'], { code: 'b' }), /DUPLICATE_CODE code: Activity b A: number b is taken by B/],
    ['one number for two', (d) => setActivities(d, ['A', 'B'], { code: 'Z' }), /DUPLICATE_CODE/],
    [
      'a constraint on a margin',
      (d) => setActivities(d, ['R'], { constraints: [{ kind: 'startNotBefore', date: '2026-03-09' }] }),
      /constraints: Activity R R: a margin takes no constraints/,
    ],
    [
      'two lower bounds',
      (d) =>
        setActivities(d, ['A'], {
          constraints: [
            { kind: 'startNotBefore', date: '2026-03-09' },
            { kind: 'finishNotBefore', date: '2026-03-09' },
          ],
        }),
      /cannot stand beside the other constraint/,
    ],
    ['progress of a level of effort', (d) => setActivities(d, ['L'], { actualStart: '2026-03-02T08:00' }), /takes no progress/],
    ['an actual start after the data date', (d) => setActivities(d, ['A'], { actualStart: '2026-03-05T00:01' }), /lies after the data date/],
    ['an actual finish without a start', (d) => setActivities(d, ['A'], { actualFinish: '2026-03-04T17:00' }), /needs an actual start/],
    [
      'work that goes on before it rests',
      (d) => setActivities(d, ['B'], { suspend: '2026-03-04T17:00', resume: '2026-03-04T16:59' }),
      /resume: Activity B B: it would resume before it is suspended/,
    ],
    ['a new activity with a number that is taken', (d) => addActivity(d, null, { code: 'a' }, newId), /DUPLICATE_CODE/],
    ['a new milestone with a duration', (d) => addActivity(d, null, { type: 'finishMilestone', fields: { duration: 60 } }, newId), /a milestone has no duration/],
  ])('%s', (_, command, reason) => {
    const doc = plan();
    expect(why(command(doc))).toMatch(reason);
    expect(doc).toEqual(plan());
  });

  test.each<[string, (doc: Document) => Outcome]>([
    ['an actual date at 24:00, where the data date is 00:00 of the next day', (d) => setActivities(d, ['A'], { actualStart: '2026-03-04T24:00' })],
    ['a data date at 24:00 of the day of an actual date', (d) => setProject(d, { dataDate: '2026-03-02T24:00' })],
    ['a data date right at an actual date', (d) => setProject(d, { dataDate: '2026-03-02T08:00' })],
    ['resuming at the minute of suspending', (d) => setActivities(d, ['B'], { suspend: '2026-03-03T24:00', resume: '2026-03-04T00:00' })],
    ['the longest duration there is', (d) => setActivities(d, ['A'], { duration: 60_000_000 })],
    ['numbers exchanged in one act', (d) => ({ ok: true, label: '', changes: swapped(d) })],
  ])('%s may be', (_, command) => {
    const doc = plan();
    const o = command(doc);
    expect([why(o), o.ok && changeProblems(o.changes, standingOf(doc))]).toEqual(['', []]);
  });
});

function swapped(doc: Document): Change[] {
  const [a, b] = [sure(doc.activities.get('A')), sure(doc.activities.get('B'))];
  return [
    { table: 'activities', id: 'A', before: a, after: { ...a, code: 'B' } },
    { table: 'activities', id: 'B', before: b, after: { ...b, code: 'A' } },
  ];
}

test('what breaks a rule already may be changed otherwise, and mended; the plan check names it', () => {
  const doc = plan();
  const odd: Activity = { ...sure(doc.activities.get('M')), duration: 480, constraints: [] };
  applyChanges(doc, [{ table: 'activities', id: 'M', before: null, after: odd }]);
  expect(standingProblems(doc).map((p) => [p.code, p.severity, p.where.id, p.where.field])).toEqual([['WRONG_VALUE', 'warning', 'M', 'duration']]);
  must(doc, setActivities(doc, ['M'], { name: 'Handover' }));
  expect(
    why(
      setActivities(doc, ['M'], {
        duration: 960,
        constraints: [
          { kind: 'startOn', date: '2026-03-09' },
          { kind: 'startOn', date: '2026-03-10' },
        ],
      }),
    ),
  ).toMatch(/cannot stand beside/);
  must(doc, setActivities(doc, ['M'], { duration: 0 }));
  expect(standingProblems(doc)).toEqual([]);
});

test('a file with such rows is read: what cannot be is set aside and listed', () => {
  const file = planFileOf({ activities: [['M', 'finish', { duration: 960 }]] });
  const read = readProjectFile(file);
  expect(read.problems.map((p) => [p.code, p.severity, p.where.field])).toEqual([['WRONG_VALUE', 'warning', 'duration']]);
  expect(sure(read.file).document.activities.get('M')?.duration).toBe(0);
});

test('numbers that two windows give at the same time: the later window takes the next ones, and undo knows them', () => {
  const start = plan();
  const make = (doc: Document, name: string) => {
    const o = addActivity(doc, null, { name }, newId);
    if (!o.ok) throw new Error(why(o));
    return { changeId: newId().padStart(8, '0'), label: o.label, kind: 'do' as const, target: null, changes: o.changes };
  };
  const theirs = make(start, 'theirs');
  const window = new SyncedProject(copyDocument(start), 1);
  const mine = make(window.doc, 'mine');
  window.local(mine);
  expect((mine.changes[0]!.after as Activity).code).toBe((theirs.changes[0]!.after as Activity).code);
  expect(window.remote([{ ...theirs, revision: 2, who: 'Ada', client: 'other', at: '' }])).toEqual([]);
  const codes = [...window.doc.activities.values()].map((a) => a.code);
  expect(new Set(codes).size).toBe(codes.length);
  expect((window.pending[0]!.changes[0]!.after as Activity).code).toBe('102');
  // What is sent is what stands in the window.
  expect(window.doc.activities.get(mine.changes[0]!.id)).toEqual(window.pending[0]!.changes[0]!.after);

  // A number that was typed into a row is no new one: the person decides.
  const b = sure(window.doc.activities.get('B'));
  window.local({ changeId: 'typed-0001', label: 'Set number', kind: 'do', target: null, changes: [{ table: 'activities', id: 'B', before: b, after: { ...b, code: 'Q' } }] });
  const q = { ...(theirs.changes[0]!.after as Activity), id: 'q', code: 'q' };
  const found = window.remote([
    {
      changeId: 'other-0002',
      label: 'Add q',
      kind: 'do',
      target: null,
      changes: [{ table: 'activities', id: 'q', before: null, after: q }],
      revision: 3,
      who: 'Ada',
      client: 'other',
      at: '',
    },
  ]);
  expect(found.map((c) => c.rows.map((r) => r.id))).toEqual([['B']]);
});

test('a number that two rows share all the same is told by the plan check', () => {
  const doc = plan();
  applyChanges(doc, [{ table: 'activities', id: 'B', before: null, after: { ...sure(doc.activities.get('B')), code: 'a' } }]);
  expect(standingProblems(doc).map((p) => p.message)).toEqual(['Number A is used by 2 activities: A, B. Give each its own, since links are typed with it.']);
});

test('clearing the WBS of three rows puts them one after the other', () => {
  const doc = plan();
  doc.wbs.set('w', { id: 'w', rank: 0, parentId: null, name: 'W', code: '', lane: false, notes: '', values: {} });
  for (const id of ['A', 'B', 'M']) doc.activities.set(id, { ...sure(doc.activities.get(id)), wbsId: 'w' });
  must(doc, setCells(doc, ['M', 'A', 'B'], 'wbs', '', newId));
  const ranks = ['R', 'L', 'M', 'A', 'B'].map((id) => sure(doc.activities.get(id)).rank);
  expect([...ranks].sort((a, b) => a - b)).toEqual(ranks);
  expect(new Set(ranks).size).toBe(5);
});

test('one wrong row, and none of many is changed; the label says what was done to how many', () => {
  const doc = plan();
  expect(why(setCells(doc, ['A', 'M'], 'duration', '5d', newId))).toContain('a milestone has no duration');
  expect(doc).toEqual(plan());
  const o = setCells(doc, ['A', 'B'], 'duration', '5d', newId);
  expect(o).toMatchObject({ ok: true, label: 'Set duration of 2 activities' });
  expect(setCells(doc, ['A', 'B'], 'cost', '', newId)).toMatchObject({ ok: true, label: 'Clear cost of 2 activities' });
  expect(why(setCell(doc, 'A', 'float', '3d', newId))).toContain('Float is computed');
  expect(why(setCells(doc, [], 'cost', '3', newId))).toContain('Select activities first');
});

test('every change that arrives is checked for the shapes of its rows', () => {
  const a = sure(plan().activities.get('A'));
  const { problems } = checkChanges([{ table: 'activities', id: 'A', before: a, after: { ...a, duration: -1, cost: 'much' } }]);
  expect(problems[0]?.message).toContain('duration');
  const baseline = keepBaseline(plan(), { id: 'b', name: ' ', description: '', at: '2026-03-05T08:00:00.000Z' });
  expect(why(baseline)).toContain('Give the baseline a name');
  expect(newProject({ code: 'P', name: 'P', plannedStart: '2026-03-02T08:00' }, newId).calendars.size).toBe(1);
});

describe('a row names what is there', () => {
  const doc = () =>
    peopledPlan(
      {
        activities: [
          ['A', '1d'],
          ['B', '1d'],
        ],
        links: ['A > B'],
      },
      { roles: [{ id: 'mason', name: 'mason' }], resources: [{ id: 'ana' }], assignments: [{ activityId: 'A', resourceId: 'ana', work: 480_000 }] },
    );
  const told = (d: Document, table: TableName, id: string, fields: object): string[] => {
    const before = d[table].get(id) as never;
    return changeProblems([{ table, id, before, after: { ...(before as object), ...fields } as never }], standingOf(d)).map(
      (p) => `${p.code} ${p.message} @${p.where.field ?? ''}`,
    );
  };
  test.each<[TableName, string, object, string[]]>([
    ['activities', 'A', { calendarId: 'zz' }, ['UNKNOWN_CALENDAR Activity A A: the calendar that it names is not in the project any more. Choose another. @calendarId']],
    ['activities', 'A', { calendarId: 'six', wbsId: null }, []],
    ['activities', 'A', { wbsId: 'zz' }, ['UNKNOWN_WBS Activity A A: the WBS node that it names is not in the project any more. Choose another. @wbsId']],
    ['links', 'l0', { lagCalendar: 'calendar:zz' }, ['UNKNOWN_CALENDAR Link A to B: the calendar that it names is not in the project any more. Choose another. @lagCalendar']],
    ['links', 'l0', { lagCalendar: 'calendar:six' }, []],
    ['links', 'l0', { lagCalendar: 'successor' }, []],
    ['resources', 'ana', { roleId: 'zz' }, ['UNKNOWN_ROLE Resource ana: the role that it names is not in the project any more. Choose another. @roleId']],
    ['resources', 'ana', { roleId: 'mason' }, []],
    ['assignments', 'x0', { accountId: 'zz' }, ['UNKNOWN_ACCOUNT Assignment ana on A: the account that it names is not in the project any more. Choose another. @accountId']],
  ])('%s %s with %j', (table, id, fields, expected) => expect(told(doc(), table, id, fields)).toEqual(expected));
  test('what named something that is gone may stay so and be changed otherwise; what comes in the same changes is there', () => {
    const d = doc();
    d.activities.set('A', { ...sure(d.activities.get('A')), calendarId: 'zz' });
    expect(told(d, 'activities', 'A', { name: 'new' })).toEqual([]);
    const a = sure(d.activities.get('B'));
    const node = { id: 'n', rank: 0, parentId: null, name: 'N', code: '', lane: false, notes: '', values: {} };
    const moved = { table: 'activities' as const, id: 'B', before: a, after: { ...a, wbsId: 'n' } };
    expect(changeProblems([moved, { table: 'wbs', id: 'n', before: null, after: node }], standingOf(d))).toEqual([]);
    // Gone with the same changes it is not there.
    d.wbs.set('n', node);
    expect(changeProblems([moved, { table: 'wbs', id: 'n', before: node, after: null }], standingOf(d)).map((p) => p.code)).toEqual(['UNKNOWN_WBS']);
  });
});
