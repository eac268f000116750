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

  /** Takes what was added up of rows further down. */
  join(t: Tally): void {
    if (this.first === null) this.first = t.first;
    else if (t.first !== null && t.first.v !== this.first.v) this.mixed = true;
    this.mixed ||= t.mixed;
    this.count += t.count;
    this.sum += t.sum;
    this.weight += t.weight;
    this.weighted += t.weighted;
    if (t.least !== null && (this.least === null || t.least.v < this.least.v)) this.least = t.least;
    if (t.greatest !== null && (this.greatest === null || t.greatest.v > this.greatest.v)) this.greatest = t.greatest;
  }
}

/** Told where rows have different values. */
export const MIXED = 'mixed';

/** A tally with what it hangs on: all that there is of the field, and what lies in its node; the members of its group. */
interface Kept {
  tally: Tally;
  whole: string;
  inside: string;
  members: readonly string[] | undefined;
}

/**
 * Tallies of fields that hang on nothing but what is stored: they outlive an edit of something else, and of a row in another
 * node. Otherwise each such column that a node shows would go through the whole plan for every edit.
 */
const kept = new WeakMap<DocIndex, WeakMap<Field, Map<string, Kept>>>();

/** What is kept of a field; undefined where it hangs on the dates, too. */
function keptOf(doc: Document, f: Field): Map<string, Kept> | undefined {
  if (!f.stored || f.node || f.computed || f.sum === 'none') return undefined;
  const index = indexOf(doc);
  let fields = kept.get(index);
  if (!fields) kept.set(index, (fields = new WeakMap()));
  let rows = fields.get(f);
  if (!rows) fields.set(f, (rows = new Map()));
  return rows;
}

/**
 * Sums over rows, reckoned for a node, a heading or the project when they are first asked for, from what lies in it.
 * `groups`: headings with the activities in each.
 */
export class Sums {
  private readonly known = new Map<Field, Map<string, Tally>>();
  private readonly context: FieldContext;
  private readonly groups: ReadonlyMap<string, readonly string[]>;

  constructor(context: FieldContext, groups: ReadonlyMap<string, readonly string[]> = new Map()) {
    this.context = context;
    this.groups = groups;
  }

  private tally(f: Field, row: string): Tally {
    let known = this.known.get(f);
    if (!known) this.known.set(f, (known = new Map()));
    const there = known.get(row);
    if (there) return there;
    const { doc } = this.context;
    const rows = keptOf(doc, f);
    let tally: Tally;
    if (rows && f.stored) {
      const index = indexOf(doc);
      const [whole, inside, members] = [index.stampOf(f.sum === 'mean' ? [f.stored, 'type', 'duration'] : [f.stored]), index.stampIn(row), this.groups.get(row)];
      const last = rows.get(row);
      const same = last !== undefined && last.members === members && (last.whole === whole || (members === undefined && last.inside === inside));
      tally = same ? last.tally : this.added(f, row);
      rows.set(row, { tally, whole, inside, members });
    } else tally = this.added(f, row);
    known.set(row, tally);
    return tally;
  }

  private added(f: Field, row: string): Tally {
    const t = new Tally();
    const { doc } = this.context;
    const take = (id: string): void => {
      const a = doc.activities.get(id);
      if (a) t.take(valueOf(f, activityCell(this.context, a)), a);
    };
    const members = this.groups.get(row);
    if (members) members.forEach(take);
    else
      for (const c of indexOf(doc).childrenOf(row === PROJECT_ROW ? null : row))
        if (c.kind === 'activity') take(c.id);
        else t.join(this.tally(f, c.id));
    return t;
  }

  /** What a field sums up to in a row; null where it does not, or where rows differ. */
  of(f: Field, row: string): Value | null {
    const t = this.tally(f, row);
    if (t.first === null) return null;
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
        return t.mixed ? null : t.first.v;
      case 'none':
        return null;
    }
  }

  /** The same as a row shows it. */
  text(f: Field, row: string): string {
    const t = this.tally(f, row);
    const v = this.of(f, row);
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
