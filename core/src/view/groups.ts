/** Groups: activities under headings by fields and the WBS, each in exactly one place; and what rolls up to a heading. */
import { type FieldContext, type Field, perDayOf, showField, type Value, valueOf } from '../fields/field.ts';
import { activityCell, fieldOf } from '../fields/list.ts';
import type { Document } from '../model/document.ts';
import { type Activity, type CodeValue, wbsDefaults } from '../model/schema.ts';
import type { Level } from '../model/view-schema.ts';
import { type GroupFacts, GROUP, type OutlineRow, wbsCodes } from '../outline/outline.ts';
import { addShown, blankRollup, finished } from '../rollup/shown.ts';
import { civilOf, type Day, dayOf, weekdayOf } from '../time/instant.ts';
import { monthNames, showDay } from '../time/typed-date.ts';
import { orderIn, type OrderKey } from '../fields/sort.ts';
import { dayOfValue } from './filter.ts';

/** One heading on the way to a row. */
interface Segment {
  /** Apart from those beside it. */
  id: string;
  label: string;
  order: OrderKey;
  /** What a row must have in the level's field to stand here; null: nothing. Absent where that cannot be given. */
  gives?: string | null;
  colour?: string | null;
}

interface Heading {
  segment: Segment;
  id: string;
  level: number;
  gives: Map<number, string | null>;
  path: Map<number, string>;
  below: Map<string, Heading>;
  rows: Activity[];
}

/** Spans of dates: the day that each begins with, and what it is called. */
function spanOf(day: Day, span: NonNullable<Level['span']>): { from: Day; label: string } {
  const c = civilOf(day);
  switch (span) {
    case 'day':
      return { from: day, label: showDay(day) };
    case 'week': {
      const from = day - weekdayOf(day);
      return { from, label: `Week of ${showDay(from)}` };
    }
    case 'month':
      return { from: dayOf(c.year, c.month, 1), label: `${monthNames[c.month - 1]!} ${c.year}` };
    case 'quarter': {
      const q = Math.floor((c.month - 1) / 3);
      return { from: dayOf(c.year, q * 3 + 1, 1), label: `Q${q + 1} ${c.year}` };
    }
    case 'year':
      return { from: dayOf(c.year, 1, 1), label: String(c.year) };
  }
}

/** How a code value is told where there is room: its name, with the short name before it where that does not say it already. */
export const codeLabel = (v: CodeValue): string => (!v.name ? v.short : v.name.toLowerCase().includes(v.short.toLowerCase()) ? v.name : `${v.short} · ${v.name}`);

const tidyNumber = (n: number): string => String(Math.round(n * 1e6) / 1e6);

