/** What a planner can do, and how it is refused: each refusal names the row, the reason and the way out. */
import { applyChanges, batchSchema, type Change } from '@yellowhammer/core/change/change';
import { addCalendar, deleteCalendar, editCalendar } from '@yellowhammer/core/commands/calendars';
import { cellText, setCell } from '@yellowhammer/core/commands/cells';
import { percentOf } from '@yellowhammer/core/progress/percent';
import { formatHours, parseHours } from '@yellowhammer/core/commands/hours';
import { formatLink, parseLinks, setTypedLinks } from '@yellowhammer/core/commands/links';
import { addActivity, addWbs, deleteRows, dropRows, levelDown, levelUp, moveRows, renameWbs, type RowRef } from '@yellowhammer/core/commands/outline';
import { pasteCells } from '@yellowhammer/core/commands/paste';
import { goBackTo, keepBaseline, setOptions, setProject } from '@yellowhammer/core/commands/project';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { takeOver } from '@yellowhammer/core/commands/update';
import { copyDocument, type Document, projectOf } from '@yellowhammer/core/model/document';
import type { Options } from '@yellowhammer/core/model/schema';
import { outlineRows, wbsCodes } from '@yellowhammer/core/outline/outline';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { viewOf } from '@yellowhammer/core/schedule/view';
import { formatDuration, parseDuration } from '@yellowhammer/core/time/duration';
import { parseDay, parseInstant } from '@yellowhammer/core/time/instant';
import { parseTypedDate } from '@yellowhammer/core/time/typed-date';
import { d, documentOf, must } from './helpers';
import { dueList } from '@yellowhammer/core/progress/due';
import { numbersOf } from '@yellowhammer/core/model/numbers';

let n = 0;
const newId = (): string => `n${++n}`;
const lengths = () => ({ minutesPerDay: 480, daysPerWeek: 5 });
const why = (o: Outcome): string => (o.ok ? 'taken' : o.problems.map((p) => `${p.code}: ${p.message}`).join(' '));
const plan = (): Document =>
  documentOf({
    project: { dataDate: '2026-03-05T08:00' },
    activities: [
      ['A', '3d'],
      ['B', '2d'],
      ['C', '1d'],
      ['M', 'finish'],
      ['G', 'margin 5d'],
    ],
    links: ['A > B'],
  });
const outline = (doc: Document): string[] => {
  const codes = wbsCodes(doc);
  return outlineRows(doc).map((r) => `${'.'.repeat(r.depth)}${r.kind === 'wbs' ? `${codes.get(r.id)} ${r.node.name}` : r.activity.name}`);
};

test.each([
  ['10d', 4800],
  ['4h', 240],
  ['2w', 4800],
  ['30m', 30],
  ['1d 4h', 720],
  ['1.5d', 720],
  ['1,5d', 720],
  ['3', 1440],
  ['-2d', -960],
  ['', undefined],
  ['ten', undefined],
  ['5x', undefined],
])('the duration %s', (text, minutes) => expect(parseDuration(text, lengths())).toBe(minutes));

test.each([
  [4800, '10d'],
  [240, '0.5d'],
  [30, '30m'],
  [60, '1h'],
  [500, '1d 20m'],
  [540, '1d 1h'],
  [0, '0d'],
  [-960, '-2d'],
])('%d minutes are shown as %s', (m, text) => {
  expect(formatDuration(m, lengths())).toBe(text);
  expect(parseDuration(text, lengths())).toBe(m);
});

test.each([
  ['12 mar', '2026-03-12'],
  ['12 Mar 27', '2027-03-12'],
  ['2027-03-12', '2027-03-12'],
  ['12.3.27', '2027-03-12'],
  ['Fri 12 march 2027', '2027-03-12'],
  ['+2w', '2026-03-19'],
  ['-1d', '2026-03-04'],
  ['+1m', '2026-04-05'],
  ['12 mar 14:30', '2026-03-12T14:30'],
  ['20 dec', '2025-12-20'],
  ['31 feb', undefined],
  ['12 mar 1850', undefined],
  ['soon', undefined],
  ['12 mar 25:00', undefined],
])('the date %s typed near 5 March 2026', (text, expected) => expect(parseTypedDate(text, parseDay('2026-03-05') as number)).toBe(expected));

test.each([
  [
    '08:00-12:00, 13:00-17:00',
    [
      [480, 720],
      [780, 1020],
    ],
  ],
  ['8-12', [[480, 720]]],
  ['20:00-04:00', [[1200, 1680]]],
  ['', []],
  ['8:00 to 17:00', [[480, 1020]]],
  ['8-12,10-14', [[480, 840]]],
  ['from 8', undefined],
  ['8:99-9', undefined],
])('the hours %s', (text, expected) => {
  expect(parseHours(text)).toEqual(expected);
  if (expected) expect(parseHours(formatHours(expected as [number, number][]))).toEqual(expected);
});

