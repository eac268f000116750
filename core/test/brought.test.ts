/** What rows of another project bring along: who does the work, codes, fields and looks, met by name or put beside what is there. */
import { Draft } from '@yellowhammer/core/change/change';
import { bringPeople, whoIn } from '@yellowhammer/core/commands/bring-people';
import { bringValues, usedOf } from '@yellowhammer/core/commands/bring-values';
import { bringLooks } from '@yellowhammer/core/commands/views';
import type { Document } from '@yellowhammer/core/model/document';
import type { Assignment, Resource, Role } from '@yellowhammer/core/model/resource-schema';
import type { Look } from '@yellowhammer/core/model/schema';
import { codeSetOf, ownFieldOf, peopledPlan, sure } from './helpers';

/** Ids b1, b2, ... */
function ids(): () => string {
  let n = 0;
  return () => `b${++n}`;
}
const theirs = (): Document =>
  peopledPlan(
    {
      activities: [
        ['A', '2d', {}],
        ['B', '2d', {}],
        ['C', '2d', {}],
      ],
    },
    {
      resourceGroups: [{ id: 'g', name: 'Yard' }],
      roles: [
        { id: 'mason', name: 'mason', rates: [{ from: '2026-01-01', perHour: 5, accountId: 'acc' }], accountId: 'acc' },
        { id: 'cook', name: 'cook' },
        { id: 'none', name: 'none' },
      ],
      accounts: [{ id: 'acc', name: 'Account' }],
      resources: [
        {
          id: 'ana',
          name: 'Ana',
          roleId: 'mason',
          otherRoles: ['cook'],
          groupId: 'g',
          calendarId: 'six',
          accountId: 'acc',
          rates: [{ from: '2026-01-01', perHour: 9, accountId: 'acc' }],
        },
        { id: 'bo', name: 'Bo' },
        { id: 'lime', name: 'Lime', kind: 'material', prices: [{ from: '2026-01-01', price: 2, accountId: 'acc' }] },
        { id: 'far', name: 'Far' },
      ],
      assignments: [
        { activityId: 'A', resourceId: 'ana' },
        { activityId: 'A', roleId: 'cook' },
        { activityId: 'B', resourceId: 'bo' },
        { activityId: 'B', resourceId: 'ana' },
        { activityId: 'C', resourceId: 'lime', drives: false },
      ],
    },
  );
const who = (doc: Document, ...ids: string[]): string => {
  const { resources, roles } = whoIn(
    doc,
    ids.map((id) => ({ id })),
  );
  return [...resources.map((r) => r.id), '|', ...roles.map((r) => r.id)].join(' ');
};

test('who does the work of activities, each once, with the roles of resources', () => {
  const doc = theirs();
  expect([who(doc, 'A'), who(doc, 'B', 'A'), who(doc, 'C'), who(doc)]).toEqual(['ana | mason cook', 'bo ana | mason cook', 'lime |', '|']);
});

