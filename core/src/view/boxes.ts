/** Where boxes of the network stand, beside what a layout package does: along time, in bands, ranks; and who is next to whom. */
import type { Activity, Link } from '../model/schema.ts';
import { placeOf, type ScheduleView } from '../schedule/view.ts';
import { MINUTES_PER_DAY } from '../time/instant.ts';

export interface Box {
  id: string;
  x: number;
  y: number;
}

export interface Placed {
  boxes: Map<string, Box>;
  width: number;
  height: number;
  bands: { name: string; top: number; height: number }[];
}

/** Sizes in pixels. */
export const boxWidth = 172;
export const columnGap = 46;
export const rowGap = 14;

/** The length of the longest chain of links that leads to each activity; links that close a ring count nothing. */
export function ranks(ids: readonly string[], links: readonly Pick<Link, 'from' | 'to'>[]): Map<string, number> {
  const into = new Map<string, number>(ids.map((id) => [id, 0]));
  const out = new Map<string, string[]>();
  for (const l of links) {
    into.set(l.to, (into.get(l.to) ?? 0) + 1);
    const list = out.get(l.from);
    if (list) list.push(l.to);
    else out.set(l.from, [l.to]);
  }
  const rank = new Map<string, number>(ids.map((id) => [id, 0]));
  const ready = ids.filter((id) => into.get(id) === 0);
  for (let i = 0; i < ready.length; i++) {
    const id = ready[i]!;
    for (const to of out.get(id) ?? []) {
      rank.set(to, Math.max(rank.get(to) ?? 0, (rank.get(id) ?? 0) + 1));
      const left = (into.get(to) ?? 1) - 1;
      into.set(to, left);
      if (left === 0) ready.push(to);
    }
  }
  return rank;
}

/**
 * Boxes one band below the other, within a band as high as need be: each box takes the first row that is free at its place.
 * `xOf`: the left edge of each box in pixels.
 */
export function inBands(bands: readonly { name: string; ids: readonly string[] }[], xOf: (id: string) => number, boxHeight: number): Placed {
  const boxes = new Map<string, Box>();
  const out: Placed['bands'] = [];
  let top = 0;
  let width = 0;
  for (const band of bands) {
    const ends: number[] = [];
    const placed = band.ids.map((id) => ({ id, x: xOf(id) })).sort((a, b) => a.x - b.x);
    for (const { id, x } of placed) {
      let row = ends.findIndex((end) => end <= x);
      if (row < 0) row = ends.length;
      ends[row] = x + boxWidth + 10;
      boxes.set(id, { id, x, y: top + 8 + row * (boxHeight + rowGap) });
      width = Math.max(width, x + boxWidth);
    }
    const height = Math.max(1, ends.length) * (boxHeight + rowGap) + 10;
    out.push({ name: band.name, top, height });
    top += height;
  }
  return { boxes, width, height: top, bands: out };
}

/** Left edges along time: `perDay` pixels a day from the first start, of the dates that are computed. */
export function alongTime(view: ScheduleView, perDay: number): (id: string) => number {
  return (id) => {
    const i = placeOf(view, id);
    return i === undefined ? 0 : ((view.start[i]! - view.projectStart) / MINUTES_PER_DAY) * perDay;
  };
}

/** The box that an arrow key leads to: along links to the sides (driving ones first), to the nearest one up and down. */
export function nextBox(
  from: string,
  key: 'ArrowLeft' | 'ArrowRight' | 'ArrowUp' | 'ArrowDown',
  placed: Pick<Placed, 'boxes'>,
  links: readonly Link[],
  driving: (l: Link) => boolean,
): string | undefined {
  const at = placed.boxes.get(from);
  if (!at) return placed.boxes.keys().next().value;
  if (key === 'ArrowLeft' || key === 'ArrowRight') {
    const list = links.filter((l) => (key === 'ArrowLeft' ? l.to : l.from) === from);
    const first = list.find(driving) ?? list[0];
    return first && (key === 'ArrowLeft' ? first.from : first.to);
  }
  const sign = key === 'ArrowUp' ? -1 : 1;
  let best: Box | undefined;
  let least = Infinity;
  for (const b of placed.boxes.values()) {
    const dy = (b.y - at.y) * sign;
    if (dy <= 0) continue;
    // What stands above or below counts before what stands aside.
    const distance = dy + Math.abs(b.x - at.x) * 2;
    if (distance < least) [best, least] = [b, distance];
  }
  return best?.id;
}

/** Whether an activity of a list is shown as a box at all. */
export const isBox = (a: Activity | undefined): a is Activity => a !== undefined && !a.hidden;
