/** Computing beside the window, with a made-up worker: what it is told, in which order, and what follows from its answers. */
import type { Remote } from 'comlink';
import type { Batch, Change } from '@yellowhammer/core/change/change';
import { setActivities } from '@yellowhammer/core/commands/cells';
import { type Document } from '@yellowhammer/core/model/document';
import { projectOf } from '@yellowhammer/core/model/document';
import { applyChanges } from '@yellowhammer/core/change/change';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { viewOf } from '@yellowhammer/core/schedule/view';
import { documentOf } from '../../core/test/helpers';
import { Computing, LARGE_ACT } from '../src/project/computing';
import type { WorkerApi } from '../src/project/worker';
import { rollupDelta, withDelta } from '../src/project/rollup-delta';

const settled = async (): Promise<void> => {
  for (let i = 0; i < 40; i++) await Promise.resolve();
};

/** A plan with as many activities as make an act large. */
const largeDoc = (): Document => documentOf({ activities: Array.from({ length: LARGE_ACT }, (_, i): [string, string] => [`A${i}`, '2d']) });

function begin(doc: Document, known: { travel?: boolean; copy?: string | null; sent?: 'all' | 'waiting' | 'offline'; milliseconds?: number } = {}) {
  const calls: string[] = [];
  const copies = new Set<string>();
  let version = 0;
  const host = { sent: known.sent ?? 'all', last: undefined as Batch | undefined, drawn: (): Promise<void> => Promise.resolve() };
  const movedAnswer: { value: Awaited<ReturnType<WorkerApi['check']>>['moved'] } = { value: null };
  const worker = {
    open: async () => {
      calls.push('open');
      copies.clear();
    },
    apply: async (changes: unknown[], id: string | null) => void calls.push(`apply ${changes.length} ${id}`),
    travel: async (id: string, kind: string) => {
      calls.push(`${kind} ${id}`);
      return known.travel ?? true;
    },
    compute: async () => {
      calls.push('compute');
      const { computed } = schedule(doc);
      const view = computed && viewOf(doc, computed, [], undefined);
      return { view: view ? { ...view, rollups: rollupDelta(new Map(), view.rollups) } : null, milliseconds: known.milliseconds ?? 1, parts: { network: 0, passes: 0, view: 0 } };
    },
    check: async () => {
      calls.push('check');
      return { problems: [], moved: movedAnswer.value };
    },
    movedBy: async (back: Change[]) => {
      calls.push(`movedBy ${back.length}`);
      return { finishDays: 2, rows: [], count: 1, later: true };
    },
    hasCopy: async (id: string) => copies.has(id),
    addCopy: async (id: string) => {
      calls.push(`copy ${id}`);
      copies.add(id);
    },
    baseline: async (id: string, name: string) => ({ id, name }),
  };
  const told: string[] = [];
  const c = new Computing(worker as unknown as Remote<WorkerApi>, {
    doc: () => doc,
    version: () => version,
    tell: (t) => void told.push(t),
    copy: async () => (known.copy === undefined ? 'text' : known.copy),
    sent: () => host.sent as 'all',
    lastAct: () => host.last,
    drawn: () => host.drawn(),
  });
  const act = (changes: Change[], batch: Batch | null): void => {
    applyChanges(doc, changes);
    version++;
    c.changed(changes, batch);
  };
  return { c, calls, told, act, host, movedAnswer, worker };
}

const batchOf = (changes: Change[], kind: Batch['kind'], target: string | null): Batch => ({ changeId: `${kind}-1`, label: kind, kind, target, changes });
const longer = (doc: Document, duration: number): Change[] => {
  const outcome = setActivities(doc, [...doc.activities.keys()], { duration });
  if (!outcome.ok) throw new Error('refused');
  return outcome.changes;
};
const withBaseline = (doc: Document): Document => {
  const p = projectOf(doc);
  doc.project.set(p.id, { ...p, baselineId: 'B' });
  return doc;
};

