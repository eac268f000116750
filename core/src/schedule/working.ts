/** Who drives an activity, and on which calendar it is therefore computed (resource rules, section 2). */
import { assignedTo, resourceOf } from '../model/assigned.ts';
import type { Document } from '../model/document.ts';
import type { Resource } from '../model/resource-schema.ts';
import type { Activity } from '../model/schema.ts';
import type { CompiledCalendar } from '../time/calendar.ts';
import { CutCalendar, type Cutter, lossOf } from '../time/cut.ts';
import { PatchedTime, plainTime, type ResourceTime } from '../time/patched.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import { calendarFor } from './calendars.ts';

const patched = new WeakMap<Resource['daysOff'], PatchedTime>();
const plain = new WeakMap<CompiledCalendar, ResourceTime>();

function timeOn(base: CompiledCalendar, daysOff: Resource['daysOff']): ResourceTime {
  if (daysOff.length === 0) {
    let time = plain.get(base);
    if (!time) plain.set(base, (time = plainTime(base)));
    return time;
  }
  let time = patched.get(daysOff);
  if (time?.base !== base) patched.set(daysOff, (time = new PatchedTime(base, daysOff)));
  return time;
}

/** The working time of a resource: its calendar (none that can be used: the project's) with its days off. Undefined without any calendar. */
export function resourceTime(doc: Document, r: Pick<Resource, 'calendarId' | 'daysOff'>): ResourceTime | undefined {
  const base = calendarFor(doc, r);
  return base && timeOn(base, r.daysOff);
}

/** What a time takes out of a calendar; looked up once for each pair. Undefined where it takes nothing. */
const losses = new WeakMap<CompiledCalendar, WeakMap<ResourceTime, ReturnType<typeof lossOf>>>();
function lossIn(own: CompiledCalendar, time: ResourceTime): ReturnType<typeof lossOf> {
  let known = losses.get(own);
  if (!known) losses.set(own, (known = new WeakMap()));
  let loss = known.get(time);
  if (!loss) known.set(time, (loss = lossOf(own, time)));
  return loss;
}

/** Cuts by the set of those who truly cut, for each own calendar. */
const cuts = new WeakMap<CompiledCalendar, Map<string, CutCalendar>>();
const MOST_CUTS = 20_000;

/** Labour and equipment that drive an activity, each once, in the order of the assignments. */
export function driversOf(doc: Document, a: Pick<Activity, 'id' | 'type'>): Resource[] {
  const out: Resource[] = [];
  for (const x of assignedTo(doc, a)) {
    const r = x.drives ? resourceOf(doc, x) : undefined;
    if (r && r.kind !== 'material' && !out.includes(r)) out.push(r);
  }
  return out;
}

/** The working calendar of an activity whose own calendar is given. */
export function workingOn(doc: Document, a: Pick<Activity, 'id' | 'type' | 'keepsDays'>, own: CompiledCalendar): WorkCalendar {
  if (a.keepsDays || doc.assignments.size === 0) return own;
  const cutters: Cutter[] = [];
  const lost = [];
  for (const r of driversOf(doc, a)) {
    const time = resourceTime(doc, r);
    const loss = time && lossIn(own, time);
    if (!loss?.length) continue;
    cutters.push({ id: r.id, name: r.name, time: time as ResourceTime });
    lost.push(loss);
  }
  if (cutters.length === 0) return own;
  let known = cuts.get(own);
  if (!known) cuts.set(own, (known = new Map()));
  const key = cutters
    .map((c) => c.id)
    .sort()
    .join(' ');
  let cut = known.get(key);
  if (!cut || !sameCutters(cut.cutters, cutters)) {
    if (known.size > MOST_CUTS) known.clear();
    known.set(key, (cut = new CutCalendar(own, cutters, lost)));
  }
  return cut;
}

function sameCutters(a: readonly Cutter[], b: readonly Cutter[]): boolean {
  return a.every((x) => {
    const y = b.find((other) => other.id === x.id);
    return y?.time === x.time && y.name === x.name;
  });
}

/** The calendar that an activity is computed on: its own cut with those who drive it. Undefined where neither its own nor the project's can be used. */
export function workingCalendarFor(doc: Document, a: Pick<Activity, 'id' | 'type' | 'keepsDays' | 'calendarId'>): WorkCalendar | undefined {
  const own = calendarFor(doc, a);
  return own && workingOn(doc, a, own);
}
