/** Retained logic and progress override side by side. */
import { compareStatusLogic } from '@yellowhammer/core/compare/status-logic';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { documentOf } from './helpers';

const shown = (activities: [string, string, Record<string, unknown>?][], links: string[]) => {
  const c = compareStatusLogic(documentOf({ activities, links, project: { dataDate: '2026-03-09T08:00' } }));
  return {
    finish: c && [formatInstant(c.retainedFinish), formatInstant(c.overrideFinish)],
    rows: c?.rows.map((r) => [r.id, r.direct, formatInstant(r.retained.ahead), formatInstant(r.override.ahead), r.heldBy.length]),
  };
};
const began = (day: string): Record<string, unknown> => ({ actualStart: `2026-03-${day}T08:00` });

test('started before its predecessor ends: held in one way, free in the other, and what follows goes with it', () => {
  // A has five of its ten days left: Monday 9 to Friday 13 March. B began on the 5th and has three days left.
  const r = shown(
    [
      ['A', '10d', { ...began('02'), remaining: 2400 }],
      ['B', '4d', { ...began('05'), remaining: 1440 }],
      ['C', '1d'],
    ],
    ['A > B', 'B > C'],
  );
  // Retained: B goes on from Monday 16, C is on Thursday 19. Override: B from Monday 9, C on Thursday 12; then A ends last, on the 13th.
  expect(r.finish).toEqual(['2026-03-19T17:00', '2026-03-13T17:00']);
  expect(r.rows).toEqual([
    ['B', true, '2026-03-16T08:00', '2026-03-09T08:00', 1],
    ['C', false, '2026-03-19T08:00', '2026-03-12T08:00', 0],
  ]);
});

test('finished before its predecessor: carried logic holds what comes after, only in retained logic', () => {
  const r = shown(
    [
      ['A', '5d'],
      ['B', '1d', { ...began('05'), actualFinish: '2026-03-05T17:00' }],
      ['C', '1d'],
    ],
    ['A > B', 'B > C'],
  );
  expect(r.rows?.filter((x) => x[0] === 'C')).toEqual([['C', true, '2026-03-16T08:00', '2026-03-09T08:00', 1]]);
});

test('work in sequence is the same both ways', () => {
  expect(
    shown(
      [
        ['A', '5d', { ...began('02'), remaining: 480 }],
        ['B', '2d'],
      ],
      ['A > B'],
    ).rows,
  ).toEqual([]);
});
