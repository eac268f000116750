/** Batches that are applied in a thread of their own: large ones, and those that keep a copy of the whole project. */
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { setActivities } from '@yellowhammer/core/commands/cells';
import { keepBaseline } from '@yellowhammer/core/commands/project';
import type { Change } from '@yellowhammer/core/change/change';
import type { Outcome } from '@yellowhammer/core/commands/result';
import type { News } from '@yellowhammer/server/store';
import { largePlan } from '@yellowhammer/demo/generate';
import { sure } from '../../core/test/helpers';
import { type Serving, serve } from './serving';

let serving: Serving;
beforeAll(async () => void (serving = await serve()));
afterAll(() => serving.stop());

const changesOf = (o: Outcome): Change[] => {
  if (!o.ok) throw new Error(o.problems[0]!.message);
  return o.changes;
};

test('a baseline of a large plan and a change of all its rows arrive, are heard of, and the next small change finds them', async () => {
  const { ask, store } = serving;
  const made = (await ask('POST', '/import', JSON.parse(writeProjectFile({ document: largePlan(3000, 1), copies: new Map() })))).body as { id: string };
  const { id } = made;
  const heard: News[] = [];
  store.listen(id, (e) => void heard.push(e));
  const doc = () => sure(store.document(id)).doc;
  const first = sure(store.head(id)).revision;
  const send = (known: number, changeId: string, changes: Change[]) =>
    ask(
      'POST',
      `/projects/${id}/changes`,
      { revision: known, batch: { changeId, label: changeId, kind: 'do', target: null, changes } },
      { 'x-who': 'Ada', 'x-client': 'window-1' },
    );

  const baseline = await send(first, 'keep-a-baseline', changesOf(keepBaseline(doc(), { id: 'b1', name: 'First', description: '', at: '2026-03-01T08:00:00.000Z' })));
  expect([baseline.status, (baseline.body as { revision: number }).revision]).toEqual([200, first + 1]);
  expect(sure(store.copy(id, 'b1')).activities.size).toBe(3000);
  expect(heard.map((e) => ('label' in e ? e.label : e))).toEqual(['keep-a-baseline']);

  const all = changesOf(setActivities(doc(), [...doc().activities.keys()], { notes: 'x'.repeat(700) }));
  const large = await send(first + 1, 'all-rows-at-once', all);
  expect(large.status).toBe(200);
  // More than is sent one by one: other windows open anew, and the one that sent it is named, so that it need not.
  expect(heard[1]).toEqual({ anew: true, client: 'window-1' });
  expect([...doc().activities.values()].every((a) => a.notes.length === 700)).toBe(true);

  // The same again is answered as before, and told nobody.
  expect(((await send(first + 1, 'all-rows-at-once', all)).body as { repeated: boolean }).repeated).toBe(true);
  expect(heard).toHaveLength(2);
  // Late, refused and small ones are answered as ever.
  const one = sure([...doc().activities.values()][0]);
  const small = (known: number, changeId: string, after: object) => send(known, changeId, [{ table: 'activities', id: one.id, before: one, after: { ...one, ...after } }]);
  expect((await small(first, 'late-change', { name: 'late' })).status).toBe(409);
  const wrong = await small(first + 2, 'wrong-change', { type: 'finishMilestone', duration: 480 });
  expect([wrong.status, (wrong.body as { problems: { message: string }[] }).problems[0]?.message]).toEqual([422, expect.stringContaining('a milestone has no duration')]);
  expect((await small(first + 2, 'small-change', { name: 'next' })).status).toBe(200);
  expect(doc().activities.get(one.id)?.name).toBe('next');
});
