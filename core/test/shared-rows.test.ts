/** Sharing rows with all projects, taking them, and what a copy is to the shared row: two projects and what they share, without a server. */
import { type Change } from '@yellowhammer/core/change/change';
import type { Outcome } from '@yellowhammer/core/commands/result';
import {
  asOwn,
  carryThings,
  forgetUnknownThings,
  makeOwnThing,
  type SharedStock,
  shareThings,
  takeThing,
  takeThings,
  wishedThing,
  wordOf,
} from '@yellowhammer/core/commands/shared-rows';
import {
  contentOf,
  copyOf,
  sameThing,
  sharedTables,
  type SharedRow,
  type SharedTable,
  sharedThingSchema,
  sharedTouched,
  thingKey,
  thingName,
  thingState,
} from '@yellowhammer/core/commands/shared-things';
import type { Document } from '@yellowhammer/core/model/document';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { must, mustBack, planFileOf, sure, tells } from './helpers';

let n = 0;
const newId = (): string => `new${++n}`;
const rate = (perHour: number, accountId: string | null = null) => ({ from: '2026-01-01', perHour, accountId });
function project(more: Record<string, unknown> = {}): Document {
  const read = readProjectFile(
    JSON.parse(
      JSON.stringify({
        ...planFileOf({
          activities: [
            ['A', '10d'],
            ['B', '5d'],
          ],
        }),
        ...more,
      }),
    ),
  );
  expect(read.problems).toEqual([]);
  return sure(read.file).document;
}
/** Works over Wages; riggers booked on Wages; Ann, a rigger who can do as a banksman, and her crew with one rigger more. */
const yard = {
  accounts: [
    { id: 'top', rank: 0, parentId: null, code: '100', name: 'Works' },
    { id: 'wages', rank: 1, parentId: 'top', code: '110', name: 'Wages' },
  ],
  roles: [
    { id: 'rigger', rank: 0, name: 'Rigger', rates: [rate(40, 'wages')] },
    { id: 'banksman', rank: 1, name: 'Banksman', accountId: 'wages' },
  ],
  resourceGroups: [{ id: 'g', rank: 0, parentId: null, name: 'Quay' }],
  resources: [
    {
      id: 'ann',
      rank: 0,
      name: 'Ann',
      kind: 'labour',
      groupId: 'g',
      roleId: 'rigger',
      otherRoles: ['banksman'],
      accountId: 'wages',
      calendarId: 'five',
      rates: [rate(50)],
      values: {},
    },
  ],
  crews: [
    {
      id: 'team',
      rank: 0,
      name: 'Team',
      lines: [
        { resourceId: 'ann', roleId: null, units: 1 },
        { resourceId: null, roleId: 'rigger', units: 2 },
      ],
    },
  ],
  codeSets: [
    {
      id: 'area',
      rank: 0,
      name: 'Area',
      values: [
        { id: 'n', short: 'N', name: 'North' },
        { id: 's', short: 'S', name: 'South' },
      ],
    },
  ],
};
const nothing = (): SharedStock => ({ things: new Map(), calendars: new Map() });
/** Shares rows; the stock with them, and the project's own row changed. */
function share(doc: Document, stock: SharedStock, ...list: [SharedTable, string][]): SharedStock {
  const s = shareThings(
    doc,
    stock,
    list.map(([table, id]) => ({ table, id })),
    newId,
  );
  if (!('things' in s)) throw new Error(tells(s));
  must(doc, s.outcome);
  return {
    things: new Map([...stock.things, ...s.things.map((t) => [thingKey(t.table, t.row.id), t] as const)]),
    calendars: new Map([...stock.calendars, ...s.calendars.map((c) => [c.id, c] as const)]),
  };
}
const copy = (doc: Document, table: SharedTable, id: string): SharedRow => sure(copyOf(doc, table, id));
const change = (table: SharedTable, before: SharedRow, fields: object): Change => ({ table, id: before.id, before, after: { ...before, ...fields } as SharedRow });
const stateOf = (doc: Document, stock: SharedStock, table: SharedTable, id: string) => thingState(doc, stock.things, table, doc[table].get(id) as SharedRow);

