/** Why this date: every bound with what it asks for, the work instant that this becomes, its slack, and what moved it; what is held up; what would let it come earlier. Worked by hand. */
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { type Bound, explain, type Explanation } from '@yellowhammer/core/schedule/explain';
import { documentOf, type PlanText, sure } from './helpers';

function why(plan: PlanText, id: string): Explanation {
  const doc = documentOf(plan);
  return explain(doc, sure(schedule(doc).computed), id);
}
const short = (t: string): string => t.slice(5).replace('T', ' ');
/** `* link start 03-03 17:00 > 03-04 08:00 0 | text | moved`; the star says that it governs. */
const line = (b: Bound): string =>
  `${b.governs ? '*' : '-'} ${b.kind} ${b.end} ${short(b.asks)}${b.becomes === b.asks ? '' : ` > ${short(b.becomes)}`} ${b.slack} | ${b.text}${b.moved ? ` | ${b.moved}` : ''}`;
const bounds = (plan: PlanText, id: string): string[] => why(plan, id).bounds.map(line);
const holds = (plan: PlanText, id: string): string[] =>
  why(plan, id).holds.map((h) => `${h.driving ? '*' : '-'} ${h.carried ? 'carried ' : ''}${h.linkType ?? ''} ${h.slackMinutes} | ${h.text}`);

