/** What follows what (resource rules, section 3): the table row by row, with figures worked by hand. */
import { assign, assignCrew, reassign, setAssignment, typeAssignments, unassign } from '@yellowhammer/core/commands/assign';
import { setActivities, setCell, setCells } from '@yellowhammer/core/commands/cells';
import { copyRows, pasteRows } from '@yellowhammer/core/commands/copy-rows';
import { deleteRows } from '@yellowhammer/core/commands/outline';
import { replicate } from '@yellowhammer/core/commands/replicate';
import { mergeActivities, splitActivity } from '@yellowhammer/core/commands/reshape';
import { addPeople, deletePeople, importResources, setPeople } from '@yellowhammer/core/commands/resources';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import type { Document } from '@yellowhammer/core/model/document';
import { writeDocument } from '@yellowhammer/core/model/file';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { documentOf, mustBack, says, sure, tells, viewIn } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;
const unitMinute = 1000;

/** A plan with one activity A of some days and a basis, and four who can work: mason, helper (labour), crane (equipment), lime (material), and the role rigger. */
function plan(basis: string, days = 8, more: Record<string, unknown> = {}): Document {
  const doc = documentOf({
    activities: [
      ['A', `${days}d`, { basis, ...more }],
      ['B', '2d'],
      ['M', 'finish'],
      ['L', 'effort'],
    ],
    links: ['A > B', 'B > M'],
    ...(more['actualStart'] ? { project: { dataDate: '2026-03-04T08:00' } } : {}),
  });
  for (const [id, kind] of [
    ['mason', 'labour'],
    ['helper', 'labour'],
    ['crane', 'equipment'],
    ['lime', 'material'],
  ] as const)
    doc.resources.set(id, sure(sure(readProjectText(fileWith(id, kind)).file).document.resources.get(id)));
  mustBack(
    doc,
    addPeople(doc, 'roles', 'rigger', {}, () => 'rigger'),
  );
  return doc;
}
const fileWith = (id: string, kind: string): string =>
  JSON.stringify({
    format: 'yellowhammer-project',
    version: 1,
    project: { id: 'project', code: 'T', name: 'T', plannedStart: '2026-03-02T08:00', calendarId: 'c' },
    calendars: [{ id: 'c', name: 'C', week: Array.from({ length: 7 }, () => [['08:00', '16:00']]) }],
    resources: [{ id, name: id, kind }],
  });

const put = (doc: Document, who: string, units = 1, activity = 'A'): string => {
  mustBack(doc, assign(doc, [activity], [who === 'rigger' ? { resourceId: null, roleId: who, units } : { resourceId: who, roleId: null, units }], newId));
  return sure(indexOf(doc).assignmentsOf(activity).at(-1)).id;
};
/** `8d; mason 2 128h, helper 1 64h`: days, and units and hours of each. */
function told(doc: Document, activity = 'A'): string {
  const a = sure(doc.activities.get(activity));
  const parts = indexOf(doc)
    .assignmentsOf(activity)
    .map((x) => `${x.resourceId ?? x.roleId ?? ''} ${x.units} ${Math.round(x.work / unitMinute / 6) / 10}h`);
  return `${Math.round((a.duration / 480) * 1000) / 1000}d${a.remaining === null ? '' : ` (${a.remaining / 480} left)`}; ${parts.join(', ')}`;
}

