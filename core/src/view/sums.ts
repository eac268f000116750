/** What fields sum up to in WBS nodes, in groups and in the whole project, field by field as they are asked for. */
import { type Field, type FieldContext, type NodeCell, showField, textOf, type Value, valueOf } from '../fields/field.ts';
import { activityCell } from '../fields/list.ts';
import { type DocIndex, indexOf } from '../model/doc-index.ts';
import type { Document } from '../model/document.ts';
import { type Activity, wbsDefaults } from '../model/schema.ts';
import { PROJECT_ROW } from '../outline/outline.ts';

/** What is added up of one field in one row. */
class Tally {
  count = 0;
  sum = 0;
  weight = 0;
  weighted = 0;
  least: { v: number; a: Activity } | null = null;
  greatest: { v: number; a: Activity } | null = null;
  /** The first value, and whether all others are it, empty ones included. */
  first: { v: Value | null; a: Activity } | null = null;
  mixed = false;

  take(v: Value | null, a: Activity): void {
    if (this.first === null) this.first = { v, a };
    else if (this.first.v !== v) this.mixed = true;
    if (v === null || v === '') return;
    this.count++;
    if (typeof v !== 'number') return;
    this.sum += v;
    const weight = a.type === 'task' ? a.duration : 0;
    this.weight += weight;
    this.weighted += weight * v;
    if (this.least === null || v < this.least.v) this.least = { v, a };
    if (this.greatest === null || v > this.greatest.v) this.greatest = { v, a };
  }
}

/** Told where rows have different values. */
export const MIXED = 'mixed';

/**
 * Tallies of fields that hang on nothing but what is stored: they outlive an edit of something else, which would otherwise go
 * through the whole plan for each such column that a node shows.
 */
const kept = new WeakMap<DocIndex, WeakMap<Field, { stamp: string; groups: ReadonlyMap<string, unknown>; known: Map<string, Tally> }>>();

/** What the tallies of a field hang on, as one word; undefined where that is the dates, too. */
function stampOf(doc: Document, f: Field): string | undefined {
  if (!f.stored || f.node || f.computed || f.sum === 'none') return undefined;
  return indexOf(doc).stampOf(f.sum === 'mean' ? [f.stored, 'type', 'duration'] : [f.stored]);
}

/**
 * Sums over rows. A field is added up once over all activities when it is first asked for. `groups`: headings with the
 * activities in each.
 */
export class Sums {
  private readonly known = new Map<Field, Map<string, Tally>>();
  private readonly context: FieldContext;
  private readonly groups: ReadonlyMap<string, readonly string[]>;

  constructor(context: FieldContext, groups: ReadonlyMap<string, readonly string[]> = new Map()) {
    this.context = context;
    this.groups = groups;
  }

  private tallies(f: Field): Map<string, Tally> {
    const there = this.known.get(f);
    if (there) return there;
    const found = stampOf(this.context.doc, f);
    const last = found === undefined ? undefined : kept.get(indexOf(this.context.doc))?.get(f);
    const known = last && last.stamp === found && (last.groups === this.groups || last.groups.size + this.groups.size === 0) ? last.known : this.tallied(f);
    if (found !== undefined && known !== last?.known) {
      const index = indexOf(this.context.doc);
      let fields = kept.get(index);
      if (!fields) kept.set(index, (fields = new WeakMap()));
      fields.set(f, { stamp: found, groups: this.groups, known });
    }
    this.known.set(f, known);
    return known;
  }

  private tallied(f: Field): Map<string, Tally> {
    const known = new Map<string, Tally>();
    const of = (row: string): Tally => {
      let t = known.get(row);
      if (!t) known.set(row, (t = new Tally()));
      return t;
    };
    const { doc } = this.context;
    const values = new Map<string, Value | null>();
    for (const a of doc.activities.values()) {
      const v = valueOf(f, activityCell(this.context, a));
      values.set(a.id, v);
      of(PROJECT_ROW).take(v, a);
      for (let node = a.wbsId, n = 0; node !== null && n < 100; node = doc.wbs.get(node)?.parentId ?? null, n++) of(node).take(v, a);
    }
    for (const [row, members] of this.groups)
      for (const id of members) {
        const a = doc.activities.get(id);
        if (a) of(row).take(values.get(id) ?? null, a);
      }
    return known;
  }

  /** What a field sums up to in a row; null where it does not, or where rows differ. */
  of(f: Field, row: string): Value | null {
    const t = this.tallies(f).get(row);
    if (!t) return null;
    switch (f.sum) {
      case 'sum':
        return t.count ? Math.round(t.sum * 1e6) / 1e6 : null;
      case 'mean':
        return t.weight > 0 ? t.weighted / t.weight : t.count ? t.sum / t.count : null;
      case 'least':
        return t.least?.v ?? null;
      case 'greatest':
        return t.greatest?.v ?? null;
      case 'count':
        return t.count;
      case 'same':
        return t.mixed ? null : (t.first?.v ?? null);
      case 'none':
        return null;
    }
  }

  /** The same as a row shows it. */
  text(f: Field, row: string): string {
    const t = this.tallies(f).get(row);
    const v = this.of(f, row);
    if (!t) return '';
    if (f.sum === 'same' && t.mixed) return MIXED;
    if (v === null) return '';
    if (f.sum === 'count') return v === 0 ? '' : String(v);
    // What is some row's own value is told as that row tells it.
    const owner = f.sum === 'same' ? t.first?.a : f.sum === 'least' ? t.least?.a : f.sum === 'greatest' ? t.greatest?.a : undefined;
    const rounded = typeof v === 'number' && f.sum === 'mean' ? Math.round(v * 10) / 10 : v;
    // The row as it is now: what is kept of it may be older.
    if (owner) return showField(f, activityCell(this.context, this.context.doc.activities.get(owner.id) ?? owner));
    const cell: NodeCell = { ...this.context, kind: 'wbs', node: { ...wbsDefaults, id: row, rank: 0, name: '' }, code: '', rollup: undefined };
    return f.showSum ? f.showSum(rounded, cell) : textOf(f, rounded, cell);
  }
}
