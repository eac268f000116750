/** Why this date? Every bound on an activity, what it asks for, which governs, and what moved it (rules, section 8). */
import { type Document, labelOf } from '../model/document.ts';
import { formatDuration } from '../time/duration.ts';
import { formatInstant, type Instant, MINUTES_PER_DAY } from '../time/instant.ts';
import { CutCalendar } from '../time/cut.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import type { Computed } from './compute.ts';
import { linkInstant } from './forward.ts';
import { applyLag, counts, LinkKind, type Network, NONE, Pin, State, Type } from './network.ts';

export type BoundKind = 'dataDate' | 'plannedStart' | 'resume' | 'link' | 'carried' | 'constraint' | 'pin' | 'levelling' | 'actual' | 'asLateAsPossible' | 'span';

/** One bound on the start (or remaining start) of an activity, or on its finish. */
export interface Bound {
  kind: BoundKind;
  /** Which end it bounds. */
  end: 'start' | 'finish';
  /** The instant that it asks for, as handed on; and the work instant that this becomes. */
  asks: string;
  becomes: string;
  /** Working minutes between what it asks and the date there is; 0 for what governs. */
  slack: number;
  governs: boolean;
  text: string;
  activityId?: string;
  linkId?: string;
  linkType?: string;
  /** Where non-working time moved it: which, in words. */
  moved?: string;
}

export interface Held {
  activityId: string;
  linkId?: string;
  linkType?: string;
  slackMinutes: number;
  driving: boolean;
  carried: boolean;
  text: string;
}

export interface Explanation {
  id: string;
  start: string;
  finish: string;
  bounds: Bound[];
  holds: Held[];
  /** What would let it move earlier, in words. */
  earlier: string[];
  /** Long stretches without work between its start and its finish, with what they are. */
  stops: { from: string; to: string; text: string }[];
  /** Carried logic into it that is not listed, since only the latest is kept. */
  dropped: number;
}

const kindNames = Object.keys(LinkKind) as (keyof typeof LinkKind)[];

/** Names the non-working time between what is asked and when work can be done. Undefined where nothing moved it. */
function movedBy(c: WorkCalendar, asked: Instant, becomes: Instant): string | undefined {
  if (becomes <= asked) return undefined;
  const first = Math.floor(asked / MINUTES_PER_DAY);
  const last = Math.floor((becomes - 1) / MINUTES_PER_DAY);
  const names: string[] = [];
  const absent: string[] = [];
  let plain = 0;
  for (let day = first; day <= last && day - first < 800; day++) {
    if (c instanceof CutCalendar)
      for (const { name, dayOff } of c.awayOn(day)) {
        const text = dayOff ? `${name}: ${dayOff}` : `${name} does not work`;
        if (!absent.includes(text)) absent.push(text);
      }
    const e = c.exceptionOnDay(day);
    if (e && e.work.length === 0) {
      if (!names.includes(e.name || 'no work')) names.push(e.name || 'no work');
    } else if (c.intervalsOn(day).length === 0) plain++;
  }
  const parts = names.map((n) => `${c.name}: ${n}`);
  parts.unshift(...absent);
  if (plain > 0) parts.push(`${c.name}: ${plain === 1 ? 'a day off' : `${plain} days off`}`);
  return parts.length ? parts.join('; ') : `${c.name}: outside working hours`;
}

/** Explains the dates of one activity. Works on its own links only, so it is quick in any plan. */
export function explain(doc: Document, r: Computed, id: string): Explanation {
  const net = r.network;
  const k = net.nodeOf[net.ids.indexOf(id)]!;
  return explainNode(doc, r, k);
}

