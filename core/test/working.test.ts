/** Who drives an activity, and the calendar that they leave of its own: which one it is, and that it is the same one for the same people. */
import { applyChanges } from '@yellowhammer/core/change/change';
import type { Document } from '@yellowhammer/core/model/document';
import type { Row, TableName } from '@yellowhammer/core/model/tables';
import { calendarFor } from '@yellowhammer/core/schedule/calendars';
import { driversOf, resourceTime, workingCalendarFor } from '@yellowhammer/core/schedule/working';
import { CutCalendar } from '@yellowhammer/core/time/cut';
import { peopledPlan, sure } from './helpers';

const away = (from: string, to = from): Record<string, unknown>[] => [{ name: 'away', from, to }];
/** Ten days of the five-day week each; who is assigned to them, and drives them unless it is said otherwise. */
const plan = (assigned: [activity: string, resource: string, more?: Record<string, unknown>][], resources: Record<string, unknown>[]): Document =>
  peopledPlan(
    { activities: [...new Set(assigned.map(([a]) => a))].map((id) => [id, '10d']) },
    { resources, assignments: assigned.map(([activityId, resourceId, more]) => ({ activityId, resourceId, drives: true, ...more })) },
  );
const ana = { id: 'ana', daysOff: away('2026-03-04') };
const ben = { id: 'ben', daysOff: away('2026-03-05', '2026-03-06') };
const working = (doc: Document, id: string) => sure(workingCalendarFor(doc, sure(doc.activities.get(id))));
const own = (doc: Document, id: string) => sure(calendarFor(doc, sure(doc.activities.get(id))));
/** Who cuts the calendar of an activity; none where it is its own. */
const cutters = (doc: Document, id: string): string[] => {
  const c = working(doc, id);
  return c instanceof CutCalendar ? c.cutters.map((x) => x.name) : (expect(c).toBe(own(doc, id)), []);
};
function change(doc: Document, table: TableName, id: string, fields: Record<string, unknown>): void {
  const before = sure(doc[table].get(id)) as Row;
  applyChanges(doc, [{ table, id, before, after: { ...before, ...fields } as Row }]);
}

describe('who cuts the calendar of an activity', () => {
  test.each<[string, Parameters<typeof plan>, string[]]>([
    ['somebody who is away', [[['A', 'ana']], [ana]], ['ana']],
    [
      'two of them, in the order of their assignments',
      [
        [
          ['A', 'ben'],
          ['A', 'ana'],
        ],
        [ana, ben],
      ],
      ['ben', 'ana'],
    ],
    ['nobody who is assigned without driving', [[['A', 'ana', { drives: false }]], [ana]], []],
    ['nobody who is never away', [[['A', 'cai']], [{ id: 'cai' }]], []],
    [
      'of two the one who is away',
      [
        [
          ['A', 'cai'],
          ['A', 'ana'],
        ],
        [{ id: 'cai' }, ana],
      ],
      ['ana'],
    ],
    ['nobody who is away where nobody works anyway', [[['A', 'dot']], [{ id: 'dot', daysOff: away('2026-03-07', '2026-03-08') }]], []],
    ['equipment as well', [[['A', 'crane']], [{ id: 'crane', kind: 'equipment', daysOff: away('2026-03-04') }]], ['crane']],
  ])('%s', (_, args, expected) => {
    expect(cutters(plan(...args), 'A')).toEqual(expected);
  });

  test('somebody of a shorter week, and the project’s where the own calendar cannot be used', () => {
    const doc = plan([['A', 'eve']], [{ id: 'eve', calendarId: 'nights' }]);
    expect(cutters(doc, 'A')).toEqual(['eve']);
    change(doc, 'calendars', 'nights', { week: [[], [], [], [], [], [], []] });
    expect(cutters(doc, 'A')).toEqual([]);
  });
  test('nobody where its dates are kept, and with no usable calendar there is none', () => {
    const doc = plan([['A', 'ana']], [ana]);
    change(doc, 'activities', 'A', { keepsDays: true });
    expect(cutters(doc, 'A')).toEqual([]);
    change(doc, 'calendars', 'five', { week: [[], [], [], [], [], [], []] });
    expect([workingCalendarFor(doc, sure(doc.activities.get('A'))), resourceTime(doc, sure(doc.resources.get('ana')))]).toEqual([undefined, undefined]);
  });
  test('material drives nothing, and somebody assigned twice is one', () => {
    const doc = plan(
      [
        ['A', 'ana'],
        ['A', 'sand'],
        ['A', 'ana'],
      ],
      [ana, { id: 'sand', kind: 'material', unit: 't', daysOff: [] }],
    );
    for (const x of [...doc.assignments.values()]) change(doc, 'assignments', x.id, { drives: true });
    expect(driversOf(doc, sure(doc.activities.get('A'))).map((r) => r.id)).toEqual(['ana']);
  });
});

