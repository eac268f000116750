/** What goes is replaced everywhere, and nowhere else: commands against a slow twin, the text of the file with the name in it exchanged. */
import { accountTree, addAccount, addCurrency, deleteAccount, deleteCurrency, findAccount, importAccounts, moveAccount, setCurrency } from '@yellowhammer/core/commands/accounts';
import { codeTree, deleteCodeValue, moveCodeValue } from '@yellowhammer/core/commands/codes';
import { addPeople, canFill, crewText, deletePeople, importResources, usesOf } from '@yellowhammer/core/commands/resources';
import type { Document } from '@yellowhammer/core/model/document';
import { tableNames } from '@yellowhammer/core/model/tables';
import { mustBack, peopledPlan, says, sure } from './helpers';

let n = 0;
const newId = (): string => `s${++n}`;
type Rows = Record<string, unknown>[];
const text = (doc: Document): Record<string, Rows> => JSON.parse(JSON.stringify(Object.fromEntries(tableNames.map((t) => [t, [...doc[t].values()]])))) as Record<string, Rows>;
/** The plan's file with one name in the place of another in a field, wherever it stands; null: none. */
function exchanged(doc: Document, fields: string[], from: string, to: string | null): Record<string, Rows> {
  const walk = (x: unknown): unknown =>
    Array.isArray(x) ? x.map(walk) : x && typeof x === 'object' ? Object.fromEntries(Object.entries(x).map(([k, v]) => [k, fields.includes(k) && v === from ? to : walk(v)])) : x;
  return walk(text(doc)) as Record<string, Rows>;
}
const without = (file: Record<string, Rows>, table: string, id: string): Record<string, Rows> => ({ ...file, [table]: sure(file[table]).filter((r) => r['id'] !== id) });

const named = (account: string | null): Record<string, unknown> => ({
  accountId: account,
  rates: [
    { from: '2026-01-01', perHour: 100, accountId: account },
    { from: '2026-02-01', perHour: 110, accountId: 'other' },
    { from: '2026-03-01', perHour: 120, accountId: null },
  ],
});
/** All that can name an account names old, other, or none; all that can name a role names mason, or rigger, or none. */
function plan(): Document {
  const three = ['old', 'other', null];
  return peopledPlan(
    {
      activities: [
        ['C', '3d', { rank: 2 }],
        ['A', '10d', { rank: 0 }],
        ['B', '5d', { rank: 1 }],
      ],
      project: { currency: 'SEK' },
    },
    {
      accounts: [
        { id: 'top', name: 'Top', rank: 0 },
        { id: 'old', code: '7', name: 'Old', parentId: 'top', rank: 1 },
        { id: 'other', code: '8', name: 'Other', rank: 2 },
        { id: 'in', name: 'Inside', parentId: 'old', rank: 3 },
        { id: 'deep', name: 'Deep', parentId: 'in', rank: 4 },
      ],
      resourceGroups: [
        { id: 'yard', name: 'Yard', parentId: null },
        { id: 'shed', name: 'Shed', parentId: 'yard' },
        { id: 'rack', name: 'Rack', parentId: 'shed' },
        { id: 'hall', name: 'Hall', parentId: 'yard' },
      ],
      roles: [
        { id: 'mason', name: 'mason', ...named('old') },
        { id: 'rigger', name: 'rigger', ...named('other') },
        { id: 'cook', name: 'cook' },
      ],
      resources: [
        ...three.map((a, i) => ({
          id: `r${i}`,
          roleId: ['mason', 'rigger', null][i],
          otherRoles: [['rigger'], ['mason', 'cook'], ['mason']][i],
          groupId: ['shed', 'yard', null][i],
          ...named(a),
        })),
        ...three.map((a, i) => ({
          id: `m${i}`,
          kind: 'material',
          groupId: 'shed',
          prices: [
            { from: '2026-01-01', price: 5, accountId: a },
            { from: '2026-02-01', price: 6, accountId: 'other' },
          ],
        })),
      ],
      crews: [
        {
          id: 'gang',
          name: 'Gang',
          lines: [
            { resourceId: 'r0', roleId: null, units: 1 },
            { resourceId: null, roleId: 'mason', units: 2.5 },
            { resourceId: 'r1', roleId: null, units: 1 },
          ],
        },
        { id: 'pair', name: 'Pair', lines: [{ resourceId: null, roleId: 'rigger', units: 1 }] },
      ],
      assignments: [
        { activityId: 'C', roleId: 'mason', work: 1_440_000, accountId: 'old' },
        { activityId: 'A', roleId: 'rigger', work: 4_800_000, accountId: 'other' },
        { activityId: 'B', roleId: 'mason', work: 2_400_000 },
        { activityId: 'A', roleId: 'mason', work: 4_800_000 },
        { activityId: 'A', resourceId: 'r0', work: 4_800_000 },
      ],
      expenses: three.map((accountId) => ({ budget: 3, accountId })),
    },
  );
}

