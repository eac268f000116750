/** The road to the server with a made-up server and browser: in order, once, over a reload, and what is refused. */
import { type Batch, type LogEntry } from '@yellowhammer/core/change/change';
import { SyncedProject } from '@yellowhammer/core/change/synced';
import { setActivities } from '@yellowhammer/core/commands/cells';
import { documentOf } from '../../core/test/helpers';
import { Road } from '../src/project/road';
import { MemoryStore } from './memory-store';

type Answer = { status: number; body: unknown };
const kept = new Map<string, string>();
const storage = { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => void kept.set(k, v), removeItem: (k: string) => void kept.delete(k) };
class Events {
  static all: Events[] = [];
  onmessage: ((m: { data: string }) => void) | null = null;
  onopen: (() => void) | null = null;
  onerror: (() => void) | null = null;
  readonly url: string;
  constructor(url: string) {
    this.url = url;
    Events.all.push(this);
  }
  close(): void {
    this.onerror = null;
  }
  addEventListener(): void {}
}
let answer: (batch: Batch, revision: number) => Answer;
const sent: string[] = [];
beforeEach(() => {
  kept.clear();
  sent.length = 0;
  Events.all = [];
  jest.useFakeTimers();
  Object.assign(globalThis, {
    localStorage: storage,
    sessionStorage: storage,
    EventSource: Events,
    fetch: (_: string, init: { body: string }) => {
      const { batch, revision } = JSON.parse(init.body) as { batch: Batch; revision: number };
      sent.push(batch.changeId);
      const { status, body } = answer(batch, revision);
      if (status === 0) return Promise.reject(new Error('no connection'));
      return Promise.resolve(new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } }));
    },
  });
});
afterEach(() => jest.useRealTimers());

const start = () => {
  const synced = new SyncedProject(
    documentOf({
      activities: [
        ['A', '1d'],
        ['B', '1d'],
      ],
    }),
    1,
  );
  const states: string[] = [];
  const refused: string[] = [];
  const store = new MemoryStore();
  const anew: number[] = [];
  const road: Road = new Road(
    'p',
    synced,
    {
      changed: () => states.push(`${road.state.state} ${road.state.pending}`),
      entries: (list) => void synced.remote(list),
      refused: (batch, problems) => {
        refused.push(problems[0]!.message);
        synced.refused(batch.changeId);
        road.keep();
      },
      anew: () => {
        anew.push(synced.revision);
        synced.renew(synced.doc, 9, new Set());
        return Promise.resolve(true);
      },
    },
    store,
  );
  const unsent = async (): Promise<string[]> => {
    await road.settled();
    return (await store.all('p')).map((w) => w.batch.changeId);
  };
  const edit = (changeId: string, id: string, duration: number): Batch => {
    const o = setActivities(synced.doc, [id], { duration });
    if (!o.ok) throw new Error(o.problems[0]!.message);
    const batch: Batch = { changeId, label: o.label, kind: 'do', target: null, changes: o.changes };
    synced.local(batch);
    road.keep();
    return batch;
  };
  return { synced, road, states, refused, edit, store, unsent, anew };
};
const taken = (): ((batch: Batch, revision: number) => Answer) => {
  let revision = 1;
  return () => ({ status: 200, body: { revision: ++revision } });
};

test('what waits goes in order, one at a time, and nothing stays behind', async () => {
  answer = taken();
  const { road, synced, states, edit, unsent } = start();
  for (const [i, id] of ['A', 'B', 'A'].entries()) edit(`change-${i}-00`, id, 60 + i);
  expect(await unsent()).toEqual(['change-0-00', 'change-1-00', 'change-2-00']);
  await Promise.all([road.send(), road.send()]);
  expect([sent, synced.pending.length, synced.revision]).toEqual([['change-0-00', 'change-1-00', 'change-2-00'], 0, 4]);
  expect([states[states.length - 1], await unsent()]).toEqual(['saved 0', []]);
});

