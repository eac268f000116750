/** Problems that only the computed dates show. */
import { labelOf } from '../model/document.ts';
import { type Problem, problem, warning } from '../model/problem.ts';
import type { Activity } from '../model/schema.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import { CutCalendar } from '../time/cut.ts';
import { FIRST_DAY, formatInstant, type Instant, LAST_DAY, MINUTES_PER_DAY } from '../time/instant.ts';
import type { Computed } from './compute.ts';
import { linkInstant } from './forward.ts';
import { NONE, Pin, State, Type } from './network.ts';

const LONGEST_STOP_DAYS = 400;

/** Calendars with too long a stop, dates beyond the axis, and pins that break links. */
export function checkNetwork(r: Computed): Problem[] {
  const net = r.network;
  const problems: Problem[] = [];
  const used = new Set<number>();
  for (let k = 0; k < net.size; k++) used.add(net.own[k]!);
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
    const away = alwaysAway(r, k);
    if (away) problems.push(away);
    const far = outsideYears(r, k);
    if (far) problems.push(far);
    if (net.type[k] === Type.margin && net.state[k] === State.unstarted && net.marginLimit[k] === NONE) {
      const a = rowOf(r, k);
      const text = `${labelOf(a)}: nothing after this margin holds a date, so it keeps its planned length. Give its successor a late or pinned constraint.`;
      problems.push(warning('MARGIN_WITHOUT_LIMIT', text, whereOf(a)));
    }
  }
  for (let l = 0; l < net.links; l++) {
    const s = net.to[l]!;
    if (net.pin[s] === Pin.none || r.slack.link[l] === NONE) continue;
    if (brokenBy(r, s, r.slack.link[l]!, () => linkInstant(net, r.early, l))) problems.push(brokenPin(r, s, net.from[l]!));
  }
  for (const c of r.slack.carried) if (net.pin[c.to] !== Pin.none && brokenBy(r, c.to, c.slack, () => c.instant)) problems.push(brokenPin(r, c.to, c.from, c.through));
  return [...problems, ...weakSpots(r)];
}

/** The problem of an activity whose dates lie where those who drive it never work together, so that its own calendar holds. */
function alwaysAway(r: Computed, k: number): Problem | undefined {
  const c = r.network.calendars[r.network.calendar[k]!]!;
  if (!(c instanceof CutCalendar)) return undefined;
  const { start, finish } = r.early;
  const blank = c.blanks.find(([from, to]) => start[k]! < to && finish[k]! > from);
  if (!blank) return undefined;
  const a = rowOf(r, k);
  const who = c.cutters.map((x) => x.name).join(', ');
  const text = `${labelOf(a)}: from ${formatInstant(blank[0])} to ${formatInstant(blank[1])} there is no minute in which ${who} can work on it, so its own calendar is taken. Assign somebody else, or give working time.`;
  return problem('ALWAYS_AWAY', text, whereOf(a, 'assignments'));
}

const rowOf = (r: Computed, k: number): Activity => r.network.rows[r.network.fileIndex[k]!]!;

/** True where a pinned date is earlier than a bound asks: by instants for work of zero length. */
const brokenBy = (r: Computed, s: number, slack: number, instant: () => Instant): boolean => (r.early.length[s] === 0 ? instant() > r.early.finish[s]! : slack < 0);

const whereOf = (a: Activity, field?: string): Problem['where'] => ({ table: 'activities', id: a.id, label: labelOf(a), ...(field ? { field } : {}) });

function brokenPin(r: Computed, pinned: number, by: number, through?: number): Problem {
  const a = rowOf(r, pinned);
  const p = rowOf(r, by);
  const what = through === undefined ? `its link from ${p.code}` : `the logic from ${p.code}, carried through ${rowOf(r, through).code},`;
  return warning('PIN_BREAKS_LINK', `${labelOf(a)} is pinned earlier than ${what} allows. It is computed as given; move the pin or the link.`, whereOf(a, 'constraints'));
}

const EARLIEST: Instant = FIRST_DAY * MINUTES_PER_DAY;
const LATEST: Instant = (LAST_DAY + 1) * MINUTES_PER_DAY;

const outside = (t: Instant): boolean => t !== NONE && (t < EARLIEST || t > LATEST);

/** The problem of a date before 1990 or after 2199, early or late; undefined where all lie between. */
function outsideYears(r: Computed, k: number): Problem | undefined {
  const { early, lateStart, lateFinish } = r;
  if (!outside(early.start[k]!) && !outside(early.finish[k]!) && !outside(lateStart[k]!) && !outside(lateFinish[k]!)) return undefined;
  const dates: [string, Instant][] = [
    ['early start', early.start[k]!],
    ['early finish', early.finish[k]!],
    ['late start', lateStart[k]!],
    ['late finish', lateFinish[k]!],
  ];
  const a = rowOf(r, k);
  const which = dates.flatMap(([name, t]) => (outside(t) ? [`${name} ${formatInstant(t)}`] : [])).join(', ');
  return problem('DATE_OUT_OF_RANGE', `${labelOf(a)}: ${which} lies outside 1990 to 2199, for which dates are meant. Check its duration, lags, constraints and calendar.`, {
    table: 'activities',
    id: a.id,
    label: labelOf(a),
    field: 'duration',
  });
}

/** The plan check of dates: weak spots that are computed as given, and worth a look. */
function weakSpots(r: Computed): Problem[] {
  const net = r.network;
  const out: Problem[] = [];
  for (let k = 0; k < net.size; k++) {
    if (net.state[k] === State.finished) continue;
    const spanning = net.type[k] === Type.levelOfEffort;
    const missed = net.deadline[k] !== NONE && r.early.finish[k]! > net.deadline[k]!;
    if (missed) {
      const a = rowOf(r, k);
      out.push(warning('DEADLINE_MISSED', `${labelOf(a)} is forecast past its deadline ${formatInstant(net.deadline[k]!)}.`, whereOf(a, 'deadline')));
    }
    if (spanning) continue;
    const zero = r.early.length[k] === 0;
    const start = net.startHigh[k]!;
    const finish = net.finishHigh[k]!;
    if (start !== NONE || finish !== NONE) {
      const c = net.calendars[net.calendar[k]!]!;
      // Work has its start at the beginning of a minute and its finish at the end of one; without length either will do.
      if (idleAt(c, start, true, zero) || idleAt(c, finish, false, zero)) {
        const a = rowOf(r, k);
        const text = `${labelOf(a)}: its late constraint lies on non-working time of ${c.name}. Move it to working time, or change the calendar.`;
        out.push(warning('LATE_CONSTRAINT_IDLE', text, whereOf(a, 'constraints')));
      }
      // Of two late dates one holds (section 5).
      const limit = start === NONE ? finish : start;
      if (zero && r.early.finish[k]! > limit) {
        const a = rowOf(r, k);
        out.push(warning('PAST_LATE_DATE', `${labelOf(a)} lies past its own late date ${formatInstant(limit)}.`, whereOf(a, 'constraints')));
      }
    }
    if (net.state[k] === State.started && zero) {
      const a = rowOf(r, k);
      out.push(warning('NOTHING_REMAINS', `${labelOf(a)}: nothing remains, but it has no actual finish. Enter the finish, or what remains.`, whereOf(a, 'actualFinish')));
    }
  }
  return out;
}

const idleAt = (c: WorkCalendar, t: Instant, atStart: boolean, zero: boolean): boolean =>
  t !== NONE && !((zero || atStart) && c.isWorking(t)) && !((zero || !atStart) && c.isWorking(t - 1));