test.each([['other'], ['in'], [null], ['top']])('an account goes, and %s stands in its place wherever it was named; what lay in it lies in the one above', (to) => {
  const doc = plan();
  const twin = without(exchanged(doc, ['accountId'], 'old', to), 'accounts', 'old');
  sure(sure(twin['accounts']).find((a) => a['id'] === 'in'))['parentId'] = 'top';
  mustBack(doc, deleteAccount(doc, 'old', to));
  expect(text(doc)).toEqual(twin);
});

test.each(['mason', 'rigger'])('the role %s goes with its assignments and its lines in crews; who had it has none', (role) => {
  const doc = plan();
  const twin = without(exchanged(doc, ['roleId'], role, null), 'roles', role);
  for (const r of sure(twin['resources'])) if (Array.isArray(r['otherRoles'])) r['otherRoles'] = r['otherRoles'].filter((x) => x !== role);
  twin['assignments'] = sure(twin['assignments']).filter((x) => doc.assignments.get(x['id'] as string)?.roleId !== role);
  for (const c of sure(twin['crews'])) c['lines'] = (c['lines'] as Rows).filter((l) => l['resourceId'] || l['roleId']);
  mustBack(doc, deletePeople(doc, 'roles', role));
  expect(text(doc)).toEqual(twin);
});

test('a resource goes with its assignments and its lines in crews, and nothing else does', () => {
  const doc = plan();
  const twin = without(text(doc), 'resources', 'r0');
  twin['assignments'] = sure(twin['assignments']).filter((x) => x['resourceId'] !== 'r0');
  for (const c of sure(twin['crews'])) c['lines'] = (c['lines'] as Rows).filter((l) => l['resourceId'] !== 'r0');
  mustBack(doc, deletePeople(doc, 'resources', 'r0'));
  expect(text(doc)).toEqual(twin);
});

test.each([
  ['shed', 'yard'],
  ['yard', null],
])('the group %s goes, and what lay in it lies in %s', (group, above) => {
  const doc = plan();
  const twin = without(exchanged(doc, ['groupId', 'parentId'], group, above), 'resourceGroups', group);
  mustBack(doc, deletePeople(doc, 'resourceGroups', group));
  expect(text(doc)).toEqual(twin);
});

test('a currency goes, and what was priced in it is in the project’s own; others stay', () => {
  const doc = plan();
  for (const [id, rank] of [
    ['eur', 0],
    ['usd', 4],
  ] as const)
    doc.currencies.set(id, { id, rank, name: id.toUpperCase(), rate: 10, asOf: '2026-03-01' });
  const e = sure(doc.expenses.get('e0'));
  doc.expenses.set('e0', { ...e, currencyId: 'eur', foreignBudget: 2, quantity: 4, price: 0.5, budget: 20 });
  doc.expenses.set('e1', { ...e, id: 'e1', currencyId: 'usd', foreignBudget: 3, quantity: 3, price: 1, budget: 30 });
  const [nok] = mustBack(doc, addCurrency(doc, { name: 'NOK', rate: 1, asOf: '2026-03-01' }, newId));
  expect(doc.currencies.get(sure(nok))?.rank).toBe(5);
  mustBack(doc, setCurrency(doc, 'eur', { rate: 11 }));
  expect(['e0', 'e1', 'e2'].map((id) => doc.expenses.get(id)?.budget)).toEqual([22, 30, 3]);
  mustBack(doc, setCurrency(doc, 'eur', { asOf: '2026-04-01' }));
  mustBack(doc, deleteCurrency(doc, 'eur'));
  expect(['e0', 'e1'].map((id) => ((x) => [x.currencyId, x.foreignBudget, x.price, x.quantity, x.budget])(sure(doc.expenses.get(id))))).toEqual([
    [null, null, null, 4, 22],
    ['usd', 3, 1, 3, 30],
  ]);
});

