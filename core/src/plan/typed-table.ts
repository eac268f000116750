/** A plan as rows of a spreadsheet, with heads over the columns: level or WBS code, name, duration, links, dates. */
import { asNode, emptyRow, nested, readDate, type Reading, readSize, type TypedRow } from './typed-lines.ts';

const columns = {
  level: ['level', 'outline level', 'depth'],
  wbs: ['wbs', 'wbs code', 'code path', 'outline number'],
  number: ['no', 'no.', 'number', 'nr', 'nr.', 'id', 'activity no.', 'activity number'],
  name: ['activity', 'name', 'activity name', 'title', 'description', 'work', 'task'],
  duration: ['duration', 'dur', 'dur.', 'days', 'original duration', 'length'],
  after: ['predecessors', 'predecessor', 'after', 'depends on', 'links'],
  from: ['start', 'start not before', 'from', 'not before'],
  by: ['deadline', 'by', 'finish by'],
  type: ['type', 'kind'],
  notes: ['notes', 'note', 'remarks', 'comment', 'comments'],
} as const;
type Column = keyof typeof columns;

/** Which column each head names; undefined where there is no name among them. */
export function readHeads(heads: readonly string[]): Map<Column, number> | undefined {
  const found = new Map<Column, number>();
  heads.forEach((head, i) => {
    const text = head.trim().toLowerCase();
    for (const key of Object.keys(columns) as Column[]) if (!found.has(key) && (columns[key] as readonly string[]).includes(text)) found.set(key, i);
  });
  return found.has('name') ? found : undefined;
}

/** Heads that were given and that nothing is taken from. */
export const unusedHeads = (heads: readonly string[]): string[] => {
  const used = new Set(readHeads(heads)?.values());
  return heads.filter((h, i) => h.trim() !== '' && !used.has(i));
};

/** Reads rows under their heads (the first row). Lines are counted with the heads, as a spreadsheet does. */
export function readTable(table: readonly (readonly string[])[], how: Reading): TypedRow[] {
  const heads = readHeads(table[0] ?? []);
  if (!heads) return [];
  const lines = table.slice(1).flatMap((cells, i) => (cells.every((c) => c.trim() === '') ? [] : [{ line: i + 2, cells }]));
  const cell = (cells: readonly string[], key: Column): string => cells[heads.get(key) ?? -1]?.trim() ?? '';
  const codes = lines.map(({ cells }) => cell(cells, 'wbs').replace(/\.$/, ''));
  const rows = lines.map(({ line, cells }, i) => {
    const row = emptyRow(line, 0);
    row.name = cell(cells, 'name');
    row.number = cell(cells, 'number') || null;
    row.notes = cell(cells, 'notes');
    if (row.name === '') row.faults.push('There is no name.');
    const size = cell(cells, 'duration');
    if (size !== '') readSize(row, size, how);
    row.after = cell(cells, 'after')
      .split(/\s*[,;\n]\s*/)
      .filter(Boolean);
    for (const which of ['from', 'by'] as const) if (cell(cells, which) !== '') readDate(row, which, cell(cells, which), how);
    const type = cell(cells, 'type').toLowerCase();
    if (type.includes('start') && type.includes('milestone')) row.kind = 'startMilestone';
    else if (type.includes('milestone') || row.minutes === 0) row.kind = 'finishMilestone';
    if (heads.has('level'))
      row.depth = level(
        row,
        cell(cells, 'level'),
        lines.map((l) => cell(l.cells, 'level')),
      );
    else if (heads.has('wbs')) row.depth = depthOf(row, codes, i);
    // A spreadsheet's indents in front of the name, where nothing else says the level.
    else row.depth = Math.floor((/^\s*/.exec(cells[heads.get('name') ?? 0] ?? '')?.[0].length ?? 0) / 2);
    return row;
  });
  const tree = nested(rows);
  // A code that others lie under is a node, also where it has none of them here.
  if (heads.has('wbs') && !heads.has('level'))
    tree.forEach((row, i) => {
      if (codes[i] !== '' && codes.some((c, j) => j !== i && (c.startsWith(`${codes[i] as string}.`) || (c === codes[i] && j > i && codes.indexOf(c) === i)))) asNode(row);
    });
  return tree;
}

/** Levels count from the least that is there. */
function level(row: TypedRow, text: string, all: readonly string[]): number {
  if (!/^\d{1,2}$/.test(text)) {
    row.faults.push(text === '' ? 'There is no level.' : `The level ${text} is not a number from 1 to 99.`);
    return 0;
  }
  return Number(text) - Math.min(...all.filter((t) => /^\d{1,2}$/.test(t)).map(Number));
}

/** By its code: how many of the codes before it it lies under. A code for the second time lies in the node of that code. */
function depthOf(row: TypedRow, codes: readonly string[], i: number): number {
  const code = codes[i] ?? '';
  if (code === '' || !/^[\w-]+(\.[\w-]+)*$/.test(code)) {
    row.faults.push(code === '' ? 'There is no WBS code.' : `The WBS code ${code} cannot be read. Write it as 1.2.3.`);
    return 0;
  }
  const parts = code.split('.');
  const above = new Set(codes.slice(0, i));
  let depth = above.has(code) ? 1 : 0;
  for (let n = 1; n < parts.length; n++) if (above.has(parts.slice(0, n).join('.'))) depth++;
  return depth;
}
