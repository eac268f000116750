/**
 * A report as pages of plain shapes in points (1/72 inch, origin at the top left): drawn as SVG for the preview and as
 * PDF by the server, so that both are the same picture.
 */
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

export type Face = 'sans' | 'sansBold' | 'serif';

export type Shape =
  | { kind: 'rect'; x: number; y: number; w: number; h: number; fill?: Colour; stroke?: Colour; line?: number }
  | { kind: 'line'; x1: number; y1: number; x2: number; y2: number; stroke: Colour; line: number; dash?: number[] }
  | { kind: 'polygon'; points: number[]; fill?: Colour; stroke?: Colour; line?: number }
  | { kind: 'text'; x: number; y: number; text: string; size: number; face: Face; fill: Colour; align: 'left' | 'right' | 'centre' };

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