test('uses are told in the order of the activities', () => {
  const doc = plan();
  expect(usesOf(doc, 'roles', 'mason').map((x) => x.activityId)).toEqual(['A', 'B', 'C']);
  expect(usesOf(doc, 'resources', 'r0').map((x) => x.id)).toEqual(['x4']);
  expect(crewText(doc, { lines: [...sure(doc.crews.get('gang')).lines, { resourceId: 'zz', roleId: null, units: 1 }, { resourceId: null, roleId: 'zz', units: 3 }] })).toBe(
    'r0 1, mason 2.5, r1 1, ? 1, ? 3',
  );
  const r1 = sure(doc.resources.get('r1'));
  expect(['rigger', 'mason', 'cook', 'zz'].map((id) => canFill(r1, { id }))).toEqual([true, true, true, false]);
});

describe('accounts', () => {
  const tree = (doc: Document): string =>
    accountTree(doc)
      .map(({ account, depth }) => '.'.repeat(depth) + account.name)
      .join(' ');
  test('stand as a tree; one in what is gone stands at the top, and so do those in a ring', () => {
    const doc = plan();
    expect(tree(doc)).toBe('Top .Old ..Inside ...Deep Other');
    const put = (id: string, parentId: string | null): void => void doc.accounts.set(id, { ...sure(doc.accounts.get(id)), parentId });
    put('deep', 'zz');
    expect(tree(doc)).toBe('Top .Old ..Inside Other Deep');
    put('deep', 'in');
    put('old', 'deep');
    expect(tree(doc)).toBe('Top Other Old Inside Deep');
  });
  test('are moved among those beside them, past what lies elsewhere', () => {
    const doc = plan();
    mustBack(doc, moveAccount(doc, 'other', -1));
    expect(tree(doc)).toBe('Other Top .Old ..Inside ...Deep');
    mustBack(doc, moveAccount(doc, 'other', 1));
    expect(tree(doc)).toBe('Top .Old ..Inside ...Deep Other');
  });
  test('are found by number before name, by both as they are shown, whatever the case', () => {
    const doc = plan();
    const add = (code: string, name: string): void => void mustBack(doc, addAccount(doc, { code, name }, newId));
    add('other', 'Numbered');
    add('x', '7 Old');
    expect(['OTHER', '8', ' 8 other ', '7 old', 'inside', 'nothing', ''].map((t) => findAccount(doc, t)?.name)).toEqual([
      'Numbered',
      'Other',
      'Other',
      'Old',
      'Inside',
      undefined,
      undefined,
    ]);
    expect(doc.accounts.get(`s${n}`)?.rank).toBe(6);
  });
  test('a list adds behind the others, changes those of its number or name, and leaves what it does not say', () => {
    const doc = plan();
    const made = mustBack(
      doc,
      importAccounts(
        doc,
        [
          [' Number ', 'NAME', 'Above'],
          ['7', 'Very old', ''],
          ['', 'inside', 'other'],
          ['', ' ', ' '],
          ['9'.repeat(50), 'Nines', '8 Other'],
          ['10', 'Ten', '9'.repeat(40)],
          ['', 'Plain', 'ten'],
        ],
        newId,
      ),
    );
    expect(tree(doc)).toBe('Top .Very old Other .inside ..Deep .Nines ..Ten ...Plain');
    expect(made.map((id) => ((a) => [a.code.length, a.rank])(sure(doc.accounts.get(id))))).toEqual([
      [1, 1],
      [0, 3],
      [40, 5],
      [2, 6],
      [0, 7],
    ]);
    // By its name alone it keeps its number.
    mustBack(doc, importAccounts(doc, [['name'], ['other']], newId));
    expect(doc.accounts.get('other')).toMatchObject({ code: '8', name: 'other' });
  });
  test('a list cannot make a ring, however long; fifty deep is too deep', () => {
    const doc = plan();
    expect(says(importAccounts(doc, [['', 'Top', 'Deep']], newId))).toContain('in itself');
    const chain = (m: number): string[][] => Array.from({ length: m }, (_, i) => [`c${i}`, `Chain ${i}`, i ? `c${i - 1}` : '']);
    expect([says(importAccounts(doc, chain(51), newId)), says(importAccounts(doc, chain(52), newId))]).toEqual([
      'taken',
      'Line 52 (Chain 51): it cannot lie in itself. Nothing was taken.',
    ]);
    mustBack(doc, importAccounts(doc, chain(51), newId));
    const last = sure(findAccount(doc, 'c50'));
    expect(says(addAccount(doc, { name: 'More', parentId: last.id }, newId))).toBe('More cannot lie in itself.');
    expect(says(addAccount(doc, { name: 'More', parentId: last.parentId }, newId))).toBe('taken');
  });
});

