/** Margins before the passes: the limit that each is held against, and those that count as finished (rules, section 7). */
import { lagBack, type Network, NONE, State, Type } from './network.ts';

/** The earliest instant that a late, "on" or pinned constraint allows an unfinished activity to start; NONE without one. */
function allowedStart(net: Network, s: number): number {
  if (net.type[s] === Type.margin) return net.marginLimit[s]!;
  const c = net.calendars[net.calendar[s]!]!;
  const d = net.length[s]!;
  const delay = net.delay[s]!;
  const starts: number[] = [];
  const finishes: number[] = [];
  if (net.pin[s] !== 0) (net.pin[s] === 1 ? starts : finishes).push(net.pinned[s]!);
  else {
    if (net.startHigh[s] !== NONE) starts.push(net.startHigh[s]!);
    if (net.finishHigh[s] !== NONE) finishes.push(net.finishHigh[s]!);
  }
  if (starts.length + finishes.length === 0) return NONE;
  if (d === 0) {
    const t = Math.min(...starts, ...finishes);
    if (delay > 0) return c.startInstant(c.position(t) - delay);
    return net.type[s] === Type.startMilestone ? c.startInstant(c.position(t)) : t;
  }
  const p = Math.min(...starts.map((t) => c.position(t)), ...finishes.map((t) => c.position(t) - d));
  return c.startInstant(p - delay);
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