test('an edit goes to the worker as rows, then dates come, then the check', async () => {
  const doc = documentOf({ activities: [['A', '2d']] });
  const { c, calls, act, told } = begin(doc);
  c.compute();
  await settled();
  const changes = longer(doc, 1440);
  act(changes, batchOf(changes, 'do', null));
  expect(c.stale).toBe(true);
  await settled();
  expect(calls).toEqual(['compute', 'check', 'apply 1 do-1', 'compute', 'check']);
  expect(c.stale).toBe(false);
  expect(told.lastIndexOf('view')).toBeLessThan(told.lastIndexOf('check'));
});

test.each([
  ['a short while', 1, false, 0, true],
  ['longer than one waits for them', 251, false, 0, false],
  ['paused', 1, true, 0, false],
  ['long overdue', 1, false, 501, false],
])('dates that are on their way can be waited for: %s', async (_, milliseconds, paused, later, soon) => {
  const doc = documentOf({ activities: [['A', '2d']] });
  const { c, act } = begin(doc, { milliseconds });
  c.compute();
  await settled();
  expect(c.datesSoon).toBe(false);
  c.setPaused(paused);
  const clock = jest.spyOn(performance, 'now');
  const changes = longer(doc, 1440);
  const asked = performance.now();
  act(changes, batchOf(changes, 'do', null));
  clock.mockReturnValue(asked + later);
  expect(c.datesSoon).toBe(soon);
  clock.mockRestore();
  await settled();
  expect(c.datesSoon).toBe(false);
});

test('what is left out since it is the same as before stays what it was', async () => {
  const doc = documentOf({ activities: [['A', '2d']] });
  const { c, worker } = begin(doc);
  c.compute();
  await settled();
  const { ids, linkIds, costs } = c.view as NonNullable<typeof c.view>;
  const whole = worker.compute;
  worker.compute = async () => {
    const answer = await whole();
    return { ...answer, view: answer.view && { ...answer.view, ids: null, linkIds: null, costs: null } } as unknown as typeof answer;
  };
  c.compute();
  await settled();
  expect([c.view?.ids, c.view?.linkIds, c.view?.costs]).toEqual([ids, linkIds, costs]);
  expect(c.view?.costs).toBe(costs);
});

test('the check waits until the dates are drawn; an edit meanwhile does not, and its dates are checked', async () => {
  const doc = documentOf({ activities: [['A', '2d']] });
  const { c, calls, act, host } = begin(doc);
  let show = (): void => undefined;
  host.drawn = () => new Promise((done) => (show = done));
  c.compute();
  await settled();
  expect(calls).toEqual(['compute']);
  const changes = longer(doc, 1440);
  act(changes, batchOf(changes, 'do', null));
  await settled();
  expect(calls).toEqual(['compute', 'apply 1 do-1', 'compute']);
  show();
  await settled();
  expect(calls).toEqual(['compute', 'apply 1 do-1', 'compute', 'check']);
  // Closed before they are drawn, nothing more is asked.
  c.compute();
  await settled();
  c.close();
  show();
  await settled();
  expect(calls.slice(4)).toEqual(['compute']);
});

test('edits made while it computes need one more round, not one each', async () => {
  const doc = documentOf({ activities: [['A', '2d']] });
  const { calls, act, c } = begin(doc);
  for (let i = 0; i < 5; i++) {
    const changes = longer(doc, 1440 + i);
    act(changes, batchOf(changes, 'do', null));
  }
  await settled();
  expect(calls.filter((x) => x === 'compute')).toHaveLength(2);
  expect(calls.filter((x) => x === 'check')).toHaveLength(1);
  expect(c.stale).toBe(false);
});

test.each([
  [true, ['undo act', 'compute', 'check']],
  [false, ['undo act', 'open', 'copy B', 'compute', 'check']],
])('a large act is taken back by its name (known there: %s), and a worker that begins anew has its baseline again', async (travel, expected) => {
  const doc = withBaseline(largeDoc());
  const { c, calls, act } = begin(doc, { travel });
  c.compute();
  await settled();
  expect(c.baseline?.id).toBe('B');
  calls.length = 0;
  const changes = longer(doc, 1440);
  act(changes, batchOf(changes, 'undo', 'act'));
  await settled();
  expect(calls).toEqual(expected);
  expect(c.baseline?.id).toBe('B');
});