describe('a list of resources', () => {
  const told = (doc: Document, name: string) => sure([...doc.resources.values()].find((r) => r.name === name));
  test('under heads in any order, or in the usual order; roles and groups that are missing are made', () => {
    const doc = plan();
    const made = mustBack(
      doc,
      importResources(
        doc,
        [
          ['Phone', ' NAME', 'Group', 'Role', 'rate', 'units', 'Mail', 'unit'],
          [' 12 ', 'Eve', 'Attic', 'smith', '12,5', '2.0004', 'eve@example.org', ''],
          ['', 'Ada', 'attic', 'SMITH', '', '', '', ''],
        ],
        '2026-03-02',
        newId,
      ),
    );
    const [eve, ada] = [told(doc, 'Eve'), told(doc, 'Ada')];
    expect(made).toEqual([eve.id, ada.id]);
    const [smith, attic] = [sure([...doc.roles.values()].find((r) => r.name === 'smith')), sure([...doc.resourceGroups.values()].find((g) => g.name === 'Attic'))];
    expect([smith.rank, attic.rank, eve.rank, ada.rank]).toEqual([3, 4, 6, 7]);
    expect(eve).toMatchObject({
      kind: 'labour',
      roleId: smith.id,
      groupId: attic.id,
      phone: '12',
      mail: 'eve@example.org',
      availability: [{ from: '2026-03-02', units: 2 }],
      rates: [{ from: '2026-03-02', perHour: 12.5, accountId: null }],
      prices: [],
    });
    expect(ada).toMatchObject({ roleId: smith.id, groupId: attic.id, availability: [], rates: [] });
    mustBack(doc, importResources(doc, [['Gravel', 'Material', '', 'yard', '', '40', 't', 'm@example.org', '5']], '2026-04-01', newId));
    expect(told(doc, 'Gravel')).toMatchObject({
      kind: 'material',
      roleId: null,
      groupId: 'yard',
      prices: [{ from: '2026-04-01', price: 40, accountId: null }],
      rates: [],
      unit: 't',
      mail: 'm@example.org',
      phone: '5',
      rank: 8,
    });
  });
  test('what is there is changed where the list says something, and keeps the rest', () => {
    const doc = plan();
    const before = sure(doc.resources.get('r1'));
    mustBack(
      doc,
      importResources(
        doc,
        [
          ['name', 'units'],
          ['R1', '0'],
        ],
        '2026-05-01',
        newId,
      ),
    );
    expect(doc.resources.get('r1')).toEqual({ ...before, availability: [{ from: '2026-05-01', units: 0 }] });
    mustBack(
      doc,
      importResources(
        doc,
        [
          ['name', 'group', 'role'],
          ['r1', '', ''],
        ],
        '2026-05-01',
        newId,
      ),
    );
    expect(doc.resources.get('r1')).toMatchObject({ groupId: null, roleId: null });
    // One of two lines of a name is the other once more.
    mustBack(doc, importResources(doc, [['New'], ['NEW', 'equipment']], '2026-05-01', newId));
    expect(told(doc, 'New')).toMatchObject({ kind: 'equipment' });
    // A material that is nowhere assigned may become another kind.
    mustBack(doc, importResources(doc, [['m0', 'labour']], '2026-05-01', newId));
    expect(doc.resources.get('m0')?.kind).toBe('labour');
  });
  test('who is added has what is plain of the kind, the fields that are given, and the last place', () => {
    const doc = plan();
    const [id] = mustBack(doc, addPeople(doc, 'resources', ' Eve ', { kind: 'equipment', groupId: 'yard' }, newId));
    expect(doc.resources.get(sure(id))).toMatchObject({ name: 'Eve', kind: 'equipment', groupId: 'yard', rank: 6, availability: [], perUse: 0, colour: null, sharedId: null });
    const [role] = mustBack(doc, addPeople(doc, 'roles', 'smith', {}, newId));
    expect(doc.roles.get(sure(role))).toEqual({
      id: role,
      rank: 3,
      name: 'smith',
      about: '',
      colour: null,
      availability: [],
      rates: [],
      perUse: 0,
      accountId: null,
      sharedId: null,
    });
    const [crew] = mustBack(doc, addPeople(doc, 'crews', 'Trio', {}, newId));
    expect(doc.crews.get(sure(crew))).toEqual({ id: crew, rank: 2, name: 'Trio', about: '', lines: [], sharedId: null });
    const [group] = mustBack(doc, addPeople(doc, 'resourceGroups', 'Loft', {}, newId));
    expect(doc.resourceGroups.get(sure(group))).toEqual({ id: group, rank: 4, name: 'Loft', parentId: null });
  });
});

