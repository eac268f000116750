/** The calendars of the island. */
import type { Calendar, Exception, Interval } from '@yellowhammer/core/model/schema';

const h = (from: number, to: number): Interval => [Math.round(from * 60), Math.round(to * 60)];
const five = (day: Interval[]): Interval[][] => [day, day, day, day, day, [], []];
const holiday = (name: string, from: string, to = from, yearly = true): Exception => ({ name, from, to, yearly, work: [] });
const blank = { basedOn: null, hoursPerDay: null, daysPerWeek: null, sharedId: null };

const winterStop = holiday('winter stop', '2025-11-16', '2026-02-28');

export const calendars: Calendar[] = [
  {
    ...blank,
    id: 'mainland',
    sharedId: 'mainland',
    rank: 0,
    name: 'Mainland week',
    week: five([h(8, 12), h(13, 17)]),
    exceptions: [
      holiday("Founders' Monday", '2026-05-04', '2026-05-04', false),
      holiday("Founders' Monday", '2027-05-03', '2027-05-03', false),
      holiday('Harbour Day', '2026-06-19'),
      holiday('Midwinter', '2026-12-24', '2026-12-27'),
      { name: 'half day before Midwinter', from: '2026-12-23', to: '2026-12-23', yearly: true, work: [h(8, 12)] },
    ],
  },
  {
    ...blank,
    id: 'island',
    sharedId: 'island',
    rank: 1,
    name: 'Island week',
    week: [...Array.from({ length: 6 }, () => [h(7, 12), h(12.5, 17.5)]), []],
    exceptions: [
      winterStop,
      holiday('Harbour Day', '2026-06-19'),
      { name: 'overtime for the scaffold', from: '2026-07-05', to: '2026-07-05', yearly: false, work: [h(7, 12), h(12.5, 17.5)] },
    ],
  },
  {
    ...blank,
    id: 'boat',
    sharedId: 'boat',
    rank: 2,
    name: 'Supply boat',
    week: [[], [h(9, 15)], [], [], [h(9, 15)], [], []],
    exceptions: [winterStop, holiday('Harbour Day', '2026-06-19')],
  },
  {
    ...blank,
    id: 'night',
    rank: 3,
    name: 'Night commissioning',
    week: five([h(20, 28)]),
    exceptions: [winterStop, holiday('Midwinter', '2026-12-24', '2026-12-27')],
  },
  { ...blank, id: 'curing', rank: 4, name: 'Curing', week: Array.from({ length: 7 }, () => [h(0, 24)]), exceptions: [] },
];

/** Those that all projects of the trust have in common. */
export const sharedCalendars = calendars.filter((c) => c.sharedId !== null);

export const letters = { M: 'mainland', I: 'island', B: 'boat', N: 'night', C: 'curing' };