/** How the rows of a level find their headings. */
function segmentsBy(level: Level, context: FieldContext): ((a: Activity) => Segment[]) | undefined {
  const { doc } = context;
  if (level.key === 'wbs') {
    const codes = wbsCodes(doc);
    const order = new Map([...codes.keys()].map((id, i) => [id, i]));
    // The codes come level by level; beside each other they are in their order.
    const way = new Map<string, Segment[]>();
    const wayTo = (id: string | null, depth = 0): Segment[] => {
      const node = id === null ? undefined : doc.wbs.get(id);
      if (!node || depth > 100) return [];
      let known = way.get(node.id);
      if (!known) {
        known = [
          ...wayTo(node.parentId, depth + 1),
          { id: node.id, label: `${codes.get(node.id) ?? ''} ${node.name}`.trim(), order: order.get(node.id) ?? null, gives: codes.get(node.id) ?? null },
        ];
        way.set(node.id, known);
      }
      return known;
    };
    const none: Segment[] = [{ id: '-', label: 'In no WBS node', order: null, gives: null }];
    return (a) => {
      const segments = wayTo(a.wbsId);
      return segments.length ? segments.slice(0, level.levels) : none;
    };
  }
  const f = fieldOf(doc, level.key);
  if (!f) return undefined;
  const nothing: Segment[] = [{ id: '-', label: `No ${f.title.toLowerCase() === f.title ? f.title : f.title[0]!.toLowerCase() + f.title.slice(1)}`, order: null, gives: null }];
  const typed = f.read !== undefined;
  const set = f.key.startsWith('code:') ? doc.codeSets.get(f.key.slice(5)) : undefined;
  if (set) {
    const values = new Map(set.values.map((v, i) => [v.id, { v, i }]));
    const wayTo = (id: string | null, depth = 0): Segment[] => {
      const at = id === null ? undefined : values.get(id);
      if (!at || depth > set.values.length) return [];
      const { v, i } = at;
      return [...wayTo(v.parentId, depth + 1), { id: v.id, label: codeLabel(v), order: i, gives: v.short, colour: v.colour }];
    };
    const ways = new Map<string, Segment[]>();
    return (a) => {
      const id = a.values[level.key];
      if (typeof id !== 'string' || !values.has(id)) return nothing;
      let known = ways.get(id);
      if (!known) ways.set(id, (known = wayTo(id).slice(0, level.levels)));
      return known;
    };
  }
  const order = orderIn(f, doc);
  const one = segmentOf(f, level, order, typed);
  return (a) => {
    const cell = activityCell(context, a);
    const segment = one(cell);
    return segment ? [segment] : nothing;
  };
}

function segmentOf(f: Field, level: Level, order: ReturnType<typeof orderIn>, typed: boolean): (cell: ReturnType<typeof activityCell>) => Segment | undefined {
  if (f.kind === 'date') {
    const span = level.span ?? 'month';
    // Days come again and again: each is reckoned once.
    const byDay = new Map<Day, Segment>();
    return (cell) => {
      const v = valueOf(f, cell);
      if (typeof v !== 'number') return undefined;
      const day = dayOfValue(f, v);
      let segment = byDay.get(day);
      if (!segment) {
        const { from, label } = spanOf(day, span);
        byDay.set(day, (segment = { id: String(from), label, order: from }));
      }
      return segment;
    };
  }
  if (level.step !== undefined && f.kind !== 'text' && f.kind !== 'choice' && f.kind !== 'links') {
    const { step } = level;
    const inDays = f.kind === 'duration' || f.kind === 'days';
    return (cell) => {
      const v = valueOf(f, cell);
      if (typeof v !== 'number') return undefined;
      const n = inDays ? v / perDayOf(cell) : v;
      const from = Math.floor(n / step + 1e-9) * step;
      return { id: tidyNumber(from), label: `${f.title} ${tidyNumber(from)} to below ${tidyNumber(from + step)}${inDays ? ' d' : ''}`, order: from };
    };
  }
  // A choice shows the same in every row: its heading is made once.
  const byChoice = f.kind === 'choice' ? new Map<Value, Segment>() : null;
  const made = (cell: ReturnType<typeof activityCell>, v: Value | null): Segment | undefined => {
    const text = showField(f, cell);
    // What is shown as nothing stands with nothing.
    if (v === null || v === '' || text === '') return undefined;
    return {
      id: text.toLowerCase(),
      label: f.kind === 'text' || f.kind === 'choice' ? text : `${f.title} ${text}`,
      order: order(v),
      ...(typed ? { gives: f.edit?.(cell) ?? text } : {}),
    };
  };
  return (cell) => {
    const v = valueOf(f, cell);
    const known = v === null ? undefined : byChoice?.get(v);
    if (known) return known;
    const segment = made(cell, v);
    if (segment && v !== null) byChoice?.set(v, segment);
    return segment;
  };
}

const compareOrder = (a: OrderKey, b: OrderKey): number =>
  a === null || b === null ? (a === b ? 0 : a === null ? 1 : -1) : typeof a === 'number' && typeof b === 'number' ? a - b : texts.compare(String(a), String(b));