test('a kept copy that is restored is a new act: its rows are sent, however many', async () => {
  const doc = largeDoc();
  const { calls, act } = begin(doc);
  const changes = longer(doc, 1440);
  act(changes, batchOf(changes, 'do', 'kept'));
  await settled();
  expect(calls[0]).toBe(`apply ${LARGE_ACT} do-1`);
});

test('paused, nothing is computed until it is resumed', async () => {
  const doc = documentOf({ activities: [['A', '2d']] });
  const { c, calls, act } = begin(doc);
  c.setPaused(true);
  const changes = longer(doc, 1440);
  act(changes, null);
  await settled();
  expect(calls).toEqual(['apply 1 null']);
  expect(c.stale).toBe(true);
  c.setPaused(false);
  await settled();
  expect(c.stale).toBe(false);
});

test('after opening, what the last act moved is told again, with its name', async () => {
  const doc = documentOf({ activities: [['A', '2d']] });
  const { c, host } = begin(doc);
  const changes = longer(doc, 1440);
  applyChanges(doc, changes);
  host.last = { ...batchOf(changes, 'do', null), label: 'Longer' };
  c.compute();
  await settled();
  expect(c.moved).toMatchObject({ label: 'Longer', changeId: 'do-1', recalled: true, finishDays: 2 });
});

test('the cause of what moved is the act that stood when it was computed', async () => {
  const doc = documentOf({ activities: [['A', '2d']] });
  const { c, act, movedAnswer } = begin(doc);
  c.compute();
  await settled();
  movedAnswer.value = { finishDays: 0, rows: [], count: 3, later: false };
  c.cause = { label: 'Somebody: longer', changeId: null };
  act(longer(doc, 1440), null);
  await settled();
  expect(c.moved).toMatchObject({ label: 'Somebody: longer', changeId: null, count: 3, recalled: false });
});

test.each([['waiting'], ['offline']] as const)('a baseline whose batch is %s is not asked for before it can be there', async (sent) => {
  const doc = withBaseline(documentOf({ activities: [['A', '2d']] }));
  const { c, calls, host } = begin(doc, { sent });
  c.compute();
  if (sent === 'waiting') {
    await settled();
    expect(calls).toEqual([]);
    host.sent = 'all';
    await new Promise((r) => setTimeout(r, 250));
    expect(c.baseline?.id).toBe('B');
  } else {
    await settled();
    expect(calls).toEqual(['compute', 'check']);
    expect(c.baseline).toBeNull();
  }
});

test('roll-ups that travel as what has changed are those that were made; what stays is the same object', () => {
  const one = (n: number, more = 0) => ({ start: n, finish: n + more, duration: 1, percent: 0, cost: 5, activities: 1, critical: false, float: 3 });
  const first = new Map([
    ['a', one(1)],
    ['b', one(2)],
    ['c', one(3)],
  ]);
  const next = new Map([
    ['b', one(2)],
    ['c', one(3, 7)],
    ['d', one(4)],
  ]);
  const delta = rollupDelta(first, next);
  expect([[...delta.changed.keys()], delta.gone]).toEqual([['c', 'd'], ['a']]);
  const got = withDelta(first, delta);
  expect(new Map([...got].sort())).toEqual(next);
  expect(got.get('b')).toBe(first.get('b'));
  expect([...first.keys()]).toEqual(['a', 'b', 'c']);
  for (const figure of Object.keys(one(1))) {
    const other = figure === 'critical' ? true : 99;
    expect([figure, rollupDelta(new Map([['a', one(1)]]), new Map([['a', { ...one(1), [figure]: other }]])).changed.size]).toEqual([figure, 1]);
  }
  // Nothing changes: nothing is sent.
  expect(rollupDelta(got, next)).toEqual({ changed: new Map(), gone: [] });
});
