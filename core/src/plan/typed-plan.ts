/** Puts a plan that was typed into the document: as it was understood, all of it or nothing. */
import { foldChanges, trying } from '../change/trial.ts';
import { LinkPlan } from '../commands/link-plan.ts';
import { existing, place, plainActivity, type RowRef, siblings, spacedRanks } from '../commands/outline.ts';
import { count, done, type NewId, type Outcome, refused } from '../commands/result.ts';
import { type Change, Draft } from '../change/change.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Document, projectOf } from '../model/document.ts';
import { numbersOf } from '../model/numbers.ts';
import { type Activity, type Link, type LinkType, wbsDefaults, type WbsNode } from '../model/schema.ts';
import { changeProblems, standingOf } from '../rules/check.ts';
import { dayLengths } from '../schedule/calendars.ts';
import { parseDuration } from '../time/duration.ts';
import { readLines, type Reading, shortUnits, type TypedRow } from './typed-lines.ts';
import { readHeads, readTable, unusedHeads } from './typed-table.ts';
import { statusDay } from '../model/status-day.ts';

export interface TypedPlan {
  rows: TypedRow[];
  /** Links as they were understood, by the line they stand on: `120 SS+2d`. */
  links: { line: number; from: string; type: LinkType; lag: number }[];
  /** Refused where anything could not be read: nothing is half done. */
  outcome: Outcome;
  /** Heads of a table that nothing is taken from. */
  unused: string[];
}

/** How the project reads durations and dates. */
function readingOf(doc: Document): Reading {
  return { lengths: dayLengths(doc, { calendarId: null }), near: statusDay(doc) };
}

/** Reads a table, or lines where it has no heads that name a plan, and says what would be made below a row. */
export function typedPlan(doc: Document, text: string, table: readonly (readonly string[])[] | null, at: RowRef | null, newId: NewId): TypedPlan {
  const how = readingOf(doc);
  const heads = table?.[0] ?? [];
  const isTable = table !== null && readHeads(heads) !== undefined;
  const rows = isTable ? readTable(table, how) : readLines(text, how);
  return { ...make(doc, rows, existing(doc, at), newId), rows, unused: isTable ? unusedHeads(heads) : [] };
}

interface Named {
  id: string;
  line: number;
  row: TypedRow;
}

function make(doc: Document, rows: TypedRow[], at: RowRef | null, newId: NewId): Pick<TypedPlan, 'links' | 'outcome'> {
  if (rows.length === 0) return { links: [], outcome: refused('NOTHING_SELECTED', 'Type or paste some lines first.') };
  return trying(doc, (put) => {
    const all: Change[] = [];
    const lengths = dayLengths(doc, { calendarId: null });
    const { parent, after } = place(doc, at);
    const draft = new Draft(doc);
    const top = rows.filter((r) => r.depth === 0).length;
    const ranks = spacedRanks(draft, siblings(doc, parent), after, top);
    const numbers = numbersOf(doc);
    const made: string[] = [];
    const named: Named[] = [];
    const open: (string | null)[] = [parent];
    const onLevel: number[] = [];
    // Given numbers first, so that the others pass them over.
    for (const r of rows)
      if (r.number !== null && r.kind !== 'node' && !numbers.take(r.number)) {
        r.faults.push(`The number ${r.number} is taken, or looks like a WBS code. Leave it out or give another.`);
        r.number = null;
      }
    for (const r of rows) {
      const id = newId();
      const place = (onLevel[r.depth] = (onLevel[r.depth] ?? -1) + 1);
      const above = open[r.depth] ?? parent;
      onLevel.length = r.depth + 1;
      const rank = r.depth === 0 ? (ranks[place] ?? place) : place;
      if (r.kind === 'node') {
        const node: WbsNode = { ...wbsDefaults, id, rank, parentId: above, name: r.name, notes: r.notes };
        draft.set('wbs', id, node);
        open.length = r.depth + 1;
        open.push(id);
      } else {
        const row: Activity = {
          ...plainActivity(id, r.number ?? numbers.next(), rank),
          name: r.name,
          notes: r.notes,
          basis: projectOf(doc).options.basis,
          type: r.kind === 'activity' ? 'task' : r.kind,
          duration: r.kind === 'activity' ? (r.minutes ?? lengths.minutesPerDay) : 0,
          wbsId: above,
          constraints: r.from === null ? [] : [{ kind: 'startNotBefore', date: r.from }],
          deadline: r.by,
        };
        draft.set('activities', id, row);
      }
      made.push(id);
      named.push({ id, line: r.line, row: r });
    }
    put(draft.changes);
    all.push(...draft.changes);
    const lines = new Map(named.map((n) => [n.id, n.row]));
    const links: TypedPlan['links'] = [];
    const linking = new LinkPlan(doc);
    const linkChanges: Change[] = [];
    let rank = indexOf(doc).nextLinkRank();
    for (const n of named)
      for (const text of n.row.after.flatMap((t) => oneByOne(doc, t, n, named))) {
        const read = readAfter(doc, text, n, named);
        if ('error' in read) {
          n.row.faults.push(read.error);
          continue;
        }
        const row: Link = { id: newId(), rank: rank++, from: read.from, to: n.id, type: read.type, lag: read.lag, lagCalendar: null };
        const no = linking.refusal(row);
        if (no) {
          n.row.faults.push(no.problems[0]!.message);
          continue;
        }
        linking.add(row);
        linkChanges.push({ table: 'links', id: row.id, before: null, after: row });
        links.push({ line: n.row.line, from: doc.activities.get(row.from)?.code ?? '', type: row.type, lag: row.lag });
      }
    all.push(...linkChanges);
    for (const p of changeProblems(all, standingOf(doc))) (lines.get(p.where.id ?? '') ?? (rows[0] as TypedRow)).faults.push(p.message);
    const wrong = rows.filter((r) => r.faults.length > 0);
    if (wrong.length > 0)
      return {
        links,
        outcome: refused('WRONG_ENTRY', `${count(wrong.length, 'line')} cannot be read: ${wrong.map((r) => r.line).join(', ')}. Mend them; nothing is taken before.`),
      };
    return { links, outcome: done(`Type a plan: ${count(rows.length, 'row')}`, foldChanges(all), made) };
  });
}

