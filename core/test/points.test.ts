/** History: any point is found again from the plan as it is now, with its finish, and can be gone back to and forward again. */
import fc from 'fast-check';
import { applyChanges, type Change } from '@yellowhammer/core/change/change';
import { changesBack, type Entry, finishesBack, goBack, stateBefore, touches } from '@yellowhammer/core/change/points';
import { addLink, deleteLinks } from '@yellowhammer/core/commands/links';
import { addActivity, deleteRows } from '@yellowhammer/core/commands/outline';
import { setActivities } from '@yellowhammer/core/commands/cells';
import { keepBaseline } from '@yellowhammer/core/commands/project';
import type { Outcome } from '@yellowhammer/core/commands/result';
import type { Document } from '@yellowhammer/core/model/document';
import { writeDocument } from '@yellowhammer/core/model/file';
import { d, documentOf, mustBack, says, viewIn } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;
const plan = (): Document =>
  documentOf({
    activities: [
      ['A', '3d'],
      ['B', '2d'],
      ['C', '1d'],
    ],
    links: ['A > B'],
  });
const bytes = (doc: Document): string => JSON.stringify(writeDocument(doc));

function act(doc: Document, kind: number, x: number): Outcome {
  const ids = [...doc.activities.keys()];
  const id = ids[x % Math.max(1, ids.length)] ?? '';
  switch (kind) {
    case 0:
      return addActivity(doc, null, { name: `new ${x}` }, newId);
    case 1:
      return deleteRows(doc, [{ kind: 'activity', id }]);
    case 2:
      return setActivities(doc, [id], { duration: d((x % 7) + 1) });
    case 3:
      return addLink(doc, { from: id, to: ids[(x * 7 + 1) % Math.max(1, ids.length)] ?? '' }, newId);
    default:
      return deleteLinks(doc, [...doc.links.keys()].slice(0, 1));
  }
}

test('every point of any run of acts is found again, with its finish; going back and undoing that ends where it began', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(4), fc.nat(40)), { maxLength: 14 }), fc.nat(13), fc.nat(5), (acts, at, skip) => {
      const doc = plan();
      const log: Entry[] = [];
      const states = [bytes(doc)];
      const finishes: (number | null)[] = [viewIn(doc).projectFinish];
      for (const [kind, x] of acts) {
        const o = act(doc, kind, x);
        if (!o.ok || o.changes.length === 0) continue;
        applyChanges(doc, o.changes);
        log.unshift({ revision: log.length + 2, changes: o.changes });
        states.unshift(bytes(doc));
        finishes.unshift(doc.activities.size ? viewIn(doc).projectFinish : finishes[0]!);
      }
      const now = bytes(doc);
      for (let k = 0; k <= log.length; k++) expect(bytes(stateBefore(doc, log.slice(0, k)))).toBe(states[k]);
      if (doc.activities.size > 0 && acts.every(([kind]) => kind !== 1)) {
        expect(finishesBack(doc, log)).toEqual(finishes);
        const s = Math.min(skip, log.length);
        expect(finishesBack(doc, log, s)).toEqual(finishes.slice(s));
      }
      expect(bytes(doc)).toBe(now);
      const back = goBack(doc, log.slice(0, Math.min(at, log.length)), 'then');
      if (!back.ok) return expect(says(back)).toContain('as it was then');
      mustBack(doc, back);
      expect(bytes(doc)).toBe(states[Math.min(at, log.length)]);
    }),
    { numRuns: 120 },
  );
});

test('kept copies stay when one goes back behind them, and a plan changed meanwhile is not overwritten', () => {
  const doc = plan();
  const kept = keepBaseline(doc, { id: 'base', name: 'First', description: '', at: '2026-03-01T00:00:00.000Z' });
  if (!kept.ok) throw new Error(says(kept));
  applyChanges(doc, kept.changes);
  const longer = setActivities(doc, ['A'], { duration: d(9) });
  if (!longer.ok) throw new Error(says(longer));
  applyChanges(doc, longer.changes);
  const log: Entry[] = [
    { revision: 3, changes: longer.changes },
    { revision: 2, changes: kept.changes },
  ];
  const back = goBack(doc, log, 'the beginning');
  mustBack(doc, back);
  expect([doc.snapshots.size, doc.activities.get('A')?.duration]).toEqual([1, d(3)]);
  expect(says(goBack(doc, log, 'the beginning'))).toContain('changed in the meantime');
  expect(says(goBack(doc, [], 'now'))).toContain('as it was then');
  expect(changesBack([{ revision: 2, changes: kept.changes }]).every((c) => c.table !== 'snapshots')).toBe(true);
});

test('a row is touched by its own changes and by links at it', () => {
  const change = (table: Change['table'], id: string, row: object): Change => ({ table, id, before: null, after: row as Change['after'] });
  const of = (c: Change, ...ids: string[]): boolean => touches({ revision: 1, changes: [c] }, new Set(ids));
  expect(of(change('activities', 'A', {}), 'A')).toBe(true);
  expect(of(change('activities', 'A', {}), 'B')).toBe(false);
  expect(of(change('links', 'l', { from: 'A', to: 'B' }), 'B')).toBe(true);
  expect(of({ ...change('links', 'l', {}), before: { from: 'A', to: 'B' } as never, after: null }, 'A')).toBe(true);
  expect(of(change('links', 'l', { from: 'A', to: 'B' }), 'C')).toBe(false);
});
