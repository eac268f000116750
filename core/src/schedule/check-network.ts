/** Problems that only the computed dates show. */
import { type Document, labelOf } from '../model/document.ts';
import { type Problem, problem, warning } from '../model/problem.ts';
import { AXIS_END } from '../time/calendar.ts';
import { formatInstant } from '../time/instant.ts';
import type { Computed } from './compute.ts';
import { linkInstant } from './forward.ts';
import { NONE, Pin, State, Type } from './network.ts';

const LONGEST_STOP_DAYS = 400;

/** Calendars with too long a stop, dates beyond the axis, and pins that break links. */
export function checkNetwork(doc: Document, r: Computed): Problem[] {
  const net = r.network;
  const problems: Problem[] = [];
  const used = new Set<number>();
  for (let k = 0; k < net.size; k++) if (net.state[k] !== State.finished) used.add(net.calendar[k]);
  for (const c of used) {
    const calendar = net.calendars[c];
    const stop = calendar.longStop(net.projectFloor, Math.max(r.projectFinish, net.projectFloor + 1), LONGEST_STOP_DAYS);
    if (stop)
      problems.push(
        problem(
          'CALENDAR_LONG_STOP',
          `Calendar ${calendar.name} has no working minute in more than ${LONGEST_STOP_DAYS} days from ${formatInstant(stop.from)}. Give it working time there.`,
          { table: 'calendars', id: calendar.id, label: calendar.name, field: 'exceptions' },
        ),
      );
  }
  for (let k = 0; k < net.size; k++) {
    if (r.early.finish[k] >= AXIS_END) {
      const a = doc.activities.get(net.ids[net.fileIndex[k]]);
      if (!a) continue;
      const text = `${labelOf(a)} would finish after the last date that can be computed (year 2259). Shorten it or give its calendar more working time.`;
      problems.push(problem('BEYOND_CALENDAR', text, { table: 'activities', id: a.id, label: labelOf(a), field: 'duration' }));
    }
    if (net.type[k] === Type.margin && net.state[k] === State.unstarted && net.marginLimit[k] === NONE) {
      const a = doc.activities.get(net.ids[net.fileIndex[k]]);
      if (a)
        problems.push(
          warning(
            'MARGIN_WITHOUT_LIMIT',
            `${labelOf(a)}: nothing after this margin holds a date, so it keeps its planned length. Give its successor a late or pinned constraint.`,
            {
              table: 'activities',
              id: a.id,
              label: labelOf(a),
            },
          ),
        );
    }
  }
  for (let l = 0; l < net.links; l++) {
    const s = net.to[l];
    if (net.pin[s] === Pin.none || r.slack.link[l] === NONE) continue;
    const broken = r.early.length[s] === 0 ? brokenInstant(r, l) : r.slack.link[l] < 0;
    if (!broken) continue;
    const a = doc.activities.get(net.ids[net.fileIndex[s]]);
    const p = doc.activities.get(net.ids[net.fileIndex[net.from[l]]]);
    if (a && p)
      problems.push(
        warning('PIN_BREAKS_LINK', `${labelOf(a)} is pinned earlier than its link from ${p.code} allows. It is computed as given; move the pin or the link.`, {
          table: 'activities',
          id: a.id,
          label: labelOf(a),
          field: 'constraints',
        }),
      );
  }
  return problems;
}

function brokenInstant(r: Computed, l: number): boolean {
  return linkInstant(r.network, r.early, l) > r.early.finish[r.network.to[l]];
}
