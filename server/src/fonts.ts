/** The fonts of reports: the bundled open fonts, by subset, so that names in other scripts print too. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import * as fontkit from 'fontkit';
import type { Face, Measure } from '@yellowhammer/core/report/scene';

const require = createRequire(import.meta.url);
const subsets = ['latin', 'latin-ext', 'cyrillic', 'cyrillic-ext', 'greek', 'greek-ext', 'vietnamese'];
const files: Record<Face, string> = {
  sans: 'source-sans-3/files/source-sans-3-%-400-normal.woff',
  sansBold: 'source-sans-3/files/source-sans-3-%-600-normal.woff',
  serif: 'source-serif-4/files/source-serif-4-%-600-normal.woff',
};
/** Other scripts, of one weight, in the order in which they are tried. Each comes in slices by ranges of characters. */
const others = ['noto-sans-sc', 'noto-sans-kr', 'noto-sans-arabic', 'noto-sans-hebrew', 'noto-sans-devanagari', 'noto-sans-thai'];
/** Stands for a character that no font has. */
const MISSING = '\u25a1';

export interface LoadedFont {
  key: string;
  data: Buffer;
  font: fontkit.Font;
}

const load = (key: string, file: string): LoadedFont | undefined => {
  try {
    const data = readFileSync(require.resolve(`@fontsource/${file}`));
    return { key, data, font: fontkit.create(data) as fontkit.Font };
  } catch {
    return undefined; // A face without this subset: the others serve.
  }
};

const loaded = new Map<Face, LoadedFont[]>();

/** The subsets of a face, the most used first. */
function fontsOf(face: Face): LoadedFont[] {
  let list = loaded.get(face);
  if (!list) loaded.set(face, (list = subsets.flatMap((subset) => load(`${face} ${subset}`, files[face].replace('%', subset)) ?? [])));
  return list;
}

interface Slice {
  key: string;
  file: string;
  ranges: [number, number][];
  font?: LoadedFont | null;
}
let slices: Slice[] | undefined;

/** Slices of the other scripts by the ranges that their packages list; a slice is read when a letter of it is met. */
function slicesOfOthers(): Slice[] {
  slices ??= others.flatMap((name): Slice[] => {
    const ranges = JSON.parse(readFileSync(require.resolve(`@fontsource/${name}/unicode.json`), 'utf8')) as Record<string, string>;
    return Object.entries(ranges).map(([slice, text]) => ({
      key: `${name} ${slice}`,
      file: `${name}/files/${name}-${slice.replace(/[[\]]/g, '')}-400-normal.woff`,
      ranges: text.split(',').map((r): [number, number] => {
        const [a = '', b] = r.trim().replace('U+', '').split('-');
        return [Number.parseInt(a, 16), Number.parseInt(b ?? a, 16)];
      }),
    }));
  });
  return slices;
}

/** A font of another script that has a character; undefined where none has. */
function otherFont(code: number): LoadedFont | undefined {
  for (const s of slicesOfOthers()) {
    if (!s.ranges.some(([a, b]) => code >= a && code <= b)) continue;
    if (s.font === undefined) s.font = load(s.key, s.file) ?? null;
    if (s.font?.font.hasGlyphForCodePoint(code)) return s.font;
  }
  return undefined;
}

const found = new Map<string, { letter: string; font: LoadedFont }>();

/** What a letter is printed as, and with which font; a hollow square where no font has it. Kept by letter. */
function glyphOf(letter: string, face: Face): { letter: string; font: LoadedFont } {
  const key = face + letter;
  let known = found.get(key);
  if (!known) {
    const code = letter.codePointAt(0) as number;
    const fonts = fontsOf(face);
    const font = fonts.find((f) => f.font.hasGlyphForCodePoint(code)) ?? otherFont(code);
    known = font ? { letter, font } : letter === MISSING ? { letter: '?', font: fonts[0]! } : glyphOf(MISSING, face);
    found.set(key, known);
  }
  return known;
}

/** A text in pieces, each with the font that has its letters. */
export function runsOf(text: string, face: Face): { text: string; font: LoadedFont }[] {
  const runs: { text: string; font: LoadedFont }[] = [];
  for (const char of text) {
    const { letter, font } = glyphOf(char, face);
    const last = runs[runs.length - 1];
    if (last && last.font === font) last.text += letter;
    else runs.push({ text: letter, font });
  }
  return runs;
}

const widths = new Map<string, number>();

/** Width of a text in points, letter by letter (kept, since reports measure the same letters over and over). */
export const measure: Measure = (text, size, face) => {
  let n = 0;
  for (const char of text) {
    const key = face + char;
    let w = widths.get(key);
    if (w === undefined) {
      const { letter, font } = glyphOf(char, face);
      w = font.font.glyphForCodePoint(letter.codePointAt(0) as number).advanceWidth / font.font.unitsPerEm;
      widths.set(key, w);
    }
    n += w;
  }
  return n * size;
};
