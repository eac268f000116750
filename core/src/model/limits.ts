/**
 * How large things may be, by what they cost: beyond these, and beyond the rows that each table may have (tables.ts), a file is refused with the place, a change is not taken.
 * Measured by `npm run bench` and told in docs/file-format.md.
 */
export const limits = {
  /** Levels of the WBS. */
  wbsDepth: 100,
  /** Problems of reading that are listed one by one; the rest is counted. */
  problemsListed: 1_000,
  /** Rows that cannot be read as they stand, before a file counts as unsound. */
  wrongRows: 5_000,
  /** Objects and lists in the JSON of a file. */
  jsonParts: 4_000_000,
} as const;

/** Objects and lists that a JSON text holds at most: its opening brackets, those in strings too. */
export function jsonParts(text: string): number {
  let n = 0;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (c === 0x5b || c === 0x7b) n++;
  }
  return n;
}
