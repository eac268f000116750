/** How an activity stands, from what is shown of it: the same as the computation has it (standingAt), without the network. */
import type { Standing } from '../load/figures.ts';
import { projectOf } from '../model/document.ts';
import { calendarFor } from '../schedule/calendars.ts';
import { State } from '../schedule/network.ts';
import { parseInstant } from '../time/instant.ts';
import type { ActivityCell } from './field.ts';

/** As if it had not begun where nothing is computed. */
export function standingOf({ doc, view, i, a }: ActivityCell): Standing {
  if (!view || i === undefined) return { state: 'unstarted', d: a.duration, r: a.duration };
  if (a.type === 'levelOfEffort') {
    const d = view.length[i]!;
    const { dataDate } = projectOf(doc);
    const now = dataDate === null ? undefined : parseInstant(dataDate);
    const c = calendarFor(doc, a);
    const done = now === undefined || !c ? 0 : Math.min(Math.max(c.position(now) - c.position(view.start[i]!), 0), d);
    const over = d > 0 ? done >= d : now !== undefined && view.start[i]! < now;
    return { state: over ? 'finished' : done > 0 ? 'started' : 'unstarted', d, r: d - done };
  }
  const state = view.state[i] === State.finished ? 'finished' : view.state[i] === State.started ? 'started' : 'unstarted';
  // What is shown of a margin is what is left of it, not what it was planned with.
  return { state, d: view.planned[i]!, r: state === 'finished' ? 0 : state === 'unstarted' ? view.planned[i]! : view.length[i]! };
}
