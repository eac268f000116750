/**
 * Names for copies by a pattern: `{name}` is the name that was copied, `{2..6}` counts (also `{A..E}` and downward),
 * `{Kitchen, Bath, Hall}` goes through a list. Several parts in braces go together; the shortest says how many there are.
 */

export interface Pattern {
  /** How many names it has in it; null where nothing in it counts. */
  count: number | null;
  /** The name of the n-th copy, from 0. */
  text: (n: number, name: string) => string;
}

const MOST = 1000;
const letters = /^[A-Za-z]$/;

/** What a part in braces goes through; undefined where it is no such part. */
function listOf(inside: string): string[] | undefined {
  const range = /^\s*(\d{1,6}|[A-Za-z])\s*\.\.\s*(\d{1,6}|[A-Za-z])\s*$/.exec(inside);
  if (range) {
    const [, a, b] = range as unknown as [string, string, string];
    const byLetter = letters.test(a) && letters.test(b);
    if (letters.test(a) !== letters.test(b)) return undefined;
    const [from, to] = byLetter ? [a.charCodeAt(0), b.charCodeAt(0)] : [Number(a), Number(b)];
    if (Math.abs(to - from) >= MOST) return undefined;
    // Leading zeros are kept: {01..12}.
    const text = (n: number): string => (byLetter ? String.fromCharCode(n) : String(n).padStart(a.startsWith('0') ? a.length : 0, '0'));
    return Array.from({ length: Math.abs(to - from) + 1 }, (_, i) => text(from + Math.sign(to - from) * i));
  }
  const list = inside.split(',').map((s) => s.trim());
  return list.length > 1 && list.every((s) => s !== '') ? list.slice(0, MOST) : undefined;
}

/** Reads a pattern; the sentence says what is wrong with it. */
export function readPattern(pattern: string): Pattern | { error: string } {
  const parts: { text: string; list: readonly string[] | null; name: boolean }[] = [];
  let at = 0;
  for (const m of pattern.matchAll(/\{([^{}]*)\}/g)) {
    const inside = m[1] ?? '';
    const list = inside.trim().toLowerCase() === 'name' ? null : listOf(inside);
    if (list === undefined) return { error: `{${inside}} cannot be read. Write {name}, a range such as {2..6}, or a list such as {Kitchen, Bath}.` };
    parts.push({ text: pattern.slice(at, m.index), list: null, name: false }, { text: '', list, name: list === null });
    at = m.index + m[0].length;
  }
  const rest = pattern.slice(at);
  if (/[{}]/.test(rest) || parts.some((p) => /[{}]/.test(p.text))) return { error: 'A brace is not closed. Write {2..6} or {Kitchen, Bath}.' };
  parts.push({ text: rest, list: null, name: false });
  const lengths = parts.flatMap((p) => (p.list ? [p.list.length] : []));
  return {
    count: lengths.length ? Math.min(...lengths) : null,
    text: (n, name) => parts.map((p) => p.text + (p.name ? name : p.list ? (p.list[n] ?? '') : '')).join(''),
  };
}
