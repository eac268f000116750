/** Shared accounts, code sets, roles, resources and crews: every project keeps a complete copy, and nothing changes unseen. */
import { randomUUID } from 'node:crypto';
import type { Shared } from '@yellowhammer/server/shared';
import type { Store } from '@yellowhammer/server/store';
import { applyChanges, invertChanges } from '@yellowhammer/core/change/change';
import { deleteCodeValue, editCodeSet, editCodeValue } from '@yellowhammer/core/commands/codes';
import { setPeople } from '@yellowhammer/core/commands/resources';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { asOwn, makeOwnThing, takeThing, takeThings, wishedThing } from '@yellowhammer/core/commands/shared-rows';
import { copyOf, type SharedRow, type SharedTable, sharedTouched, thingState } from '@yellowhammer/core/commands/shared-things';
import type { SharedThingEntry, ThingEffect } from '@yellowhammer/core/commands/shared-views';
import { rowDifferences } from '@yellowhammer/core/fields/stored';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import type { Problem } from '@yellowhammer/core/model/problem';
import { setProject } from '@yellowhammer/core/commands/project';
import type { ElsewhereReply } from '@yellowhammer/server/elsewhere';
import { planFileOf, type PlanText, sure } from '../../core/test/helpers';
import { asked, type Asked } from './asked';

let server: Asked;
let store: Store;
let shared: Shared;
beforeEach(async () => {
  server = await asked();
  ({ store, shared } = server);
});
afterEach(() => server.stop());

const ask = <T>(method: string, path: string, body?: unknown): Promise<{ status: number; body: T }> => server.ask<T>(method, path, body);
const doc = (id: string): Document => store.document(id)?.doc as Document;
const list = async (): Promise<SharedThingEntry[]> => (await ask<SharedThingEntry[]>('GET', '/shared')).body;
const stock = () => ({ things: shared.rows.things(), calendars: shared.all() });
const apply = (id: string, o: Outcome): void => {
  if (!o.ok) throw new Error(o.problems[0]?.message);
  const answer = store.apply(
    id,
    store.head(id)?.revision ?? 0,
    { changeId: randomUUID(), label: o.label, kind: 'do', target: null, changes: o.changes },
    { who: 'Ada', client: 'me' },
  );
  expect(answer.kind).toBe('applied');
};
const make = async (code: string, more: Record<string, unknown> = {}, plan: Partial<PlanText> = {}): Promise<string> => {
  const file = { ...planFileOf({ activities: [['A', '10d', {}]], ...plan, project: { code, name: code, currency: 'SEK', ...plan.project } }), ...more };
  const reply = await ask<{ id: string; problems: Problem[] }>('POST', '/import', JSON.stringify(file));
  expect(reply.body.problems ?? []).toEqual([]);
  return reply.body.id;
};
const people = {
  accounts: [
    { id: 'top', rank: 0, parentId: null, code: '100', name: 'Works' },
    { id: 'wages', rank: 1, parentId: 'top', code: '110', name: 'Wages' },
  ],
  roles: [{ id: 'rigger', rank: 0, name: 'Rigger', rates: [{ from: '2026-01-01', perHour: 40, accountId: 'wages' }] }],
  resources: [
    { id: 'ann', rank: 0, name: 'Ann', kind: 'labour', roleId: 'rigger', accountId: 'wages', calendarId: 'five', rates: [{ from: '2026-01-01', perHour: 50 }], values: {} },
  ],
  assignments: [{ id: 'x', rank: 0, activityId: 'A', resourceId: 'ann', units: 1, work: 4800000, quantity: 0 }],
};
const share = (project: string, table: SharedTable, id: string) => ask<{ shared: number; problems: Problem[] }>('POST', `/projects/${project}/share`, { rows: [{ table, id }] });
/** The wish that a change of a copy makes, as the interface sends it. */
const wishOf = async (project: string, o: Outcome, instead = {}): Promise<{ things: unknown[]; instead: object }> => {
  if (!o.ok) throw new Error(o.problems[0]?.message);
  const after = copyDocument(doc(project));
  applyChanges(after, o.changes);
  const entries = await list();
  const things = sharedTouched(o.changes).map((t) => {
    const entry = entries.find((e) => e.table === t.table && e.row.id === t.after.sharedId) as SharedThingEntry;
    const wished = wishedThing(after, t.table, t.after, entry.row);
    if (typeof wished === 'string') throw new Error(wished);
    return { ...wished, revision: entry.revision };
  });
  return { things, instead };
};

