import type { ReactNode } from 'react';
import { linkState, placeOf } from '@yellowhammer/core/schedule/view';
import { clip, type TimelineProps } from './Bars';
import { type DrawnLink, keepDrawn } from './link-at';
import { middleOf } from './rows';
import { endOf, xOf } from './scale';
import { linkPath } from './shapes';

/** From so many quiet links of one end on they are drawn as a bundle, quieter still. */
const BUNDLE = 5;

/** Quiet links that leave one end: one shape, so that where they lie on each other they are no darker. */
interface Bundle {
  lines: string[];
  /** Where they arrive. */
  dots: string[];
}

const dot = (x: number, y: number): string => `M${x - 2} ${y}a2 2 0 1 0 4 0a2 2 0 1 0 -4 0`;

/** Links with at least one end in view; from which end to which end follows their type. */
export function Links(p: TimelineProps) {
  const { scale, heights, first, last, view, place } = p;
  const top = heights.top(first);
  if (!view) return null;
  const bundles = new Map<string, Bundle>();
  const strong: ReactNode[] = [];
  /** What can be pointed at: quiet lines, then those on top of them. */
  const [quiet, upper]: [DrawnLink[], DrawnLink[]] = [[], []];
  const seen = new Set<string>();
  const draw = (key: string, from: string, to: string, fromStart: boolean, toFinish: boolean, className: string): void => {
    const [yFrom, yTo] = [middleOf(from, place, p.lanes, heights), middleOf(to, place, p.lanes, heights)];
    const a = placeOf(view, from);
    const b = placeOf(view, to);
    if (yFrom === undefined || yTo === undefined || a === undefined || b === undefined || p.doc.activities.get(from)?.hidden || p.doc.activities.get(to)?.hidden) return;
    const t1 = fromStart ? view.start[a]! : view.finish[a]!;
    const t2 = toFinish ? view.finish[b]! : view.start[b]!;
    if (Math.max(t1, t2) < scale.from - 20_000 || Math.min(t1, t2) > endOf(scale) + 20_000) return;
    const picked = p.link === key;
    const lit = picked || p.pointedLink === key || p.lit?.links.has(key) === true;
    const chosen = lit || p.selected.has(from) || p.selected.has(to);
    const [x2, y2] = [clip(scale, xOf(scale, t2)), yTo - top];
    const path = linkPath(clip(scale, xOf(scale, t1)), yFrom - top, fromStart, x2, y2, toFinish);
    if (className === 'tl-link' && !chosen) {
      const end = `${from}${fromStart ? ' start' : ''}`;
      const bundle = bundles.get(end) ?? { lines: [], dots: [] };
      bundles.set(end, bundle);
      bundle.lines.push(path);
      bundle.dots.push(dot(x2 - 1, y2));
      quiet.push({ id: key, d: path });
      return;
    }
    upper.push({ id: key, d: path });
    strong.push(
      <g key={key} data-link={key}>
        {picked && <path className="tl-link-picked" d={path} />}
        <path className={`${className}${chosen ? ' chosen' : ''}${lit ? ' lit' : ''}`} d={path} />
        <path className="tl-arrow" d={dot(x2 - 1, y2)} />
      </g>,
    );
  };
  for (let i = first; i <= last; i++) {
    const row = p.rows[i];
    const ids = row?.kind === 'activity' ? [row.id] : row?.kind === 'wbs' && row.lane ? [...(p.lanes.packs.get(row.id)?.stackOf.keys() ?? [])] : [];
    for (const l of ids.flatMap((id) => [...(p.links.into.get(id) ?? []), ...(p.links.outOf.get(id) ?? [])])) {
      if (seen.has(l.id)) continue;
      seen.add(l.id);
      const driving = linkState(view, l.id)?.driving === true;
      if (p.showLinks === 'driving' && !driving && p.link !== l.id && !p.lit?.links.has(l.id) && !p.selected.has(l.from) && !p.selected.has(l.to)) continue;
      draw(l.id, l.from, l.to, l.type === 'SS' || l.type === 'SF', l.type === 'FF' || l.type === 'SF', driving ? 'tl-link driving' : 'tl-link');
    }
  }
  for (const c of view.carried) {
    const i = place.get(c.from);
    const j = place.get(c.to);
    if ((i !== undefined && i >= first && i <= last) || (j !== undefined && j >= first && j <= last))
      draw(`carried ${c.from} ${c.to}`, c.from, c.to, false, false, 'tl-link carried');
  }
  return (
    <g className="tl-links" ref={(g) => keepDrawn(g, [...quiet, ...upper])}>
      {[...bundles].map(([end, b]) => (
        <g key={end} className={b.lines.length >= BUNDLE ? 'tl-bundle' : undefined}>
          <path className="tl-link" d={b.lines.join('')} />
          <path className="tl-arrow quiet" d={b.dots.join('')} />
        </g>
      ))}
      {strong}
    </g>
  );
}