describe('sharing', () => {
  test('a crew goes with all that it names, each once and by its shared id; the project keeps its rows', () => {
    const doc = project(yard);
    const s = shareThings(doc, nothing(), [{ table: 'crews', id: 'team' }], newId);
    if (!('things' in s)) throw new Error('refused');
    expect(s.things.map((t) => `${t.table} ${t.row.id} ${t.row.sharedId}`)).toEqual([
      'crews team team',
      'resources ann ann',
      'roles rigger rigger',
      'accounts wages wages',
      'accounts top top',
      'roles banksman banksman',
    ]);
    expect(s.calendars.map((c) => [c.id, c.sharedId, c.rank])).toEqual([['five', 'five', 0]]);
    expect(s.outcome.label).toBe('Share 6 with all projects, Team among them');
    // Where she stands and her values are the project's own business.
    expect(s.things[1]!.row).toMatchObject({ groupId: null, values: {}, roleId: 'rigger', otherRoles: ['banksman'], calendarId: 'five', accountId: 'wages' });
    must(doc, s.outcome);
    expect([doc.resources.get('ann')?.groupId, doc.calendars.get('five')?.sharedId, doc.crews.get('team')?.sharedId]).toEqual(['g', 'five', 'team']);
    expect(
      tells(shareThings(doc, { things: new Map(s.things.map((t) => [thingKey(t.table, t.row.id), t])), calendars: new Map() }, [{ table: 'crews', id: 'team' }], newId) as Outcome),
    ).toMatch(/^NOTHING_CHANGED It is shared already\./);
    expect(tells(shareThings(doc, nothing(), [{ table: 'crews', id: 'nobody' }], newId) as Outcome)).toMatch(/^NOTHING_CHANGED/);
  });

  test('one alone is named; an id that another project has shared gives a new one', () => {
    const [one, two] = [project(yard), project({ codeSets: [{ ...yard.codeSets[0], name: 'Zone' }] })];
    const s = shareThings(one, nothing(), [{ table: 'codeSets', id: 'area' }], newId);
    expect('things' in s && s.outcome.label).toBe('Share code set Area with all projects');
    const stock = share(one, nothing(), ['codeSets', 'area']);
    const made = sure([...share(two, stock, ['codeSets', 'area']).things.values()][1]).row;
    expect([made.name, made.id === 'area', made.sharedId === made.id, two.codeSets.get('area')?.sharedId]).toEqual(['Zone', false, true, made.id]);
  });

  test('refused where a shared one has its number or name, and for a calendar of other hours', () => {
    const one = project(yard);
    const stock = share(one, nothing(), ['resources', 'ann']);
    const named = (more: Record<string, unknown>, table: SharedTable, id: string): string => {
      const s = shareThings(project(more), stock, [{ table, id }], newId);
      return 'things' in s ? `shared ${s.things.length} and ${s.calendars.length}` : tells(s);
    };
    expect(named({ resources: [{ id: 'x', rank: 0, name: 'ANN', kind: 'labour' }] }, 'resources', 'x')).toBe(
      'NAME_TAKEN There is a shared resource Ann already. Make the project’s own its copy, or give it another name. @resources/x',
    );
    // Of accounts the number counts, not the name.
    expect(named({ accounts: [{ id: 'x', rank: 0, parentId: null, code: '110', name: 'Pay' }] }, 'accounts', 'x')).toMatch(
      /^NAME_TAKEN There is a shared account 110 Wages already\./,
    );
    expect(named({ accounts: [{ id: 'x', rank: 0, parentId: null, code: '111', name: 'Wages' }] }, 'accounts', 'x')).toBe('shared 1 and 0');
    // The calendar of all is met by its name: with the same hours it is that one, with others not.
    const ben = { id: 'ben', rank: 0, name: 'Ben', kind: 'labour', calendarId: 'five' };
    expect(named({ resources: [ben] }, 'resources', 'ben')).toBe('shared 1 and 0');
    const other = { ...(planFileOf({ activities: [] })['calendars'] as { id: string; week: unknown[] }[])[2]!, id: 'five', name: 'FIVE' };
    expect(named({ calendars: [other], resources: [ben] }, 'resources', 'ben')).toBe(
      'NAME_TAKEN There is a shared calendar FIVE with other hours. Make the project’s calendar its copy first, or give it another name. @calendars/five',
    );
  });
});