describe('links as they are typed', () => {
  test.each([
    ['A', [['A', 'FS', 0]]],
    ['Afs+2d', [['A', 'FS', 960]]],
    [
      'A ss - 4h, B',
      [
        ['A', 'SS', -240],
        ['B', 'FS', 0],
      ],
    ],
    ['a FF+1w', [['A', 'FF', 2400]]],
    ['', []],
  ])('%s', (text, expected) => {
    const r = parseLinks(plan(), text, lengths);
    expect('links' in r && r.links.map((l) => [l.activity.code, l.type, l.lag])).toEqual(expected);
  });
  test.each([
    ['Z', 'There is no activity Z'],
    ['A+soon', 'There is no activity'],
    ['A, A', 'stands there twice'],
  ])('%s is refused', (text, message) => {
    const r = parseLinks(plan(), text, lengths);
    expect('error' in r && r.error).toContain(message);
  });
  test('what is shown can be typed again', () => {
    const doc = plan();
    must(doc, setTypedLinks(doc, 'C', 'predecessors', 'Ass+1d, Bff-4h', lengths, newId));
    const text = [...doc.links.values()]
      .filter((l) => l.to === 'C')
      .map((l) => formatLink({ code: l.from }, l, lengths()))
      .join(', ');
    expect(text).toBe('ASS+1d, BFF-0.5d');
    const again = setTypedLinks(doc, 'C', 'predecessors', text, lengths, newId);
    expect(again.ok && again.changes).toEqual([]);
  });
  test('changing a lag keeps the link; what is not typed any more is deleted', () => {
    const doc = plan();
    must(doc, setTypedLinks(doc, 'B', 'predecessors', 'A+3d', lengths, newId));
    expect([...doc.links.values()].map((l) => [l.id, l.lag])).toEqual([['l0', d(3)]]);
    must(doc, setTypedLinks(doc, 'B', 'predecessors', '', lengths, newId));
    expect(doc.links.size).toBe(0);
  });
  test('a loop is refused and named in order', () => {
    const doc = plan();
    must(doc, setTypedLinks(doc, 'C', 'predecessors', 'B', lengths, newId));
    expect(why(setTypedLinks(doc, 'A', 'predecessors', 'C', lengths, newId))).toContain('LOOP: Linking C to A would close a loop: A > B > C > A');
    expect(why(setTypedLinks(doc, 'A', 'predecessors', 'A', lengths, newId))).toContain('cannot be linked to itself');
  });
  test('a margin takes only finish to start', () => expect(why(setTypedLinks(plan(), 'G', 'predecessors', 'Ass', lengths, newId))).toContain('MARGIN_LINK'));
});

describe('cells', () => {
  test.each<[string, string, string, string]>([
    ['duration', 'A', '', 'cannot be read as a duration'],
    ['duration', 'A', '-3d', 'cannot be negative'],
    ['duration', 'M', '3d', 'a milestone has no duration'],
    ['code', 'A', 'B', 'number B is taken by B'],
    ['code', 'A', '', 'a number of 1 to 40 characters is needed'],
    ['constraint', 'A', 'whenever', 'is no constraint'],
    ['constraint', 'A', 'start not before', 'Type a date'],
    ['constraint', 'A', 'start not before 12 mar, finish not before 20 mar', 'cannot stand beside'],
    ['constraint', 'A', 'start not before 12 mar 2300', 'cannot be read'],
    ['deadline', 'A', 'someday', 'cannot be read'],
    ['calendar', 'A', 'Moon week', 'there is no calendar Moon week'],
    ['percent', 'A', '120', 'no percentage'],
    ['percent', 'A', '50', 'Enter its actual start first'],
    ['percent', 'G', '50', 'takes no progress'],
    ['actualStart', 'A', '6 mar', 'lies after the data date'],
    ['actualFinish', 'A', '4 mar', 'needs an actual start'],
    ['remaining', 'A', '2d', 'has not started'],
    ['cost', 'A', 'much', 'cannot be read as an amount'],
    ['type', 'A', 'thing', 'is no type'],
  ])('%s of %s: "%s" is refused', (column, id, text, message) => {
    const o = setCell(plan(), id, column, text, newId);
    expect(why(o)).toContain(message);
    expect(o.ok || o.problems[0]!.where.id).toBe(id);
  });
  test.each<[string, string, string]>([
    ['duration', '2w', '10d'],
    ['constraint', 'start not before 12 mar', 'start not before 12 Mar 26'],
    ['constraint', 'as late as possible', 'as late as possible'],
    ['deadline', '1 apr', '1 Apr 26'],
    ['calendar', 'six', 'Six'],
    ['actualStart', '4 mar', '4 Mar 26, 08:00'],
    ['cost', '12,500', '12500'],
    ['type', 'finish milestone', 'Finish milestone'],
    ['name', ' Dig ', 'Dig'],
  ])('%s: "%s" is shown as "%s", and that can be typed again', (column, text, shown) => {
    const doc = plan();
    must(doc, setCell(doc, 'A', column, text, newId));
    const read = (): string => cellText(doc, doc.activities.get('A') as never, column as never);
    expect(read()).toBe(shown);
    must(doc, setCell(doc, 'A', column, shown, newId));
    expect(read()).toBe(shown);
  });
  test('a new duration of started work leaves what is done', () => {
    const doc = plan();
    must(doc, setCell(doc, 'A', 'actualStart', '2 mar', newId));
    must(doc, setCell(doc, 'A', 'percent', '50', newId));
    must(doc, setCell(doc, 'A', 'duration', '5d', newId));
    expect(doc.activities.get('A')).toMatchObject({ duration: d(5), remaining: d(3.5) });
    expect(percentOf(doc.activities.get('A') as never)).toBe(30);
  });
});