test('a resource is shared with its role, its accounts and its calendar, and another project gets all of them with it', async () => {
  const one = await make('P', people);
  const two = await make('Q', { resourceGroups: [{ id: 'g', rank: 0, parentId: null, name: 'Yard' }] });
  expect((await share(one, 'resources', 'ann')).body).toEqual({ shared: 4 });
  expect((await list()).map((e) => [e.table, e.row.name, e.usedBy.map((u) => [u.code, u.same])]).sort()).toEqual([
    ['accounts', 'Wages', [['P', true]]],
    ['accounts', 'Works', [['P', true]]],
    ['resources', 'Ann', [['P', true]]],
    ['roles', 'Rigger', [['P', true]]],
  ]);
  expect(shared.all().size).toBe(1);
  expect((await share(one, 'resources', 'ann')).body.problems[0]?.code).toBe('NOTHING_CHANGED');
  const before = copyDocument(doc(two));
  const taking = takeThing(doc(two), stock(), 'resources', 'ann', randomUUID);
  apply(two, taking);
  const ann = copyOf(doc(two), 'resources', 'ann') as Extract<SharedRow, { kind: string }>;
  const name = (t: 'accounts' | 'roles' | 'calendars', id: string | null): string | undefined => doc(two)[t].get(id ?? '')?.name;
  expect([ann.name, name('roles', ann.roleId), name('accounts', ann.accountId), name('calendars', ann.calendarId), doc(two).accounts.size]).toEqual([
    'Ann',
    'Rigger',
    'Wages',
    'Five',
    2,
  ]);
  expect(doc(two).accounts.get(ann.accountId ?? '')?.parentId).toBe(copyOf(doc(two), 'accounts', 'top')?.id);
  expect(thingState(doc(two), stock().things, 'resources', ann)).toBe('same');
  // Where it stands is the project's own business.
  apply(two, setPeople(doc(two), 'resources', ann.id, { groupId: 'g' }));
  expect(thingState(doc(two), stock().things, 'resources', copyOf(doc(two), 'resources', 'ann') as SharedRow)).toBe('same');
  // Taken back, all of it goes.
  if (taking.ok) applyChanges(before, [...taking.changes, ...invertChanges(taking.changes)]);
  expect([before.resources.size, before.roles.size, before.accounts.size]).toEqual([0, 0, 0]);
});

test('a change for all is shown with dates, overloads and cost of each project before, and is then in all of them', async () => {
  const [one, two] = [await make('P', people), await make('Q', people)];
  await share(one, 'resources', 'ann');
  // Q has an Ann of its own, who becomes the shared one.
  apply(two, takeThing(doc(two), stock(), 'resources', 'ann', randomUUID));
  expect(doc(two).resources.size).toBe(1);
  const change = setPeople(doc(one), 'resources', 'ann', {
    rates: [{ from: '2026-01-01', perHour: 60, accountId: null }],
    daysOff: [{ name: 'leave', from: '2026-03-03', to: '2026-03-03', yearly: false, work: [] }],
    availability: [{ from: '2026-01-01', units: 0.5 }],
  });
  if (!change.ok) throw new Error('refused');
  const [touched] = sharedTouched(change.changes);
  expect(rowDifferences(doc(one), 'resources', touched?.before ?? null, touched?.after ?? null).map((d) => [d.title, d.theirs, d.mine])).toEqual([
    ['days off', '(none)', 'leave 3 Mar 26 3 Mar 26'],
    ['availability', '(none)', '1 Jan 26 0.5'],
    ['rates', '1 Jan 26 50', '1 Jan 26 60'],
  ]);
  const wish = await wishOf(one, change);
  const { effects } = (await ask<{ effects: ThingEffect[] }>('POST', '/shared/effects', wish)).body;
  // Ten days of eight hours at 50, then at 60; one day later; and half of what is asked for is there.
  expect(effects.map((e) => [e.code, e.before, e.after, e.standing.before.cost, e.standing.after.cost, e.standing.before.over, e.standing.after.over > 0])).toEqual([
    ['P', '2026-03-13T17:00', '2026-03-16T17:00', 4000, 4800, 0, true],
    ['Q', '2026-03-13T17:00', '2026-03-16T17:00', 4000, 4800, 0, true],
  ]);
  // One of one that is half there: ten days of four hours.
  expect(effects.map((e) => [e.standing.before.overWork, e.standing.after.overWork / 60_000])).toEqual([
    [0, 40],
    [0, 40],
  ]);
  expect((await ask('PUT', '/shared', wish)).status).toBe(200);
  for (const id of [one, two]) {
    expect((copyOf(doc(id), 'resources', 'ann') as { rates: { perHour: number }[] }).rates[0]?.perHour).toBe(60);
    expect(store.recent(id)[0]).toMatchObject({ label: 'Change shared resource Ann', who: 'Ada', client: 'shared' });
  }
  const entry = (await list()).find((e) => e.row.name === 'Ann') as SharedThingEntry;
  expect([entry.revision, (entry.previous as { rates: { perHour: number }[] }).rates[0]?.perHour, entry.usedBy.every((u) => u.same)]).toEqual([2, 50, true]);
  // Seen as it was before: told, and nothing is written.
  expect((await ask<{ problems: Problem[] }>('PUT', '/shared', wish)).body.problems[0]?.code).toBe('CHANGED_MEANWHILE');
});

