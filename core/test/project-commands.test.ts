/** Commands on the project as a whole, status updates, and what a spreadsheet pastes: words, rows, refusals. */
import { applyChanges } from '@yellowhammer/core/change/change';
import { addActivity, type RowRef } from '@yellowhammer/core/commands/outline';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { pasteCells } from '@yellowhammer/core/commands/paste';
import { baselinesOf, deleteSnapshot, goBackTo, keepBaseline, newProject, setOptions, setProject, snapshotChange } from '@yellowhammer/core/commands/project';
import { entryProblems, takeOver } from '@yellowhammer/core/commands/update';
import { copyDocument, type Document, projectOf } from '@yellowhammer/core/model/document';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { documentOf, must, mustBack, nodeInto, ownFieldOf, sure, tells } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;
const at = '2026-03-02T10:00:00.000Z';
const plan = (): Document =>
  documentOf({
    activities: [
      ['A', '2d'],
      ['B', '1d'],
    ],
    links: ['A > B'],
  });

describe('a new project', () => {
  test('has a five-day week, its options as usual and nothing else', () => {
    const doc = newProject({ code: 'P', name: 'Pier', plannedStart: '2026-03-02T08:00' }, () => 'cal');
    expect([...doc.calendars.values()]).toEqual([
      {
        id: 'cal',
        rank: 0,
        name: 'Five-day week',
        basedOn: null,
        week: [
          ...Array.from({ length: 5 }, () => [
            [480, 720],
            [780, 1020],
          ]),
          [],
          [],
        ],
        exceptions: [],
        hoursPerDay: null,
        daysPerWeek: null,
        sharedId: null,
      },
    ]);
    expect(projectOf(doc)).toMatchObject({
      id: 'project',
      rank: 0,
      code: 'P',
      name: 'Pier',
      calendarId: 'cal',
      dataDate: null,
      requiredFinish: null,
      baselineId: null,
      currency: '',
      notes: '',
    });
    expect(doc.activities.size + doc.wbs.size).toBe(0);
  });
  test('takes what is given', () => {
    const calendar = { ...sure(plan().calendars.get('six')), id: 'own' };
    const doc = newProject({ code: 'P', name: 'Pier', plannedStart: '2026-03-02T08:00', requiredFinish: '2026-06-01T17:00', currency: 'marks', calendar }, newId);
    expect(projectOf(doc)).toMatchObject({ requiredFinish: '2026-06-01T17:00', currency: 'marks', calendarId: 'own' });
    expect([...doc.calendars.keys()]).toEqual(['own']);
  });
});

test('settings say what they set', () => {
  const doc = plan();
  const o = setProject(doc, { name: 'Pier', plannedStart: '2026-03-03T08:00' });
  expect(tells(o)).toBe('Set name, planned start of T');
  mustBack(doc, o);
  const options = setOptions(doc, { criticalThreshold: 3 });
  expect(tells(options)).toBe('Change project options');
  mustBack(doc, options);
  expect(projectOf(doc)).toMatchObject({ name: 'Pier', options: { criticalThreshold: 3, numberStep: 1 } });
});

