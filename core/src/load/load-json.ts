/** Loads as plain JSON: what `npm run -s calc -- FILE --load BUCKET` prints. Format: docs/file-format.md. */
import { type Document, ordered, projectOf } from '../model/document.ts';
import type { Computed } from '../schedule/compute.ts';
import { calendarsOf } from '../schedule/calendars.ts';
import { formatInstant, type Instant, MINUTES_PER_DAY, parseDay, parseInstant } from '../time/instant.ts';
import { type Bucketing, type BucketKind, bucketKinds, edgesOf } from './buckets.ts';
import { loadsOf, type Subject } from './load.ts';
import { workBefore } from './pieces.ts';

const plain = bucketKinds.filter((k) => k !== 'shift');
export const BUCKETS_WANTED = `${plain.join(', ')} or shift:CALENDAR`;

/** Reads a bucket as it is typed: `day`, `shift:CALENDAR` (id or name). A text where it cannot be read. */
export function bucketingOf(doc: Document, typed: string): Bucketing | string {
  const { weekStart } = projectOf(doc).options;
  if (typed.startsWith('shift:')) {
    const wanted = typed.slice(6);
    const row = doc.calendars.get(wanted) ?? [...doc.calendars.values()].find((c) => c.name.toLowerCase() === wanted.toLowerCase());
    const calendar = row && calendarsOf(doc).usable.get(row.id);
    return calendar ? { kind: 'shift', weekStart, calendar } : `there is no calendar ${wanted} that can be used`;
  }
  if (!(plain as readonly string[]).includes(typed)) return `a bucket is ${BUCKETS_WANTED}`;
  return { kind: typed as BucketKind, weekStart, dataDates: dataDatesOf(doc) };
}

/** Data dates of the status updates and of the project as it stands. */
export const dataDatesOf = (doc: Document): Instant[] =>
  [...ordered(doc, 'snapshots').flatMap((s) => (s.kind === 'statusUpdate' ? [s.dataDate] : [])), projectOf(doc).dataDate].flatMap((t) =>
    t === null ? [] : (parseInstant(t) ?? []),
  );

/** A typed end of a span: an instant as it is, a date as its first minute or the end of it. */
export function spanEnd(text: string, end: 'from' | 'to'): Instant | undefined {
  const day = parseDay(text);
  if (day !== undefined) return (day + (end === 'to' ? 1 : 0)) * MINUTES_PER_DAY;
  return parseInstant(text);
}

/** Who asks for a subject in a stretch: thousandths of unit-minutes of each activity, the most first. */
export function asksIn(subject: Pick<Subject, 'asks'>, from: Instant, to: Instant): { activityId: string; assignmentId: string; work: number }[] {
  return subject.asks
    .flatMap(({ assignment, activity, pieces }) => {
      let work = 0;
      for (const p of pieces) work += workBefore(p, to) - workBefore(p, from);
      return work > 1e-6 ? [{ activityId: activity.id, assignmentId: assignment.id, work: Math.round(work) }] : [];
    })
    .sort((a, b) => b.work - a.work);
}

const units = (thousandths: number): number => Math.round(thousandths * 1000) / 1e6;

function subjectJson(subject: Subject, edges: readonly Instant[]): Record<string, unknown> {
  const { kind, id, name, unit, curve } = subject;
  return {
    kind,
    id,
    name,
    ...(unit === undefined ? {} : { unit }),
    buckets: curve.buckets(edges).map((b, n) => ({
      from: formatInstant(edges[n]!),
      to: formatInstant(edges[n + 1]!),
      demand: b.demand,
      capacity: b.capacity,
      over: b.over,
      mean: b.capacity ? Math.round((b.demand / b.capacity) * 1e6) / 1e6 : null,
      peak: units(b.peak),
      overByMean: b.overByMean,
      overByPeak: b.overByPeak,
      hiddenPeak: b.hiddenPeak,
      state: b.state,
    })),
    runs: curve
      .runs()
      .filter((run) => run.to > edges[0]! && run.from < edges[edges.length - 1]!)
      .map((run) => ({ from: formatInstant(run.from), to: formatInstant(run.to), excess: units(run.excess), over: Math.round(run.over), asks: asksIn(subject, run.from, run.to) })),
  };
}

/** The loads of a plan in buckets; a text where they are too many. Work in thousandths of unit-minutes, units with at most six decimals. */
export function loadJson(doc: Document, r: Computed, bucketing: Bucketing, from: Instant | undefined, to: Instant | undefined): Record<string, unknown> | string {
  const loads = loadsOf(doc, r);
  const first = from ?? loads.span?.from ?? r.network.projectFloor;
  const last = Math.max(to ?? loads.span?.to ?? first + 1, first + 1);
  const edges = edgesOf(bucketing, first, last);
  if (!edges) return 'that is more than 200,000 buckets; choose larger ones, or a shorter span';
  return {
    bucket: bucketing.kind,
    from: formatInstant(edges[0]!),
    to: formatInstant(edges[edges.length - 1]!),
    assignments: loads.loaded.map(({ assignment, activity, figures }) => ({
      id: assignment.id,
      activityId: activity.id,
      resourceId: assignment.resourceId,
      roleId: assignment.roleId,
      length: figures.length,
      work: figures.whole,
      actual: figures.actual,
      remaining: figures.remaining,
      atCompletion: figures.actual + figures.remaining,
    })),
    // Crews are shown in the workspace alone (resource rules, section 9).
    subjects: loads.subjects.flatMap((s) => (s.kind === 'crew' ? [] : [subjectJson(s, edges)])),
  };
}
