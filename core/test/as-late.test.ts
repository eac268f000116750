/** As late as possible, by hand: milestones that move, who drives them then, and logic carried through finished work (rules, sections 5 and 6). */
import { compute, type PlanText } from './helpers';

const alap = { constraints: [{ kind: 'asLateAsPossible', date: null }] };
/** Five days of C from Monday 2 March end on Friday 6 March at 17:00 and hold the finish F; what is before F has five days less its own. */
const beside = (activities: PlanText['activities'], links: string[], more: Partial<PlanText> = {}): PlanText => ({
  activities: [['C', '5d'], ['F', 'finish'], ...activities],
  links: ['C > F', ...links],
  ...more,
});
const driving = (p: PlanText): Record<string, boolean> => {
  const r = compute(p);
  return Object.fromEntries([
    ...(p.links ?? []).map((text, i): [string, boolean] => [text, r.links[i]?.driving === true]),
    ...r.carried.map((c): [string, boolean] => [`${c.from} ~ ${c.to}`, c.driving]),
  ]);
};

test('a finish milestone moves to the end of a day, a start milestone to the beginning of one', () => {
  const p = beside(
    [
      ['A', '2d'],
      ['M', 'finish', alap],
      ['S', 'start', alap],
      ['T', '1d', alap],
    ],
    ['A > M', 'A > S', 'S > T', 'M > F', 'T > F'],
  );
  const { dates, a } = compute(p);
  expect([dates['M'], dates['S'], dates['T'], dates['A']]).toEqual([
    '03-06 17:00 - 03-06 17:00',
    '03-06 08:00 - 03-06 08:00',
    '03-06 08:00 - 03-06 17:00',
    '03-02 08:00 - 03-03 17:00',
  ]);
  expect(['M', 'S', 'A'].map((id) => a[id]?.totalFloat?.minutes)).toEqual([0, 0, 2 * 480]);
});

test('who drives a milestone that has moved is found by the moved dates', () => {
  const p = beside(
    [
      ['A', '2d', alap],
      ['B', '1d'],
      ['M', 'finish', alap],
    ],
    ['A > M', 'B > M', 'M > F'],
  );
  expect([compute(p).dates['A'], driving(p)]).toEqual(['03-05 08:00 - 03-06 17:00', { 'C > F': true, 'A > M': true, 'B > M': false, 'M > F': true }]);
});

describe('through work that was finished before its predecessor', () => {
  const done = { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-02T12:00' };
  const held = (more: Partial<PlanText> = {}, also: PlanText['activities'] = []): PlanText =>
    beside([['A', '2d', alap], ['X', '1d', done], ['M', 'finish', alap], ...also], ['A > X', 'X > M', 'M > F'], { project: { dataDate: '2026-03-02T12:00' }, ...more });
  test('what it carries goes by the moved dates, and drives the moved milestone', () => {
    // From Monday noon C needs until Monday 9 March at noon; A moves before it, from after the break of Thursday.
    expect([compute(held()).dates['A'], driving(held())['A ~ M'], driving(held())['X > M']]).toEqual(['03-05 13:00 - 03-09 12:00', true, false]);
  });
  test('over a second finished one as well', () => {
    const p = beside(
      [
        ['A', '2d', alap],
        ['X', '1d', done],
        ['Y', '1d', done],
        ['M', 'finish', alap],
      ],
      ['A > X', 'X > Y', 'Y > M', 'M > F'],
      { project: { dataDate: '2026-03-02T12:00' } },
    );
    expect(driving(p)['A ~ M']).toBe(true);
  });
});
