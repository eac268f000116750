/**
 * A plan as people write it down: lines with indents, tabs or bullets, with or without durations, links and dates.
 * `Strip floor 4d after Release, 120ss+2d from 12 mar by 30 apr`. What is read here does not know the plan yet.
 */
import type { DayLengths } from '../time/duration.ts';
import { parseDuration } from '../time/duration.ts';
import type { Day } from '../time/instant.ts';
import { parseTypedDate } from '../time/typed-date.ts';

/** One row as it was understood. */
export interface TypedRow {
  /** Place in the text, from 1. */
  line: number;
  /** Level under the place where it goes, from 0. */
  depth: number;
  kind: 'node' | 'activity' | 'startMilestone' | 'finishMilestone';
  name: string;
  /** Number that was given (`#120`); null: the next free one. */
  number: string | null;
  /** Working minutes; null where none was written. */
  minutes: number | null;
  /** Predecessors as they were written: `120ss+2d`, `Strip floor`, `above`. */
  after: string[];
  /** Start not before, and deadline, in the form of the file. */
  from: string | null;
  by: string | null;
  notes: string;
  /** What could not be read, as sentences. */
  faults: string[];
}

/** What reading needs to know: the length of a day, and the day that dates without a year are near to. */
export interface Reading {
  lengths: DayLengths;
  near: Day;
}

const BULLET = /^(?:[-*•‣·–—o]\s+|\d{1,3}[.)]\s+|[a-zA-Z][.)]\s+|\[[ xX]?\]\s+)/;
const OUTLINE = /^(\d{1,3}(?:\.\d{1,3})+)\.?\s+|^(\d{1,3})\.?\s+/;
const UNITS = '(?:working )?(?:days?|d|weeks?|wks?|w|hours?|hrs?|h|minutes?|mins?|min|m)';
const SIZE = new RegExp(`(?:^|[\\s,(:–-]+)(\\d+(?:[.,]\\d+)?\\s?${UNITS}(?:\\s\\d+\\s?${UNITS})?)\\)?\\s*$`, 'i');
const MILESTONE = /[\s,(:–-]+((?:start |finish )?milestone)\)?\s*$/i;
const CLAUSE = /\s+(after|from|not before|by)\s+/gi;

/** A row of which nothing is known yet. */
export const emptyRow = (line: number, depth: number): TypedRow => ({
  line,
  depth,
  kind: 'activity',
  name: '',
  number: null,
  minutes: null,
  after: [],
  from: null,
  by: null,
  notes: '',
  faults: [],
});

/** `4 days` as `4d`, for the one reader of durations that there is. */
export const shortUnits = (text: string): string =>
  text
    .toLowerCase()
    .replace(/working /g, '')
    .replace(/(\d)\s*(weeks?|wks?)\b/g, '$1w')
    .replace(/(\d)\s*(days?)\b/g, '$1d')
    .replace(/(\d)\s*(hours?|hrs?)\b/g, '$1h')
    .replace(/(\d)\s*(minutes?|mins?|min)\b/g, '$1m');

