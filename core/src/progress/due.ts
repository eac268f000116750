/** What a status update asks about: the due list of a window, and what a person enters for a row of it. */
import { isSpanning } from '../model/activity-kinds.ts';
import type { Document } from '../model/document.ts';
import type { Activity } from '../model/schema.ts';
import { State } from '../schedule/network.ts';
import type { ScheduleView } from '../schedule/view.ts';
import type { Instant } from '../time/instant.ts';

export type DueGroup = 'finish' | 'start' | 'progress';

export interface DueRow {
  id: string;
  group: DueGroup;
}

/** Activities that the window up to a new data date (an instant) touches, by why they are due, from the forecast as it stands. */
export function dueList(doc: Document, view: Pick<ScheduleView, 'ids' | 'start' | 'finish' | 'state'>, until: Instant): DueRow[] {
  return view.ids.flatMap((id, i): DueRow[] => {
    const a = doc.activities.get(id);
    if (!a || isSpanning(a) || view.state[i] === State.finished) return [];
    if (view.finish[i]! <= until) return [{ id, group: 'finish' }];
    if (view.state[i] === State.started) return [{ id, group: 'progress' }];
    return view.start[i]! < until ? [{ id, group: 'start' }] : [];
  });
}

/** What a person enters for an activity in a window. Absent fields stay as they are. */
export type Entry = Partial<Pick<Activity, 'actualStart' | 'actualFinish' | 'remaining' | 'suspend' | 'resume'>>;

/** The activity with its entry, as the update would leave it. */
export function withEntry(a: Activity, entry: Entry): Activity {
  const next = { ...a, ...entry };
  return next.actualFinish !== null && a.type === 'task' ? { ...next, remaining: null } : next;
}