/** `A and B` is one name where there is such an activity, else two. */
function oneByOne(doc: Document, text: string, own: Named, named: readonly Named[]): string[] {
  const parts = text.split(/\s+(?:and|&)\s+/i);
  return parts.length > 1 && 'error' in readAfter(doc, text, own, named) && parts.every((p) => !('error' in readAfter(doc, p, own, named))) ? parts : [text];
}

/** Reads one predecessor: a number or a name with type and lag, from the lines or from the plan; `above` is the line above. */
function readAfter(doc: Document, text: string, own: Named, named: readonly Named[]): { from: string; type: LinkType; lag: number } | { error: string } {
  const whole = find(doc, text, own, named);
  if (whole !== undefined) return { from: whole, type: 'FS', lag: 0 };
  const m = /^(.*?)\s*\b(fs|ss|ff|sf)?\s*([+\-−]\s*\d[\d.,\swdhm]*(?:days?|weeks?|hours?)?)?$/i.exec(text);
  const name = (m?.[1] ?? text).trim();
  // A number and its type may stand together: 120ss.
  const glued = /^(.*\d|above|previous)(fs|ss|ff|sf)$/i.exec(name);
  const from = find(doc, name, own, named) ?? (glued ? find(doc, glued[1] as string, own, named) : undefined);
  const type = ((m?.[2] ?? glued?.[2])?.toUpperCase() as LinkType | undefined) ?? 'FS';
  if (from === undefined) return { error: `There is no activity ${name} in these lines or in the plan. Write its number or its name as it stands there.` };
  const lagText = m?.[3] ?? '';
  const lag = lagText ? parseDuration(shortUnits(lagText), dayLengths(doc, doc.activities.get(from) ?? { calendarId: null })) : 0;
  if (lag === undefined) return { error: `The lag in ${text} cannot be read. Write it as +2d, -4h or +1w.` };
  return { from, type, lag };
}

/** Among the lines the nearest above with that number or name, else the nearest below; else the plan's. */
function find(doc: Document, text: string, own: Named, named: readonly Named[]): string | undefined {
  const wanted = text.trim().toLowerCase().replace(/^#/, '');
  if (wanted === '') return undefined;
  const at = named.indexOf(own);
  const activities = named.filter((n) => n.row.kind !== 'node');
  if (wanted === 'above' || wanted === 'previous') return activities.filter((n) => named.indexOf(n) < at).pop()?.id;
  const byNumber = activities.find((n) => n.row.number?.toLowerCase() === wanted);
  if (byNumber) return byNumber.id;
  const same = activities.filter((n) => n !== own && n.row.name.toLowerCase() === wanted);
  const above = same.filter((n) => named.indexOf(n) < at).pop();
  if (above ?? same[0]) return (above ?? same[0])?.id;
  const there = indexOf(doc).byCode(wanted);
  // Numbers that these lines were given just now are nobody's to know.
  if (there && !named.some((n) => n.id === there.id)) return there.id;
  const inPlan = [...doc.activities.values()].filter((a) => a.name.toLowerCase() === wanted && !named.some((n) => n.id === a.id));
  return inPlan.length === 1 ? inPlan[0]?.id : undefined;
}
