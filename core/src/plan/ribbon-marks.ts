/** What a path is made of besides its work: gaps with their reasons, lags, constraints, and runs on one calendar. */
import type { Document } from '../model/document.ts';
import type { Activity, Link } from '../model/schema.ts';
import { barOf } from '../schedule/bars.ts';
import { linkState, placeOf, type ScheduleView } from '../schedule/view.ts';
import type { Instant } from '../time/instant.ts';
import { formatDuration } from '../time/duration.ts';
import { calendarFor } from '../schedule/calendars.ts';
import { showConstraint } from '../fields/typed.ts';
import { MINUTES_PER_DAY } from '../time/instant.ts';

export interface PathPart {
  id: string;
  /** Place in the view's arrays. */
  i: number;
}

export interface Span {
  from: Instant;
  to: Instant;
  text: string;
}

/** The activities of a path, in the order in which they lie in time. */
export function pathParts(view: ScheduleView, ids: readonly string[]): PathPart[] {
  return ids
    .flatMap((id) => {
      const i = placeOf(view, id);
      return i === undefined ? [] : [{ id, i }];
    })
    .sort((a, b) => view.start[a.i]! - view.start[b.i]! || view.finish[a.i]! - view.finish[b.i]!);
}

/** Stretches of more than three days in which nothing on the path is worked, with the calendar or its exception as the reason. */
export function gapsOf(doc: Document, view: ScheduleView, path: readonly PathPart[]): Span[] {
  const out: Span[] = [];
  const add = (a: Activity, from: Instant, to: Instant): void => {
    const c = calendarFor(doc, a);
    let reason = c?.name ?? '';
    for (let d = Math.floor(from / MINUTES_PER_DAY); c && d < to / MINUTES_PER_DAY; d++) {
      const e = c.exceptionOnDay(d);
      if (e && e.work.length === 0 && e.name) {
        reason = e.name;
        break;
      }
    }
    out.push({ from, to, text: `${Math.round((to - from) / MINUTES_PER_DAY)} days: ${reason}` });
  };
  let reach = path.length ? view.finish[path[0]!.i]! : 0;
  for (const { id, i } of path) {
    const a = doc.activities.get(id);
    if (!a) continue;
    const begin = view.aheadFrom[i]!;
    if (begin - reach > 3 * MINUTES_PER_DAY) add(a, reach, begin);
    // Inside work, too, a long stop is time in which nothing can move.
    const pieces = barOf(doc, view, a)?.pieces ?? [];
    pieces.forEach((piece, n) => n > 0 && piece.from > pieces[n - 1]!.to && add(a, pieces[n - 1]!.to, piece.from));
    reach = Math.max(reach, view.finish[i]!);
  }
  return out;
}

/** Lags and leads of the links by which a path runs. `ids` are in the order of the path; `outOf` gives an activity's links. */
export function lagsOf(view: ScheduleView, ids: readonly string[], outOf: (id: string) => readonly Link[]): Span[] {
  const out: Span[] = [];
  for (let n = 1; n < ids.length; n++) {
    const between = outOf(ids[n - 1]!).filter((l) => l.to === ids[n]);
    const link = between.find((l) => linkState(view, l.id)?.driving) ?? between[0];
    const [p, s] = [placeOf(view, ids[n - 1]!), placeOf(view, ids[n]!)];
    if (!link || link.lag === 0 || p === undefined || s === undefined) continue;
    const from = link.type[0]! === 'F' ? view.finish[p]! : view.start[p]!;
    const to = link.type[1]! === 'F' ? view.finish[s]! : view.aheadFrom[s]!;
    out.push({
      from: Math.min(from, to),
      to: Math.max(from, to),
      text: `${link.lag > 0 ? '+' : ''}${formatDuration(link.lag, { minutesPerDay: view.minutesPerDay[p]! }).replace('-', '−')}`,
    });
  }
  return out;
}

/** Parts of a path that are constrained, with the constraints in words. */
export function constraintsOf(doc: Document, path: readonly PathPart[]): Map<string, string> {
  return new Map(
    path.flatMap(({ id }) => {
      const a = doc.activities.get(id);
      return a && a.constraints.length > 0 ? [[id, a.constraints.map(showConstraint).join(', ')] as const] : [];
    }),
  );
}

/** Runs of the path on one calendar, from the beginning of the first part to the end of the last. */
export function calendarRuns(doc: Document, view: ScheduleView, path: readonly PathPart[]): Span[] {
  const out: Span[] = [];
  for (const { id, i } of path) {
    const a = doc.activities.get(id);
    const name = a && calendarFor(doc, a)?.name;
    if (!name || view.finish[i]! <= view.start[i]!) continue;
    const last = out[out.length - 1];
    if (last?.text === name) last.to = Math.max(last.to, view.finish[i]!);
    else out.push({ from: last ? Math.max(last.to, view.start[i]!) : view.start[i]!, to: view.finish[i]!, text: name });
  }
  return out.filter((r) => r.to > r.from);
}
