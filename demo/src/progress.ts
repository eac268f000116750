/** Status updates for the demo: work goes as forecast, but for the delays that are told. Through the update command. */
import { applyChanges } from '@yellowhammer/core/change/change';
import { takeOver } from '@yellowhammer/core/commands/update';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { State, Type } from '@yellowhammer/core/schedule/network';
import { formatInstant, parseInstant } from '@yellowhammer/core/time/instant';
import { must } from './list.ts';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';
import type { Entry } from '@yellowhammer/core/progress/due';

/** What went otherwise in a window, by activity number. Days are working days of the activity's calendar. */
export interface Told {
  /** Started so many days later than forecast. */
  late?: number;
  /** So many days more remain than forecast. */
  more?: number;
  /** Finished early in the window although its predecessors had not. */
  outOfSequence?: { start: string; finish: string };
  note?: string;
}

/** Enters progress up to a new data date, keeping what the update makes of the document before and after. */
export function statusUpdate(doc: Document, copies: Map<string, Document>, dataDate: string, told: Record<string, Told>, at: string, newId: () => string): void {
  // What really happened is a plan of its own: the forecast with the told delays in it.
  const world = copyDocument(doc);
  for (const a of doc.activities.values()) {
    const t = told[a.code];
    if (!t || (!t.late && !t.more)) continue;
    const day = dayLengths(doc, a).minutesPerDay;
    const more = (t.more ?? 0) * day;
    world.activities.set(a.id, { ...a, duration: a.duration + more, remaining: a.remaining === null ? null : a.remaining + more, levellingDelay: t.late ? t.late * day : null });
  }
  const r = schedule(world).computed;
  if (!r) throw new Error('the demo plan cannot be computed');
  const net = r.network;
  const now = parseInstant(dataDate) as number;
  const entries = new Map<string, Entry>();
  net.ids.forEach((id, i) => {
    const k = net.nodeOf[i]!;
    const a = doc.activities.get(id);
    if (!a || net.type[k] === Type.levelOfEffort || net.type[k] === Type.margin || net.state[k] === State.finished) return;
    const order = told[a.code]?.outOfSequence;
    if (order) {
      entries.set(id, { actualStart: order.start, actualFinish: order.finish });
      return;
    }
    const [start, finish] = [formatInstant(r.early.start[k]!), formatInstant(r.early.finish[k]!)];
    if (r.early.finish[k]! <= now) entries.set(id, { actualStart: start, actualFinish: finish });
    else if (a.type === 'task' && r.early.start[k]! < now) {
      const c = net.calendars[net.calendar[k]!]!;
      entries.set(id, { actualStart: start, remaining: r.early.finishPos[k]! - Math.max(c.position(now), r.early.startPos[k]!) });
    }
  });
  const before = copyDocument(doc);
  const made = must(doc, takeOver(doc, { dataDate, entries, at }, newId));
  copies.set(made[0]!, withoutSnapshots(before));
  for (const [code, t] of Object.entries(told))
    if (t.note) {
      const a = [...doc.activities.values()].find((x) => x.code === code);
      if (a) applyChanges(doc, [{ table: 'activities', id: a.id, before: a, after: { ...a, notes: t.note } }]);
    }
  copies.set(made[1]!, withoutSnapshots(doc));
}

/** The document as a copy keeps it: without snapshots, naming no baseline. */
export function withoutSnapshots(doc: Document): Document {
  const copy = copyDocument(doc);
  copy.snapshots.clear();
  const project = copy.project.get('project');
  if (project) copy.project.set('project', { ...project, baselineId: null });
  return copy;
}
