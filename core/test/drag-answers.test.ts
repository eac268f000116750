/** A linked bar that is dragged: each answer puts it where it was dropped, or says what holds it; progress inside the bar. */
import fc from 'fast-check';
import { applyChanges } from '@yellowhammer/core/change/change';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { type Answer, dragAnswers, dragProgress, drivingLink } from '@yellowhammer/core/plan/drag-answers';
import { placeOf } from '@yellowhammer/core/schedule/view';
import { formatInstant, parseInstant } from '@yellowhammer/core/time/instant';
import { d, documentOf, finishIn, mustBack, sure, viewIn } from './helpers';

const at = (text: string): number => sure(parseInstant(text));
const answersOf = (doc: Document, id: string, wish: string): Answer[] =>
  dragAnswers({ doc, view: viewIn(doc), into: indexOf(doc).linksInto(id) }, sure(doc.activities.get(id)), at(wish));
const startIn = (doc: Document, id: string): string => {
  const v = viewIn(doc);
  return formatInstant(v.start[sure(placeOf(v, id))]!);
};
/** Where the bar stands after each answer. */
const after = (doc: Document, id: string, wish: string): Record<string, string> =>
  Object.fromEntries(
    answersOf(doc, id, wish).map((answer) => {
      const copy = copyDocument(doc);
      mustBack(copy, answer.outcome);
      return [answer.id, startIn(copy, id)];
    }),
  );

const pair = (link = 'A > B', more: [string, string, Record<string, unknown>?][] = []): Document =>
  documentOf({
    activities: [['A', '5d'], ['B', '2d'], ...more],
    links: [link],
  });

test('later: a date of its own, a lag or the link broken all put it there; the tip names the link', () => {
  // A ends on Friday 6 March, so B starts on Monday 9; dragged to Thursday 12.
  const doc = pair();
  expect(after(doc, 'B', '2026-03-12T00:00')).toEqual({ notBefore: '2026-03-12T08:00', lag: '2026-03-12T08:00', break: '2026-03-12T08:00' });
  expect(answersOf(doc, 'B', '2026-03-12T10:00').map((a) => a.title)).toEqual(['Not before that date', 'A lag of 3d on the link with A A', 'Break the link with A A']);
});

test('earlier: no date of its own can do it; a lead or a broken link can', () => {
  const doc = pair();
  expect(after(doc, 'B', '2026-03-04T00:00')).toEqual({ lag: '2026-03-04T08:00', break: '2026-03-04T08:00' });
  expect(answersOf(doc, 'B', '2026-03-04T00:00')[0]?.title).toBe('A lead of 3d on the link with A A');
});

test('a constraint of its own goes with a lag, since it would hold it where it is', () => {
  const doc = documentOf({
    activities: [
      ['A', '5d'],
      ['B', '2d', { constraints: [{ kind: 'startNotBefore', date: '2026-03-03' }] }],
    ],
    links: ['A > B'],
  });
  const lag = answersOf(doc, 'B', '2026-03-12T00:00').find((a) => a.id === 'lag');
  mustBack(doc, sure(lag).outcome);
  expect(doc.activities.get('B')?.constraints).toEqual([]);
});