const texts = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** Levels without those whose field is not there. */
export const knownLevels = (doc: Document, levels: readonly Level[]): Level[] => levels.filter((l) => l.key === 'wbs' || fieldOf(doc, l.key) !== undefined);

/**
 * Activities under headings: level within level, values in the order of their field and *no value* last, rows within as they
 * were given. What lies in a closed heading is left out. Levels whose field is not there are passed over. `told` takes all
 * headings, hidden ones too.
 */
export function groupRows(
  list: readonly Activity[],
  levels: readonly Level[],
  context: FieldContext,
  closed: ReadonlySet<string> = new Set(),
  told: { id: string; depth: number }[] = [],
): OutlineRow[] {
  const by = levels.flatMap((level, i) => {
    const segments = segmentsBy(level, context);
    return segments ? [{ segments, i }] : [];
  });
  if (by.length === 0) return list.map((activity): OutlineRow => ({ kind: 'activity', id: activity.id, depth: 0, activity }));
  const top = new Map<string, Heading>();
  for (const a of list) {
    let below = top;
    let at: Heading | undefined;
    for (const { segments, i } of by)
      for (const segment of segments(a)) {
        const key = `${i}=${segment.id}`;
        let next = below.get(key);
        if (!next) {
          const gives = new Map(at?.gives);
          if (segment.gives !== undefined) gives.set(i, segment.gives);
          const path = new Map(at?.path);
          path.set(i, path.has(i) && at?.level === i ? `${path.get(i)}/${segment.id}` : segment.id);
          next = { segment, id: `${at?.id ?? GROUP}${at ? '/' : ''}${key}`, level: i, gives, path, below: new Map(), rows: [] };
          below.set(key, next);
        }
        at = next;
        below = next.below;
      }
    at?.rows.push(a);
  }
  const out: OutlineRow[] = [];
  const show = (headings: Map<string, Heading>, depth: number, prefix: string, hidden: boolean): { members: string[]; rollup: ReturnType<typeof blankRollup> }[] =>
    [...headings.values()]
      .sort((a, b) => compareOrder(a.segment.order, b.segment.order))
      .map((h, n) => {
        const code = `${prefix}${n + 1}`;
        told.push({ id: h.id, depth });
        const inside = hidden || closed.has(h.id);
        const members: string[] = [];
        const rollup = blankRollup();
        const place = out.length;
        const facts: GroupFacts = { level: h.level, gives: h.gives, path: h.path, count: 0, colour: h.segment.colour ?? null, members };
        const row: OutlineRow = { kind: 'wbs', id: h.id, depth, node: { ...wbsDefaults, id: h.id, rank: 0, name: h.segment.label }, code, group: facts };
        if (!hidden) out.push(row);
        // Rows that stand right here come before what is nested deeper.
        for (const a of h.rows) {
          members.push(a.id);
          addShown(rollup, a, context);
          if (!inside) out.push({ kind: 'activity', id: a.id, depth: depth + 1, activity: a });
        }
        for (const d of show(h.below, depth + 1, `${code}.`, inside)) {
          for (const id of d.members) members.push(id);
          rollup.add(d.rollup);
        }
        if (!hidden && row.kind === 'wbs') out[place] = { ...row, group: { ...facts, count: members.length }, rollup: finished(rollup, context) };
        return { members, rollup };
      });
  show(top, 0, '', false);
  return out;
}

/** Where an activity stands among the values of each level, as the headings tell of it. */
export function pathsOf(levels: readonly Level[], context: FieldContext): (a: Activity) => Map<number, string> {
  const by = levels.flatMap((level, i) => {
    const segments = segmentsBy(level, context);
    return segments ? [{ segments, i }] : [];
  });
  return (a) =>
    new Map(
      by.map(({ segments, i }) => [
        i,
        segments(a)
          .map((s) => s.id)
          .join('/'),
      ]),
    );
}
