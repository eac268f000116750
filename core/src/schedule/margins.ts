/** Margins before the passes: the limit that each is held against, and those that count as finished (rules, section 7). */
import { lagBack, type Network, NONE, Pin, State, Type } from './network.ts';

/** The earliest instant that a late, "on" or pinned constraint allows an unfinished activity to start; NONE without one. */
function allowedStart(net: Network, s: number): number {
  if (net.type[s] === Type.margin) return net.marginLimit[s]!;
  const c = net.calendars[net.calendar[s]!]!;
  const d = net.length[s]!;
  const delay = net.delay[s]!;
  // Of a pin or two late dates one holds (section 5).
  const [t, atStart] = net.pin[s] !== Pin.none ? [net.pinned[s]!, net.pin[s] === Pin.start] : net.startHigh[s] !== NONE ? [net.startHigh[s]!, true] : [net.finishHigh[s]!, false];
  if (t === NONE) return NONE;
  // Work of zero length may end where no work begins; held back, or at a start, it lies where work begins.
  if (d === 0 && delay === 0 && net.type[s] !== Type.startMilestone) return t;
  return c.startInstant(c.position(t) - (atStart ? 0 : d) - delay);
}

/** Sets the limits of unfinished margins, and the state and dates of those whose successors have all started. */
export function settleMargins(net: Network): void {
  for (let k = net.size - 1; k >= 0; k--) {
    if (net.type[k] !== Type.margin) continue;
    let limit = NONE;
    let earliest = NONE;
    let successors = 0;
    let waiting = 0;
    for (let e = net.outFirst[k]!; e < net.outFirst[k + 1]!; e++) {
      const l = net.outLinks[e]!;
      const s = net.to[l]!;
      if (net.type[s] === Type.levelOfEffort) continue;
      successors++;
      if (net.state[s] === State.unstarted) waiting++;
      else if (earliest === NONE || net.actualStart[s]! < earliest) earliest = net.actualStart[s]!;
      if (net.state[s] === State.finished || (net.override && net.state[s] === State.started)) continue;
      const allowed = allowedStart(net, s);
      if (allowed === NONE) continue;
      const t = lagBack(net, l, allowed);
      if (limit === NONE || t < limit) limit = t;
    }
    if (successors > 0 && waiting === 0) {
      net.state[k] = State.finished;
      net.actualStart[k] = net.actualFinish[k] = earliest;
      net.length[k] = 0;
    } else net.marginLimit[k] = limit;
  }
}