describe('code values', () => {
  const values = (...list: [string, string | null][]) => ({
    id: 'set',
    rank: 0,
    name: 'Area',
    about: '',
    sharedId: null,
    values: list.map(([id, parentId]) => ({ id, short: id, name: '', parentId, colour: null, about: '' })),
  });
  const tree = (s: ReturnType<typeof values>): string =>
    codeTree(s)
      .map(({ value, depth }) => '.'.repeat(depth) + value.id)
      .join(' ');
  test.each([
    ['a tree', values(['a', null], ['b', 'a'], ['c', null], ['d', 'a'], ['e', 'b']), 'a .b ..e .d c'],
    ['one in what is gone', values(['a', 'zz'], ['b', 'a']), 'a .b'],
    ['a ring', values(['a', 'b'], ['b', 'a'], ['c', null]), 'c a b'],
  ])('%s', (_, s, told) => expect(tree(s)).toBe(told));
  test('one is moved past those that lie elsewhere; one that goes gives what lay in it to the one above, and its users the other', () => {
    const doc = plan();
    doc.codeSets.set('set', values(['a', null], ['b', 'a'], ['c', null], ['d', 'b'], ['e', null]));
    const give = (id: string, v: string | number): void => void doc.activities.set(id, { ...sure(doc.activities.get(id)), values: { 'code:set': v, 'own:x': 'kept' } });
    give('A', 'b');
    give('B', 'c');
    give('C', 7);
    const now = (): string => tree(sure(doc.codeSets.get('set')) as ReturnType<typeof values>);
    mustBack(doc, moveCodeValue(doc, 'set', 'e', -1));
    expect(now()).toBe('a .b ..d e c');
    mustBack(doc, moveCodeValue(doc, 'set', 'a', 1));
    expect(now()).toBe('e a .b ..d c');
    expect(says(deleteCodeValue(doc, 'set', 'b'))).toContain('1 activity has b.');
    mustBack(doc, deleteCodeValue(doc, 'set', 'b', 'd'));
    expect(now()).toBe('e a .d c');
    expect(['A', 'B', 'C'].map((id) => doc.activities.get(id)?.values)).toEqual([
      { 'code:set': 'd', 'own:x': 'kept' },
      { 'code:set': 'c', 'own:x': 'kept' },
      { 'code:set': 7, 'own:x': 'kept' },
    ]);
    give('B', 'd');
    expect(says(deleteCodeValue(doc, 'set', 'd'))).toContain('2 activities have d.');
    mustBack(doc, deleteCodeValue(doc, 'set', 'd', null));
    expect(doc.activities.get('A')?.values).toEqual({ 'own:x': 'kept' });
  });
});