test('only here: the copy is the project’s own from then on, and what others change does not reach it', async () => {
  const [one, two] = [await make('P', people), await make('Q')];
  await share(one, 'resources', 'ann');
  apply(two, takeThing(doc(two), stock(), 'resources', 'ann', randomUUID));
  const o = setPeople(doc(one), 'resources', 'ann', { phone: '1' });
  if (!o.ok) throw new Error('refused');
  apply(one, asOwn(o, sharedTouched(o.changes)));
  expect(doc(one).resources.get('ann')).toMatchObject({ sharedId: null, phone: '1' });
  const copy = copyOf(doc(two), 'resources', 'ann') as SharedRow;
  expect((await ask('PUT', '/shared', await wishOf(two, setPeople(doc(two), 'resources', copy.id, { phone: '2' })))).status).toBe(200);
  expect(doc(one).resources.get('ann')?.phone).toBe('1');
  // And back: the shared one in the place of the own.
  apply(one, takeThing(doc(one), stock(), 'resources', 'ann', randomUUID, 'ann'));
  expect(doc(one).resources.get('ann')).toMatchObject({ sharedId: 'ann', phone: '2' });
  apply(one, makeOwnThing(doc(one), 'resources', 'ann'));
  expect(doc(one).resources.get('ann')?.sharedId).toBeNull();
});

test('what is only the project’s cannot be named for all; two shared ones cannot have one name', async () => {
  const one = await make('P', people, { calendars: [{ id: 'night', name: 'Night', week: [[], [], [], [], [], [['20:00', '24:00']], []] }] });
  await share(one, 'resources', 'ann');
  await expect(wishOf(one, setPeople(doc(one), 'resources', 'ann', { calendarId: 'night' }))).rejects.toThrow('Night is only this project’s');
  const two = await make('Q', people);
  expect((await share(two, 'resources', 'ann')).body.problems[0]?.message).toContain('There is a shared resource Ann already');
  expect(shared.rows.things().size).toBe(4);
  expect((await ask<{ problems: Problem[] }>('DELETE', '/shared/roles/rigger')).body.problems[0]?.message).toBe('The shared resource Ann names it. Change that for all first.');
  expect((await ask('DELETE', '/shared/resources/ann')).status).toBe(200);
  expect(thingState(doc(one), shared.rows.things(), 'resources', doc(one).resources.get('ann') as SharedRow)).toBe('gone');
});

const set = (ids: [string, string, string]) => ({
  id: ids[0],
  rank: 0,
  name: 'Trade',
  about: '',
  values: [
    { id: ids[1], short: 'MAS', name: 'Masonry' },
    { id: ids[2], short: 'RIG', name: 'Rigging' },
  ],
});
const valued = (key: string, ids: [string, string, string]) => ({
  codeSets: [set(ids)],
  activities: [{ id: 'A', code: 'A', name: 'Wall', duration: 4800, rank: 0, values: { [key]: ids[1] } }],
});