const start = '- plannedStart start 03-02 08:00 0 | Planned project start';
test.each<[string, PlanText, string, string[]]>([
  ['nothing but the start of the project', { activities: [['A', '2d']] }, 'A', [start.replace('-', '*')]],
  [
    'a link over a night',
    {
      activities: [
        ['A', '2d'],
        ['B', '1d'],
      ],
      links: ['A > B'],
    },
    'B',
    ['* link start 03-03 17:00 > 03-04 08:00 0 | A A, finish to start | Five: outside working hours', start.replace(' 0 |', ' 960 |')],
  ],
  [
    'a link over a weekend',
    {
      activities: [
        ['A', '5d'],
        ['B', '1d'],
      ],
      links: ['A > B'],
    },
    'B',
    ['* link start 03-06 17:00 > 03-09 08:00 0 | A A, finish to start | Five: 2 days off', start.replace(' 0 |', ' 2400 |')],
  ],
  [
    'a link over one day off',
    {
      activities: [
        ['A', '6d @six'],
        ['B', '1d @six'],
      ],
      links: ['A > B'],
    },
    'B',
    [
      // Six days of eight hours: Monday to Friday, four hours on Saturday and four on Monday.
      '* link start 03-09 12:00 > 03-09 13:00 0 | A A, finish to start | Six: outside working hours',
      start.replace(' 0 |', ' 2880 |'),
    ],
  ],
  [
    'an exception with a name, and one without',
    {
      activities: [
        ['A', '2d'],
        ['B', '1d @own'],
        ['C', '1d @two'],
      ],
      links: ['A > B', 'A > C'],
      calendars: [
        { id: 'own', name: 'Own', basedOn: 'five', exceptions: [{ name: 'Fair', from: '2026-03-04', to: '2026-03-05', work: [] }] },
        { id: 'two', name: 'Two', basedOn: 'five', exceptions: [{ name: '', from: '2026-03-04', to: '2026-03-06', work: [] }] },
      ],
    },
    'B',
    ['* link start 03-03 17:00 > 03-06 08:00 0 | A A, finish to start | Own: Fair', start.replace(' 0 |', ' 960 |')],
  ],
  [
    'two exceptions and a weekend',
    {
      activities: [
        ['A', '2d'],
        ['B', '1d @own'],
      ],
      links: ['A > B'],
      calendars: [
        {
          id: 'own',
          name: 'Own',
          basedOn: 'five',
          exceptions: [
            { name: 'Fair', from: '2026-03-04', work: [] },
            { name: '', from: '2026-03-05', to: '2026-03-06', work: [] },
          ],
        },
      ],
    },
    'B',
    ['* link start 03-03 17:00 > 03-09 08:00 0 | A A, finish to start | Own: Fair; Own: no work; Own: 2 days off', start.replace(' 0 |', ' 960 |')],
  ],
  [
    'lags by the predecessor, by a calendar of their own, by the clock, and leads',
    {
      activities: [
        ['A', '2d @six'],
        ['B', '1d'],
      ],
      links: ['A +1d > B', 'A SS+2d [calendar:clock] > B', 'A FF-1d [elapsed] > B', 'A SF+1d [project] > B'],
    },
    'B',
    [
      '* link start 03-04 17:00 > 03-05 08:00 0 | A A, finish to start + 1d (Six) | Five: outside working hours',
      // Two days of 480 minutes are 16 hours of the clock.
      '- link start 03-03 00:00 > 03-03 08:00 960 | A A, start to start + 16h (Clock) | Five: outside working hours',
      '- link finish 03-03 09:00 1380 | A A, finish to finish − 8h (elapsed time)',
      start.replace(' 0 |', ' 1440 |'),
      // The beginning of the 3rd and the end of the 2nd are the same work.
      '- link finish 03-03 08:00 > 03-02 17:00 1440 | A A, start to finish + 1d (Five)',
    ],
  ],
  [
    'a start that is not to come before a date',
    { activities: [['A', '2d', { constraints: [{ kind: 'startNotBefore', date: '2026-03-04' }] }]] },
    'A',
    ['* constraint start 03-04 08:00 0 | Start not before', start.replace(' 0 |', ' 960 |')],
  ],
  [
    'a finish that is not to come before one',
    { activities: [['A', '2d', { constraints: [{ kind: 'finishNotBefore', date: '2026-03-06' }] }]] },
    'A',
    ['* constraint finish 03-06 17:00 0 | Finish not before', start.replace(' 0 |', ' 1440 |')],
  ],
  [
    'a pin holds against its logic',
    {
      activities: [
        ['P', '5d'],
        ['A', '2d', { constraints: [{ kind: 'pinnedStart', date: '2026-03-04' }] }],
      ],
      links: ['P > A'],
    },
    'A',
    ['* pin start 03-04 08:00 0 | Pinned start', '- link start 03-06 17:00 > 03-09 08:00 -1440 | P P, finish to start | Five: 2 days off', start.replace(' 0 |', ' 960 |')],
  ],
  [
    'a pinned finish',
    { activities: [['A', '2d', { constraints: [{ kind: 'pinnedFinish', date: '2026-03-06' }] }]] },
    'A',
    ['* pin finish 03-06 17:00 0 | Pinned finish', start.replace(' 0 |', ' 1440 |')],
  ],
  ['a levelling delay', { activities: [['A', '2d', { levellingDelay: 960 }]] }, 'A', [start.replace('-', '*'), '* levelling start 03-04 08:00 0 | Held back by 2d']],
  [
    'as late as possible',
    {
      activities: [
        ['Z', '4d'],
        ['A', '1d', { constraints: [{ kind: 'asLateAsPossible', date: null }] }],
      ],
    },
    'A',
    ['* asLateAsPossible start 03-05 08:00 0 | As late as possible', start.replace(' 0 |', ' 1440 |')],
  ],
  [
    'started work goes on from the data date',
    { activities: [['A', '5d', { actualStart: '2026-03-02T08:00', remaining: 960 }]], project: { dataDate: '2026-03-04T08:00' } },
    'A',
    ['* actual start 03-02 08:00 0 | Actual start', '* dataDate start 03-04 08:00 0 | Data date'],
  ],
  [
    'suspended work from when it resumes',
    {
      activities: [['A', '5d', { actualStart: '2026-03-02T08:00', remaining: 960, suspend: '2026-03-03T17:00', resume: '2026-03-09T08:00' }]],
      project: { dataDate: '2026-03-04T08:00' },
    },
    'A',
    ['* actual start 03-02 08:00 0 | Actual start', '* resume start 03-09 08:00 0 | Resumes'],
  ],
  [
    'finished work',
    { activities: [['A', '2d', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00' }]], project: { dataDate: '2026-03-04T08:00' } },
    'A',
    ['* actual start 03-02 08:00 0 | Actual start', '* actual finish 03-03 17:00 0 | Actual finish'],
  ],
  [
    'a milestone stands at the instant that is asked',
    {
      activities: [
        ['A', '2d'],
        ['M', 'finish'],
      ],
      links: ['A > M'],
    },
    'M',
    ['* link start 03-03 17:00 0 | A A, finish to start', start.replace(' 0 |', ' 960 |')],
  ],
  [
    'a span: every end that its links name',
    {
      activities: [
        ['A', '1d'],
        ['B', '3d'],
        ['L', 'effort'],
      ],
      links: ['A SS > L', 'B FF > L', 'A FF+1d > L'],
    },
    'L',
    ['* span start 03-02 08:00 0 | A A, start to start', '* span finish 03-04 17:00 0 | B B, finish to finish', '- span finish 03-03 17:00 0 | A A, finish to finish + 1d (Five)'],
  ],
  [
    'carried logic',
    {
      activities: [
        ['A', '5d', { actualStart: '2026-03-02T08:00', remaining: 1440 }],
        ['B', '2d', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00' }],
        ['C', '1d'],
      ],
      links: ['A > B', 'B > C'],
      project: { dataDate: '2026-03-04T08:00' },
    },
    'C',
    [
      '* carried start 03-06 17:00 > 03-09 08:00 0 | A A, carried through B B, which finished out of sequence | Five: 2 days off',
      '- dataDate start 03-04 08:00 1440 | Data date',
      '- link start 03-03 17:00 > 03-04 08:00 1440 | B B, finish to start | Five: outside working hours',
    ],
  ],
])('%s', (_, plan, id, expected) => expect(bounds(plan, id)).toEqual(expected));

const net: PlanText = {
  activities: [
    ['A', '2d'],
    ['B', '1d'],
    ['C', '1d'],
    ['D', '3d'],
  ],
  links: ['A +2d > B', 'A SS > C', 'A FF-1d > D', 'B > C'],
};
test('what it holds up, the tightest first; what would let it come earlier, and what would be next', () => {
  // B from the 6th on: C on the 9th; D from the 2nd to the 4th.
  expect(holds(net, 'A')).toEqual(['* FS 0 | B B, finish to start + 2d (Five)', '- FF 960 | D D, finish to finish − 1d (Five)', '- SS 2400 | C C, start to start']);
  expect(why(net, 'C').earlier).toEqual(['If B B, finish to start came earlier, or its lag were shorter.', 'Then the next bound is Planned project start.']);
  expect(why(net, 'A').earlier).toEqual(['An earlier planned project start.']);
});
test.each<[string, PlanText, string[]]>([
  ['the data date', { activities: [['A', '2d']], project: { dataDate: '2026-03-04T08:00' } }, ['Nothing moves work before the data date.']],
  [
    'a resume date',
    {
      activities: [['A', '5d', { actualStart: '2026-03-02T08:00', remaining: 960, suspend: '2026-03-03T17:00', resume: '2026-03-09T08:00' }]],
      project: { dataDate: '2026-03-04T08:00' },
    },
    ['An earlier resume date.'],
  ],
  [
    'a constraint',
    { activities: [['A', '2d', { constraints: [{ kind: 'startNotBefore', date: '2026-03-04' }] }]] },
    ['Without the constraint (start not before).', 'Then the next bound is Planned project start.'],
  ],
  [
    'a pin',
    { activities: [['A', '2d', { constraints: [{ kind: 'pinnedStart', date: '2026-03-04' }] }]] },
    ['Without the constraint (pinned start).', 'Then the next bound is Planned project start.'],
  ],
  ['levelling', { activities: [['A', '2d', { levellingDelay: 960 }]] }, ['An earlier planned project start.', 'Without its levelling delay.']],
  [
    'as late as possible',
    {
      activities: [
        ['Z', '4d'],
        ['A', '1d', { constraints: [{ kind: 'asLateAsPossible', date: null }] }],
      ],
    },
    ['Without "as late as possible".', 'Then the next bound is Planned project start.'],
  ],
  ['finished work', { activities: [['A', '2d', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00' }]], project: { dataDate: '2026-03-04T08:00' } }, []],
])('earlier: %s', (_, plan, words) => expect(why(plan, 'A').earlier).toEqual(words));

test('carried logic is told from the end that holds, too', () => {
  const plan: PlanText = {
    activities: [
      ['A', '5d', { actualStart: '2026-03-02T08:00', remaining: 1440 }],
      ['B', '2d', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00' }],
      ['C', '1d'],
    ],
    links: ['A > B', 'B > C'],
    project: { dataDate: '2026-03-04T08:00' },
  };
  expect(holds(plan, 'A')).toEqual(['* carried  0 | C C, carried through B B']);
  expect([why(plan, 'C').dropped, why(plan, 'C').start, why(plan, 'C').finish]).toEqual([0, '2026-03-09T08:00', '2026-03-09T17:00']);
});

test('long stops inside the work ahead are named; one at its end, and a weekend, are none', () => {
  const calendars = [{ id: 'own', name: 'Own', basedOn: 'five', exceptions: [{ name: 'Fair', from: '2026-03-04', to: '2026-03-10', work: [] }] }];
  const stops = (size: string, more: Record<string, unknown> = {}, project: Record<string, unknown> = {}): unknown =>
    why({ activities: [['A', size, more]], calendars, project }, 'A').stops;
  expect(stops('3d @own')).toEqual([{ from: '2026-03-03T17:00', to: '2026-03-11T08:00', text: 'Own: Fair' }]);
  expect(stops('2d @own')).toEqual([]);
  expect(stops('8d @five')).toEqual([]);
  // What is done is behind: only the work ahead is looked at.
  expect(stops('5d @own', { actualStart: '2026-03-02T08:00', remaining: 480 }, { dataDate: '2026-03-12T08:00' })).toEqual([]);
});