describe('outline', () => {
  const start = (): { doc: Document; refs: Record<string, RowRef> } => {
    const doc = documentOf({ activities: [] });
    const refs: Record<string, RowRef> = {};
    const node = (name: string, below: RowRef | null): void => void (refs[name] = { kind: 'wbs', id: must(doc, addWbs(doc, below, name, newId))[0]! });
    const act = (name: string, below: RowRef | null): void => void (refs[name] = { kind: 'activity', id: must(doc, addActivity(doc, below, { name }, newId))[0]! });
    node('Base', null);
    act('dig', refs['Base']!);
    act('pour', refs['dig']!);
    node('Frame', refs['Base']!);
    act('erect', refs['Frame']!);
    return { doc, refs };
  };
  test('rows go where a planner expects them, with outline numbers', () => {
    expect(outline(start().doc)).toEqual(['1 Base', '.dig', '.pour', '2 Frame', '.erect']);
  });
  test('down and up are inverses; down goes into the node above', () => {
    const { doc, refs } = start();
    must(doc, levelDown(doc, [refs['Frame']!]));
    expect(outline(doc)).toEqual(['1 Base', '.dig', '.pour', '.1.1 Frame', '..erect']);
    must(doc, levelUp(doc, [refs['Frame']!]));
    expect(outline(doc)).toEqual(['1 Base', '.dig', '.pour', '2 Frame', '.erect']);
    must(doc, levelUp(doc, [refs['dig']!, refs['pour']!]));
    expect(outline(doc)).toEqual(['1 Base', 'dig', 'pour', '2 Frame', '.erect']);
    must(doc, levelDown(doc, [refs['dig']!, refs['pour']!]));
    expect(outline(doc)).toEqual(['1 Base', '.dig', '.pour', '2 Frame', '.erect']);
    expect(why(levelDown(doc, [refs['dig']!]))).toContain('no WBS node above');
    expect(why(levelUp(doc, [refs['Base']!]))).toContain('top level');
  });
  test('moving goes past the end into the next node', () => {
    const { doc, refs } = start();
    must(doc, moveRows(doc, [refs['dig']!], 'down'));
    expect(outline(doc)).toEqual(['1 Base', '.pour', '.dig', '2 Frame', '.erect']);
    must(doc, moveRows(doc, [refs['dig']!], 'down'));
    expect(outline(doc)).toEqual(['1 Base', '.pour', '2 Frame', '.dig', '.erect']);
    must(doc, moveRows(doc, [refs['Frame']!], 'up'));
    expect(outline(doc)).toEqual(['1 Frame', '.dig', '.erect', '2 Base', '.pour']);
    expect(why(moveRows(doc, [refs['Frame']!], 'up'))).toContain('nothing further up');
    must(doc, dropRows(doc, [refs['erect']!], refs['pour']!, 'before'));
    expect(outline(doc)).toEqual(['1 Frame', '.dig', '2 Base', '.erect', '.pour']);
    expect(why(dropRows(doc, [refs['Base']!], refs['pour']!, 'before'))).toContain('inside itself');
  });
  test('the WBS node of an activity can be typed, by number or name', () => {
    const { doc, refs } = start();
    must(doc, setCell(doc, refs['dig']!.id, 'wbs', '2', newId));
    expect(outline(doc)).toEqual(['1 Base', '.pour', '2 Frame', '.erect', '.dig']);
    must(doc, setCell(doc, refs['dig']!.id, 'wbs', 'base', newId));
    expect(cellText(doc, doc.activities.get(refs['dig']!.id) as never, 'wbs')).toBe('1');
    must(doc, setCell(doc, refs['dig']!.id, 'wbs', '', newId));
    expect(outline(doc)).toEqual(['1 Base', '.pour', '2 Frame', '.erect', 'dig']);
    expect(why(setCell(doc, refs['dig']!.id, 'wbs', '7', newId))).toContain('there is no WBS node 7');
  });
  test('many inserts at one place never run out of room', () => {
    const { doc, refs } = start();
    for (let i = 0; i < 80; i++) must(doc, addActivity(doc, refs['dig']!, { name: `x${i}` }, newId));
    expect(outline(doc).slice(1, 4)).toEqual(['.dig', '.x79', '.x78']);
    expect(outline(doc)[81]).toBe('.x0');
    expect(new Set([...doc.activities.values()].map((a) => a.code)).size).toBe(83);
  });
  test('deleting a node takes what is in it, and links with it', () => {
    const { doc, refs } = start();
    must(doc, setTypedLinks(doc, refs['erect']!.id, 'predecessors', doc.activities.get(refs['dig']!.id)?.code ?? '', lengths, newId));
    must(doc, deleteRows(doc, [refs['Base']!]));
    expect([doc.wbs.size, doc.activities.size, doc.links.size]).toEqual([1, 1, 0]);
  });
  test('numbers count on plainly, from the first where there are none, and never look like WBS codes', () => {
    const { doc } = start();
    const next = (options: Partial<Options>): string => {
      const d = copyDocument(doc);
      applyChanges(d, (setOptions(d, options) as { changes: Change[] }).changes);
      return numbersOf(d).next();
    };
    const greatest = Math.max(...[...doc.activities.values()].map((a) => Number(a.code)));
    expect([next({}), next({ numberStep: 10 })]).toEqual([String(greatest + 1), String(greatest + 10)]);
    const empty = plan();
    expect(numbersOf(empty).next()).toBe('101');
    for (let n = 0; n < 4; n++) must(empty, addWbs(empty, null, `N${n}`, newId));
    must(empty, setOptions(empty, { numberFrom: 2, numberStep: 1 }));
    const numbers = numbersOf(empty);
    expect([numbers.next(), numbers.next()]).toEqual(['5', '6']);
    expect(['3', '1.2', '5', '40', 'A7'].map((c) => numbers.take(c))).toEqual([false, false, false, true, true]);
  });
});

