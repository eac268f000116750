/** Problems that only the computed dates show. */
import { type Document, labelOf } from '../model/document.ts';
import { type Problem, problem, warning } from '../model/problem.ts';
import type { Activity } from '../model/schema.ts';
import { FIRST_DAY, formatInstant, type Instant, LAST_DAY, MINUTES_PER_DAY } from '../time/instant.ts';
import type { Computed } from './compute.ts';
import { linkInstant } from './forward.ts';
import { NONE, Pin, State, Type } from './network.ts';

const LONGEST_STOP_DAYS = 400;

/** Calendars with too long a stop, dates beyond the axis, and pins that break links. */
export function checkNetwork(doc: Document, r: Computed): Problem[] {
  const net = r.network;
  const problems: Problem[] = [];
  const used = new Set<number>();
  for (let k = 0; k < net.size; k++) used.add(net.calendar[k]!);
  for (let l = 0; l < net.links; l++) if (net.lag[l] !== 0) used.add(net.lagCalendar[l]!);
  for (const c of used) {
    const calendar = net.calendars[c]!;
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
    const outside = outsideYears(r, k);
    if (outside) problems.push(outside(doc));
    if (net.type[k] === Type.margin && net.state[k] === State.unstarted && net.marginLimit[k] === NONE) {
      const a = doc.activities.get(net.ids[net.fileIndex[k]!]!);
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
    const s = net.to[l]!;
    if (net.pin[s] === Pin.none || r.slack.link[l] === NONE) continue;
    if (brokenBy(r, s, r.slack.link[l]!, () => linkInstant(net, r.early, l))) problems.push(brokenPin(doc, r, s, net.from[l]!));
  }
  for (const c of r.slack.carried) if (net.pin[c.to] !== Pin.none && brokenBy(r, c.to, c.slack, () => c.instant)) problems.push(brokenPin(doc, r, c.to, c.from, c.through));
  return [...problems, ...weakSpots(doc, r)];
}

const rowOf = (doc: Document, r: Computed, k: number): Activity | undefined => doc.activities.get(r.network.ids[r.network.fileIndex[k]!]!);

/** True where a pinned date is earlier than a bound asks: by instants for work of zero length. */
const brokenBy = (r: Computed, s: number, slack: number, instant: () => Instant): boolean => (r.early.length[s] === 0 ? instant() > r.early.finish[s]! : slack < 0);

function brokenPin(doc: Document, r: Computed, pinned: number, by: number, through?: number): Problem {
  const a = rowOf(doc, r, pinned);
  const p = rowOf(doc, r, by);
  const via = through === undefined ? undefined : rowOf(doc, r, through);
  const label = a ? labelOf(a) : '';
  const what = via ? `the logic from ${p?.code ?? ''}, carried through ${via.code},` : `its link from ${p?.code ?? ''}`;
  return warning('PIN_BREAKS_LINK', `${label} is pinned earlier than ${what} allows. It is computed as given; move the pin or the link.`, {
    table: 'activities',
    id: a?.id ?? '',
    label,
    field: 'constraints',
  });
}

const EARLIEST: Instant = FIRST_DAY * MINUTES_PER_DAY;
const LATEST: Instant = (LAST_DAY + 1) * MINUTES_PER_DAY;

/** The problem of a date before 1990 or after 2199, early or late; undefined where all lie between. */
function outsideYears(r: Computed, k: number): ((doc: Document) => Problem) | undefined {
  const outside = (t: Instant): boolean => t !== NONE && (t < EARLIEST || t > LATEST);
  const { early, lateStart, lateFinish } = r;
  if (!outside(early.start[k]!) && !outside(early.finish[k]!) && !outside(lateStart[k]!) && !outside(lateFinish[k]!)) return undefined;
  const dates: [string, Instant][] = [
    ['early start', early.start[k]!],
    ['early finish', early.finish[k]!],
    ['late start', lateStart[k]!],
    ['late finish', lateFinish[k]!],
  ];
  const out = dates.filter(([, t]) => outside(t));
  return (doc) => {
    const a = rowOf(doc, r, k);
    const label = a ? labelOf(a) : '';
    const which = out.map(([name, t]) => `${name} ${formatInstant(t)}`).join(', ');
    return problem('DATE_OUT_OF_RANGE', `${label}: ${which} lies outside 1990 to 2199, for which dates are meant. Check its duration, lags, constraints and calendar.`, {
      table: 'activities',
      id: a?.id ?? '',
      label,
      field: 'duration',
    });
  };
}

/** The plan check of dates: weak spots that are computed as given, and worth a look. */
function weakSpots(doc: Document, r: Computed): Problem[] {
  const net = r.network;
  const out: Problem[] = [];
  for (let k = 0; k < net.size; k++) {
    if (net.state[k] === State.finished) continue;
    const spanning = net.type[k] === Type.levelOfEffort;
    const missed = net.deadline[k] !== NONE && r.early.finish[k]! > net.deadline[k]!;
    if (spanning && !missed) continue;
    const a = rowOf(doc, r, k);
    if (!a) continue;
    const where = { table: 'activities', id: a.id, label: labelOf(a) };
    if (missed) out.push(warning('DEADLINE_MISSED', `${labelOf(a)} is forecast past its deadline ${formatInstant(net.deadline[k]!)}.`, { ...where, field: 'deadline' }));
    if (spanning) continue;
    const c = net.calendars[net.calendar[k]!]!;
    const zero = r.early.length[k] === 0;
    const [start, finish] = [net.startHigh[k]!, net.finishHigh[k]!];
    // Work has its start at the beginning of a minute and its finish at the end of one; without length either will do.
    const idleAt = (t: Instant, atStart: boolean): boolean => t !== NONE && !((zero || atStart) && c.isWorking(t)) && !((zero || !atStart) && c.isWorking(t - 1));
    const idle = idleAt(start, true) || idleAt(finish, false);
    if (idle)
      out.push(
        warning('LATE_CONSTRAINT_IDLE', `${labelOf(a)}: its late constraint lies on non-working time of ${c.name}. Move it to working time, or change the calendar.`, {
          ...where,
          field: 'constraints',
        }),
      );
    const limit = Math.min(...[start, finish].filter((t) => t !== NONE));
    if (zero && r.early.finish[k]! > limit)
      out.push(warning('PAST_LATE_DATE', `${labelOf(a)} lies past its own late date ${formatInstant(limit)}.`, { ...where, field: 'constraints' }));
    if (net.state[k] === State.started && zero)
      out.push(warning('NOTHING_REMAINS', `${labelOf(a)}: nothing remains, but it has no actual finish. Enter the finish, or what remains.`, { ...where, field: 'actualFinish' }));
  }
  return out;
}