/** Reads what is written on one line behind its indent and bullet. */
function readLine(text: string, line: number, depth: number, how: Reading): TypedRow {
  const row = emptyRow(line, depth);
  let rest = text.trim();
  const number = /^#(\S{1,40})\s+/.exec(rest);
  if (number) {
    row.number = number[1] as string;
    rest = rest.slice(number[0].length);
  }
  // A name in quotes is taken whole, whatever words are in it.
  const quoted = /^["“]([^"”]*)["”]/.exec(rest);
  if (!quoted && /^["“]/.test(rest)) row.faults.push('The quotation mark is not closed.');
  const name = quoted ? (quoted[1] as string) : undefined;
  if (quoted) rest = ` ${rest.slice(quoted[0].length)}`;
  const clauses = [...rest.matchAll(CLAUSE)];
  const head = clauses[0] ? rest.slice(0, clauses[0].index) : rest;
  clauses.forEach((m, i) => {
    const value = rest.slice(m.index + m[0].length, clauses[i + 1]?.index ?? rest.length).trim();
    const word = (m[1] as string).toLowerCase();
    if (word === 'after') row.after.push(...value.split(/\s*[,;]\s*/).filter(Boolean));
    else readDate(row, word === 'by' ? 'by' : 'from', value, how);
  });
  let title = head;
  const milestone = MILESTONE.exec(title);
  if (milestone) title = title.slice(0, milestone.index);
  const size = SIZE.exec(title);
  if (size) {
    title = title.slice(0, size.index);
    readSize(row, size[1] as string, how);
  }
  const word = (milestone?.[1] ?? '').toLowerCase();
  if (word.startsWith('start')) row.kind = 'startMilestone';
  else if (word !== '' || row.minutes === 0) row.kind = 'finishMilestone';
  if (row.kind !== 'activity' && row.minutes !== null && row.minutes > 0) row.faults.push('A milestone has no duration. Leave one of the two out.');
  row.name = (name ?? title).trim();
  if (row.name === '') row.faults.push('There is no name.');
  return row;
}

/** Takes a written duration over, or says that it cannot be read. */
export function readSize(row: TypedRow, text: string, how: Reading): void {
  const minutes = parseDuration(shortUnits(text), how.lengths);
  if (minutes === undefined || minutes < 0) row.faults.push(`The duration ${text} cannot be read. Write it as 4d, 2w or 6h.`);
  else row.minutes = minutes;
}

export function readDate(row: TypedRow, which: 'from' | 'by', text: string, how: Reading): void {
  const date = parseTypedDate(text, how.near);
  if (date === undefined) row.faults.push(`The date ${text} cannot be read. Write it as 12 Mar 27 or 2027-03-12.`);
  else row[which] = date;
}

const width = (indent: string): number => [...indent].reduce((n, c) => (c === '\t' ? (Math.floor(n / 4) + 1) * 4 : n + 1), 0);

/**
 * Reads lines. The level follows from indents; where there are none and lines begin with outline numbers (`1.2`), from
 * those. What has deeper lines below it is a WBS node.
 */
export function readLines(text: string, how: Reading): TypedRow[] {
  const lines = text
    .replace(/\u00a0/g, ' ')
    .split(/\r?\n/)
    .flatMap((raw, i) => (raw.trim() === '' ? [] : [{ line: i + 1, indent: width(/^[ \t]*/.exec(raw)?.[0] ?? ''), body: raw.trim() }]));
  const numbered = lines.filter((l) => OUTLINE.test(l.body)).length * 2 > lines.length && lines.some((l) => /^\d+\.\d/.test(l.body));
  const stack: number[] = [];
  const rows = lines.map(({ line, indent, body }) => {
    const outline = numbered ? OUTLINE.exec(body) : null;
    // Behind an outline number stands the name, and a bullet is stripped but once.
    const rest = body.replace(outline ? OUTLINE : BULLET, '');
    if (outline) return readLine(rest, line, (outline[1] ?? outline[2] ?? '').split('.').length - 1, how);
    while (stack.length && stack[stack.length - 1]! > indent) stack.pop();
    if (stack[stack.length - 1] !== indent) stack.push(indent);
    return readLine(rest, line, stack.length - 1, how);
  });
  return nested(rows);
}

/** Levels without gaps, and nodes where something lies below. */
export function nested(rows: TypedRow[]): TypedRow[] {
  rows.forEach((row, i) => {
    const before = rows[i - 1];
    const deepest = before ? before.depth + 1 : 0;
    if (row.depth > deepest) {
      if (before) row.faults.push(`It is ${row.depth - before.depth} levels below the line above. Go one level down at a time.`);
      // Where it belongs is not known: beside the line above, so that it makes no node of that.
      row.depth = before?.depth ?? 0;
    }
    if (before && row.depth > before.depth) asNode(before);
  });
  return rows;
}

/** A WBS node has no duration, links or dates of its own: what was written of them is told. */
export function asNode(row: TypedRow): void {
  if (row.kind === 'node') return;
  if (row.minutes !== null || row.after.length || row.from !== null || row.by !== null)
    row.faults.push('There are rows inside, so it is a WBS node, which has no duration, links or dates of its own. Give them to a row inside.');
  row.kind = 'node';
}