describe('taking', () => {
  test('a row comes with all that it names, is here just so, and is taken back whole', () => {
    const one = project(yard);
    const stock = share(one, nothing(), ['crews', 'team'], ['codeSets', 'area']);
    const two = project();
    const o = takeThing(two, stock, 'crews', 'team', newId);
    expect(tells(o)).toBe('Take the shared crew Team');
    expect(mustBack(two, o)).toEqual(['team']);
    expect([two.crews.size, two.resources.size, two.roles.size, two.accounts.size, two.codeSets.size]).toEqual([1, 1, 2, 2, 0]);
    for (const t of stock.things.values()) if (t.table !== 'codeSets') expect(stateOf(two, stock, t.table, copy(two, t.table, t.row.id).id)).toBe('same');
    const ann = two.resources.get('ann');
    expect([ann?.groupId, ann?.rank, two.calendars.get(ann?.calendarId ?? '')?.sharedId, two.accounts.get('wages')?.parentId]).toEqual([null, 0, 'five', 'top']);
    expect(tells(takeThing(two, stock, 'crews', 'team', newId))).toMatch(/^NOTHING_CHANGED It is here just so\./);
    expect(tells(takeThing(two, stock, 'crews', 'nobody', newId))).toMatch(/^UNKNOWN_SHARED That shared crew is not there any more\./);
  });

  test('one of the project’s own of its number or name becomes the copy, in its place and with what is its own', () => {
    const stock = share(project(yard), nothing(), ['resources', 'ann']);
    const two = project({
      accounts: [{ id: 'pay', rank: 7, parentId: null, code: '110', name: 'Pay' }],
      resourceGroups: [{ id: 'h', rank: 0, parentId: null, name: 'Hill' }],
      resources: [
        { id: 'bob', rank: 0, name: 'Bob', kind: 'labour' },
        { id: 'anna', rank: 4, name: 'ann', kind: 'labour', groupId: 'h', values: {} },
      ],
    });
    expect(mustBack(two, takeThing(two, stock, 'resources', 'ann', newId))).toEqual(['anna']);
    const anna = sure(two.resources.get('anna'));
    expect([anna.name, anna.sharedId, anna.rank, anna.groupId, anna.accountId, two.accounts.get('pay')?.name, two.accounts.get('pay')?.rank, two.resources.size]).toEqual([
      'Ann',
      'ann',
      4,
      'h',
      'pay',
      'Wages',
      7,
      2,
    ]);
    // A new one stands behind the last.
    expect(two.roles.get('rigger')?.rank).toBe(0);
    expect([...two.accounts.values()].find((a) => a.sharedId === 'top')?.rank).toBe(8);
  });

  test('into a row that is named; a name that another row has gets a number, which says nothing else', () => {
    const stock = share(project(yard), nothing(), ['codeSets', 'area']);
    const two = project({
      codeSets: [
        { id: 'p', rank: 0, name: 'Place', values: [{ id: 'x', short: 'N', name: 'Nord' }] },
        { id: 'q', rank: 1, name: 'Area', values: [] },
        { id: 'r', rank: 2, name: 'AREA 2', values: [] },
      ],
    });
    must(two, {
      ok: true,
      label: '',
      changes: [{ table: 'activities', id: 'A', before: sure(two.activities.get('A')), after: { ...sure(two.activities.get('A')), values: { 'code:p': 'x' } } }],
    });
    expect(mustBack(two, takeThing(two, stock, 'codeSets', 'area', newId, 'p'))).toEqual(['p']);
    // What has another id gets its value by the short name.
    expect([two.codeSets.get('p')?.name, two.activities.get('A')?.values['code:p'], stateOf(two, stock, 'codeSets', 'p')]).toEqual(['Area 3', 'n', 'same']);
  });

  test('a code set is not taken where activities would lose values, and one of another id is put beside where its id is taken', () => {
    const stock = share(project(yard), nothing(), ['codeSets', 'area']);
    const has = {
      codeSets: [
        {
          id: 'mine',
          rank: 0,
          name: 'area',
          values: [
            { id: 'w', short: 'W', name: 'West' },
            { id: 'n2', short: 'n', name: '' },
          ],
        },
      ],
    };
    const two = project({ ...has, activities: [{ id: 'A', code: 'A', name: 'A', type: 'task', duration: 480, values: { 'code:mine': 'w' } }] });
    expect(tells(takeThing(two, stock, 'codeSets', 'area', newId))).toBe(
      'IN_USE Activities have W, which the shared code set does not have. Give them other values first, or add those to the shared set. @codeSets/mine',
    );
    const three = project({ codeSets: [{ id: 'area', rank: 3, name: 'Zone', values: [] }] });
    const [made] = mustBack(three, takeThing(three, stock, 'codeSets', 'area', newId));
    expect([made === 'area', three.codeSets.get(sure(made))?.sharedId, three.codeSets.get(sure(made))?.rank, three.codeSets.get('area')?.sharedId]).toEqual([
      false,
      'area',
      4,
      null,
    ]);
  });

  test('all of a table that are not here yet', () => {
    const stock = share(project(yard), nothing(), ['accounts', 'wages'], ['codeSets', 'area']);
    const two = project();
    must(two, takeThing(two, stock, 'accounts', 'top', newId));
    const o = takeThings(two, stock, 'accounts', newId);
    expect([tells(o), mustBack(two, o), two.accounts.size, two.codeSets.size]).toEqual(['Take 1 shared account', [], 2, 0]);
    expect(tells(takeThings(two, stock, 'accounts', newId))).toMatch(/^NOTHING_CHANGED All shared accounts are here\./);
  });
});

