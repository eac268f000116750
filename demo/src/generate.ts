/** Large plans for performance work: seeded, about 1.6 links an activity, mixed types, four calendars, three levels of WBS. */
import { newProject } from '@yellowhammer/core/commands/project';
import { plainActivity } from '@yellowhammer/core/commands/outline';
import { applyChanges, type Change } from '@yellowhammer/core/change/change';
import type { Document } from '@yellowhammer/core/model/document';
import { type Activity, type Link, type LinkType, wbsDefaults } from '@yellowhammer/core/model/schema';
import { calendars as shared } from './calendars.ts';

/** A generated plan shares nothing with the projects of the demo. */
const calendars = shared.map((c) => ({ ...c, sharedId: null }));

/** A small seeded generator of random numbers (mulberry32). */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const verbs = ['Set out', 'Strip', 'Excavate', 'Form', 'Reinforce', 'Pour', 'Cure', 'Erect', 'Fix', 'Seal', 'Test', 'Paint', 'Clad', 'Wire', 'Inspect'];
const things = ['footing', 'pier', 'slab', 'wall', 'beam', 'stair', 'roof', 'window', 'duct', 'cable tray', 'pump', 'tank', 'rail', 'door', 'panel'];

/** A plan of so many activities. Chains of work run side by side in areas and are tied together, as on a real site. */
export function largePlan(size: number, seed: number): Document {
  const r = seeded(seed);
  const int = (a: number, b: number): number => a + Math.floor(r() * (b - a + 1));
  const pick = <T>(list: readonly T[]): T => list[int(0, list.length - 1)]!;
  let n = 0;
  const doc = newProject(
    { code: `GEN${size}`, name: `Generated plan of ${size}`, plannedStart: '2026-03-02T08:00', requiredFinish: null, calendar: calendars[0] },
    () => `g${++n}`,
  );
  const changes: Change[] = calendars.slice(1, 4).map((c) => ({ table: 'calendars', id: c.id, before: null, after: c }));
  const areas = Math.max(1, Math.round(size / 400));
  const nodes: string[] = [];
  for (let a = 0; a < areas; a++) {
    changes.push({ table: 'wbs', id: `w${a}`, before: null, after: { ...wbsDefaults, id: `w${a}`, rank: a, name: `Area ${a + 1}` } });
    for (let b = 0; b < 4; b++) {
      changes.push({
        table: 'wbs',
        id: `w${a}-${b}`,
        before: null,
        after: { ...wbsDefaults, id: `w${a}-${b}`, rank: b, parentId: `w${a}`, name: `Block ${a + 1}.${b + 1}` },
      });
      for (let c = 0; c < 5; c++) {
        const id = `w${a}-${b}-${c}`;
        changes.push({ table: 'wbs', id, before: null, after: { ...wbsDefaults, id, rank: c, parentId: `w${a}-${b}`, name: `Floor ${c + 1}` } });
        nodes.push(id);
      }
    }
  }
  const perNode = Math.ceil(size / nodes.length);
  const pairs = new Set<string>();
  const addLink = (from: number, to: number): void => {
    const type: LinkType = r() < 0.78 ? 'FS' : pick(['SS', 'FF', 'SS', 'SF'] as const);
    const key = `${from} ${to} ${type}`;
    if (pairs.has(key)) return;
    pairs.add(key);
    const id = `l${pairs.size}`;
    const row: Link = { id, rank: pairs.size, from: `a${from}`, to: `a${to}`, type, lag: r() < 0.75 ? 0 : pick([480, 960, 240, -240]), lagCalendar: null };
    changes.push({ table: 'links', id, before: null, after: row });
  };
  for (let i = 0; i < size; i++) {
    const type = r() < 0.03 ? pick(['startMilestone', 'finishMilestone'] as const) : 'task';
    const row: Activity = {
      ...plainActivity(`a${i}`, String((i + 1) * 10), i),
      name: `${pick(verbs)} ${pick(things)} ${i + 1}`,
      wbsId: nodes[Math.min(nodes.length - 1, Math.floor(i / perNode))]!,
      type,
      duration: type === 'task' ? int(1, 15) * 480 : 0,
      calendarId: r() < 0.55 ? null : pick(['island', 'island', 'boat', 'night']),
      cost: int(5, 400) * 100,
    };
    changes.push({ table: 'activities', id: row.id, before: null, after: row });
  }
  // Each activity has a time in its area; links run from earlier to later times only, so areas go on side by side.
  const perArea = perNode * 20;
  for (let i = 1; i < size; i++) {
    const at = i % perArea;
    // Mostly the work before it in its floor; the first of a floor follows some work of the floor before.
    if (i % perNode !== 0) addLink(i - 1 - int(0, Math.min(2, (i % perNode) - 1)), i);
    else if (at >= perNode) addLink(i - perNode + int(0, perNode - 1), i);
    if (r() < 0.62 && at > 5) {
      const other = int(0, Math.floor((size - 1) / perArea)) * perArea + int(0, at - 3);
      if (other < size) addLink(other, i);
    }
  }
  applyChanges(
    doc,
    changes.filter((c) => c.table !== 'links'),
  );
  applyChanges(
    doc,
    changes.filter((c) => c.table === 'links'),
  );
  return doc;
}
