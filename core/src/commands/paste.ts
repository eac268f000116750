/** Rows to and from a spreadsheet as tab-separated text. */
import type { Change } from '../change/change.ts';
import { foldChanges, trying } from '../change/trial.ts';
import type { Field } from '../fields/field.ts';
import { fieldOf } from '../fields/list.ts';
import { rowDifferences } from '../fields/stored.ts';
import { indexOf } from '../model/doc-index.ts';
import { isMilestone } from '../model/activity-kinds.ts';
import type { Document } from '../model/document.ts';
import type { Activity } from '../model/schema.ts';
import { nodeWithCode } from '../outline/outline.ts';
import type { ScheduleView } from '../schedule/view.ts';
import { saysAlready, setRow } from './cells.ts';
import { addActivities, type RowRef } from './outline.ts';
import { count, done, type NewId, type Outcome, refused } from './result.ts';

/**
 * Pastes a block of texts at a row and a column: cells of existing activities are overwritten going down, what goes
 * past the last row (null in `rows`) becomes new activities. What a cell says already is left, as is a new row's empty
 * cell, and what follows from its other cells. All or nothing: a wrong cell is named and nothing is taken.
 */
export function pasteCells(
  doc: Document,
  rows: readonly (RowRef | null)[],
  keys: readonly (string | null)[],
  texts: readonly (readonly string[])[],
  newId: NewId,
  below: RowRef | null = null,
  view: ScheduleView | null = null,
): Outcome {
  return trying(doc, (put) => {
    const all: Change[] = [];
    const made: string[] = [];
    const take = (o: Outcome, place: string): Outcome | undefined => {
      if (!o.ok) return refused(o.problems[0]!.code, `${place}: ${o.problems[0]!.message} Nothing was pasted.`, o.problems[0]!.where);
      put(o.changes);
      all.push(...o.changes);
      if (o.made) made.push(...o.made);
      return undefined;
    };
    const ofNodes = keys.some((k) => k !== null && fieldOf(doc, k)?.readNode !== undefined);
    const onNode = texts.findIndex((_, i) => rows[i]?.kind === 'wbs');
    if (onNode >= 0 && !ofNodes)
      return refused('PASTE_ON_WBS', `Row ${onNode + 1} of what is pasted would fall on a WBS node. Paste onto activities, or below the last one. Nothing was pasted.`);
    // New rows go below the last one written over, or below the given one, or to the end; together, since each alone would look for its place among all.
    const fresh = texts.flatMap((_, i) => (rows[i] ? [] : [i]));
    if (fresh.length > 0) {
      const no = take(addActivities(doc, rows.filter((r): r is RowRef => r !== null).pop() ?? below, fresh.length, newId), `Row ${fresh[0]! + 1}`);
      if (no) return no;
    }
    let next = 0;
    const targets = texts.map((_, i): RowRef => rows[i] ?? { kind: 'activity', id: made[next++]! });
    /** A field whose cells were passed over, since these rows do not hold it. */
    let passed: Field | undefined;
    // Links after everything else, since they may name rows further down; numbers and types before, since the rest rests on them.
    const order = (key: string | null): number =>
      key === 'code' || key === 'type' ? 0 : key !== null && fieldOf(doc, key)?.kind === 'links' ? 3 : key === 'finish' || key === 'percent' ? 2 : 1;
    const given = (i: number, key: string): boolean => (texts[i]?.[keys.indexOf(key)] ?? '').trim() !== '';
    const cells = texts.flatMap((line, i) => line.map((text, j) => ({ i, key: keys[j] ?? null, text }))).sort((a, b) => order(a.key) - order(b.key));
    for (const { i, key, text } of cells) {
      const target = targets[i]!;
      const f = key === null ? undefined : fieldOf(doc, key);
      if (key === null) continue;
      // A field of nodes is nothing that an activity could be given, nor the other way round.
      if (f && (target.kind === 'wbs' ? f.read && !f.readNode : f.readNode && !f.read)) {
        passed ??= f;
        continue;
      }
      // Rows copied and pasted again bring their numbers along; new rows keep their own where one is taken.
      if (key === 'code' && !rows[i] && indexOf(doc).byCode(text.trim())) continue;
      if (f && saysAlready(doc, target, f, text, view ?? null)) continue;
      if (!rows[i] && (text.trim() === '' || followsByItself(doc.activities.get(target.id) as Activity, key, (k) => given(i, k)))) continue;
      const no = take(setRow(doc, target, key, text, newId, view), `Row ${i + 1}, ${f?.title.toLowerCase() ?? key}`);
      if (no) return no;
    }
    const changes = foldChanges(all);
    if (changes.length === 0 && passed)
      return refused('WRONG_VALUE', `${passed.title} belongs to ${passed.readNode ? 'WBS nodes' : 'activities'}. Paste it onto their rows. Nothing was pasted.`);
    if (changes.length === 0) return refused('NOTHING_CHANGED', 'What was pasted is what stands there already.');
    return done(`Paste ${count(texts.length, 'row')}`, changes, made);
  });
}

/**
 * True where a cell of a new row says what follows from its others: dates of a linked row, a finish behind a start and a
 * duration; and where it says how far work is that has not begun, since rows come without their progress.
 */
function followsByItself(a: Activity, key: string, given: (key: string) => boolean): boolean {
  if (key === 'percent') return a.actualStart === null;
  if (key !== 'start' && key !== 'finish') return false;
  return given('predecessors') || (key === 'finish' && (given('duration') || (isMilestone(a) && given('start'))));
}

/** The rows that texts are of by their numbers; null: new ones. Lines that have the code of a WBS node are none, and are left out. */
export function rowsByNumber(
  doc: Document,
  keys: readonly (string | null)[],
  texts: readonly (readonly string[])[],
): { rows: (RowRef | null)[]; texts: (readonly string[])[]; known: number } {
  const at = keys.indexOf('code');
  const rows: (RowRef | null)[] = [];
  const left: (readonly string[])[] = [];
  for (const line of at < 0 ? [] : texts) {
    const number = (line[at] ?? '').trim();
    const a = number === '' ? undefined : indexOf(doc).byCode(number);
    if (!a && number !== '' && nodeWithCode(doc, number) !== undefined) continue;
    rows.push(a ? { kind: 'activity', id: a.id } : null);
    left.push(line);
  }
  return { rows, texts: left, known: rows.filter((r) => r !== null).length };
}

/** Fields that are told one by one. */
const TOLD = 4;

/** What changes do to rows that are there: `duration of 2 rows, constraints of 1 row, 3 links`. Empty where they change none. */
export function changesInWords(doc: Document, changes: readonly Change[]): string {
  const fields = new Map<string, number>();
  let links = 0;
  for (const c of changes) {
    if (c.table === 'links') links++;
    else if (c.before && c.after) for (const { title } of rowDifferences(doc, c.table, c.before, c.after)) fields.set(title, (fields.get(title) ?? 0) + 1);
  }
  const told = [...fields].slice(0, TOLD).map(([title, n]) => `${title} of ${count(n, 'row')}`);
  if (fields.size > TOLD) told.push(`${count(fields.size - TOLD, 'other column')}`);
  if (links) told.push(count(links, 'link'));
  return told.join(', ');
}