test('a code set of the same name becomes the copy with its values by short name; a value that goes for all is replaced in every project', async () => {
  const one = await make('P', valued('code:trade', ['trade', 'mas', 'rig']));
  const two = await make('Q', valued('code:t2', ['t2', 'm2', 'r2']));
  await share(one, 'codeSets', 'trade');
  apply(two, takeThing(doc(two), stock(), 'codeSets', 'trade', randomUUID));
  expect([doc(two).codeSets.get('t2')?.sharedId, doc(two).activities.get('A')?.values]).toEqual(['trade', { 'code:t2': 'mas' }]);
  const renaming = await wishOf(one, editCodeValue(doc(one), 'trade', 'mas', { name: 'Stone work' }));
  await ask('PUT', '/shared', renaming);
  expect(doc(two).codeSets.get('t2')?.values[0]?.name).toBe('Stone work');
  const going = deleteCodeValue(doc(one), 'trade', 'mas', 'rig');
  const lost = (await ask<{ effects: ThingEffect[] }>('POST', '/shared/effects', await wishOf(one, going))).body.effects;
  expect(lost.map((e) => [e.code, e.lost])).toEqual([
    ['P', 1],
    ['Q', 1],
  ]);
  const wish = await wishOf(one, going, { mas: 'rig' });
  expect((await ask<{ effects: ThingEffect[] }>('POST', '/shared/effects', wish)).body.effects.map((e) => e.lost)).toEqual([0, 0]);
  await ask('PUT', '/shared', wish);
  expect([doc(one), doc(two)].map((d) => Object.values(d.activities.get('A')?.values ?? {}))).toEqual([['rig'], ['rig']]);
  // A set that lacks what activities have is not taken in the place of the project's own.
  const three = await make('R', valued('code:t3', ['t3', 'm3', 'r3']));
  const no = takeThing(doc(three), stock(), 'codeSets', 'trade', randomUUID);
  expect(no.ok ? '' : no.problems[0]?.message).toContain('Activities have MAS');
});

test('all shared accounts at once; those of the project’s own number become copies, and nothing is there twice', async () => {
  const one = await make('P', people);
  const two = await make('Q', { accounts: [{ id: 'w', rank: 0, parentId: null, code: '110', name: 'Pay' }] });
  await ask('POST', `/projects/${one}/share`, {
    rows: [
      { table: 'accounts', id: 'wages' },
      { table: 'accounts', id: 'top' },
    ],
  });
  apply(two, takeThings(doc(two), stock(), 'accounts', randomUUID));
  expect([...doc(two).accounts.values()].map((a) => [a.id, a.name, a.parentId, a.sharedId]).sort()).toEqual([
    ['top', 'Works', null, 'top'],
    ['w', 'Wages', 'top', 'wages'],
  ]);
  const again = takeThings(doc(two), stock(), 'accounts', randomUUID);
  expect(again.ok ? '' : again.problems[0]?.code).toBe('NOTHING_CHANGED');
});

test('a file of another place brings its rows as the project’s own; wrong requests are told', async () => {
  const id = await make('P', { ...people, accounts: people.accounts.map((a) => ({ ...a, sharedId: `far ${a.id}` })) });
  expect([...doc(id).accounts.values()].map((a) => a.sharedId)).toEqual([null, null]);
  for (const body of [{ things: [] }, { things: [{ table: 'wbs', row: {}, revision: 1 }] }, { things: [{ table: 'accounts', row: { id: 'a' }, revision: 0 }] }])
    expect((await ask('PUT', '/shared', body)).status).toBe(400);
  expect((await ask('DELETE', '/shared/accounts/none')).status).toBe(422);
  expect((await ask('DELETE', '/shared/wbs/none')).status).toBe(404);
});

test('demand over projects: the live ones count as they are kept, ideas, what-ifs, closed and archived ones only where asked for', async () => {
  const one = await make('P', people);
  await share(one, 'resources', 'ann');
  const made = new Map([['P', one]]);
  for (const [code, stage] of [
    ['Q', 'live'],
    ['R', 'whatIf'],
    ['S', 'live'],
  ] as const) {
    const id = await make(code, { ...people }, { project: { stage } });
    apply(id, takeThing(doc(id), stock(), 'resources', 'ann', randomUUID));
    made.set(code, id);
  }
  await ask('POST', `/projects/${made.get('S')}/state`, { state: 'archived' });
  type Reply = ElsewhereReply;
  const over = async (counting: string[] | null, known = '') => (await ask<Reply>('POST', `/projects/${one}/elsewhere`, { counting, known })).body;
  const live = await over(null);
  expect(live.projects.map((p) => [p.code, p.stage, p.archived]).sort()).toEqual([
    ['Q', 'live', false],
    ['R', 'whatIf', false],
    ['S', 'live', true],
  ]);
  const from = (r: Reply): string[] => r.asks.map((a) => `${r.projects[a.project]?.code} ${a.sharedId} ${a.label} ${a.steps.value.length > 0}`).sort();
  expect(from(live)).toEqual(['Q ann A A true']);
  expect(from(await over([sure(made.get('R')), sure(made.get('S'))]))).toEqual(['R ann A A true', 'S ann A A true']);
  // Nothing is sent again while nothing has changed; a change of another project is told.
  expect(await over(null, live.sign)).toEqual({ sign: live.sign });
  apply(sure(made.get('Q')), setProject(doc(sure(made.get('Q'))), { stage: 'closed' }));
  expect(from(await over(null, live.sign))).toEqual([]);
  // A copy is an idea until it is made live.
  const copy = (await ask<{ id: string }>('POST', `/projects/${one}/copy`)).body.id;
  expect(doc(copy).project.get('project')?.stage).toBe('idea');
  const listed = (await ask<{ id: string; code: string; stage: string }[]>('GET', '/projects')).body;
  expect(
    listed
      .filter((p) => p.id !== copy)
      .map((p) => [p.code, p.stage])
      .sort(),
  ).toEqual([
    ['P', 'live'],
    ['Q', 'closed'],
    ['R', 'whatIf'],
    ['S', 'live'],
  ]);
});