test('while the server is away it waits longer and longer, then sends the same batch again', async () => {
  const then = taken();
  let away = 3;
  answer = (b, r) => (away-- > 0 ? { status: away === 1 ? 503 : 0, body: {} } : then(b, r));
  const { road, states, edit } = start();
  edit('change-0-00', 'A', 60);
  const sending = road.send();
  await jest.advanceTimersByTimeAsync(300);
  expect([sent.length, road.state]).toEqual([1, { state: 'offline', pending: 1 }]);
  await jest.advanceTimersByTimeAsync(5000);
  await sending;
  expect(sent).toEqual(Array.from({ length: 4 }, () => 'change-0-00'));
  expect(states.slice(-1)).toEqual(['saved 0']);
  // Back again, it listens from the revision that it knows.
  expect(Events.all.map((e) => e.url)).toEqual(['/api/projects/p/events?since=2']);
});

test('a window that is behind takes what it missed and sends on; what is refused is taken back and told', async () => {
  const { road, synced, refused, edit } = start();
  const other = setActivities(synced.doc, ['B'], { duration: 999 });
  const missed: LogEntry[] = other.ok
    ? [{ changeId: 'others-00', label: other.label, kind: 'do', target: null, changes: other.changes, revision: 2, who: 'Ada', client: 'x', at: '' }]
    : [];
  answer = (b, revision) =>
    revision < 2
      ? { status: 409, body: { revision: 2, missed } }
      : b.changeId === 'change-1-00'
        ? { status: 422, body: { problems: [{ code: 'X', message: 'not so', severity: 'error', where: {} }] } }
        : { status: 200, body: { revision: 3 } };
  edit('change-0-00', 'A', 60);
  edit('change-1-00', 'A', 61);
  await road.send();
  expect([refused, synced.pending.length]).toEqual([['not so'], 0]);
  expect([synced.doc.activities.get('A')?.duration, synced.doc.activities.get('B')?.duration]).toEqual([60, 999]);
});

test('a project that was deleted stops the sending, and what waited is kept', async () => {
  answer = () => ({ status: 404, body: { problems: [] } });
  const { road, edit, unsent } = start();
  edit('change-0-00', 'A', 60);
  await road.send();
  expect([road.state, await unsent()]).toEqual([{ state: 'gone', pending: 1 }, ['change-0-00']]);
});

test('so much was missed that the project is opened anew; what waits is sent on top of it', async () => {
  answer = (_, revision) => (revision < 9 ? { status: 409, body: { revision: 9, missed: null } } : { status: 200, body: { revision: 10 } });
  const { road, edit, anew, synced } = start();
  edit('change-0-00', 'A', 60);
  await road.send();
  expect([anew, synced.revision, synced.pending.length]).toEqual([[1], 10, 0]);
});

test('a database that cannot be written to is told in words, and the batch waits', async () => {
  let full = true;
  answer = () =>
    full ? { status: 503, body: { problems: [{ code: 'DATABASE_FULL', message: 'The disk is full.', severity: 'error', where: {} }] } } : { status: 200, body: { revision: 2 } };
  const { road, edit } = start();
  edit('change-0-00', 'A', 60);
  const sending = road.send();
  await jest.advanceTimersByTimeAsync(300);
  expect(road.state).toEqual({ state: 'blocked', pending: 1, reason: 'The disk is full.' });
  full = false;
  await jest.advanceTimersByTimeAsync(5000);
  await sending;
  expect(road.state).toEqual({ state: 'saved', pending: 0 });
});

test('what stands against something stays in the store, marked, until a person has decided', async () => {
  answer = taken();
  const { road, edit, store, unsent, synced } = start();
  const batch = edit('change-0-00', 'A', 60);
  synced.refused(batch.changeId);
  road.hold(batch.changeId);
  road.keep();
  expect([await unsent(), (await store.all('p'))[0]!.clash]).toEqual([['change-0-00'], true]);
  road.release(batch.changeId);
  expect(await unsent()).toEqual([]);
});
