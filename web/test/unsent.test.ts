/** The browser's store of what was not sent, against a stand-in of the browser's database; and the courier for closed windows. */
import 'fake-indexeddb/auto';
import type { Batch } from '@yellowhammer/core/change/change';
import { deliver } from '../src/project/courier';
import { BrowserStore, type Waiting } from '../src/project/unsent';
import { MemoryStore } from './memory-store';

const batch = (changeId: string): Batch => ({ changeId, label: 'x', kind: 'do', target: null, changes: [] });
const waits = (projectId: string, changeId: string, client = 'gone'): Waiting => ({ projectId, client, batch: batch(changeId), clash: false });
const ids = (list: readonly Waiting[]): string[] => list.map((w) => w.batch.changeId);

test('batches come out in the order in which they went in, each once, by project; what cannot be read is left out', async () => {
  const store = new BrowserStore();
  for (const w of [waits('p', 'change-1'), waits('q', 'change-2'), waits('p', 'change-3'), waits('p', 'change-1')]) await store.put(w);
  await store.put(waits('p', 'short'));
  expect(ids(await store.all('p'))).toEqual(['change-1', 'change-3']);
  expect(ids(await store.all())).toEqual(['change-1', 'change-2', 'change-3']);
  await store.mark('change-3');
  await store.adopt('change-3', 'me');
  expect((await new BrowserStore().all('p')).map((w) => [w.clash, w.client])).toEqual([
    [false, 'gone'],
    [true, 'me'],
  ]);
  await store.remove(['change-1', 'nothing']);
  expect(ids(await store.all('p'))).toEqual(['change-3']);
});

describe('the courier', () => {
  const sent: string[] = [];
  let answer: (projectId: string, revision: number, b: Batch) => { status: number; body: unknown };
  beforeEach(() => {
    sent.length = 0;
    const kept = new Map([['yellowhammer.client', 'me']]);
    const storage = { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => void kept.set(k, v) };
    Object.assign(globalThis, {
      localStorage: storage,
      sessionStorage: storage,
      navigator: {},
      fetch: (url: string, init: { body: string; headers: Record<string, string> }) => {
        const { revision, batch: b } = JSON.parse(init.body) as { revision: number; batch: Batch };
        const { status, body } = answer(url.split('/')[3]!, revision, b);
        if (status === 200) sent.push(`${b.changeId} by ${init.headers['x-client']}`);
        return Promise.resolve(new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } }));
      },
    });
  });
  const filled = async (...list: Waiting[]): Promise<MemoryStore> => {
    const store = new MemoryStore();
    for (const w of list) await store.put(w);
    return store;
  };

  test('sends what closed windows left, in order, in their name; not of the open project, not of this window', async () => {
    let revision = 7;
    answer = (_, known) => (known === revision ? { status: 200, body: { revision: ++revision } } : { status: 409, body: { revision, missed: null } });
    const store = await filled(waits('p', 'change-1'), waits('p', 'change-2'), waits('open', 'change-3'), waits('p', 'change-4', 'me'));
    await deliver('open', store);
    expect(sent).toEqual(['change-1 by gone', 'change-2 by gone']);
    expect(ids(await store.all())).toEqual(['change-3', 'change-4']);
  });

  test('what is refused is kept and marked, and nothing that may rest on it is sent', async () => {
    answer = () => ({ status: 422, body: { problems: [] } });
    const store = await filled(waits('p', 'change-1'), waits('p', 'change-2'));
    await deliver(undefined, store);
    await deliver(undefined, store);
    expect([sent, (await store.all()).map((w) => w.clash)]).toEqual([[], [true, false]]);
  });
});
