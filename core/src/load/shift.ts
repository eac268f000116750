/** What a shift needs: who, with what, on which work, where; by trade and place. */
import { type FieldContext, showField } from '../fields/field.ts';
import { activityCell, fieldOf } from '../fields/list.ts';
import { resourceOf } from '../model/assigned.ts';
import { labelOf } from '../model/document.ts';
import type { Activity } from '../model/schema.ts';
import { State } from '../schedule/network.ts';
import type { Computed } from '../schedule/compute.ts';
import type { CompiledCalendar } from '../time/calendar.ts';
import { type Instant, MINUTES_PER_DAY } from '../time/instant.ts';
import { shiftsOn } from './buckets.ts';
import type { Loads } from './load.ts';
import { intensityOf, type Piece } from './pieces.ts';

/** Days that are searched for a shift. */
const FAR = 400;

export interface Shift {
  from: Instant;
  to: Instant;
}

/** The first shift that ends after an instant (`by` 1: the one after it, -1: the one before); undefined where there is none near. */
export function shiftFrom(calendar: CompiledCalendar, at: Instant, by = 0): Shift | undefined {
  const day = Math.floor(at / MINUTES_PER_DAY);
  if (by < 0) {
    for (let n = 0; n < FAR; n++) {
      const found = shiftsOn(calendar, day + 1 - n).findLast((s) => s.to <= at);
      if (found) return found;
    }
    return undefined;
  }
  for (let n = -1; n < FAR; n++) {
    const found = shiftsOn(calendar, day + n).find((s) => s.to > at);
    if (found) return by === 0 ? found : shiftFrom(calendar, found.to);
  }
  return undefined;
}

export interface ShiftLine {
  activityId: string;
  activity: string;
  place: string;
  trade: string;
  /** Null: nobody is assigned to it, but it goes on in the shift. */
  who: string | null;
  /** True where a role is still to be filled. */
  open: boolean;
  /** Most units at once in thousandths, and thousandths of unit-minutes (or of a measure). */
  units: number;
  work: number;
  unit: string | null;
  /** It begins, it ends in the shift. */
  begins: boolean;
  ends: boolean;
  critical: boolean;
}

export interface ShiftNeeds extends Shift {
  lines: ShiftLine[];
  /** Labour and equipment that is not there in the shift. */
  away: string[];
}

/** How lines are parted: keys of fields; `role`: the role of who does it, `wbs`: the node. */
export interface ShiftBy {
  trade: string;
  place: string;
}

/** What goes on between two instants, in the order of place, trade and activity. */
export function shiftNeeds(context: FieldContext, r: Computed, loads: Loads, { from, to }: Shift, by: ShiftBy): ShiftNeeds {
  const { doc } = context;
  const { network: net } = r;
  const lines: ShiftLine[] = [];
  const busy = new Set<string>();
  const told = (a: Activity, k: number) => ({
    activityId: a.id,
    activity: labelOf(a),
    place: by.place === 'wbs' ? (doc.wbs.get(a.wbsId ?? '')?.name ?? '') : textOf(context, by.place, a),
    begins: r.early.start[k]! >= from && r.early.start[k]! < to,
    ends: r.early.finish[k]! > from && r.early.finish[k]! <= to,
    critical: r.critical[k] === 1,
  });
  for (const l of loads.loaded) {
    const within = l.pieces.map((p) => part(p, from, to)).filter((p) => p.work > 0);
    if (within.length === 0) continue;
    const { assignment: x, activity: a } = l;
    const res = resourceOf(doc, x);
    const role = doc.roles.get(res ? (res.roleId ?? '') : (x.roleId ?? ''));
    busy.add(a.id);
    lines.push({
      ...told(a, l.node),
      trade: by.trade === 'role' ? (role?.name ?? (res?.kind === 'labour' ? res.name : (res?.kind ?? ''))) : textOf(context, by.trade, a),
      who: res?.name ?? role?.name ?? '',
      open: !res,
      units: res?.kind === 'material' ? 0 : Math.max(...within.map((p) => p.units)),
      work: within.reduce((n, p) => n + p.work, 0),
      unit: res?.kind === 'material' ? res.unit : null,
    });
  }
  net.rows.forEach((a, i) => {
    const k = net.nodeOf[i]!;
    if (busy.has(a.id) || a.type !== 'task' || net.state[k] === State.finished) return;
    const c = net.calendars[net.calendar[k]!]!;
    const [s, f] = [Math.max(r.early.start[k]!, from), Math.min(r.early.finish[k]!, to)];
    if (f > s && c.position(f) > c.position(s))
      lines.push({ ...told(a, k), trade: by.trade === 'role' ? '' : textOf(context, by.trade, a), who: null, open: false, units: 0, work: 0, unit: null });
  });
  const order = new Intl.Collator('en', { numeric: true });
  lines.sort((a, b) => order.compare(a.place, b.place) || order.compare(a.trade, b.trade) || order.compare(a.activity, b.activity));
  const away = loads.subjects.flatMap((s) => (s.kind === 'resource' && s.unit === undefined && s.curve.within(from, to).there.every((v) => v === 0) ? [s.name] : []));
  return { from, to, lines, away };
}

function textOf(context: FieldContext, key: string, a: Activity): string {
  const f = fieldOf(context.doc, key);
  return f ? showField(f, activityCell(context, a)) : '';
}

/** Work of a piece between two instants, and its units while it goes on. */
function part(p: Piece, from: Instant, to: Instant): { work: number; units: number } {
  if (p.to === p.from) return { work: p.from >= from && p.from < to ? p.work : 0, units: 0 };
  const [a, b] = [Math.max(p.calendar.position(from), p.from), Math.min(p.calendar.position(to), p.to)];
  return b > a ? { work: (p.work * (b - a)) / (p.to - p.from), units: intensityOf(p) } : { work: 0, units: 0 };
}
