/** A network that is kept and mended says what one made anew says, whatever was edited before. */
import fc from 'fast-check';
import { applyChanges, type Change, diffDocuments, invertChanges } from '@yellowhammer/core/change/change';
import { copyDocument, type Document, projectOf } from '@yellowhammer/core/model/document';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import type { Activity, Link, Project } from '@yellowhammer/core/model/schema';
import { NetworkMemory } from '@yellowhammer/core/schedule/memory';
import type { Network } from '@yellowhammer/core/schedule/network';
import { prepare } from '@yellowhammer/core/schedule/prepare';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { viewOf } from '@yellowhammer/core/schedule/view';
import { documentOf, sure } from './helpers';
import { planFile, smallPlan } from './twin/plans';

const plain = (n: Network | undefined): unknown => n && { ...n, calendars: n.calendars.map((c) => c.id) };

/** One edit of a document, chosen by three numbers. */
function edit(doc: Document, [what, which, n]: readonly [number, number, number]): Change[] {
  const activities = [...doc.activities.values()];
  const links = [...doc.links.values()];
  const a = activities[which % Math.max(1, activities.length)];
  const l = links[which % Math.max(1, links.length)];
  const p = projectOf(doc);
  const act = (fields: Partial<Activity>): Change[] => (a ? [{ table: 'activities', id: a.id, before: a, after: { ...a, ...fields } }] : []);
  const project = (fields: Partial<Project>): Change[] => [{ table: 'project', id: 'project', before: p, after: { ...p, ...fields } }];
  const days = ['2026-03-03', '2026-03-05T09:00', '2026-03-12', '2026-04-01'];
  switch (what) {
    case 0:
      return act({ duration: n * 60 });
    case 1:
      return act({ constraints: [{ kind: (['startNotBefore', 'finishNotAfter', 'pinnedStart', 'finishOn'] as const)[n % 4]!, date: days[n % 4]! }] });
    case 2:
      return act({ actualStart: n % 3 ? '2026-03-02T09:00' : null, remaining: n % 2 ? n * 30 : null, actualFinish: n % 5 === 1 ? '2026-03-03T12:00' : null });
    case 3:
      return act({ deadline: n % 2 ? days[n % 4]! : null, code: `c${n}`, name: `name ${n}` });
    case 4:
      return act({ type: (['task', 'finishMilestone', 'margin', 'levelOfEffort', 'startMilestone'] as const)[n % 5]! });
    case 5:
      return act({ calendarId: n % 2 ? null : 'none' });
    case 6:
      return act({ rank: n - 3.5 });
    case 7:
      return a ? [{ table: 'activities', id: a.id, before: a, after: null }] : [];
    case 8:
      return a ? [{ table: 'activities', id: `n${n}`, before: doc.activities.get(`n${n}`) ?? null, after: { ...a, id: `n${n}`, code: `n${n}`, rank: n } }] : [];
    case 9:
      return l ? [{ table: 'links', id: l.id, before: l, after: n % 3 === 0 ? null : { ...l, lag: n * 60, type: (['FS', 'SS', 'FF'] as const)[n % 3]! } }] : [];
    case 10: {
      const b = activities[(which + n) % Math.max(1, activities.length)];
      const made: Link = { id: `m${n}`, rank: n, from: a?.id ?? '', to: b?.id ?? '', type: 'FS', lag: 0, lagCalendar: null };
      return a && b ? [{ table: 'links', id: made.id, before: doc.links.get(made.id) ?? null, after: made }] : [];
    }
    case 11:
      return project({ dataDate: n % 3 ? '2026-03-06T08:00' : null });
    default:
      return project({ options: { ...p.options, statusLogic: n % 2 ? 'progressOverride' : 'retainedLogic', nearCriticalThreshold: n } });
  }
}

const edits = fc.array(fc.tuple(fc.nat(12), fc.nat(40), fc.nat(12)), { minLength: 1, maxLength: 14 });

test('after any edits, one by one or several at once', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 5000 }), edits, fc.nat(3), (seed, list, together) => {
      const doc = sure(readProjectFile(planFile(smallPlan(seed))).file).document;
      const memory = new NetworkMemory();
      prepare(doc, memory);
      list.forEach((e, i) => {
        applyChanges(doc, edit(doc, e));
        if (i % (together + 1) !== 0) return;
        const kept = prepare(doc, memory);
        const anew = prepare(copyDocument(doc));
        expect(kept.problems).toEqual(anew.problems);
        expect(plain(kept.network)).toEqual(plain(anew.network));
      });
    }),
    { numRuns: 250 },
  );
});

test('an edit of a value keeps the network, its ids and its links; what is shown is that of the plan as it is', () => {
  const doc = documentOf({
    activities: [
      ['A', '3d'],
      ['B', '2d'],
      ['R', 'margin 4d'],
      ['C', '1d'],
    ],
    links: ['A > B', 'B > R', 'R > C'],
  });
  const memory = new NetworkMemory();
  const first = sure(schedule(doc, memory).computed).network;
  const a = sure(doc.activities.get('A'));
  const change: Change[] = [{ table: 'activities', id: 'A', before: a, after: { ...a, duration: 4800 } }];
  applyChanges(doc, change);
  const second = sure(schedule(doc, memory).computed);
  expect(second.network).toBe(first);
  expect(viewOf(doc, second, [], undefined)).toEqual(viewOf(doc, sure(schedule(copyDocument(doc)).computed), [], undefined));
  applyChanges(doc, invertChanges(change));
  applyChanges(
    doc,
    diffDocuments(
      doc,
      documentOf({
        activities: [
          ['A', '3d'],
          ['B', '2d'],
        ],
        links: ['A > B'],
      }),
    ),
  );
  const third = sure(schedule(doc, memory).computed).network;
  expect([third.ids, third.size, third.links]).toEqual([['A', 'B'], 2, 1]);
});
