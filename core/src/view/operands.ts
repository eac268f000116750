/** Values of conditions: typed, told, and what they stand for in a plan. */
import type { Field } from '../fields/field.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Document, projectOf } from '../model/document.ts';
import type { ComparisonName, Operand, RelativeDate } from '../model/view-schema.ts';
import { wbsCodeOf, nodeWithCode } from '../outline/outline.ts';
import { type Day, parseDay, parseInstant, weekdayOf, civilOf, dayOf, MINUTES_PER_DAY } from '../time/instant.ts';
import { dayOfToday, parseTypedDate, showDay } from '../time/typed-date.ts';
import { typedNumber } from '../model/number-text.ts';

const isRelative = (v: Operand): v is RelativeDate => typeof v === 'object';

/** The data date as a day; the day that it is where there is none. */
const dataDay = (doc: Document, today: Day): Day => {
  const t = projectOf(doc).dataDate;
  const at = t === null ? undefined : parseInstant(t);
  return at === undefined ? today : Math.floor(at / MINUTES_PER_DAY);
};

/** The day that a value of a condition on dates means; undefined where it means none. */
export function dayOfOperand(v: Operand, doc: Document, today: Day): Day | undefined {
  if (typeof v === 'string') return parseDay(v);
  if (!isRelative(v)) return undefined;
  const from =
    v.from === 'dataDate'
      ? dataDay(doc, today)
      : v.from === 'weekStart'
        ? today - weekdayOf(today)
        : v.from === 'monthStart'
          ? ((c) => dayOf(c.year, c.month, 1))(civilOf(today))
          : today;
  if (v.shift === 0) return from;
  const text = parseTypedDate(`${v.shift < 0 ? '' : '+'}${v.shift}${v.unit}`, from);
  return text === undefined ? undefined : parseDay(text);
}

/** Values of a code set as they are shown, in small letters: those of the ids with all in them; undefined for another field. */
export function codesUnder(doc: Document, key: string, ids: readonly string[], below = false): Set<string> | undefined {
  const set = key.startsWith('code:') ? doc.codeSets.get(key.slice(5)) : undefined;
  if (!set) return undefined;
  const wanted = new Set(set.values.filter((v) => ids.some((x) => x === v.id || x.toLowerCase() === v.short.toLowerCase())).map((v) => v.id));
  const roots = new Set(wanted);
  for (let grown = true; grown;) {
    grown = false;
    for (const v of set.values)
      if (v.parentId !== null && wanted.has(v.parentId) && !wanted.has(v.id)) {
        wanted.add(v.id);
        grown = true;
      }
  }
  return new Set(set.values.filter((v) => wanted.has(v.id) && !(below && roots.has(v.id))).map((v) => v.short.toLowerCase()));
}

/** Nodes with all that lies in them. */
export function nodesUnder(doc: Document, ids: readonly string[]): Set<string> {
  const index = indexOf(doc);
  const out = new Set<string>();
  const stack = ids.filter((id) => doc.wbs.has(id));
  for (let id = stack.pop(); id !== undefined; id = stack.pop()) {
    if (out.has(id)) continue;
    out.add(id);
    for (const c of index.childrenOf(id)) if (c.kind === 'wbs') stack.push(c.id);
  }
  return out;
}

const textual: ComparisonName[] = ['is', 'isNot', 'oneOf', 'contains', 'containsNot', 'starts', 'empty', 'notEmpty'];
const numerical: ComparisonName[] = ['is', 'isNot', 'less', 'atMost', 'more', 'atLeast', 'between', 'oneOf', 'empty', 'notEmpty'];

/** Comparisons that fit a field, the usual one first. `changed`: where kept copies tell of it. */
export function comparisonsOf(f: Field, changed: boolean): ComparisonName[] {
  const also: ComparisonName[] = changed ? ['changed'] : [];
  if (f.key === 'wbs') return ['under', 'empty', 'notEmpty'];
  if (f.key.startsWith('code:')) return ['is', 'isNot', 'oneOf', 'under', 'empty', 'notEmpty'];
  switch (f.kind) {
    case 'yesNo':
      return ['is'];
    case 'choice':
      return ['is', 'isNot', 'oneOf', 'empty', 'notEmpty'];
    case 'text':
    case 'links':
      return ['contains', ...textual.filter((t) => t !== 'contains')];
    case 'date':
      return ['less', ...numerical.filter((t) => t !== 'less' && t !== 'oneOf'), ...also];
    default:
      return ['atMost', ...numerical.filter((t) => t !== 'atMost'), ...also];
  }
}

/** What a comparison is called, for dates and for others. */
export function comparisonWords(is: ComparisonName, date: boolean): string {
  const words: Record<ComparisonName, string> = {
    is: 'is',
    isNot: 'is not',
    oneOf: 'is one of',
    under: 'is in',
    contains: 'contains',
    containsNot: 'does not contain',
    starts: 'starts with',
    less: date ? 'is before' : 'is less than',
    atMost: date ? 'is on or before' : 'is at most',
    more: date ? 'is after' : 'is more than',
    atLeast: date ? 'is on or after' : 'is at least',
    between: 'is between',
    empty: 'is empty',
    notEmpty: 'is not empty',
    changed: 'has changed since',
  };
  return words[is];
}

