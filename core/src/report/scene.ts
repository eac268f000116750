/**
 * A report as pages of plain shapes in points (1/72 inch, origin at the top left): drawn as SVG for the preview and as
 * PDF by the server, so that both are the same picture.
 */
import type { Hatching } from '../model/view-schema.ts';

export type Colour = 'paper' | 'ink' | 'muted' | 'hairline' | 'slate' | 'slateLight' | 'chestnut' | 'yellow' | 'texture';

/** Colours on paper: always the light ones. */
export const colours: Record<Colour, string> = {
  paper: '#FFFFFF',
  ink: '#1F2421',
  muted: '#5F645C',
  hairline: '#DED7C8',
  slate: '#4A6355',
  slateLight: '#B9C8BC',
  chestnut: '#8C3B2A',
  yellow: '#F0B90B',
  texture: '#F1ECE0',
};

/** A colour of the list, or one of the plan's own. */
export type Ink = Colour | `#${string}`;
export const inkOf = (ink: Ink): string => (ink.startsWith('#') ? ink : colours[ink as Colour]);

export type Face = 'sans' | 'sansBold' | 'serif';

export type Shape =
  | { kind: 'rect'; x: number; y: number; w: number; h: number; fill?: Ink; stroke?: Ink; line?: number }
  | { kind: 'line'; x1: number; y1: number; x2: number; y2: number; stroke: Ink; line: number; dash?: number[] }
  | { kind: 'polygon'; points: number[]; fill?: Ink; stroke?: Ink; line?: number }
  | { kind: 'picture'; x: number; y: number; w: number; h: number; /** SHA-256 of its content. */ hash: string }
  | { kind: 'text'; x: number; y: number; text: string; size: number; face: Face; fill: Ink; align: 'left' | 'right' | 'centre' };

export interface Page {
  width: number;
  height: number;
  shapes: Shape[];
}

/** Width of a text in points. */
export type Measure = (text: string, size: number, face: Face) => number;

/** The text, shortened with an ellipsis to fit a width. */
export function fitText(measure: Measure, text: string, width: number, size: number, face: Face): string {
  if (measure(text, size, face) <= width) return text;
  let low = 0;
  let high = text.length;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (measure(`${text.slice(0, middle)}…`, size, face) <= width) low = middle;
    else high = middle - 1;
  }
  return low === 0 ? '' : `${text.slice(0, low).trimEnd()}…`;
}

/** Sizes in points, portrait. */
export const papers = { a4: [595.28, 841.89], a3: [841.89, 1190.55], letter: [612, 792] } as const;
export type Paper = keyof typeof papers;

/** The same colour, lighter by a share of white: for work ahead. */
export function lighter(colour: string, share: number): `#${string}` {
  const part = (at: number): string => {
    const v = Number.parseInt(colour.slice(at, at + 2), 16);
    return Math.round(v + (255 - v) * share)
      .toString(16)
      .padStart(2, '0');
  };
  return `#${part(1)}${part(3)}${part(5)}`;
}

/** Lines of a hatching within a rectangle, in the colour of paper. */
export function hatch(kind: Hatching, x: number, y: number, w: number, h: number): Shape[] {
  if (kind === 'none' || w < 1) return [];
  const out: Shape[] = [];
  const line = (x1: number, y1: number, x2: number, y2: number): void => void out.push({ kind: 'line', x1, y1, x2, y2, stroke: 'paper', line: 0.6 });
  const gap = 3.2;
  if (kind === 'upright') for (let at = x + gap / 2; at < x + w; at += gap) line(at, y, at, y + h);
  if (kind === 'dotted') for (let at = x + gap / 2; at < x + w; at += gap) out.push({ kind: 'rect', x: at, y: y + h / 2 - 0.6, w: 1.2, h: 1.2, fill: 'paper' });
  // Slanted lines are cut at the ends of the rectangle.
  const slanted = (up: boolean): void => {
    for (let at = x - h; at < x + w; at += gap) {
      const [a, b] = [Math.max(at, x), Math.min(at + h, x + w)];
      if (b > a) line(a, up ? y + h - (a - at) : y + (a - at), b, up ? y + h - (b - at) : y + (b - at));
    }
  };
  if (kind === 'rising' || kind === 'crossed') slanted(true);
  if (kind === 'falling' || kind === 'crossed') slanted(false);
  return out;
}
