/** What entries of the list of commands are made with. */
import { planActions } from '../app/store';
import type { AppCommand, Hands } from './types';

export const always = (): true => true;
const inPlan = (h: Hands): true | string => h.plan !== null || 'Go to Plan first.';
export const set = (h: Hands, ui: Parameters<typeof planActions.set>[0]): void => void h.dispatch(planActions.set(ui));
/** The selected activity, where it is one. */
export const oneActivity = (h: Hands): string | undefined => (h.ui.selected.length === 1 && h.session.doc.activities.has(h.ui.selected[0]!) ? h.ui.selected[0] : undefined);

/** The selected activities, in the order of selecting. */
export const activitiesOf = (h: Hands): string[] => h.ui.selected.filter((id) => h.session.doc.activities.has(id));

/** A command of what the timeline and its sheet draw: not now where the network or the month stands in their place. `modes`: where else it does something. */
export const drawn = (c: AppCommand, ...modes: readonly Hands['ui']['mode'][]): AppCommand => ({
  ...c,
  able: (h) => (h.ui.mode === 'timeline' || modes.includes(h.ui.mode) ? c.able(h) : `It does nothing in the ${h.ui.mode}. Go to the timeline first.`),
});

/** A command that only concerns the view: in Plan, in no menu, unless it says otherwise. */
export const view = (c: Omit<AppCommand, 'able' | 'where'> & { able?: AppCommand['able']; where?: AppCommand['where'] }): AppCommand => ({ able: inPlan, where: [], ...c });