export function explainNode(doc: Document, r: Computed, k: number): Explanation {
  const net = r.network;
  const early = r.early;
  const c = net.calendars[net.calendar[k]!]!;
  const state = net.state[k];
  const out: Explanation = {
    id: idOf(net, k),
    start: formatInstant(early.start[k]!),
    finish: formatInstant(early.finish[k]!),
    bounds: [],
    holds: [],
    earlier: [],
    stops: stopsOf(c, state === State.started ? startAhead(r, k) : early.start[k]!, early.finish[k]!),
    dropped: r.slack.dropped.get(k) ?? 0,
  };
  const add = (b: Omit<Bound, 'asks' | 'becomes' | 'moved' | 'slack' | 'governs'>, asks: Instant, position: number, drives?: boolean): void => {
    const zero = early.length[k] === 0;
    const becomes = zero ? asks : b.end === 'start' ? c.startInstant(position) : c.finishInstant(position + early.length[k]!);
    const slack = drives ? 0 : early.startPos[k]! - net.delay[k]! - position;
    const moved = zero || b.end === 'finish' ? undefined : movedBy(c, asks, becomes);
    const governs = drives ?? (slack === 0 && (!zero || asks === early.asked[k]));
    out.bounds.push({ ...b, asks: formatInstant(asks), becomes: formatInstant(becomes), slack, governs, ...(moved ? { moved } : {}) });
  };
  if (state === State.finished && net.type[k] !== Type.margin) {
    out.bounds.push(actualBound('start', early.start[k]!), actualBound('finish', early.finish[k]!));
  } else if (net.type[k] === Type.levelOfEffort) {
    spanBounds(doc, r, k, out);
  } else if (state !== State.finished) {
    const started = state === State.started;
    if (started) out.bounds.push(actualBound('start', early.start[k]!));
    if (net.pin[k] !== Pin.none) {
      const end = net.pin[k] === Pin.start ? 'start' : 'finish';
      add({ kind: 'pin', end, text: `Pinned ${end}` }, net.pinned[k]!, early.startPos[k]!, true);
    }
    const free = net.pin[k] === Pin.none;
    const floorKind = net.resumed[k] === 1 ? 'resume' : net.dataDate !== null && net.floor[k] === net.dataDate ? 'dataDate' : 'plannedStart';
    const floorText = { resume: 'Resumes', dataDate: 'Data date', plannedStart: 'Planned project start' }[floorKind];
    add({ kind: floorKind, end: 'start', text: floorText }, net.floor[k]!, c.position(net.floor[k]!), free ? undefined : false);
    for (let l = net.inFirst[k]!; l < net.inFirst[k + 1]!; l++) {
      if (!counts(net, l)) continue;
      const p = net.from[l]!;
      const kind = kindNames[net.kind[l]!]!;
      const a = activityOf(doc, net, p);
      add(
        {
          kind: 'link',
          end: kind === 'FF' || kind === 'SF' ? 'finish' : 'start',
          text: `${labelOf(a)}, ${linkWords[kind]}${lagWords(net, l)}`,
          activityId: a.id,
          linkId: net.linkIds[l],
          linkType: kind,
        },
        linkInstant(net, early, l),
        early.ask[l]!,
        r.slack.driving[l] === 1,
      );
    }
    for (const x of r.slack.carried) {
      if (x.to !== k) continue;
      const a = activityOf(doc, net, x.from);
      const through = activityOf(doc, net, x.through);
      add(
        { kind: 'carried', end: 'start', text: `${labelOf(a)}, carried through ${labelOf(through)}, which finished out of sequence`, activityId: a.id },
        x.instant,
        early.startPos[k]! - net.delay[k]! - x.slack,
        x.driving,
      );
    }
    if (net.startLow[k] !== NONE) add({ kind: 'constraint', end: 'start', text: 'Start not before' }, net.startLow[k]!, c.position(net.startLow[k]!), free ? undefined : false);
    if (net.finishLow[k] !== NONE)
      add({ kind: 'constraint', end: 'finish', text: 'Finish not before' }, net.finishLow[k]!, c.position(net.finishLow[k]!) - early.length[k]!, free ? undefined : false);
    if (net.delay[k]! > 0) add({ kind: 'levelling', end: 'start', text: `Held back by ${formatDuration(net.delay[k]!, c)}` }, early.start[k]!, early.startPos[k]!, true);
    if (net.late[k] === 1) add({ kind: 'asLateAsPossible', end: 'start', text: 'As late as possible' }, early.start[k]!, early.startPos[k]!, true);
  }
  out.bounds.sort((a, b) => Number(b.governs) - Number(a.governs) || a.slack - b.slack);
  heldBy(doc, r, k, out);
  earlierWords(net, k, out);
  return out;
}

const linkWords = { FS: 'finish to start', SS: 'start to start', FF: 'finish to finish', SF: 'start to finish' } as const;

/** A lag with the calendar that it is counted in: ` + 2d (Five-day week)`; nothing where there is none. */
function lagWords(net: Network, l: number): string {
  const lag = net.lag[l]!;
  if (lag === 0) return '';
  const c = net.calendars[net.lagCalendar[l]!]!;
  return ` ${lag > 0 ? '+' : '−'} ${formatDuration(Math.abs(lag), c)} (${net.lagCalendar[l] === 0 ? 'elapsed time' : c.name})`;
}

/** Stops shorter than this are part of any week. */
const LONG_STOP = 4 * MINUTES_PER_DAY;

/** Where the work ahead of started work begins. */
const startAhead = (r: Computed, k: number): Instant =>
  r.early.length[k] === 0 ? r.early.finish[k]! : r.network.calendars[r.network.calendar[k]!]!.startInstant(r.early.startPos[k]!);