test('another short name for all: who has the value keeps it; another name of the set: expressions follow; an archived project stays as it is', async () => {
  const field = { id: 'f', rank: 0, name: 'Says', kind: 'computed', key: 'says', expression: 'code("Trade")' };
  const one = await make('P', valued('code:trade', ['trade', 'mas', 'rig']));
  const two = await make('Q', { ...valued('code:t2', ['t2', 'm2', 'r2']), ownFields: [field] });
  const old = await make('R');
  await share(one, 'codeSets', 'trade');
  for (const id of [two, old]) apply(id, takeThing(doc(id), stock(), 'codeSets', 'trade', randomUUID));
  await ask('POST', `/projects/${old}/state`, { state: 'archived' });
  await ask('PUT', '/shared', await wishOf(one, editCodeValue(doc(one), 'trade', 'mas', { short: 'STN' })));
  expect([doc(two).codeSets.get('t2')?.values[0]?.short, doc(two).activities.get('A')?.values]).toEqual(['STN', { 'code:t2': 'mas' }]);
  await ask('PUT', '/shared', await wishOf(one, editCodeSet(doc(one), 'trade', { name: 'Craft' })));
  expect([doc(two).codeSets.get('t2')?.name, doc(two).ownFields.get('f')?.expression]).toEqual(['Craft', 'code("Craft")']);
  const kept = copyOf(doc(old), 'codeSets', 'trade') as { name: string; values: { short: string }[] };
  expect([kept.name, kept.values[0]?.short]).toEqual(['Trade', 'MAS']);
  expect((await list())[0]?.usedBy.map((u) => [u.code, u.state, u.same])).toEqual([
    ['P', 'active', true],
    ['Q', 'active', true],
    ['R', 'archived', false],
  ]);
});

test('names stay unique: where another row has the new name the copy gets a number; roles that somebody can fill besides go along; own rows are nobody else’s affair', async () => {
  const boat = { id: 'boat', rank: 1, name: 'Boat hand' };
  const one = await make('P', { ...people, roles: [...people.roles, boat], resources: [{ ...people.resources[0], otherRoles: ['boat'] }] });
  const two = await make('Q', { resources: [{ id: 'b', rank: 0, name: 'Bea', kind: 'labour' }] });
  await share(one, 'resources', 'ann');
  apply(two, takeThing(doc(two), stock(), 'resources', 'ann', randomUUID));
  const ann = (): Extract<SharedRow, { kind: string }> => copyOf(doc(two), 'resources', 'ann') as Extract<SharedRow, { kind: string }>;
  expect(ann().otherRoles.map((id) => doc(two).roles.get(id)?.name)).toEqual(['Boat hand']);
  await ask('PUT', '/shared', await wishOf(one, setPeople(doc(one), 'resources', 'ann', { name: 'Bea' })));
  expect([doc(one).resources.get('ann')?.name, ann().name]).toEqual(['Bea', 'Bea 2']);
  // The number is not taken for another name of the shared one.
  expect(thingState(doc(two), stock().things, 'resources', ann())).toBe('same');
  await ask('PUT', '/shared', await wishOf(two, setPeople(doc(two), 'resources', ann().id, { phone: '3' })));
  expect([doc(one).resources.get('ann')?.name, doc(one).resources.get('ann')?.phone, ann().name]).toEqual(['Bea', '3', 'Bea 2']);
  const own = setPeople(doc(two), 'resources', 'b', { phone: '7' });
  expect(own.ok && sharedTouched(own.changes)).toEqual([]);
  const moved = setPeople(doc(two), 'resources', ann().id, { groupId: null, rank: 9 });
  expect(!moved.ok || sharedTouched(moved.changes).length === 0).toBe(true);
});
