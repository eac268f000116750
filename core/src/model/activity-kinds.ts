/** What the types of activities have in common: one definition of each kind. */
import type { ActivityType } from './schema.ts';

/** A point in time: it has no duration. */
export const isMilestone = (a: { type: ActivityType }): boolean => a.type === 'startMilestone' || a.type === 'finishMilestone';

/** It spans the work around it: its dates follow, and it takes neither constraints nor progress. */
export const isSpanning = (a: { type: ActivityType }): boolean => a.type === 'levelOfEffort' || a.type === 'margin';

export const typeNames: Record<ActivityType, string> = {
  task: 'Task',
  startMilestone: 'Start milestone',
  finishMilestone: 'Finish milestone',
  levelOfEffort: 'Level of effort',
  margin: 'Margin',
};
