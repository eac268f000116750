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

export interface LoadedFont {
  key: string;
  data: Buffer;
  font: fontkit.Font;
}

const loaded = new Map<Face, LoadedFont[]>();

/** The subsets of a face, the most used first. */
function fontsOf(face: Face): LoadedFont[] {
  let list = loaded.get(face);
  if (!list) {
    list = subsets.flatMap((subset) => {
      try {
        const data = readFileSync(require.resolve(`@fontsource/${files[face].replace('%', subset)}`));
        return [{ key: `${face} ${subset}`, data, font: fontkit.create(data) as fontkit.Font }];
      } catch {
        return []; // A face without this subset: the others serve.
      }
    });
    loaded.set(face, list);
  }
  return list;
}

/** A text in pieces, each with the font that has its letters. */
export function runsOf(text: string, face: Face): { text: string; font: LoadedFont }[] {
  const fonts = fontsOf(face);
  const runs: { text: string; font: LoadedFont }[] = [];
  for (const letter of text) {
    const font = fonts.find((f) => f.font.hasGlyphForCodePoint(letter.codePointAt(0) as number)) ?? fonts[0];
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
  for (const letter of text) {
    const key = face + letter;
    let w = widths.get(key);
    if (w === undefined) {
      const font = runsOf(letter, face)[0].font.font;
      w = font.glyphForCodePoint(letter.codePointAt(0) as number).advanceWidth / font.unitsPerEm;
      widths.set(key, w);
    }
    n += w;
  }
  return n * size;
};