test('without a link that drives it, with a held date, begun, or dropped where it was, nothing is asked', () => {
  expect(answersOf(pair('B > A'), 'B', '2026-03-12T00:00')).toEqual([]);
  expect(answersOf(pair(), 'B', '2026-03-09T00:00')).toEqual([]);
  const pinned = documentOf({
    activities: [
      ['A', '5d'],
      ['B', '2d', { constraints: [{ kind: 'startOn', date: '2026-03-09' }] }],
    ],
    links: ['A > B'],
  });
  expect(answersOf(pinned, 'B', '2026-03-12T00:00')).toEqual([]);
  const begun = documentOf({
    activities: [
      ['A', '1d', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-02T17:00' }],
      ['B', '2d', { actualStart: '2026-03-03T08:00', remaining: d(1) }],
    ],
    links: ['A > B'],
    project: { dataDate: '2026-03-04T08:00' },
  });
  expect(answersOf(begun, 'B', '2026-03-12T00:00')).toEqual([]);
});

test('of a broken link, another link may hold it: that is said', () => {
  const doc = documentOf({
    activities: [
      ['A', '5d'],
      ['C', '4d'],
      ['B', '2d'],
    ],
    links: ['A > B', 'C > B'],
  });
  const broken = answersOf(doc, 'B', '2026-03-03T00:00').find((a) => a.id === 'break');
  expect(broken?.about).toBe('its other links hold it');
  mustBack(doc, sure(broken).outcome);
  expect(startIn(doc, 'B')).toBe('2026-03-06T08:00');
});

test('a milestone is moved to the end of the day', () => {
  const doc = documentOf({
    activities: [
      ['A', '5d'],
      ['M', 'finish'],
    ],
    links: ['A > M'],
  });
  expect(after(doc, 'M', '2026-03-12T09:00')).toEqual({ notBefore: '2026-03-12T17:00', lag: '2026-03-12T17:00', break: '2026-03-12T17:00' });
});

test('whatever the type, lag and calendars: an answer puts the bar on the day where it was dropped, or other bounds hold it later', () => {
  const calendars = fc.constantFrom('', '@six', '@clock', '@nights');
  fc.assert(
    fc.property(
      fc.constantFrom('FS', 'SS', 'FF', 'SF'),
      fc.integer({ min: -2, max: 4 }),
      calendars,
      calendars,
      fc.integer({ min: 0, max: 20 }),
      fc.constantFrom('', '[project]', '[elapsed]'),
      (type, lag, ca, cb, day, own) => {
        const doc = documentOf({
          activities: [
            ['A', `4d ${ca}`],
            ['B', `2d ${cb}`],
          ],
          links: [`A ${type}${lag < 0 ? lag : `+${lag}`}d ${own} > B`],
        });
        const view = viewIn(doc);
        const wish = at('2026-03-02T00:00') + day * 1440;
        const b = sure(doc.activities.get('B'));
        for (const answer of dragAnswers({ doc, view, into: indexOf(doc).linksInto('B') }, b, wish)) {
          const copy = copyDocument(doc);
          if (answer.outcome.ok) applyChanges(copy, answer.outcome.changes);
          const got = startIn(copy, 'B');
          // On the wished day, or the next day of work behind it; the planned start holds it from below. A lag in the
          // working time of another calendar can fall short by that calendar's rest, which the dates then tell.
          expect(at(got)).toBeGreaterThanOrEqual(answer.id === 'lag' ? wish - 3 * 1440 : wish);
          expect(at(got) - wish).toBeLessThan(4 * 1440);
        }
      },
    ),
    { numRuns: 400 },
  );
});

test('the driving link is the first that drives', () => {
  const doc = documentOf({
    activities: [
      ['A', '1d'],
      ['C', '4d'],
      ['B', '2d'],
    ],
    links: ['A > B', 'C > B'],
  });
  expect(drivingLink(viewIn(doc), indexOf(doc).linksInto('B'))?.from).toBe('C');
});

describe('progress inside the bar', () => {
  const begun = (): Document =>
    documentOf({
      activities: [
        ['A', '10d', { actualStart: '2026-03-02T08:00', remaining: d(8) }],
        ['B', '2d'],
      ],
      links: ['A > B'],
      project: { dataDate: '2026-03-04T08:00' },
    });
  // Drawn from 2 to 13 March.
  test.each([
    ['2026-03-06T17:00', 50, 5, '2026-03-10T17:00'],
    ['2026-03-02T08:00', 0, 10, '2026-03-17T17:00'],
    ['2027-01-01T00:00', 95, 0.5, '2026-03-04T12:00'],
  ])('at %s: %i percent', (when, percent, days, finish) => {
    const doc = begun();
    const r = sure(dragProgress({ doc, view: viewIn(doc), into: [] }, sure(doc.activities.get('A')), at(when)));
    expect(r.tip[0]).toBe(`${percent}% done (was 20%)`);
    mustBack(doc, r.outcome);
    expect([doc.activities.get('A')?.remaining, finishIn(doc, 'A'), formatInstant(r.finish)]).toEqual([d(days), finish, finish]);
  });
  test('only of started work', () => {
    const doc = begun();
    expect(dragProgress({ doc, view: viewIn(doc), into: [] }, sure(doc.activities.get('B')), at('2026-03-20T08:00'))).toBeUndefined();
  });
});