describe('people', () => {
  const from = theirs();
  const all = { resources: [...from.resources.values()], roles: [...from.roles.values()] };
  const x = (more: Partial<Assignment>): Assignment => ({ ...sure(from.assignments.get('x0')), resourceId: null, roleId: null, ...more });
  const bring = (draft: Draft) =>
    bringPeople(
      draft,
      all,
      (id) => `here ${id}`,
      ids(),
      (id) => (id === null ? null : `booked ${id}`),
    );

  test('who is not there comes along with all that is his, but not with what is that project’s own', () => {
    const draft = new Draft(peopledPlan({ activities: [] }, { resources: [{ id: 'eve', name: 'Eve', rank: 4 }] }));
    const to = bring(draft);
    expect(to(x({ resourceId: 'ana' }))).toEqual({ resourceId: 'b1', roleId: null });
    expect(draft.get('resources', 'b1')).toEqual({
      ...sure(from.resources.get('ana')),
      id: 'b1',
      rank: 5,
      groupId: null,
      roleId: 'b2',
      otherRoles: [],
      calendarId: 'here six',
      accountId: 'booked acc',
      rates: [{ from: '2026-01-01', perHour: 9, accountId: 'booked acc' }],
    });
    expect(draft.get('roles', 'b2')).toEqual({
      ...sure(from.roles.get('mason')),
      id: 'b2',
      rank: 0,
      accountId: 'booked acc',
      rates: [{ from: '2026-01-01', perHour: 5, accountId: 'booked acc' }],
    });
    // Once more it is the same one, and a role that came along with a resource is no other.
    expect([to(x({ resourceId: 'ana' })), to(x({ roleId: 'mason' }))]).toEqual([
      { resourceId: 'b1', roleId: null },
      { resourceId: null, roleId: 'b2' },
    ]);
    expect(to(x({ resourceId: 'lime' }))).toEqual({ resourceId: 'b3', roleId: null });
    expect(draft.get('resources', 'b3')).toMatchObject({ prices: [{ price: 2, accountId: 'booked acc' }], calendarId: null, accountId: null, roleId: null });
    expect(sure(draft.get('resources', 'b3')).rank).toBeGreaterThan(5);
    expect(draft.changes).toHaveLength(3);
    expect([to(x({ resourceId: 'zz' })), to(x({ roleId: 'zz' }))]).toEqual([null, null]);
  });
  test('who is there of that name, or is the copy of the same shared one, does it', () => {
    const here = peopledPlan(
      { activities: [] },
      {
        resources: [
          { id: 'r1', name: 'ANA' },
          { id: 'r2', name: 'Robert', sharedId: 'shared bo' },
        ],
        roles: [{ id: 'k', name: 'Cook' }],
      },
    );
    from.resources.set('bo', { ...sure(from.resources.get('bo')), sharedId: 'shared bo' });
    const draft = new Draft(here);
    const to = bringPeople(draft, { resources: [...from.resources.values()], roles: all.roles }, () => null, ids());
    expect([to(x({ resourceId: 'ana' })), to(x({ resourceId: 'bo' })), to(x({ roleId: 'cook' }))]).toEqual([
      { resourceId: 'r1', roleId: null },
      { resourceId: 'r2', roleId: null },
      { resourceId: null, roleId: 'k' },
    ]);
    expect(draft.changes).toEqual([]);
    // Without accounts nothing is booked.
    to(x({ roleId: 'mason' }));
    expect(draft.changes.map((c) => [c.table, (c.after as Role).accountId, (c.after as Role).rates[0]?.accountId])).toEqual([['roles', null, null]]);
  });
});