describe('paste', () => {
  test('rows from a spreadsheet become activities, with links among them', () => {
    const doc = plan();
    must(
      doc,
      pasteCells(
        doc,
        [null, null],
        ['name', 'duration', 'code', 'predecessors'],
        [
          ['Dig', '5d', '500', ''],
          ['Pour', '2d', '510', '500ss+1d'],
        ],
        newId,
        { kind: 'activity', id: 'B' },
      ),
    );
    expect(outline(doc)).toEqual(['A', 'B', 'Dig', 'Pour', 'C', 'M', 'G']);
    expect([...doc.links.values()].pop()).toMatchObject({ type: 'SS', lag: d(1) });
  });
  test('a wrong cell is named and nothing is pasted', () => {
    const doc = plan();
    expect(why(pasteCells(doc, [{ kind: 'activity', id: 'A' }, null], ['duration'], [['4d'], ['long']], newId))).toContain('Row 2, duration');
    expect(doc.activities.get('A')?.duration).toBe(d(3));
  });
});

describe('calendars', () => {
  test('a change that would leave no work is refused, also in what is based on it', () => {
    const doc = plan();
    const [child] = must(doc, addCalendar(doc, { name: 'Child', basedOn: 'six' }, newId));
    expect(why(editCalendar(doc, 'six', { week: [[], [], [], [], [], [], []] }))).toContain('CALENDAR_EMPTY');
    expect(why(editCalendar(doc, 'six', { basedOn: child }))).toContain('CALENDAR_LOOP');
    expect(why(editCalendar(doc, 'six', { name: 'five' }))).toContain('NAME_TAKEN');
    expect(why(editCalendar(doc, 'six', { exceptions: [{ name: 'x', from: '2026-05-02', to: '2026-05-01', yearly: false, work: [] }] }))).toContain('ends before it begins');
    expect(why(deleteCalendar(doc, 'six'))).toContain('used by the calendar Child');
    expect(why(deleteCalendar(doc, 'five'))).toContain('used by the project');
    expect(why(deleteCalendar(doc, 'clock'))).toBe('taken');
  });
});

