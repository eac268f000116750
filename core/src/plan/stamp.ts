/** What a stamp does: one value put on many activities as one change. */
import { setCells } from '../commands/cells.ts';
import { done, type NewId, type Outcome } from '../commands/result.ts';
import { editField, type Field } from '../fields/field.ts';
import { activityCell, fieldOf, fieldsOf } from '../fields/list.ts';
import { type Document, labelOf } from '../model/document.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Giver, givers, readGiver } from './givers.ts';
import type { ScheduleView } from '../schedule/view.ts';

/** A value of a field, as text that could be typed. Empty takes the value away. */
export interface Stamp {
  key: string;
  text: string;
}

/** Fields whose values can be picked and stamped: those with choices of their own, or yes and no. */
export const stampable = (doc: Document): Field[] => [...fieldsOf(doc).values()].filter((f) => f.read && f.choices && !f.open && f.key !== 'type');

/** All that can be picked and given: fields with choices, and what has an amount besides. */
export const givable = (doc: Document): { key: string; title: string; amount?: Giver['amount']; choices: (doc: Document) => readonly string[] }[] => [
  ...stampable(doc).map((f) => ({ key: f.key, title: f.title, choices: (d: Document) => (f.choices?.(d) ?? []).filter((v) => v !== '' && v !== 'none') })),
  ...givers.filter((g) => g.choices(doc).length > 0),
];

/** Activities of rows. A WBS node alone stands for all that is in it; swept over on the way between activities it does not count. */
export function activitiesOf(doc: Document, ids: readonly string[]): string[] {
  const own = ids.filter((id) => doc.activities.has(id));
  if (own.length) return own;
  const out = new Set<string>();
  const index = indexOf(doc);
  const take = (id: string): void => {
    if (doc.activities.has(id)) out.add(id);
    else for (const c of index.childrenOf(id)) take(c.id);
  };
  for (const id of ids) take(id);
  return [...out];
}

/** What a stamp does to rows: activities that have the value already are left as they are. */
export function stampOutcome(doc: Document, ids: readonly string[], { key, text }: Stamp, newId: NewId, view: ScheduleView | null = null): Outcome {
  const giver = givers.find((g) => g.key === key);
  if (giver) {
    const { choice, amount } = readGiver(text);
    return giver.give(doc, activitiesOf(doc, ids), choice, amount, newId);
  }
  const f = fieldOf(doc, key);
  const context = { doc, view, baseline: null, clock: false };
  const has = (id: string): boolean => {
    const a = doc.activities.get(id);
    return !a || !f || editField(f, activityCell(context, a)).toLowerCase() === (text === '' && f.key === 'colour' ? 'none' : text).toLowerCase();
  };
  const targets = activitiesOf(doc, ids).filter((id) => !has(id));
  if (targets.length === 0) return done('Stamp nothing', []);
  const outcome = setCells(doc, targets, key, text, newId, view);
  const name = text === '' ? (f?.key === 'calendar' ? "the project's calendar" : `no ${f?.title.toLowerCase() ?? key}`) : text;
  const one = targets.length === 1 ? doc.activities.get(targets[0]!) : undefined;
  return outcome.ok ? { ...outcome, label: `Stamp ${name} on ${one ? labelOf(one) : `${targets.length} activities`}` } : outcome;
}
