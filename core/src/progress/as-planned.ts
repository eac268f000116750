/** What a status update proposes: what would be entered had all gone as forecast (scheduling rules, section 4, "As planned"). */
import type { Document } from '../model/document.ts';
import type { Activity } from '../model/schema.ts';
import { State } from '../schedule/network.ts';
import type { ScheduleView } from '../schedule/view.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import { formatInstant, type Instant } from '../time/instant.ts';
import type { Entry } from './due.ts';
import { workingCalendarFor } from '../schedule/working.ts';
import { isSpanning } from '../model/activity-kinds.ts';

/** The parts of a computed view that proposals are made of. */
export type Forecast = Pick<ScheduleView, 'ids' | 'start' | 'finish' | 'length' | 'state'>;

/**
 * The proposal for one activity (at place `i` of the view) and a new data date; undefined where nothing is proposed:
 * for margins, levels of effort, finished work, work that the window does not reach and work suspended without a resume date.
 */
export function plannedEntry(a: Activity, c: WorkCalendar, view: Forecast, i: number, until: Instant): Entry | undefined {
  if (isSpanning(a) || view.state[i] === State.finished) return undefined;
  const start = view.start[i]!;
  const finish = view.finish[i]!;
  const unstarted = view.state[i] === State.unstarted;
  if (a.type !== 'task') return finish <= until ? { actualStart: formatInstant(finish), actualFinish: formatInstant(finish) } : undefined;
  if (!unstarted && a.suspend !== null && a.resume === null) return undefined;
  if (finish <= until) return { ...(unstarted ? { actualStart: formatInstant(start) } : {}), actualFinish: formatInstant(finish) };
  if (unstarted && start >= until) return undefined;
  // The working minutes from the new data date to the finish, and never more than remains now: what begins after the
  // new data date, since it resumes or is held then, has all of it left.
  const remaining = Math.min(c.position(finish) - c.position(until), view.length[i]!);
  return { ...(unstarted ? { actualStart: formatInstant(start) } : {}), remaining };
}

/** Proposals for all activities that have one. */
export function asPlanned(doc: Document, view: Forecast, until: Instant): Map<string, Entry> {
  const out = new Map<string, Entry>();
  view.ids.forEach((id, i) => {
    const a = doc.activities.get(id);
    const c = a && workingCalendarFor(doc, a);
    const entry = a && c && plannedEntry(a, c, view, i, until);
    if (entry) out.set(id, entry);
  });
  return out;
}
