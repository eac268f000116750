/** The list of fields. Every place that shows, types, exports or explains a field reads this; nothing knows one by itself. */
import { indexOf } from '../model/doc-index.ts';
import type { Document } from '../model/document.ts';
import { byRank } from '../model/order.ts';
import type { Activity } from '../model/schema.ts';
import type { OutlineRow } from '../outline/outline.ts';
import { NONE } from '../schedule/network.ts';
import { placeOf } from '../schedule/view.ts';
import { dateFields } from './dates.ts';
import type { ActivityCell, Cell, Field, FieldContext } from './field.ts';
import { extraFields } from './extras.ts';
import { generalFields } from './general.ts';
import { logicFields } from './logic.ts';
import { moneyFields } from './money.ts';
import { codeField, ownFieldsOf } from './own.ts';
import { progressFields } from './progress.ts';
import { workFields } from './work.ts';

/** Fields of the product, in the order of menus. */
export const builtIn: Field[] = [...generalFields, ...extraFields, ...dateFields, ...logicFields, ...progressFields, ...workFields, ...moneyFields];

const made = new WeakMap<object, { version: number; fields: Field[] }>();

/** Fields of a project's code sets and of its own, in their order. */
export function madeFields(doc: Document): Field[] {
  const index = indexOf(doc);
  const last = made.get(index);
  if (last && last.version === index.madeVersion) return last.fields;
  const fields = [...[...doc.codeSets.values()].sort(byRank).map(codeField), ...ownFieldsOf(doc, builtIn)];
  made.set(index, { version: index.madeVersion, fields });
  return fields;
}

const known = new WeakMap<readonly Field[], { size: number; fields: ReadonlyMap<string, Field> }>();

/** All fields of a project by key: those of the product, and those that people have made. */
export function fieldsOf(doc: Document): ReadonlyMap<string, Field> {
  const own = madeFields(doc);
  const last = known.get(own);
  if (last && last.size === builtIn.length) return last.fields;
  const fields = new Map([...builtIn, ...own].map((f) => [f.key, f]));
  known.set(own, { size: builtIn.length, fields });
  return fields;
}

export const fieldOf = (doc: Document, key: string): Field | undefined => fieldsOf(doc).get(key);

/** An activity as fields ask about it. */
export const activityCell = (c: FieldContext, a: Activity): ActivityCell => ({ ...c, kind: 'activity', a, i: c.view ? placeOf(c.view, a.id) : undefined });

/** A row of the outline as fields ask about it. The row may be older than the document: only rows that move are built anew. */
export function cellOf(c: FieldContext, row: OutlineRow): Cell {
  if (row.kind === 'activity') return activityCell(c, c.doc.activities.get(row.id) ?? row.activity);
  const rollup = row.group ? row.rollup : c.view?.rollups.get(row.id);
  return { ...c, kind: 'wbs', node: c.doc.wbs.get(row.id) ?? row.node, code: row.code, rollup: rollup && rollup.start !== NONE ? rollup : undefined };
}