describe('kept copies', () => {
  const keep = (name: string, more: object = {}) => ({ id: newId(), name, description: '', at, ...more });
  test('the first baseline is compared with, later ones where that is wished', () => {
    const doc = plan();
    const o = keepBaseline(doc, { ...keep(' First '), id: 'b1', description: 'why' });
    expect(tells(o)).toBe('Keep baseline First');
    expect(mustBack(doc, o)).toEqual(['b1']);
    expect(doc.snapshots.get('b1')).toEqual({ id: 'b1', rank: 0, kind: 'baseline', name: 'First', description: 'why', at, dataDate: null });
    expect(projectOf(doc).baselineId).toBe('b1');
    must(doc, setProject(doc, { dataDate: '2026-03-02T08:00' }));
    mustBack(doc, keepBaseline(doc, { ...keep('Second'), id: 'b2' }));
    expect([projectOf(doc).baselineId, sure(doc.snapshots.get('b2')).rank, sure(doc.snapshots.get('b2')).dataDate]).toEqual(['b1', 1, '2026-03-02T08:00']);
    mustBack(doc, keepBaseline(doc, { ...keep('Third'), id: 'b3', compare: true }));
    expect(projectOf(doc).baselineId).toBe('b3');
    expect(baselinesOf(doc).map((s) => s.id)).toEqual(['b1', 'b2', 'b3']);
  });
  test.each([
    ['', 'NAME_NEEDED Give the baseline a name, so that it can be told from others. @name'],
    [' First ', 'NAME_TAKEN There is a baseline First already. Choose another name. @name'],
    // Restore points may be called alike.
    ['Point', 'Keep baseline Point'],
  ])('a baseline called "%s"', (name, words) => {
    const doc = plan();
    must(doc, keepBaseline(doc, keep('First')));
    applyChanges(doc, [snapshotChange(doc, { id: 'r', kind: 'restorePoint', name: 'Point', at })]);
    expect(tells(keepBaseline(doc, keep(name)))).toBe(words);
  });
  test('of an empty plan nothing is kept', () =>
    expect(tells(keepBaseline(documentOf({ activities: [] }), keep('x')))).toBe('NOTHING_TO_KEEP The plan has no activities yet. Add some before keeping a baseline. @'));
  test('deleted, the one compared with leaves none; another leaves it', () => {
    const doc = plan();
    must(doc, keepBaseline(doc, { ...keep('First'), id: 'b1' }));
    must(doc, keepBaseline(doc, { ...keep('Second'), id: 'b2' }));
    applyChanges(doc, [snapshotChange(doc, { id: 'r', kind: 'restorePoint', name: 'Point', at }), snapshotChange(doc, { id: 'u', kind: 'statusUpdate', name: 'March', at })]);
    expect(['b2', 'r', 'u', 'gone'].map((id) => tells(deleteSnapshot(doc, id)))).toEqual([
      'Delete baseline Second',
      'Delete restore point Point',
      'Delete status update March',
      'UNKNOWN_SNAPSHOT That copy is not there any more. @',
    ]);
    mustBack(doc, deleteSnapshot(doc, 'b2'));
    expect([doc.snapshots.has('b2'), projectOf(doc).baselineId]).toEqual([false, 'b1']);
    mustBack(doc, deleteSnapshot(doc, 'b1'));
    expect(projectOf(doc).baselineId).toBeNull();
    expect(baselinesOf(doc)).toEqual([]);
  });
  test('going back takes all but the copies and the baseline that is chosen now', () => {
    const doc = plan();
    const copy = copyDocument(doc);
    must(doc, keepBaseline(doc, { ...keep('First'), id: 'b1' }));
    const only = goBackTo(doc, 'b1', copy);
    expect(tells(only)).toBe('NOTHING_CHANGED The plan is as it was at First; there is nothing to take back. @');
    must(doc, addActivity(doc, null, { name: 'C' }, newId));
    must(doc, setProject(doc, { name: 'Else' }));
    const o = goBackTo(doc, 'b1', copy);
    expect([tells(o), o.ok && o.restores]).toEqual(['Go back to First', 'b1']);
    mustBack(doc, o);
    expect([doc.activities.size, projectOf(doc).name, projectOf(doc).baselineId, doc.snapshots.size]).toEqual([2, 'Test', 'b1', 1]);
    expect(tells(goBackTo(doc, 'gone', copy))).toBe('UNKNOWN_SNAPSHOT That copy is not there any more. @');
  });
});

describe('a status update', () => {
  const started = { actualStart: '2026-03-02T08:00' };
  test('keeps what was, sets the data date, the entries and what is', () => {
    const doc = plan();
    must(doc, setProject(doc, { dataDate: '2026-03-02T08:00' }));
    applyChanges(doc, [snapshotChange(doc, { id: 'r', kind: 'restorePoint', name: 'Point', at })]);
    const o = takeOver(doc, { dataDate: '2026-03-03T17:00', entries: new Map([['A', { ...started, actualFinish: '2026-03-03T17:00' }]]), at }, newId);
    expect(tells(o)).toBe('Status update 1, data date 3 Mar 26, 17:00');
    const [before, after] = mustBack(doc, o);
    expect(doc.snapshots.get(sure(before))).toMatchObject({ kind: 'restorePoint', name: 'Before status update 1', dataDate: '2026-03-02T08:00', rank: 1 });
    expect(doc.snapshots.get(sure(after))).toMatchObject({ kind: 'statusUpdate', name: 'Status update 1', description: '1 entry', dataDate: '2026-03-03T17:00', rank: 2 });
    expect([projectOf(doc).dataDate, sure(doc.activities.get('A')).actualFinish, sure(doc.activities.get('A')).remaining]).toEqual(['2026-03-03T17:00', '2026-03-03T17:00', null]);
    const next = takeOver(doc, { dataDate: '2026-03-03T17:00', entries: new Map(), at }, newId);
    expect(tells(next)).toBe('Status update 2, data date 3 Mar 26, 17:00');
    const [, second] = must(doc, next);
    expect(doc.snapshots.get(sure(second))).toMatchObject({ name: 'Status update 2', description: '0 entries' });
  });
  test.each([
    ['nonsense', 'WRONG_DATE The new data date cannot be read. @dataDate'],
    ['2026-03-01T08:00', 'DATA_DATE_BACK The new data date lies before the present one, 2 Mar 26, 08:00. Go back to a restore point instead. @project/dataDate'],
  ])('to %s is refused', (dataDate, words) => {
    const doc = plan();
    must(doc, setProject(doc, { dataDate: '2026-03-02T08:00' }));
    expect(tells(takeOver(doc, { dataDate, entries: new Map(), at }, newId))).toBe(words);
  });
  test('wrong entries are told with their rows, and rows without entries that are wrong by now', () => {
    const doc = plan();
    const entries = new Map([
      ['A', { actualStart: '2026-03-09T08:00' }],
      ['gone', started],
    ]);
    const problems = entryProblems(doc, '2026-03-03T17:00', entries);
    expect(problems.map((p) => [p.code, p.severity, p.where])).toEqual([['WRONG_ENTRY', 'error', { table: 'activities', id: 'A', label: 'A A' }]]);
    expect(sure(problems[0]).message).toMatch(/^A A: .*/);
    doc.activities.set('B', { ...sure(doc.activities.get('B')), actualStart: '2026-03-09T08:00' });
    const o = takeOver(doc, { dataDate: '2026-03-03T17:00', entries: new Map([['A', started]]), at }, newId);
    expect(!o.ok && o.problems.map((p) => [p.code, p.severity, p.where.table, p.where.id])).toEqual([['WRONG_ENTRY', 'error', 'activities', 'B']]);
    expect(tells(o)).toMatch(/B B: /);
    // With an entry that puts it right, it goes.
    expect(tells(takeOver(doc, { dataDate: '2026-03-03T17:00', entries: new Map([['B', started]]), at }, newId))).toContain('Status update 1');
  });
});