describe('values', () => {
  test('of rows say which sets and fields are used', () => {
    const doc = peopledPlan({ activities: [] }, {});
    for (const s of [codeSetOf('s', 'S', []), codeSetOf('t', 'T', [])]) doc.codeSets.set(s.id, s);
    for (const f of [ownFieldOf('f', 'F'), ownFieldOf('g', 'G')]) doc.ownFields.set(f.id, f);
    const used = usedOf(doc, [{ values: { 'code:t': 'x' } }, { values: { 'own:f': 1, 'code:zz': 'x' } }, { values: {} }]);
    expect([used.codeSets.map((s) => s.id), used.ownFields.map((f) => f.id)]).toEqual([['t'], ['f']]);
  });
  test('of a set that is not there bring it whole, under its own id or, where that is taken, another', () => {
    const doc = peopledPlan({ activities: [] }, {});
    const draft = new Draft(doc);
    const set = codeSetOf('s', 'Area', [['N'], ['N1', '', 's.N']]);
    expect(bringValues(draft, { codeSets: [set], ownFields: [] }, ids())({ 'code:s': 's.N1', 'code:other': 'x', 'own:f': 3 })).toEqual({ 'code:s': 's.N1' });
    expect(draft.get('codeSets', 's')).toEqual(set);
    doc.codeSets.set('s', codeSetOf('s', 'Phase', [['1']]));
    const again = new Draft(doc);
    expect(bringValues(again, { codeSets: [set], ownFields: [] }, ids())({ 'code:s': 's.N1' })).toEqual({ 'code:b1': 's.N1' });
    expect(again.get('codeSets', 'b1')).toEqual({ ...set, id: 'b1' });
  });
  test('of a set of that name are its values; those that it lacks come along in their places', () => {
    const doc = peopledPlan({ activities: [] }, {});
    doc.codeSets.set('h', codeSetOf('h', 'AREA', [['n'], ['S']]));
    const draft = new Draft(doc);
    const to = bringValues(draft, { codeSets: [codeSetOf('s', 'Area', [['N'], ['N1', '', 's.N'], ['W']])], ownFields: [] }, ids());
    expect([to({ 'code:s': 's.N' }), to({ 'code:s': 's.N1' }), to({ 'code:s': 's.W' }), to({ 'code:s': 'zz' })]).toEqual([
      { 'code:h': 'h.n' },
      { 'code:h': 's.N1' },
      { 'code:h': 's.W' },
      {},
    ]);
    expect(draft.get('codeSets', 'h')?.values.map((v) => [v.id, v.parentId])).toEqual([
      ['h.n', null],
      ['h.S', null],
      ['s.N1', 'h.n'],
      ['s.W', null],
    ]);
    const same = new Draft(doc);
    bringValues(same, { codeSets: [codeSetOf('s', 'Area', [['S']])], ownFields: [] }, ids());
    expect(same.changes).toEqual([]);
  });
  test('of a field are those of the field of that name, kind and rows; else of a copy with a name of its own', () => {
    const doc = peopledPlan({ activities: [] }, {});
    for (const f of [
      ownFieldOf('h', 'Risk', { kind: 'choice', choices: ['Low'] }),
      ownFieldOf('i', 'Depth'),
      ownFieldOf('j', 'depth 2'),
      ownFieldOf('k', 'Shift', { of: 'assignments' }),
    ])
      doc.ownFields.set(f.id, f);
    const draft = new Draft(doc);
    const to = bringValues(
      draft,
      {
        codeSets: [],
        ownFields: [
          ownFieldOf('r', 'RISK', { kind: 'choice', choices: ['LOW', 'High'] }),
          ownFieldOf('d', 'Depth', { kind: 'number', required: true, standard: 4, key: 'depth' }),
          ownFieldOf('k', 'Shift'),
          ownFieldOf('same', 'depth'),
        ],
      },
      ids(),
    );
    expect(to({ 'own:r': 'High', 'own:d': 7, 'own:k': 'night', 'own:same': 'x', 'own:zz': 1 })).toEqual({ 'own:h': 'High', 'own:d': 7, 'own:b1': 'night', 'own:i': 'x' });
    expect(draft.get('ownFields', 'h')?.choices).toEqual(['Low', 'High']);
    expect(draft.get('ownFields', 'd')).toMatchObject({ name: 'Depth 3', kind: 'number', required: false, standard: null, key: 'depth3' });
    expect(draft.get('ownFields', 'b1')).toMatchObject({ name: 'Shift 2', of: 'activities', key: 'shift2' });
    expect(draft.changes.map((c) => c.id).sort()).toEqual(['b1', 'd', 'h']);
    const same = new Draft(doc);
    bringValues(same, { codeSets: [], ownFields: [ownFieldOf('r', 'Risk', { kind: 'choice', choices: ['low'] })] }, ids());
    expect(same.changes).toEqual([]);
  });
});

test('looks are met by name, or come along behind the others, under their own id where it is free', () => {
  const look = (id: string, name: string, rank: number): Look => ({ id, rank, name, about: '', rules: [] });
  const doc = peopledPlan({ activities: [] }, {});
  for (const l of [look('x', 'Plain', 0), look('y', 'Bold', 6)]) doc.looks.set(l.id, l);
  const draft = new Draft(doc);
  const to = bringLooks(draft, [look('p', 'PLAIN', 3), look('x', 'Thin', 4), look('q', 'Wide', 5)], ids());
  expect([to('p'), to('x'), to('q'), to('zz'), to(null)]).toEqual(['x', 'b1', 'q', null, null]);
  expect(['b1', 'q'].map((id) => [draft.get('looks', id)?.name, draft.get('looks', id)?.rank])).toEqual([
    ['Thin', 7],
    ['Wide', 8],
  ]);
  expect(draft.changes).toHaveLength(2);
});

test('a resource stays what it is in the project that it comes from', () => {
  const doc = theirs();
  const before = JSON.stringify([...doc.resources.values()] satisfies Resource[]);
  bringPeople(new Draft(peopledPlan({ activities: [] }, {})), { resources: [...doc.resources.values()], roles: [] }, () => null, ids())(sure(doc.assignments.get('x0')));
  expect(JSON.stringify([...doc.resources.values()])).toBe(before);
});
