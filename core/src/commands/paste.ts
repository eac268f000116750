/** Rows to and from a spreadsheet as tab-separated text. */
import { applyChanges, type Change, sameValue } from '../change/change.ts';
import { copyDocument, type Document } from '../model/document.ts';
import { activitiesByCode } from './links.ts';
import { addActivity, type RowRef } from './outline.ts';
import { type EditableColumn, setCell } from './cells.ts';
import type { ScheduleView } from '../schedule/view.ts';
import { count, done, type NewId, type Outcome, refused } from './result.ts';

/** Keeps the first `before` and the last `after` of each row. */
function foldChanges(changes: readonly Change[]): Change[] {
  const byRow = new Map<string, Change>();
  for (const c of changes) {
    const key = `${c.table}/${c.id}`;
    const known = byRow.get(key);
    byRow.set(key, known ? { ...known, after: c.after } : c);
  }
  return [...byRow.values()].filter((c) => !sameValue(c.before, c.after));
}

/**
 * Pastes a block of texts at a row and a column: cells of existing activities are overwritten going down, what goes
 * past the last row (null in `rows`) becomes new activities. All or nothing: a wrong cell is named and nothing is taken.
 */
export function pasteCells(
  doc: Document,
  rows: readonly (RowRef | null)[],
  columns: readonly (EditableColumn | null)[],
  texts: readonly (readonly string[])[],
  newId: NewId,
  below: RowRef | null = null,
  view: ScheduleView | null = null,
): Outcome {
  const work = copyDocument(doc);
  const all: Change[] = [];
  const made: string[] = [];
  const take = (o: Outcome, place: string): Outcome | undefined => {
    if (!o.ok) return refused(o.problems[0]!.code, `${place}: ${o.problems[0]!.message} Nothing was pasted.`, o.problems[0]!.where);
    applyChanges(work, o.changes);
    all.push(...o.changes);
    if (o.made) made.push(...o.made);
    return undefined;
  };
  // New rows go below the last one written over, or below the given one, or to the end.
  let last: RowRef | null = rows.filter((r): r is RowRef => r !== null).pop() ?? below;
  const targets: string[] = [];
  for (let i = 0; i < texts.length; i++) {
    const row = rows[i];
    if (row?.kind === 'wbs')
      return refused('PASTE_ON_WBS', `Row ${i + 1} of what is pasted would fall on a WBS node. Paste onto activities, or below the last one. Nothing was pasted.`);
    if (row) {
      targets.push(row.id);
      continue;
    }
    const o = addActivity(work, last, {}, newId);
    const no = take(o, `Row ${i + 1}`);
    if (no) return no;
    const id = o.ok ? (o.made?.[0] as string) : '';
    last = { kind: 'activity', id };
    targets.push(id);
  }
  // Links after everything else, since they may name rows further down.
  const order = (c: EditableColumn | null): number => (c === 'predecessors' || c === 'successors' ? 2 : c === 'code' || c === 'type' ? 0 : 1);
  const cells = texts.flatMap((line, i) => line.map((text, j) => ({ i, column: columns[j] ?? null, text }))).sort((a, b) => order(a.column) - order(b.column));
  for (const { i, column, text } of cells) {
    if (!column) continue;
    // Rows copied and pasted again bring their numbers along; new rows keep their own where one is taken.
    if (column === 'code' && !rows[i] && activitiesByCode(work).has(text.trim().toLowerCase())) continue;
    const no = take(
      setCell(work, targets[i]!, column, text, newId, column === 'code' ? undefined : order(column) === 2 ? activitiesByCode(work) : undefined, view),
      `Row ${i + 1}, ${column}`,
    );
    if (no) return no;
  }
  const changes = foldChanges(all);
  if (changes.length === 0) return refused('NOTHING_CHANGED', 'What was pasted is what stands there already.');
  return done(`Paste ${count(texts.length, 'row')}`, changes, made);
}