const units = { d: 'day', w: 'week', m: 'month' } as const;
const froms: Record<RelativeDate['from'], string> = { dataDate: 'data date', today: 'today', weekStart: 'start of this week', monthStart: 'start of this month' };

/** A value of a condition as it is told, and can be typed again: `data date + 2 weeks`, `2 Nov 26`, `yes`. */
export function showOperand(doc: Document, f: Field, v: Operand, is: ComparisonName): string {
  if (isRelative(v)) {
    const n = Math.abs(v.shift);
    return n === 0 ? froms[v.from] : `${froms[v.from]} ${v.shift < 0 ? '-' : '+'} ${n} ${units[v.unit]}${n === 1 ? '' : 's'}`;
  }
  if (typeof v === 'boolean') return v ? 'yes' : 'no';
  if (is === 'changed') return doc.snapshots.get(String(v))?.name ?? 'a kept copy that is gone';
  if (f.key === 'wbs') return doc.wbs.has(String(v)) ? `${wbsCodeOf(doc, String(v))} ${doc.wbs.get(String(v))?.name ?? ''}`.trim() : 'a node that is gone';
  if (f.key.startsWith('code:')) return doc.codeSets.get(f.key.slice(5))?.values.find((x) => x.id === v)?.short ?? String(v);
  if (f.kind === 'date') {
    const day = parseDay(String(v));
    return day === undefined ? String(v) : showDay(day);
  }
  if (typeof v === 'number' && (f.kind === 'duration' || f.kind === 'days' || f.kind === 'difference')) return `${v} d`;
  return String(v);
}

/** Reads a date of a condition: `data date + 2 weeks`, `today - 3d`, `start of this month`, or a date as in a cell. */
function readDate(doc: Document, text: string, today: Day): Operand | undefined {
  const t = text.trim().toLowerCase();
  const m = /^(data date|today|start of (?:this )?week|this week|start of (?:this )?month|this month)\s*(?:([+-])\s*(\d{1,4})\s*(d|w|m|days?|weeks?|months?)?)?$/.exec(t);
  if (m) {
    const from = m[1] === 'data date' ? 'dataDate' : m[1] === 'today' ? 'today' : m[1]!.includes('week') ? 'weekStart' : 'monthStart';
    const shift = m[3] === undefined ? 0 : Number(m[3]) * (m[2] === '-' ? -1 : 1);
    return { from, shift, unit: (m[4] ?? 'd')[0] as 'd' | 'w' | 'm' };
  }
  return parseTypedDate(t, dataDay(doc, today))?.slice(0, 10);
}

/** Reads a value of a condition as it is typed, or says why it is none. */
export function readOperand(doc: Document, f: Field, text: string, is: ComparisonName, today: Day = dayOfToday()): { value: Operand } | { error: string } {
  const t = text.trim();
  if (t === '') return { error: 'Type or choose a value.' };
  if (is === 'contains' || is === 'containsNot' || is === 'starts') return { value: t.slice(0, 500) };
  if (is === 'changed') {
    const copy = doc.snapshots.get(t) ?? [...doc.snapshots.values()].find((s) => s.name.toLowerCase() === t.toLowerCase());
    return copy ? { value: copy.id } : { error: `There is no kept copy ${t}.` };
  }
  if (f.key === 'wbs') {
    const id = doc.wbs.has(t)
      ? t
      : (nodeWithCode(doc, t) ?? nodeWithCode(doc, t.split(' ')[0]!) ?? [...doc.wbs.values()].find((w) => w.name.toLowerCase() === t.toLowerCase())?.id);
    return id === undefined ? { error: `There is no WBS node ${t}. Type its code or its name.` } : { value: id };
  }
  if (f.key.startsWith('code:')) {
    const set = doc.codeSets.get(f.key.slice(5));
    const low = t.toLowerCase();
    const v = set?.values.find((x) => x.id === t || x.short.toLowerCase() === low) ?? set?.values.find((x) => x.name.toLowerCase() === low);
    return v ? { value: v.id } : { error: `${f.title} has no value ${t}.` };
  }
  switch (f.kind) {
    case 'yesNo':
      return /^(y|yes)$/i.test(t) ? { value: true } : /^(n|no)$/i.test(t) ? { value: false } : { error: `${t} is neither yes nor no.` };
    case 'date': {
      const value = readDate(doc, t, today);
      return value === undefined ? { error: `${t} is no date. Type one such as 12 Mar 27, data date + 2 weeks, or start of this month.` } : { value };
    }
    case 'text':
    case 'choice':
    case 'links':
      return { value: t.slice(0, 500) };
    default: {
      const n = typedNumber(t.replace(/(%|d|days?)$/i, ''));
      return n !== undefined ? { value: n } : { error: `${t} is no number.` };
    }
  }
}