describe('fixed duration', () => {
  test('units make work, work makes units, the duration moves the work', () => {
    const doc = plan('fixedDuration');
    const x = put(doc, 'mason', 2);
    expect(told(doc)).toBe('8d; mason 2 128h');
    mustBack(doc, setAssignment(doc, x, { units: 0.5 }));
    expect(told(doc)).toBe('8d; mason 0.5 32h');
    mustBack(doc, setAssignment(doc, x, { work: 96 * 60 * unitMinute }));
    expect(told(doc)).toBe('8d; mason 1.5 96h');
    mustBack(doc, setActivities(doc, ['A'], { duration: 4 * 480 }));
    expect(told(doc)).toBe('4d; mason 1.5 48h');
    const y = put(doc, 'helper');
    expect(told(doc)).toBe('4d; mason 1.5 48h, helper 1 32h');
    mustBack(doc, unassign(doc, [x]));
    expect(told(doc)).toBe('4d; helper 1 32h');
    mustBack(doc, setAssignment(doc, y, { delay: 480 }));
    expect(told(doc)).toBe('4d; helper 1 24h');
  });
  test('units that follow are rounded down, and the work that was typed stays whatever becomes of the others', () => {
    const doc = plan('fixedDuration', 1);
    const x = put(doc, 'mason');
    mustBack(doc, setAssignment(doc, x, { work: 1000 * unitMinute }));
    expect(sure(doc.assignments.get(x))).toMatchObject({ units: 2.083, work: 1_000_000 });
    const y = put(doc, 'helper');
    mustBack(doc, setAssignment(doc, y, { units: 3 }));
    expect(sure(doc.assignments.get(x)).work).toBe(1_000_000);
    expect(says(setAssignment(doc, x, { work: 100 }))).toMatch(/less than 0.001 units/);
  });
  test('work without length is refused', () => {
    const doc = plan('fixedDuration', 0);
    const x = put(doc, 'mason');
    expect(told(doc)).toBe('0d; mason 1 0h');
    expect(says(setAssignment(doc, x, { work: 5 }))).toMatch(/without any length/);
  });
});

describe('fixed work', () => {
  test('a second mason halves it, one who goes doubles it; the remainder goes to the first', () => {
    const doc = plan('fixedWork');
    const x = put(doc, 'mason');
    expect(told(doc)).toBe('8d; mason 1 64h');
    put(doc, 'helper');
    expect(told(doc)).toBe('4d; mason 1 32h, helper 1 32h');
    mustBack(doc, setAssignment(doc, x, { units: 2 }));
    expect(told(doc)).toBe('4d; mason 2 32h, helper 1 32h');
    mustBack(doc, unassign(doc, [x]));
    expect(told(doc)).toBe('8d; helper 1 64h');
    const y = sure(indexOf(doc).assignmentsOf('A')[0]).id;
    mustBack(doc, setAssignment(doc, y, { work: 10 }));
    put(doc, 'mason', 2);
    expect(
      indexOf(doc)
        .assignmentsOf('A')
        .map((z) => z.work),
    ).toEqual([4, 6]);
  });
  test('by choice somebody brings his own work, or takes it', () => {
    const doc = plan('fixedWork');
    put(doc, 'mason');
    mustBack(doc, assign(doc, ['A'], [{ resourceId: 'helper', roleId: null, units: 2 }], newId, { ownWork: true }));
    expect(told(doc)).toBe('8d; mason 1 64h, helper 2 128h');
    mustBack(doc, unassign(doc, [sure(indexOf(doc).assignmentsOf('A')[0]).id], true));
    expect(told(doc)).toBe('8d; helper 2 128h');
  });
  test('equipment brings its own work; the longest of the driving ones makes the duration', () => {
    const doc = plan('fixedWork');
    const x = put(doc, 'mason');
    const crane = put(doc, 'crane', 0.5);
    expect(told(doc)).toBe('8d; mason 1 64h, crane 0.5 32h');
    mustBack(doc, setAssignment(doc, x, { units: 4 }));
    expect(told(doc)).toBe('8d; mason 4 64h, crane 0.5 32h');
    mustBack(doc, setAssignment(doc, crane, { work: 8 * 60 * unitMinute }));
    expect(told(doc)).toBe('2d; mason 4 64h, crane 0.5 8h');
    mustBack(doc, setAssignment(doc, crane, { delay: 480 }));
    expect(told(doc)).toBe('3d; mason 4 64h, crane 0.5 8h');
  });
  test('a new duration stretches the length of each, and their units follow', () => {
    const doc = plan('fixedWork');
    put(doc, 'mason', 2);
    mustBack(doc, setActivities(doc, ['A'], { duration: 16 * 480 }));
    expect(told(doc)).toBe('16d; mason 1 128h');
    expect(says(setActivities(doc, ['A'], { duration: 0 }))).toMatch(/without any length/);
  });
  test('who does not drive works as long as it lasts; who begins to drive keeps the work', () => {
    const doc = plan('fixedWork');
    put(doc, 'mason');
    const y = put(doc, 'helper');
    expect(told(doc)).toBe('4d; mason 1 32h, helper 1 32h');
    mustBack(doc, setAssignment(doc, y, { drives: false }));
    expect(told(doc)).toBe('4d; mason 1 32h, helper 1 32h');
    mustBack(doc, setAssignment(doc, sure(indexOf(doc).assignmentsOf('A')[0]).id, { work: 64 * 60 * unitMinute }));
    expect(told(doc)).toBe('8d; mason 1 64h, helper 1 64h');
    mustBack(doc, setAssignment(doc, y, { drives: true }));
    expect(told(doc)).toBe('8d; mason 1 64h, helper 1 64h');
  });
});