/** Long stops of a calendar inside a span, named by their exceptions. */
function stopsOf(c: WorkCalendar, from: Instant, to: Instant): Explanation['stops'] {
  const out: Explanation['stops'] = [];
  for (let t = from; t < to && out.length < 12;) {
    const stop = c.longStop(t, to, LONG_STOP / MINUTES_PER_DAY);
    // The work after the last stop is what is done when it ends: a stop at the very end moved nothing.
    if (!stop || stop.to >= to) break;
    out.push({ from: formatInstant(stop.from), to: formatInstant(stop.to), text: movedBy(c, stop.from, stop.to) ?? c.name });
    t = stop.to;
  }
  return out;
}

const idOf = (net: Network, k: number): string => net.ids[net.fileIndex[k]!]!;
const activityOf = (doc: Document, net: Network, k: number) => doc.activities.get(idOf(net, k)) ?? { id: idOf(net, k), code: idOf(net, k), name: '' };

function actualBound(end: 'start' | 'finish', t: Instant): Bound {
  const text = formatInstant(t);
  return { kind: 'actual', end, asks: text, becomes: text, slack: 0, governs: true, text: end === 'start' ? 'Actual start' : 'Actual finish' };
}

function spanBounds(doc: Document, r: Computed, k: number, out: Explanation): void {
  const net = r.network;
  for (let l = net.inFirst[k]!; l < net.inFirst[k + 1]!; l++) {
    const kind = kindNames[net.kind[l]!]!;
    const p = net.from[l]!;
    const t = applyLag(net, l, kind === 'FS' || kind === 'FF' ? r.early.finish[p]! : r.early.start[p]!);
    const end = kind === 'SS' || kind === 'FS' ? 'start' : 'finish';
    const governs = t === (end === 'start' ? r.early.start[k] : r.early.finish[k]);
    const a = activityOf(doc, net, p);
    out.bounds.push({
      kind: 'span',
      end,
      asks: formatInstant(t),
      becomes: formatInstant(t),
      slack: 0,
      governs,
      text: `${labelOf(a)}, ${linkWords[kind]}${lagWords(net, l)}`,
      activityId: a.id,
      linkId: net.linkIds[l],
      linkType: kind,
    });
  }
}

function heldBy(doc: Document, r: Computed, k: number, out: Explanation): void {
  const net = r.network;
  for (let e = net.outFirst[k]!; e < net.outFirst[k + 1]!; e++) {
    const l = net.outLinks[e]!;
    if (r.slack.link[l] === NONE) continue;
    const a = activityOf(doc, net, net.to[l]!);
    const kind = kindNames[net.kind[l]!]!;
    out.holds.push({
      activityId: a.id,
      linkId: net.linkIds[l],
      linkType: kind,
      slackMinutes: r.slack.link[l]!,
      driving: r.slack.driving[l] === 1,
      carried: false,
      text: `${labelOf(a)}, ${linkWords[kind]}${lagWords(net, l)}`,
    });
  }
  for (const x of r.slack.carried)
    if (x.from === k) {
      const a = activityOf(doc, net, x.to);
      out.holds.push({
        activityId: a.id,
        slackMinutes: x.slack,
        driving: x.driving,
        carried: true,
        text: `${labelOf(a)}, carried through ${labelOf(activityOf(doc, net, x.through))}`,
      });
    }
  out.holds.sort((a, b) => a.slackMinutes - b.slackMinutes);
}

function earlierWords(net: Network, k: number, out: Explanation): void {
  const state = net.state[k];
  if (state === State.finished) return;
  for (const b of out.bounds.filter((x) => x.governs)) {
    if (b.kind === 'dataDate') out.earlier.push('Nothing moves work before the data date.');
    if (b.kind === 'plannedStart') out.earlier.push('An earlier planned project start.');
    if (b.kind === 'resume') out.earlier.push('An earlier resume date.');
    if (b.kind === 'constraint' || b.kind === 'pin') out.earlier.push(`Without the constraint (${b.text.toLowerCase()}).`);
    if (b.kind === 'levelling') out.earlier.push('Without its levelling delay.');
    if (b.kind === 'asLateAsPossible') out.earlier.push('Without "as late as possible".');
    if (b.kind === 'link' || b.kind === 'carried') out.earlier.push(`If ${b.text} came earlier, or its lag were shorter.`);
  }
  const next = out.bounds.find((b) => !b.governs && b.slack > 0 && b.end === 'start');
  if (next && out.earlier.length > 0) out.earlier.push(`Then the next bound is ${next.text}.`);
}
