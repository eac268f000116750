/** Percent complete and what remains: one definition of each (scheduling rules, section 4). */
import { isMilestone } from '../model/activity-kinds.ts';
import type { Activity } from '../model/schema.ts';
import { percentTenth } from '../time/tenths.ts';

/** Percent complete by time: 1 - remaining / duration. */
export function percentOf(a: Pick<Activity, 'actualStart' | 'actualFinish' | 'remaining' | 'duration' | 'type'>): number {
  if (a.actualFinish !== null || (isMilestone(a) && a.actualStart !== null)) return 100;
  if (a.actualStart === null || a.remaining === null) return 0;
  if (a.duration === 0) return a.remaining === 0 ? 100 : 0;
  return Math.max(0, percentTenth(1 - a.remaining / a.duration));
}

/** Remaining working minutes at a percentage, rounded half up. */
export const remainingAt = (duration: number, percent: number): number => Math.floor(duration * (1 - percent / 100) + 0.5);