describe('production rate', () => {
  const rated = { quantity: 120, rate: 10, crews: 1 };
  test('quantity, rate and crews make the duration without any resource', () => {
    const doc = plan('productionRate', 12, rated);
    mustBack(doc, setActivities(doc, ['A'], { quantity: 60 }));
    expect(told(doc)).toBe('6d; ');
    mustBack(doc, setActivities(doc, ['A'], { rate: 20 }));
    expect(told(doc)).toBe('3d; ');
    mustBack(doc, setCell(doc, 'A', 'crews', '2', newId));
    expect(told(doc)).toBe('1.5d; ');
    mustBack(doc, setActivities(doc, ['A'], { duration: 3 * 480 }));
    expect(sure(doc.activities.get('A')).rate).toBe(10);
    // 100 of 3 a day: 33 1/3 days are 16,000 minutes exactly; 100 of 7 a day 6,857.14, so 6,858.
    mustBack(doc, setActivities(doc, ['A'], { quantity: 100, rate: 3, crews: 1 }));
    expect(sure(doc.activities.get('A')).duration).toBe(16_000);
    mustBack(doc, setActivities(doc, ['A'], { rate: 7 }));
    expect(sure(doc.activities.get('A')).duration).toBe(6_858);
  });
  test('more crews take more of those who drive, and the work stays', () => {
    const doc = plan('productionRate', 12, rated);
    put(doc, 'mason', 2);
    mustBack(doc, setActivities(doc, ['A'], { crews: 3 }));
    expect(told(doc)).toBe('4d; mason 6 192h');
  });
  test('another basis keeps duration and work; units and rate follow', () => {
    const doc = plan('fixedWork', 8, { quantity: 80, rate: 99 });
    put(doc, 'mason');
    put(doc, 'crane');
    mustBack(doc, setAssignment(doc, sure(indexOf(doc).assignmentsOf('A')[1]).id, { work: 16 * 60 * unitMinute }));
    expect(told(doc)).toBe('8d; mason 1 64h, crane 1 16h');
    mustBack(doc, setCell(doc, 'A', 'basis', 'production rate', newId));
    expect(told(doc)).toBe('8d; mason 1 64h, crane 0.25 16h');
    expect(sure(doc.activities.get('A')).rate).toBe(10);
  });
});

test('on started work what is done stays, and is written down first', () => {
  const doc = plan('fixedWork', 8, { actualStart: '2026-03-02T08:00', remaining: 6 * 480 });
  const x = put(doc, 'mason');
  expect(told(doc)).toBe('8d (6 left); mason 1 64h');
  mustBack(doc, setAssignment(doc, x, { units: 2 }));
  expect(told(doc)).toBe('4d (2 left); mason 2 64h');
  expect(sure(doc.assignments.get(x)).actualWork).toBe(16 * 60 * unitMinute);
  mustBack(doc, setAssignment(doc, x, { units: 64 }));
  expect(told(doc)).toBe('2d (0 left); mason 64 64h');
});

