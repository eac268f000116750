/** What a drag and a typed date mean: constraints, durations, and what is said while it goes on. By hand, five-day week from Monday 2 March 2026. */
import { applyChanges } from '@yellowhammer/core/change/change';
import { setCell } from '@yellowhammer/core/commands/cells';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { entryQuestions } from '@yellowhammer/core/progress/questions';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { type DragResult, drawBar, linkTypeAt, moveBar, stretchFinish, stretchStart } from '@yellowhammer/core/plan/drag';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { placeOf, type ScheduleView, viewOf } from '@yellowhammer/core/schedule/view';
import { formatInstant, parseInstant } from '@yellowhammer/core/time/instant';
import { d, documentOf, sure } from './helpers';
import type { Entry } from '@yellowhammer/core/progress/due';

const plan = (): Document =>
  documentOf({
    project: { dataDate: '2026-03-03T08:00' },
    activities: [
      ['A', '5d'],
      ['B', '2d'],
      ['P', '2d', { constraints: [{ kind: 'pinnedStart', date: '2026-03-10' }] }],
      ['F', '2d', { constraints: [{ kind: 'finishOn', date: '2026-03-12' }] }],
      ['S', '4d', { actualStart: '2026-03-02T08:00' }],
      ['D', '1d', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-02T17:00' }],
      ['M', 'finish'],
      ['L', 'effort'],
      ['G', 'margin 5d'],
      ['H', '1d', { levellingDelay: d(1) }],
    ],
    links: ['A > B', 'A SS > L', 'A > H'],
  });
const seen = (doc: Document): ScheduleView => viewOf(doc, sure(schedule(doc).computed), [], undefined);
const t = (text: string): number => sure(parseInstant(`2026-${text}`));
/** Carries it out: dates after computing, as the drag had said, and the constraints and lengths that it made. */
function taken(f: typeof moveBar, id: string, wish: string): unknown {
  const doc = plan();
  const view = seen(doc);
  const a = sure(doc.activities.get(id));
  const r = f({ doc, view, into: [...doc.links.values()].filter((l) => l.to === id) }, a, t(wish)) as DragResult | undefined;
  if (!r) return undefined;
  if (!r.outcome.ok) throw new Error(r.outcome.problems[0]!.message);
  applyChanges(doc, r.outcome.changes);
  const after = seen(doc);
  const i = sure(placeOf(after, id));
  // What the tip promised is what comes out.
  expect([id, r.finish]).toEqual([id, after.finish[i]]);
  const now = sure(doc.activities.get(id));
  return [
    formatInstant(after.start[i]!).slice(5),
    formatInstant(after.finish[i]!).slice(5),
    now.constraints.map((c) => `${c.kind} ${c.date?.slice(5)}`).join(),
    now.duration / 480,
    now.remaining === null ? null : now.remaining / 480,
  ];
}

describe('moving', () => {
  test.each<[string, string, string, unknown]>([
    ['later than logic: not before that day', 'B', '03-12T10:00', ['03-12T08:00', '03-13T17:00', 'startNotBefore 03-12', 2, null]],
    ['onto a Saturday: the next day of work, and the constraint says that day', 'B', '03-14T10:00', ['03-16T08:00', '03-17T17:00', 'startNotBefore 03-16', 2, null]],
    ['earlier than logic: no constraint at all', 'B', '03-04T10:00', ['03-10T08:00', '03-11T17:00', '', 2, null]],
    ['before the data date: as early as that allows', 'A', '02-20T10:00', ['03-03T08:00', '03-09T17:00', '', 5, null]],
    ['a pinned start stays pinned', 'P', '03-11T10:00', ['03-11T08:00', '03-12T17:00', 'pinnedStart 03-11', 2, null]],
    ['a held finish stays held', 'F', '03-12T10:00', ['03-12T08:00', '03-13T17:00', 'finishOn 03-13', 2, null]],
    ['a finish milestone lies at the end of the day', 'M', '03-05T10:00', ['03-05T17:00', '03-05T17:00', 'finishNotBefore 03-05', 0, null]],
    ['started work does not move', 'S', '03-12T10:00', undefined],
    ['nor finished', 'D', '03-12T10:00', undefined],
  ])('%s', (_, id, wish, expected) => expect(taken(moveBar, id, wish)).toEqual(expected));
});

describe('stretching', () => {
  test.each<[string, typeof moveBar, string, string, unknown]>([
    ['the right end: the duration', stretchFinish, 'B', '03-13T12:00', ['03-10T08:00', '03-13T17:00', '', 4, null]],
    ['never before its first day ends', stretchFinish, 'B', '03-01T12:00', ['03-10T08:00', '03-10T17:00', '', 1, null]],
    ['of started work: what remains, and the duration with it', stretchFinish, 'S', '03-10T12:00', ['03-02T08:00', '03-10T17:00', '', 6, 6]],
    ['the left end: start and duration, the finish holds', stretchStart, 'A', '03-05T12:00', ['03-05T08:00', '03-09T17:00', 'startNotBefore 03-05', 3, null]],
    ['back to what logic allows: no constraint', stretchStart, 'B', '03-04T12:00', ['03-10T08:00', '03-11T17:00', '', 2, null]],
    ['of a pinned start: the pin', stretchStart, 'P', '03-11T12:00', ['03-11T08:00', '03-11T17:00', 'pinnedStart 03-11', 1, null]],
    ['of a held finish: the duration alone', stretchStart, 'F', '03-12T12:00', ['03-12T08:00', '03-12T17:00', 'finishOn 03-12', 1, null]],
    ['not of started work', stretchStart, 'S', '03-05T12:00', undefined],
  ])('%s', (_, f, id, wish, expected) => expect(taken(f, id, wish)).toEqual(expected));
});

describe('dates typed into Start and Finish', () => {
  const type = (id: string, column: 'start' | 'finish', text: string): { after: Activity; o: Outcome } => {
    const doc = plan();
    const o = setCell(doc, id, column, text, () => 'x', seen(doc));
    const work = copyDocument(doc);
    if (o.ok) applyChanges(work, o.changes);
    return { after: sure(work.activities.get(id)), o };
  };
  test.each<[string, 'start' | 'finish', string, Partial<Activity>]>([
    ['A', 'start', '12 mar', { constraints: [{ kind: 'startNotBefore', date: '2026-03-12' }] }],
    ['A', 'start', '12 mar 10:00', { constraints: [{ kind: 'startNotBefore', date: '2026-03-12T10:00' }] }],
    ['A', 'start', '', { constraints: [] }],
    ['A', 'finish', '5 mar', { duration: d(3), constraints: [] }],
    ['M', 'finish', '5 mar', { duration: 0, constraints: [{ kind: 'finishNotBefore', date: '2026-03-05' }] }],
    ['P', 'start', '12 mar', { constraints: [{ kind: 'pinnedStart', date: '2026-03-12' }] }],
    ['S', 'finish', '5 mar', { remaining: d(3), duration: d(4) }],
  ])('%s %s %j', (id, column, text, expected) => expect(type(id, column, text).after).toMatchObject(expected));
  test.each<[string, 'start' | 'finish', string, string]>([
    ['A', 'finish', '20 feb', 'lies before its start'],
    ['A', 'finish', '', 'use the column Duration'],
    ['A', 'start', 'soon', 'cannot be read'],
    ['P', 'start', '', 'held by the constraint pinned start'],
    ['S', 'start', '5 mar', 'It has started'.toLowerCase()],
    ['S', 'finish', '2 mar', 'lies before what remains begins'],
    ['D', 'finish', '5 mar', 'Actual finish'],
    ['L', 'start', '5 mar', 'follow from the work around it'],
    ['G', 'finish', '5 mar', 'follow from the work around it'],
  ])('%s %s %j is refused', (id, column, text, words) => {
    const { o } = type(id, column, text);
    expect(o.ok ? 'taken' : o.problems[0]!.message).toContain(words);
  });
  test('done 0 on started work is a question with two answers', () => {
    const doc = plan();
    const o = setCell(doc, 'S', 'percent', '0', () => 'x');
    if (o.ok || !o.choices) throw new Error('not asked');
    const answers = o.choices.map(({ outcome }) => {
      const work = copyDocument(doc);
      if (outcome.ok) applyChanges(work, outcome.changes);
      const a = sure(work.activities.get('S'));
      return [a.actualStart, a.remaining];
    });
    expect(answers).toEqual([
      ['2026-03-02T08:00', d(4)],
      [null, null],
    ]);
  });
});

test('what looks odd in an update is asked about: before the project, the last data date, a predecessor; more than all; nothing left', () => {
  const doc = plan();
  const view = seen(doc);
  const ask = (id: string, entry: Entry | undefined, due = true): string[] =>
    entryQuestions(doc, view, [{ id, due }], new Map(entry ? [[id, entry]] : []), (to) => [...doc.links.values()].filter((l) => l.to === to)).map((q) => q.text);
  expect(ask('A', { actualStart: '2026-02-20T08:00' })[0]).toContain('before the planned start of the project');
  expect(ask('A', { actualStart: '2026-03-02T08:00' })[0]).toContain('before the last data date');
  expect(ask('B', { actualStart: '2026-03-06T08:00' })[0]).toContain('started before A A has ended');
  expect(ask('A', { actualStart: '2026-03-03T08:00', remaining: d(6) })[0]).toContain('more remains than the whole duration');
  expect(ask('A', { actualStart: '2026-03-03T08:00', remaining: 0 })[0]).toContain('Is it finished?');
  expect(ask('S', { suspend: '2026-03-02T17:00' })[0]).toContain('without a resume date');
  expect(ask('A', undefined)[0]).toContain('nothing entered');
  expect([ask('A', undefined, false), ask('A', { actualStart: '2026-03-03T08:00' }), ask('S', undefined)]).toEqual([[], [], []]);
});

describe('drawn on the picture', () => {
  const at = (text: string): number => sure(parseInstant(text));
  test.each<[string, string, string, string[], number]>([
    ['from left to right over three days', '2026-03-03T10:00', '2026-03-05T09:00', ['New activity', '3 Mar 26 to 5 Mar 26', '3d'], 3 * 480],
    ['from right to left', '2026-03-05T09:00', '2026-03-03T10:00', ['New activity', '3 Mar 26 to 5 Mar 26', '3d'], 3 * 480],
    ['on a weekend', '2026-03-07T10:00', '2026-03-08T10:00', ['New activity', '9 Mar 26 to 9 Mar 26', '1d'], 480],
  ])('a bar %s', (_, from, to, tip, minutes) => {
    const doc = documentOf({ activities: [['A', '1d']] });
    const r = drawBar(doc, at(from), at(to), { kind: 'activity', id: 'A' }, () => 'n');
    expect(r.tip).toEqual(tip);
    expect(r.outcome.ok && r.outcome.changes[0]?.after).toMatchObject({ duration: minutes, constraints: [{ kind: 'startNotBefore' }] });
  });

  test.each<[string, boolean, string, string]>([
    ['from a finish to the first half', false, '2026-03-02T09:00', 'FS'],
    ['from a finish to the second half', false, '2026-03-03T16:00', 'FF'],
    ['from a start to the first half', true, '2026-03-02T09:00', 'SS'],
    ['from a start to the second half', true, '2026-03-03T16:00', 'SF'],
  ])('a link %s', (_, fromStart, instant, type) => {
    const doc = documentOf({
      activities: [
        ['A', '2d'],
        ['M', 'finish'],
      ],
    });
    const view = seen(doc);
    expect(linkTypeAt(view, 0, fromStart, at(instant))).toBe(type);
    // A milestone has one instant: its start is meant.
    expect(linkTypeAt(view, 1, fromStart, at('2026-03-09T08:00'))).toBe(fromStart ? 'SS' : 'FS');
  });
});
