/** Numbers of activities by a rule: start, step, and a prefix for each branch. Links name activities by id, so none is lost. */
import { Draft } from '../change/change.ts';
import { indexOf } from '../model/doc-index.ts';
import type { Document } from '../model/document.ts';
import { nodeWithCode, outlineRows } from '../outline/outline.ts';
import { count, type Outcome, refused, settled } from './result.ts';

export interface Renumbering {
  /** First number, and how many each is above the last. */
  from: number;
  step: number;
  /** Digits that a number has at least: 3 makes 007. */
  digits: number;
  /** Letters before the numbers of a branch, by WBS node: the nearest node above that has one counts. Empty: none. */
  prefixes: ReadonlyMap<string, string>;
  /** Each branch with a prefix begins anew. */
  anew: boolean;
}

/** The first letters of a name's words: `Tower restoration` becomes `TR`. */
export const prefixFor = (name: string): string =>
  name
    .split(/[^\p{L}\p{N}]+/u)
    .filter((w) => /^\p{L}/u.test(w) && !['and', 'of', 'the', 'to', 'in', 'a', 'for'].includes(w.toLowerCase()))
    .map((w) => w[0]!.toUpperCase())
    .join('')
    .slice(0, 4);

/** Numbers activities anew from top to bottom; `only`: those (null: all). Others keep theirs, which are passed over. */
export function renumber(doc: Document, only: ReadonlySet<string> | null, how: Renumbering): Outcome {
  const { from, step, digits } = how;
  if (!Number.isInteger(from) || from < 0 || from > 999_999_999) return refused('WRONG_RANGE', 'The first number is a whole one from 0 to 999,999,999.');
  if (!Number.isInteger(step) || step < 1 || step > 1000) return refused('WRONG_RANGE', 'The step is a whole number from 1 to 1,000.');
  if (!Number.isInteger(digits) || digits < 1 || digits > 9) return refused('WRONG_RANGE', 'A number has from 1 to 9 digits.');
  for (const p of how.prefixes.values())
    if (p.length > 12 || /[,;\s]/.test(p) || /^\d/.test(p))
      return refused('WRONG_VALUE', `The prefix ${p} cannot be taken: up to 12 characters without commas and spaces, and no digit first.`);
  const rows = outlineRows(doc);
  const chosen = rows.flatMap((r) => (r.kind === 'activity' && (only?.has(r.id) ?? true) ? [r.id] : []));
  if (chosen.length === 0) return refused('NOTHING_SELECTED', 'There are no activities to number.');
  const moving = new Set(chosen);
  const taken = new Set([...doc.activities.values()].flatMap((a) => (moving.has(a.id) ? [] : [a.code.toLowerCase()])));
  // Numbers that would look like the outline numbers of WBS nodes on the top level are passed over.
  const nodes = indexOf(doc).nodesIn(null).length;
  const next = new Map<string, number>();
  const prefixOf = (wbsId: string | null): { node: string; prefix: string } => {
    for (let at = wbsId, n = 0; at !== null && n < 1000; at = doc.wbs.get(at)?.parentId ?? null, n++) {
      const prefix = how.prefixes.get(at);
      if (prefix) return { node: at, prefix };
    }
    return { node: '', prefix: '' };
  };
  const draft = new Draft(doc);
  for (const id of chosen) {
    const a = doc.activities.get(id);
    if (!a) continue;
    const { node, prefix } = prefixOf(a.wbsId);
    const counter = how.anew ? node : '';
    let n = next.get(counter) ?? from;
    let code = `${prefix}${String(n).padStart(digits, '0')}`;
    while (taken.has(code.toLowerCase()) || (prefix === '' && n <= nodes && String(n) === code) || nodeWithCode(doc, code) !== undefined) {
      n += step;
      code = `${prefix}${String(n).padStart(digits, '0')}`;
    }
    taken.add(code.toLowerCase());
    next.set(counter, n + step);
    draft.patch('activities', id, { code });
  }
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', 'The activities have these numbers already.');
  return settled(doc, `Number ${count(chosen.length, 'activity')} anew`, draft.changes);
}