test('a level of effort stores no work; milestones and margins take nobody', () => {
  const doc = plan('fixedDuration');
  const x = put(doc, 'mason', 2, 'L');
  expect(sure(doc.assignments.get(x)).work).toBe(0);
  expect(says(setAssignment(doc, x, { work: 5 }))).toMatch(/follows from its span/);
  // A task that becomes one gives its work up, even where its units agree.
  const y = put(doc, 'mason');
  mustBack(doc, setCell(doc, 'A', 'type', 'level of effort', newId));
  expect(sure(doc.assignments.get(y)).work).toBe(0);
  mustBack(doc, setCell(doc, 'A', 'type', 'task', newId));
  expect(says(assign(doc, ['M'], [{ resourceId: 'mason', roleId: null, units: 1 }], newId))).toMatch(/takes no assignments/);
  put(doc, 'mason', 1, 'B');
  expect(tells(setCell(doc, 'B', 'type', 'finish milestone', newId))).toMatch(/WRONG_TYPE|assigned to it/);
});

test('typed assignments complete names, keep units, and say what they do not know', () => {
  const doc = plan('fixedDuration', 1);
  mustBack(doc, typeAssignments(doc, 'A', 'mas 3, crane 0.5; rig', newId));
  expect(told(doc)).toBe('1d; mason 3 24h, crane 0.5 4h, rigger 1 8h');
  mustBack(doc, typeAssignments(doc, 'A', 'mason 2, lime 12.5', newId));
  expect(told(doc)).toBe('1d; mason 2 16h, lime 1 0h');
  expect(sure(indexOf(doc).assignmentsOf('A')[1])).toMatchObject({ quantity: 12.5, drives: false });
  expect(says(typeAssignments(doc, 'A', 'tiler', newId))).toMatch(/tiler is no resource or role/);
  expect(says(typeAssignments(doc, 'A', 'mason, mason 2', newId))).toMatch(/twice/);
  // Over several rows, of which one has it so already, and emptied where one is empty.
  mustBack(doc, setCells(doc, ['A', 'B'], 'assignments', 'mason 2, lime 12.5', newId));
  mustBack(doc, typeAssignments(doc, 'A', '', newId));
  mustBack(doc, setCells(doc, ['A', 'B'], 'assignments', '', newId));
  expect(told(doc) + told(doc, 'B')).toBe('1d; 2d; ');
});

test('crews are assigned line by line, roles are filled, and who goes leaves the work to the others', () => {
  const doc = plan('fixedWork');
  mustBack(
    doc,
    addPeople(
      doc,
      'crews',
      'wall crew',
      {
        lines: [
          { resourceId: 'mason', roleId: null, units: 2 },
          { resourceId: null, roleId: 'rigger', units: 1 },
        ],
      },
      () => 'crew',
    ),
  );
  mustBack(doc, assignCrew(doc, ['A'], 'crew', 1, newId));
  // Two masons bring 128 hours; then the rigger takes a third of them.
  expect(told(doc)).toBe('5.333d; mason 2 85.3h, rigger 1 42.7h');
  const role = sure(indexOf(doc).assignmentsOf('A')[1]).id;
  mustBack(doc, reassign(doc, [role], { resourceId: 'helper', roleId: null }));
  expect(told(doc)).toBe('5.333d; mason 2 85.3h, helper 1 42.7h');
  expect(says(reassign(doc, [role], { resourceId: 'mason', roleId: null }))).toMatch(/assigned there already/);
  mustBack(doc, deletePeople(doc, 'resources', 'helper'));
  expect(told(doc)).toBe('8d; mason 2 128h');
  expect(says(setPeople(doc, 'resources', 'mason', { kind: 'material' }))).toMatch(/is assigned/);
});