describe('rows of a spreadsheet', () => {
  const rows = (doc: Document): string[] => [...doc.activities.values()].sort((a, b) => a.rank - b.rank).map((a) => `${a.code} ${a.name} ${a.type} ${a.duration}`);
  test('go over what is there and on below, numbers and types first, links last', () => {
    const doc = plan();
    const o = pasteCells(
      doc,
      [{ kind: 'activity', id: 'B' }, null, null],
      ['predecessors', 'name', 'duration', 'type', 'code', null],
      [
        ['201', 'Pour', '', 'task', 'B2', 'x'],
        ['', 'Ready', '', 'finish milestone', '201', ''],
        ['B2ss+1d', 'Cure', '3d', 'task', '202', ''],
      ].map((line) => line.map((t) => (t === '' ? '' : t))),
      newId,
    );
    // An empty duration is none.
    expect(tells(o)).toContain('WRONG_VALUE Row 1, duration: ');
    expect(tells(o)).toContain('Nothing was pasted.');
    const good = pasteCells(
      doc,
      [{ kind: 'activity', id: 'B' }, null, null],
      ['predecessors', 'name', 'type', 'code', null],
      [
        ['201', 'Pour', 'task', 'B2', 'x'],
        ['', 'Ready', 'finish milestone', '201', ''],
        ['B2ss+1d', 'Cure', 'task', '202', ''],
      ],
      newId,
    );
    expect(tells(good)).toBe('Paste 3 rows');
    const made = mustBack(doc, good);
    expect(made.length).toBe(2);
    expect(rows(doc)).toEqual(['A A task 960', 'B2 Pour task 480', '201 Ready finishMilestone 0', '202 Cure task 480']);
    expect(
      indexOf(doc)
        .linksInto('B')
        .map((l) => l.from),
    ).toEqual([made[0]]);
    expect(
      indexOf(doc)
        .linksInto(sure(made[1]))
        .map((l) => `${l.from} ${l.type} ${l.lag}`),
    ).toEqual(['B SS 480']);
  });
  test('new rows keep their own numbers where one is taken, whatever blanks are around it; rows that are there are refused', () => {
    const doc = plan();
    const made = mustBack(doc, pasteCells(doc, [null], ['code', 'name'], [[' A ', 'Copy']], newId));
    expect(sure(doc.activities.get(sure(made[0]))).code).toBe('101');
    expect(tells(pasteCells(doc, [{ kind: 'activity', id: 'B' }], ['code'], [['A']], newId))).toContain('Row 1, no.: B B: number A is taken');
  });
  test('below the row that is given, or the last one written over', () => {
    const doc = plan();
    must(doc, addActivity(doc, null, { name: 'Z', code: 'Z' }, newId));
    mustBack(doc, pasteCells(doc, [null], ['name'], [['below A']], newId, { kind: 'activity', id: 'A' }));
    expect(rows(doc).map((r) => r.split(' ').slice(1, 3).join(' '))).toEqual(['A task', 'below A', 'B task', 'Z task']);
    must(doc, pasteCells(doc, [{ kind: 'activity', id: 'B' }, null], ['name'], [['B!'], ['below B']], newId));
    expect(rows(doc).map((r) => r.split(' ').slice(1, 3).join(' '))).toEqual(['A task', 'below A', 'B! task', 'below B', 'Z task']);
  });
  test('on a WBS node, and what changes nothing, are refused', () => {
    const doc = plan();
    nodeInto(doc, 'T', null, 9);
    expect(
      tells(
        pasteCells(
          doc,
          [
            { kind: 'activity', id: 'A' },
            { kind: 'wbs', id: 'T' },
          ],
          ['name'],
          [['x'], ['y']],
          newId,
        ),
      ),
    ).toBe('PASTE_ON_WBS Row 2 of what is pasted would fall on a WBS node. Paste onto activities, or below the last one. Nothing was pasted. @');
    expect(tells(pasteCells(doc, [{ kind: 'activity', id: 'A' }], ['name'], [['A']], newId))).toBe('NOTHING_CHANGED What was pasted is what stands there already. @');
  });
  test('cells that a row cannot hold are passed over where others can be taken; what cannot be read names its row and column', () => {
    const doc = plan();
    nodeInto(doc, 'T', null, 9);
    doc.ownFields.set('site', ownFieldOf('site', 'Site', { of: 'wbs' }));
    const refs = [
      { kind: 'activity', id: 'A' },
      { kind: 'wbs', id: 'T' },
    ] as const;
    const paste = (keys: (string | null)[], lines: string[][]): Outcome => pasteCells(doc, refs, keys, lines, newId);
    const mixed = paste(
      ['own:site', 'duration', null],
      [
        ['North', '3d', 'x'],
        ['South', '4d', 'x'],
      ],
    );
    expect(tells(mixed)).toBe('Paste 2 rows');
    mustBack(doc, mixed);
    expect([doc.activities.get('A')?.duration, doc.activities.get('A')?.values, doc.wbs.get('T')?.values]).toEqual([1440, {}, { 'own:site': 'South' }]);
    expect([
      tells(pasteCells(doc, [refs[1]], ['own:site', 'duration'], [['South', '4d']], newId)),
      tells(pasteCells(doc, [refs[0]], ['own:site', 'duration'], [['North', '3d']], newId)),
      tells(
        paste(
          ['duration', 'own:site'],
          [
            ['3d', ''],
            ['4d', 'South'],
          ],
        ),
      ),
    ]).toEqual([
      'WRONG_VALUE Duration belongs to activities. Paste it onto their rows. Nothing was pasted. @',
      'WRONG_VALUE Site belongs to WBS nodes. Paste it onto their rows. Nothing was pasted. @',
      'WRONG_VALUE Site belongs to WBS nodes. Paste it onto their rows. Nothing was pasted. @',
    ]);
  });
  test('types come before lengths, and numbers before links, wherever their columns stand', () => {
    const doc = plan();
    const [made] = mustBack(
      doc,
      pasteCells(
        doc,
        [null, { kind: 'activity', id: 'A' }],
        ['successors', 'remaining', 'type', 'code'],
        [
          ['', '', 'start milestone', 'N1'],
          ['N1', '', 'task', 'A'],
        ],
        newId,
      ),
    );
    expect([doc.activities.get(sure(made))?.type, [...doc.links.values()].map((l) => [l.from, l.to])]).toEqual(['startMilestone', [['A', made]]]);
  });
  test('many new rows are what one after the other would be, and change no other row', () => {
    const start = (): Document => {
      const doc = documentOf({ activities: ['A', 'B', 'C'].map((id): [string, string] => [id, '1d @nights']) });
      nodeInto(doc, 'T', null, 9);
      return doc;
    };
    for (const at of [null, { kind: 'activity', id: 'B' }, { kind: 'wbs', id: 'T' }] as const) {
      const [doc, twin] = [start(), start()];
      const made = mustBack(
        doc,
        pasteCells(
          doc,
          Array<null>(120).fill(null),
          [],
          Array.from({ length: 120 }, () => []),
          newId,
          at,
        ),
      );
      let last: RowRef | null = at;
      for (let i = 0; i < 120; i++) last = { kind: 'activity', id: sure(must(twin, addActivity(twin, last, {}, newId))[0]) };
      const told = (d: Document): unknown[] =>
        outlineRows(d).map((r) => (r.kind === 'wbs' ? r.id : [r.depth, r.activity.code, r.activity.calendarId, r.activity.duration, r.activity.name]));
      expect(told(doc)).toEqual(told(twin));
      expect(made.map((id) => doc.activities.get(id)?.code)).toEqual(Array.from({ length: 120 }, (_, i) => `${101 + i}`));
      for (const a of start().activities.values()) expect(doc.activities.get(a.id)).toEqual(a);
    }
  });
  test('one row is one row', () => expect(tells(pasteCells(plan(), [null], ['name'], [['x']], newId))).toBe('Paste 1 row'));
});
