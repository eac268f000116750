/** What looks odd in the entries of a status update: asked about, never refused. */
import { type Document, labelOf, projectOf } from '../model/document.ts';
import type { Activity, Link } from '../model/schema.ts';
import { placeOf, type ScheduleView } from '../schedule/view.ts';
import { parseInstant } from '../time/instant.ts';
import { showInstant } from '../time/typed-date.ts';
import { type Entry, withEntry } from './due.ts';
import { tenth } from '../time/tenths.ts';

export interface Question {
  id: string;
  label: string;
  text: string;
}

const at = (text: string | null): number | undefined => (text === null ? undefined : parseInstant(text));
const days = (minutes: number, perDay: number): string => `${tenth(minutes / perDay)} d`;

/** Questions about one row of the due list; `into` are the links into it. */
function ofRow(
  doc: Document,
  view: ScheduleView,
  a: Activity,
  i: number,
  entry: Entry | undefined,
  due: boolean,
  entries: ReadonlyMap<string, Entry>,
  into: readonly Link[],
): string[] {
  const project = projectOf(doc);
  if (!entry)
    return due && a.actualStart === null
      ? [`was due ${showInstant(view.start[i]!, 'start')}, nothing entered. It has ${days(view.totalFloat[i]!, view.minutesPerDay[i]!)} of float left.`]
      : [];
  const next = withEntry(a, entry);
  const out: string[] = [];
  const start = at(next.actualStart);
  if (start !== undefined && next.actualStart !== a.actualStart) {
    if (start < (at(project.plannedStart) as number)) out.push('started before the planned start of the project. Is that meant?');
    else if (project.dataDate !== null && start < (at(project.dataDate) as number))
      out.push('started before the last data date, when it was reported as not started. Is that meant?');
    // Finish to start only: what else may overlap is no surprise.
    for (const l of into) {
      const p = l.type === 'FS' ? doc.activities.get(l.from) : undefined;
      const j = p ? placeOf(view, p.id) : undefined;
      if (!p || j === undefined) continue;
      const before = withEntry(p, entries.get(p.id) ?? {});
      const end = at(before.actualFinish) ?? view.finish[j]!;
      if (start < end) {
        out.push(`started before ${labelOf(p)} ${before.actualFinish === null ? 'has ended' : `ended (${showInstant(end, 'finish')})`}, which it follows. Out of sequence?`);
        break;
      }
    }
  }
  if (next.remaining !== null && next.actualFinish === null && next.remaining > a.duration) out.push('more remains than the whole duration. Is that meant?');
  if (next.remaining === 0 && next.actualFinish === null && a.type === 'task') out.push('nothing remains, but it has no finish. Is it finished?');
  if (next.suspend !== null && next.resume === null && next.actualFinish === null) out.push('is suspended without a resume date: what remains is put at the data date.');
  return out;
}

/** Questions about rows of the due list, in their order. */
export function entryQuestions(
  doc: Document,
  view: ScheduleView,
  rows: readonly { id: string; due: boolean }[],
  entries: ReadonlyMap<string, Entry>,
  linksInto: (id: string) => readonly Link[],
): Question[] {
  return rows.flatMap(({ id, due }): Question[] => {
    const a = doc.activities.get(id);
    const i = a ? placeOf(view, id) : undefined;
    if (!a || i === undefined) return [];
    return ofRow(doc, view, a, i, entries.get(id), due, entries, linksInto(id)).map((text) => ({ id, label: labelOf(a), text }));
  });
}
