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

describe('what is looked up', () => {
  const chain = (ids: readonly string[]): { activities: Activity[]; links: Link[] } => {
    const doc = documentOf({ activities: ids.map((id) => [id, '1d']), links: ids.slice(1).map((id, i) => `${ids[i]} > ${id}`) });
    return { activities: [...doc.activities.values()], links: [...doc.links.values()] };
  };
  const ids = Array.from({ length: 40 }, (_, i) => `A${i}`);
  /** How often a place is asked for by id, and the ends as pairs of ids. */
  function asked(memory: NetworkMemory, activities: readonly Activity[], links: readonly Link[]): { times: number; ends: string[] } {
    const slots = (memory as unknown as { slots: Map<string, unknown> }).slots;
    let times = 0;
    const get = slots.get.bind(slots);
    slots.get = (id) => (times++, get(id));
    const { from, to } = memory.endsOf(activities, links);
    slots.get = get;
    return { times, ends: links.map((_, l) => `${activities[from[l]!]?.id ?? '-'} ${activities[to[l]!]?.id ?? '-'}`) };
  }
  const paired = (links: readonly Link[]): string[] => links.map((l) => `${l.from} ${l.to}`);

  test('all of it once, then only what is new, wherever it stands; what two are taken out before is found again', () => {
    const { activities, links } = chain(ids);
    const memory = new NetworkMemory();
    expect(asked(memory, activities, links)).toEqual({ times: 40 + 2 * 39, ends: paired(links) });
    expect(asked(memory, activities, links)).toEqual({ times: 0, ends: paired(links) });
    const more: Activity = { ...activities[0]!, id: 'new' };
    const tie: Link = { ...links[0]!, id: 'tie', from: 'A3', to: 'new' };
    for (const at of [0, 17, 40]) {
      const [withMore, withTie] = [activities.toSpliced(at, 0, more), links.toSpliced(Math.min(at, 39), 0, tie)];
      expect(asked(memory, withMore, withTie)).toEqual({ times: 1 + 2, ends: paired(withTie) });
      expect(asked(memory, activities, links)).toEqual({ times: 0, ends: paired(links) });
    }
    // Two gone from the beginning, the middle and the end; the ends of their links with them.
    for (const at of [0, 17, 38]) {
      const fewer = activities.toSpliced(at, 2);
      const gone = new Set(activities.slice(at, at + 2).map((a) => a.id));
      expect(asked(memory, fewer, links)).toEqual({ times: 0, ends: links.map((l) => [l.from, l.to].map((id) => (gone.has(id) ? '-' : id)).join(' ')) });
      expect(asked(memory, activities, links)).toEqual({ times: 2, ends: paired(links) });
      const left = links.toSpliced(at, 2);
      expect(asked(memory, activities, left)).toEqual({ times: 0, ends: paired(left) });
      expect(asked(memory, activities, links).ends).toEqual(paired(links));
    }
  });

  test('an end that was not there and comes', () => {
    const { activities, links } = chain(ids.slice(0, 3));
    const memory = new NetworkMemory();
    expect(asked(memory, activities.slice(0, 2), links).ends).toEqual(['A0 A1', 'A1 -']);
    expect(asked(memory, activities, links).ends).toEqual(['A0 A1', 'A1 A2']);
    expect(asked(memory, activities.slice(1), links).ends).toEqual(['- A1', 'A1 A2']);
  });

  test('those that went long ago are let go, once there are twice as many as the plan has and a thousand', () => {
    const { activities, links } = chain(['A0', 'A1']);
    const memory = new NetworkMemory();
    const slots = (): number => (memory as unknown as { slots: Map<string, unknown> }).slots.size;
    const passing = (n: number): Activity => ({ ...activities[0]!, id: `x${n}` });
    // Each time another third activity: 2 * 3 + 1000 places are kept.
    for (let n = 0; n < 1004; n++) memory.endsOf([...activities, passing(n)], links);
    expect(slots()).toBe(1006);
    expect(asked(memory, [...activities, passing(2000)], links).ends).toEqual(['A0 A1']);
    expect(slots()).toBe(3);
    expect(asked(memory, [...activities, passing(2001)], links)).toEqual({ times: 1, ends: ['A0 A1'] });
  });
});