test('assignments go with their rows: deleted, copied, replicated, parted, joined', () => {
  const doc = plan('fixedDuration');
  put(doc, 'mason', 2);
  mustBack(doc, pasteRows(doc, 'p', sure(copyRows(doc, 'p', [{ kind: 'activity', id: 'A' }], false)), null, newId));
  expect(doc.assignments.size).toBe(2);
  mustBack(
    doc,
    replicate(doc, [{ kind: 'activity', id: 'A' }], { times: 2, names: '', replace: '', replaceBy: '', incoming: false, outgoing: false, chained: false }, newId).outcome,
  );
  expect(doc.assignments.size).toBe(4);
  const [second] = mustBack(doc, splitActivity(doc, 'A', 2 * 480, newId));
  expect([told(doc), told(doc, second)]).toEqual(['2d; mason 2 32h', '6d; mason 2 96h']);
  mustBack(doc, mergeActivities(doc, viewIn(doc), ['A', sure(second)], null));
  expect(told(doc)).toBe('8d; mason 2 128h');
  mustBack(doc, deleteRows(doc, [{ kind: 'activity', id: 'A' }]));
  expect(doc.assignments.size).toBe(3);
});

test('rows pasted into another project bring who does them, found by name', () => {
  const from = plan('fixedDuration');
  put(from, 'mason', 2);
  put(from, 'rigger');
  const to = documentOf({ activities: [['X', '1d']] });
  mustBack(
    to,
    addPeople(to, 'resources', 'Mason', {}, () => 'own'),
  );
  const [copy] = mustBack(to, pasteRows(to, 'q', sure(copyRows(from, 'p', [{ kind: 'activity', id: 'A' }], false)), null, newId));
  expect(
    indexOf(to)
      .assignmentsOf(sure(copy))
      .map((x) => x.resourceId ?? sure(to.roles.get(sure(x.roleId))).name),
  ).toEqual(['own', 'rigger']);
  expect(to.resources.size).toBe(1);
});

test('a list of a spreadsheet adds and changes resources; a wrong line names itself and nothing is taken', () => {
  const doc = plan('fixedDuration');
  mustBack(
    doc,
    importResources(
      doc,
      [
        ['Name', 'Kind', 'Role', 'Group', 'Units', 'Rate'],
        ['Ana', 'labour', 'mason', 'Yard', '1', '41.50'],
        ['mason', '', '', '', '4', ''],
      ],
      '2026-01-01',
      newId,
    ),
  );
  const ana = sure([...doc.resources.values()].find((r) => r.name === 'Ana'));
  expect([ana.rates, sure(doc.roles.get(sure(ana.roleId))).name, sure(doc.resourceGroups.get(sure(ana.groupId))).name]).toEqual([
    [{ from: '2026-01-01', perHour: 41.5, accountId: null }],
    'mason',
    'Yard',
  ]);
  expect(sure(doc.resources.get('mason')).availability).toEqual([{ from: '2026-01-01', units: 4 }]);
  expect(says(importResources(doc, [['Bo', 'person']], '2026-01-01', newId))).toMatch(/Line 1 \(Bo\): person is no kind/);
});

test('the file keeps it all, and the plan check says where figures of a file do not agree', () => {
  const doc = plan('fixedDuration');
  const x = put(doc, 'mason', 2);
  const back = sure(readProjectText(writeDocument(doc)).file).document;
  expect(writeDocument(back)).toBe(writeDocument(doc));
  back.assignments.set(x, { ...sure(back.assignments.get(x)), work: 7 });
  expect(schedule(back).problems.map((p) => p.code)).toContain('WORK_DISAGREES');
  expect(schedule(doc).problems.map((p) => p.code)).not.toContain('WORK_DISAGREES');
});