describe('baselines and updates', () => {
  const at = '2026-03-05T12:00:00.000Z';
  test('a baseline needs a name of its own, and is compared with at once', () => {
    const doc = plan();
    expect(why(keepBaseline(doc, { id: 'b1', name: ' ', description: '', at }))).toContain('NAME_NEEDED');
    must(doc, keepBaseline(doc, { id: 'b1', name: 'First', description: '', at }));
    expect(projectOf(doc).baselineId).toBe('b1');
    expect(why(keepBaseline(doc, { id: 'b2', name: 'First', description: '', at }))).toContain('NAME_TAKEN');
    expect(why(keepBaseline(documentOf({ activities: [] }), { id: 'b', name: 'x', description: '', at }))).toContain('NOTHING_TO_KEEP');
  });
  test('the due list tells why each is due', () => {
    const doc = plan();
    // From 5 March: A 5 to 9, B 10 to 11, C 5, M and G at once.
    const r = schedule(doc).computed;
    expect(r && dueList(doc, viewOf(doc, r, [], undefined), parseInstant('2026-03-10T12:00') as number)).toEqual([
      { id: 'A', group: 'finish' },
      { id: 'B', group: 'start' },
      { id: 'C', group: 'finish' },
      { id: 'M', group: 'finish' },
    ]);
  });
  test('an update keeps a restore point, and going back makes the plan what it was', () => {
    const doc = plan();
    const before = copyDocument(doc);
    const made = must(doc, takeOver(doc, { dataDate: '2026-03-10T08:00', entries: new Map([['A', { actualStart: '2026-03-05T08:00', remaining: d(2) }]]), at }, newId));
    expect([...doc.snapshots.values()].map((s) => s.kind)).toEqual(['restorePoint', 'statusUpdate']);
    expect(projectOf(doc).dataDate).toBe('2026-03-10T08:00');
    must(doc, goBackTo(doc, made[0]!, before));
    expect(projectOf(doc).dataDate).toBe('2026-03-05T08:00');
    expect(doc.activities).toEqual(before.activities);
    expect(why(goBackTo(doc, made[0]!, before))).toContain('nothing to take back');
  });
  test('wrong entries are named and nothing is taken over', () => {
    const doc = plan();
    const take = (dataDate: string, entry: object): string => why(takeOver(doc, { dataDate, entries: new Map([['A', entry]]), at }, newId));
    expect(take('2026-03-10T08:00', { actualStart: '2026-03-11T08:00' })).toContain('lies after the data date');
    expect(take('2026-03-10T08:00', { actualFinish: '2026-03-09T08:00' })).toContain('needs an actual start');
    expect(take('2026-03-01T08:00', {})).toContain('DATA_DATE_BACK');
    expect(projectOf(doc).dataDate).toBe('2026-03-05T08:00');
  });
  test('a data date before an actual is refused', () => {
    const doc = plan();
    must(doc, setCell(doc, 'A', 'actualStart', '4 mar', newId));
    expect(why(setProject(doc, { dataDate: '2026-03-03T08:00' }))).toContain('ACTUAL_AFTER_DATA_DATE');
    expect(why(setProject(doc, { calendarId: 'none' }))).toContain('UNKNOWN_CALENDAR');
  });
});

test('names as long as they may be make labels that the log takes, and longer ones are refused', () => {
  const doc = plan();
  const name = 'x'.repeat(500);
  for (const outcome of [addActivity(doc, null, { name }, newId), addWbs(doc, null, name, newId), setCell(doc, 'A', 'name', name, newId)]) {
    if (!outcome.ok) throw new Error(outcome.problems[0]!.message);
    expect(batchSchema.safeParse({ changeId: 'long-names', kind: 'do', target: null, label: outcome.label, changes: outcome.changes }).success).toBe(true);
  }
  const node = must(doc, addWbs(doc, null, 'Short', newId))[0]!;
  must(doc, renameWbs(doc, node, `  ${name} `));
  expect(doc.wbs.get(node)?.name).toBe(name);
  expect(why(renameWbs(doc, node, `${name}x`))).toContain('longer than 500');
  expect(why(addActivity(doc, null, { name: `${name}x` }, newId))).toContain('longer than 500');
  expect(why(addWbs(doc, null, `${name}x`, newId))).toContain('longer than 500');
  expect(why(renameWbs(doc, 'gone', 'x'))).toContain('UNKNOWN_WBS');
});
