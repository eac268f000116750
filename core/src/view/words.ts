/** Filters told as sentences, and typed in short form under the head of a column. */
import type { Field } from '../fields/field.ts';
import { fieldOf } from '../fields/list.ts';
import type { Document } from '../model/document.ts';
import type { ComparisonName, Condition, Filter } from '../model/view-schema.ts';
import { isGroup } from './filter.ts';
import { comparisonsOf, comparisonWords, readOperand, showOperand } from './operands.ts';

/** A condition in words: `Finish is before data date + 2 weeks`. */
export function conditionWords(doc: Document, c: Condition): string {
  const f = fieldOf(doc, c.field);
  if (!f) return `a field that is not in this project (${c.field})`;
  const title = f.key === 'code' ? 'Number' : f.key === 'name' ? 'Name' : f.title;
  const values = c.values.map((v) => showOperand(doc, f, v, c.is));
  const told = c.is === 'between' ? values.join(' and ') : values.join(', ');
  return `${title} ${comparisonWords(c.is, f.kind === 'date')}${told ? ` ${told}` : ''}`;
}

/** A filter in words, groups in brackets. */
export function filterWords(doc: Document, filter: Filter): string {
  const parts = filter.of.map((p) => (isGroup(p) ? `(${filterWords(doc, p)})` : conditionWords(doc, p)));
  if (parts.length === 0) return filter.match === 'any' ? 'nothing' : 'everything';
  return filter.match === 'none' ? `not (${parts.join(' or ')})` : parts.join(filter.match === 'all' ? ' and ' : ' or ');
}

const signs: [string, ComparisonName][] = [
  ['>=', 'atLeast'],
  ['<=', 'atMost'],
  ['!=', 'isNot'],
  ['>', 'more'],
  ['<', 'less'],
  ['=', 'is'],
];

/**
 * What is typed under a head as a condition: `pier` (contains), `=10`, `>5`, `<data date + 2w`, `5..10`, `!done`, `empty`,
 * `not empty`; of fields with choices a value of theirs.
 */
export function readShort(doc: Document, f: Field, text: string): Condition | { error: string } {
  const t = text.trim();
  const condition = (is: ComparisonName, ...typed: string[]): Condition | { error: string } => {
    const values = [];
    for (const part of typed) {
      const r = readOperand(doc, f, part, is);
      if ('error' in r) return r;
      values.push(r.value);
    }
    return { field: f.key, is, values };
  };
  if (/^empty$/i.test(t)) return { field: f.key, is: 'empty', values: [] };
  if (/^(not empty|!empty)$/i.test(t)) return { field: f.key, is: 'notEmpty', values: [] };
  const fits = comparisonsOf(f, false);
  const range = /^(.+?)\.\.(.+)$/.exec(t);
  if (range && fits.includes('between')) return condition('between', range[1]!, range[2]!);
  for (const [sign, is] of signs) if (t.startsWith(sign) && fits.includes(is)) return condition(is, t.slice(sign.length));
  if (t.startsWith('!')) return condition(fits.includes('containsNot') ? 'containsNot' : 'isNot', t.slice(1));
  if (fits[0] === 'contains') return condition('contains', t);
  if (t.includes(',') && fits.includes('oneOf')) return condition('oneOf', ...t.split(',').filter((x) => x.trim()));
  return condition(f.key === 'wbs' ? 'under' : 'is', t);
}