describe('the same calendar', () => {
  test('for the same people, whatever their order; not for some of them', () => {
    const doc = plan(
      [
        ['A', 'ana'],
        ['A', 'ben'],
        ['B', 'ben'],
        ['B', 'ana'],
        ['C', 'ana'],
      ],
      [ana, ben],
    );
    const [a, b, c] = ['A', 'B', 'C'].map((id) => working(doc, id));
    expect([a === b, a === c, working(doc, 'A') === a, working(doc, 'C') === c]).toEqual([true, false, true, true]);
  });
  test('not for others whose ids read alike one after the other', () => {
    const days = (on: string) => away(`2026-03-${on}`);
    const doc = plan(
      [
        ['A', 'a'],
        ['A', 'bc'],
        ['B', 'ab'],
        ['B', 'c'],
      ],
      [
        { id: 'a', daysOff: days('03') },
        { id: 'bc', daysOff: days('04') },
        { id: 'ab', daysOff: days('05') },
        { id: 'c', daysOff: days('06') },
      ],
    );
    const [a, b] = [working(doc, 'A'), working(doc, 'B')];
    expect([a === b, working(doc, 'A') === a, working(doc, 'B') === b]).toEqual([false, true, true]);
  });
  test('until one of them is away on other days or has another name, and whoever is as before keeps it', () => {
    const doc = plan(
      [
        ['A', 'ana'],
        ['A', 'ben'],
        ['B', 'ana'],
      ],
      [ana, ben],
    );
    const [a, b] = [working(doc, 'A'), working(doc, 'B')];
    change(doc, 'resources', 'ben', { name: 'Ben' });
    expect([working(doc, 'A') === a, working(doc, 'B') === b, cutters(doc, 'A')]).toEqual([false, true, ['ana', 'Ben']]);
    const a2 = working(doc, 'A');
    change(doc, 'resources', 'ana', { daysOff: sure(peopledPlan({ activities: [] }, { resources: [ben] }).resources.get('ben')).daysOff });
    expect([working(doc, 'A') === a2, working(doc, 'B') === b]).toEqual([false, false]);
    // Now both are away on the 5th and the 6th alone: ana has what ben has.
    expect(working(doc, 'B').position(sure(own(doc, 'B').finishInstant(own(doc, 'B').total)))).toBe(own(doc, 'B').total - 2 * 480);
  });
  test('of a resource: made once, with its days off and without; another one where its calendar changes', () => {
    const doc = plan([['A', 'ana']], [ana, { id: 'cai' }]);
    const time = (id: string) => sure(resourceTime(doc, sure(doc.resources.get(id))));
    const [a, c] = [time('ana'), time('cai')];
    expect([time('ana') === a, time('cai') === c]).toEqual([true, true]);
    change(doc, 'calendars', 'five', { hoursPerDay: 7 });
    expect([time('ana') === a, time('cai') === c]).toEqual([false, false]);
  });
});