describe('a copy and the shared row', () => {
  test('same, differing, own, gone', () => {
    const doc = project(yard);
    const stock = share(doc, nothing(), ['resources', 'ann']);
    const states = (fields: object): string => thingState(doc, stock.things, 'resources', { ...sure(doc.resources.get('ann')), ...fields });
    expect(
      [{}, { groupId: null, rank: 9 }, { name: 'Ann 2' }, { name: 'Ann B' }, { name: 'Annette' }, { accountId: null }, { sharedId: null }, { sharedId: 'zz' }].map(states),
    ).toEqual(['same', 'same', 'same', 'differs', 'differs', 'differs', 'own', 'gone']);
    // It names something that only the project has.
    expect(states({ otherRoles: ['mine'] })).toBe('differs');
  });

  test('what a change of a copy makes of the shared row; what names something that is not shared is told', () => {
    const doc = project({ ...yard, roles: [...yard.roles, { id: 'mine', rank: 2, name: 'Diver' }] });
    const stock = share(doc, nothing(), ['resources', 'ann']);
    const shared = sure(stock.things.get(thingKey('resources', 'ann'))).row;
    const wish = (fields: object) => wishedThing(doc, 'resources', { ...sure(doc.resources.get('ann')), ...fields } as SharedRow, shared);
    expect(wish({ name: 'Ann 2', groupId: null, rates: [rate(60, 'wages')] })).toEqual({ table: 'resources', row: { ...shared, rates: [rate(60, 'wages')] } });
    expect(wish({ name: 'Anna' })).toMatchObject({ row: { name: 'Anna', id: 'ann', sharedId: 'ann' } });
    expect(wish({ roleId: 'mine' })).toBe('Diver is only this project’s. Share that first, or make Ann the project’s own.');
  });

  test('changes for all reach copies, with values in the place of those that are gone', () => {
    const one = project({
      ...yard,
      activities: ['A', 'B', 'C'].map((id, i) => ({ id, code: id, name: id, type: 'task', duration: 480, values: { 'code:area': i < 2 ? 'n' : 's' } })),
    });
    const stock = share(one, nothing(), ['codeSets', 'area']);
    const row = {
      ...sure(stock.things.get(thingKey('codeSets', 'area'))).row,
      values: [
        { id: 's', short: 'S', name: 'South' },
        { id: 'm', short: 'M', name: 'Middle' },
      ],
      name: 'Place',
    } as unknown as SharedRow;
    const read = sharedThingSchema.parse({
      table: 'codeSets',
      row: JSON.parse(JSON.stringify({ ...row, values: [...(row as { values: object[] }).values.map((v) => ({ name: '', parentId: null, ...v }))] })),
    });
    const changed = { things: new Map([[thingKey('codeSets', 'area'), read]]), calendars: new Map() };
    const o = carryThings(one, changed, [read], newId, { n: 'm' });
    expect(tells(o)).toBe('Change shared code set Place');
    mustBack(one, o);
    expect([...one.activities.values()].map((a) => a.values['code:area'])).toEqual(['m', 'm', 's']);
    expect([one.codeSets.get('area')?.name, stateOf(one, changed, 'codeSets', 'area')]).toEqual(['Place', 'same']);
    const none = carryThings(project(), changed, [read, read], newId);
    expect([none.ok && none.changes.length, none.ok && none.label]).toEqual([0, 'Change 2 shared rows']);
    const lost = project({ ...yard, activities: [{ id: 'A', code: 'A', name: 'A', type: 'task', duration: 480, values: { 'code:area': 'n' } }] });
    share(lost, nothing(), ['codeSets', 'area']);
    must(lost, carryThings(lost, changed, [read], newId));
    expect(lost.activities.get('A')?.values['code:area']).toBeUndefined();
  });

  test('made the project’s own, alone or with a change', () => {
    const doc = project(yard);
    share(doc, nothing(), ['roles', 'banksman']);
    const before = copy(doc, 'roles', 'banksman');
    const edit = change('roles', before, { name: 'Signaller' });
    const [touched] = sharedTouched([edit]);
    const own = asOwn({ ok: true, label: 'x', changes: [edit] }, [sure(touched)]);
    expect(own.changes.map((c) => [(c.after as SharedRow).name, (c.after as SharedRow).sharedId])).toEqual([['Signaller', null]]);
    const wages = change('accounts', copy(doc, 'accounts', 'wages'), { name: 'Pay' });
    expect(asOwn({ ok: true, label: 'x', changes: [wages] }, [sure(touched)]).changes).toEqual([wages]);
    const o = makeOwnThing(doc, 'roles', 'banksman');
    expect(tells(o)).toBe('Make Banksman the project’s own');
    mustBack(doc, o);
    expect([doc.roles.get('banksman')?.sharedId, tells(makeOwnThing(doc, 'roles', 'nobody')).slice(0, 45)]).toEqual([null, 'UNKNOWN_SHARED That shared role is not there ']);
  });

  test('which changes must be asked about', () => {
    const doc = project(yard);
    share(doc, nothing(), ['crews', 'team'], ['codeSets', 'area']);
    const [ann, area] = [copy(doc, 'resources', 'ann'), copy(doc, 'codeSets', 'area')];
    const touched = (...list: Change[]): string[] => sharedTouched(list).map((t) => `${t.table} ${t.after.name}`);
    expect(touched(change('resources', ann, { name: 'Anna' }), change('codeSets', area, { values: [] }))).toEqual(['resources Anna', 'codeSets Area']);
    // Its place, its group, its own values, its being let go or shared, its coming and going, and what is not shared.
    expect(touched(change('resources', ann, { rank: 5, groupId: null, values: { x: 1 } }), change('resources', ann, { name: 'Anna', sharedId: null }))).toEqual([]);
    expect(touched({ table: 'resources', id: 'ann', before: ann, after: null }, { table: 'resources', id: 'ann', before: null, after: ann })).toEqual([]);
    expect(touched(change('resources', { ...ann, sharedId: null }, { name: 'Anna' }))).toEqual([]);
    const a = sure(doc.activities.get('A'));
    expect(touched({ table: 'activities', id: 'A', before: a, after: { ...a, name: 'x' } })).toEqual([]);
    expect(Object.keys(contentOf('roles', copy(doc, 'roles', 'rigger'))).filter((f) => ['id', 'rank', 'sharedId', 'values'].includes(f))).toEqual([]);
  });

  test('copies of what is not known here are the project’s own', () => {
    const doc = project(yard);
    const stock = share(doc, nothing(), ['crews', 'team']);
    forgetUnknownThings(doc, new Map([...stock.things].filter(([key]) => key !== 'roles rigger')));
    expect([doc.roles.get('rigger')?.sharedId, doc.roles.get('banksman')?.sharedId, doc.crews.get('team')?.sharedId, Object.isFrozen(doc.roles.get('rigger'))]).toEqual([
      null,
      'banksman',
      'team',
      true,
    ]);
  });
});

test('names of tables and rows; a row from outside that cannot be read says where', () => {
  expect(sharedTables.map(wordOf)).toEqual(['account', 'code set', 'role', 'resource', 'crew']);
  const doc = project(yard);
  const [wages, rigger] = [sure(doc.accounts.get('wages')), sure(doc.roles.get('rigger'))];
  expect([thingName({ table: 'accounts', row: wages }), thingName({ table: 'accounts', row: { ...wages, code: '' } }), thingName({ table: 'roles', row: rigger })]).toEqual([
    '110 Wages',
    'Wages',
    'Rigger',
  ]);
  expect([
    sameThing(wages, { ...wages, name: 'x' }),
    sameThing(wages, { ...wages, code: '' }),
    sameThing({ ...wages, code: '' }, { ...wages, code: '', name: 'WAGES' }),
    sameThing(rigger, { ...rigger, name: 'rigger' }),
  ]).toEqual([true, false, true, true]);
  const read = sharedThingSchema.safeParse({ table: 'roles', row: { ...rigger, rates: 'x' } });
  expect(read.success || read.error.issues.map((i) => i.path.join('.'))).toEqual(['row.rates']);
  expect(sharedThingSchema.safeParse({ table: 'activities', row: rigger }).success).toBe(false);
});
