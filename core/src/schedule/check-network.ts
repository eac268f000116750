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
  for (let k = 0; k < net.size; k++) used.add(net.calendar[k]);
  for (let l = 0; l < net.links; l++) if (net.lag[l] !== 0) used.add(net.lagCalendar[l]);
  for (const c of used) {
    const calendar = net.calendars[c];
    const stop = calendar.longStop(net.projectFloor, Math.max(r.projectFinish, net.projectFloor + 1), LONGEST_STOP_DAYS);
    if (stop)
      problems.push(
        problem(
          'CALENDAR_LONG_STOP',
          `Calendar ${calendar.name} has no working minute in ${LONGEST_STOP_DAYS} days or more from ${formatInstant(stop.from)}. Give it working time there.`,
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
  return [...problems, ...weakSpots(doc, r)];
}

/** The plan check of dates: weak spots that are computed as given, and worth a look. */
function weakSpots(doc: Document, r: Computed): Problem[] {
  const net = r.network;
  const out: Problem[] = [];
  for (let k = 0; k < net.size; k++) {
    if (net.state[k] === State.finished || net.type[k] === Type.levelOfEffort) continue;
    const a = doc.activities.get(net.ids[net.fileIndex[k]]);
    if (!a) continue;
    const where = { table: 'activities', id: a.id, label: labelOf(a) };
    const c = net.calendars[net.calendar[k]];
    const zero = r.early.length[k] === 0;
    const [start, finish] = [net.startHigh[k], net.finishHigh[k]];
    const idle = (start !== NONE && !c.isWorking(start) && !(zero && c.isWorking(start - 1))) || (finish !== NONE && !c.isWorking(finish - 1));
    if (idle)
      out.push(
        warning('LATE_CONSTRAINT_IDLE', `${labelOf(a)}: its late constraint lies on non-working time of ${c.name}. Move it to working time, or change the calendar.`, {
          ...where,
          field: 'constraints',
        }),
      );
    const limit = Math.min(...[start, finish].filter((t) => t !== NONE));
    if (zero && r.early.finish[k] > limit)
      out.push(warning('PAST_LATE_DATE', `${labelOf(a)} lies past its own late date ${formatInstant(limit)}.`, { ...where, field: 'constraints' }));
    if (net.state[k] === State.started && zero)
      out.push(warning('NOTHING_REMAINS', `${labelOf(a)}: nothing remains, but it has no actual finish. Enter the finish, or what remains.`, { ...where, field: 'actualFinish' }));
    if (net.deadline[k] !== NONE && r.early.finish[k] > net.deadline[k])
      out.push(warning('DEADLINE_MISSED', `${labelOf(a)} is forecast past its deadline ${formatInstant(net.deadline[k])}.`, { ...where, field: 'deadline' }));
  }
  return out;
}

function brokenInstant(r: Computed, l: number): boolean {
  return linkInstant(r.network, r.early, l) > r.early.finish[r.network.to[l]];
}
