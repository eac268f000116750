/** Finding by what somebody types: the words of the list, and those that mean the same to a planner. */

/** What is looked through: its title counts most. */
export interface Findable {
  title: string;
  /** What else it can be found by. */
  rest: string;
}

/** Words that say nothing about what is meant, where others do. */
const fillers = new Set(['a', 'an', 'the', 'to', 'of', 'for', 'my', 'it', 'this', 'and']);

/** What is typed for the same. */
const alike: readonly (readonly string[])[] = [
  ['add', 'new', 'insert', 'create', 'make'],
  ['delete', 'remove', 'erase', 'clear'],
  ['edit', 'change', 'set', 'modify', 'define'],
  ['show', 'hide', 'display', 'toggle', 'close'],
  ['keep', 'save', 'store'],
];

const wordsOf = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

/** What a word is looked for as, each with what it is worth: as typed, without the s of many, and what means the same. */
function formsOf(word: string): [form: string, worth: number][] {
  return [
    [word, 3],
    ...(word.length > 3 && word.endsWith('s') ? [[word.slice(0, -1), 2] as [string, number]] : []),
    ...alike.flatMap((g) => (g.includes(word) ? g.filter((w) => w !== word).map((w): [string, number] => [w, 1]) : [])),
  ];
}

/** How well a typed word fits: 0 not at all; in the title better than beside it, a whole word better than a beginning. */
function fit(word: string, title: readonly string[], rest: readonly string[]): number {
  let best = 0;
  for (const [form, worth] of formsOf(word)) {
    const begins = (w: string): boolean => w.startsWith(form);
    if (title.some(begins)) best = Math.max(best, 4 + worth + (title.includes(form) ? 1 : 0));
    else if (rest.some(begins)) best = Math.max(best, worth + (rest.includes(form) ? 1 : 0));
  }
  return best;
}

/**
 * What a text finds, the best first; of equals the order of the list. Every word counts, but fillers, and stands at the
 * beginning of a word; where nothing is found so, anywhere. An empty text finds all.
 */
export function found<T>(query: string, list: readonly T[], of: (x: T) => Findable): T[] {
  const typed = wordsOf(query);
  const telling = typed.filter((w) => !fillers.has(w));
  const words = telling.length ? telling : typed;
  if (words.length === 0) return query.trim() === '' ? [...list] : [];
  const whole = words.join(' ');
  const scored = list.flatMap((x) => {
    const { title, rest } = of(x);
    const [inTitle, beside] = [wordsOf(title), wordsOf(rest)];
    const fits = words.map((w) => fit(w, inTitle, beside));
    if (fits.includes(0)) return [];
    // A title that is what was typed, or begins so, is what is meant; else of equals that which says the least besides.
    const called = inTitle.filter((w) => !fillers.has(w) && w !== 'go');
    const name = called.join(' ');
    const more = name === whole ? 20 : name.startsWith(whole) ? 3 : 0;
    return [{ x, score: fits.reduce((sum, n) => sum + n, 0) + more + words.length / Math.max(called.length, words.length) }];
  });
  if (scored.length) return scored.sort((a, b) => b.score - a.score).map((s) => s.x);
  return list.filter((x) => {
    const text = `${of(x).title} ${of(x).rest}`.toLowerCase();
    return words.every((w) => text.includes(w));
  });
}
