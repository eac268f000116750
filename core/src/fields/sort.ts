/** The order of rows by the values of fields: each kind by its own rule, and what is empty last in both directions. */
import type { OutlineRow } from '../outline/outline.ts';
import type { Document } from '../model/document.ts';
import { type Field, type FieldContext, type Value, valueOf } from './field.ts';
import { cellOf, fieldOf } from './list.ts';

export interface SortKey {
  /** Key of a field. */
  key: string;
  descending: boolean;
}

/** Texts by the rules of the language, with the numbers in them as numbers: A2 before A10. */
const texts = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** What a value counts as in the order of its field; null stands last. */
export type OrderKey = string | number | null;

/** How values of a field are put in order: a choice by its place among the choices. */
export function orderIn(f: Field, doc: Document): (v: Value | null) => OrderKey {
  const choices = f.kind === 'choice' ? f.choices?.(doc) : undefined;
  const places = choices ? new Map(choices.map((c, i) => [c, i])) : null;
  return (v) => {
    if (v === null || v === '') return null;
    if (typeof v === 'boolean') return v ? 1 : 0;
    return (places && places.get(String(v))) ?? v;
  };
}

function compare(a: string | number, b: string | number): number {
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  // A choice that is none of the choices any more stands behind them.
  if (typeof a !== typeof b) return typeof a === 'number' ? -1 : 1;
  return texts.compare(String(a), String(b));
}

/**
 * Rows with the activities that stand beside each other in the order of some fields, the first field first, alike ones as
 * they were. WBS nodes stay where they are, with what is in them. `flat`: the rows are a list without an outline.
 */
export function sortRows<R extends { kind: string; depth: number }>(rows: readonly R[], sort: readonly SortKey[], context: FieldContext, flat = false): R[] {
  const by = sort.flatMap(({ key, descending }) => {
    const f = fieldOf(context.doc, key);
    if (!f) return [];
    return [{ f, sign: descending ? -1 : 1, order: orderIn(f, context.doc) }];
  });
  if (by.length === 0) return [...rows];
  const out: R[] = [];
  let run: R[] = [];
  const end = (): void => {
    if (run.length > 1) {
      const keyed = run.map((row, i) => ({ row, i, keys: by.map(({ f, order }) => order(valueOf(f, cellOf(context, row as unknown as OutlineRow)))) }));
      keyed.sort((a, b) => {
        for (let k = 0; k < by.length; k++) {
          const [x, y] = [a.keys[k]!, b.keys[k]!];
          if (x === null && y === null) continue;
          if (x === null || y === null) return x === null ? 1 : -1;
          const d = compare(x, y) * by[k]!.sign;
          if (d !== 0) return d;
        }
        return a.i - b.i;
      });
      out.push(...keyed.map((x) => x.row));
    } else out.push(...run);
    run = [];
  };
  for (const row of rows) {
    if (run.length > 0 && (row.kind !== 'activity' || (!flat && row.depth !== run[0]!.depth))) end();
    if (row.kind === 'activity') run.push(row);
    else out.push(row);
  }
  end();
  return out;
}

/** The sort after a field's head was chosen: rising, falling, then no more; `add`: behind the fields that sort already. */
export function nextSort(sort: readonly SortKey[], key: string, add: boolean): SortKey[] {
  const now = sort.find((s) => s.key === key);
  const next: SortKey[] = !now ? [{ key, descending: false }] : now.descending ? [] : [{ key, descending: true }];
  if (!add) return next;
  return now ? sort.flatMap((s) => (s.key === key ? next : [s])) : [...sort, ...next];
}
