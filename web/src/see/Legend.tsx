/** What the colours and hatchings on the picture mean: follows from what is drawn. */
import './see.css';
import { memo, useMemo } from 'react';
import type { Document } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { legendOf, type Paint } from '@yellowhammer/core/view/looks';

/** Patterns that are laid over bars: lines of paper colour, so that they read in grey and in the dark. */
export const Hatchings = memo(function Hatchings() {
  const line = (d: string) => <path d={d} className="hatch-line" />;
  const pattern = (id: string, d: string) => (
    <pattern key={id} id={`hatch-${id}`} width="6" height="6" patternUnits="userSpaceOnUse">
      {line(d)}
    </pattern>
  );
  return (
    <defs>
      {pattern('rising', 'M-1 7L7 -1M-1 1L1 -1M5 7L7 5')}
      {pattern('falling', 'M-1 -1L7 7M-1 5L1 7M5 -1L7 1')}
      {pattern('crossed', 'M0 0L6 6M6 0L0 6')}
      {pattern('dotted', 'M2 3h2M5 0h1M0 0h1M5 6h1M0 6h1')}
      {pattern('upright', 'M3 0V6')}
    </defs>
  );
});

export function LegendLine({ paint }: { paint: Paint }) {
  return (
    <li>
      <svg width="22" height="11" aria-hidden="true">
        <rect width="22" height="11" rx="2" className="tl-ahead" style={paint.colour ? { fill: paint.colour, fillOpacity: 0.75 } : undefined} />
        {paint.hatching !== 'none' && <rect width="22" height="11" rx="2" fill={`url(#hatch-${paint.hatching})`} />}
      </svg>
      <span>{paint.name}</span>
    </li>
  );
}

export const Legend = memo(function Legend({
  rows,
  doc,
  paint,
  stamp,
}: {
  rows: readonly { kind: string; id: string; group?: { members: readonly string[] } }[];
  doc: Document;
  paint: (a: Activity) => Paint;
  stamp: string;
}) {
  const lines = useMemo(
    () =>
      legendOf(
        doc,
        rows.flatMap((r) => (r.kind === 'activity' ? [r.id] : r.group ? r.group.members : [])),
        paint,
      ),
    // The stamp says when what is drawn has changed.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [rows, doc, paint, stamp],
  );
  if (lines.length === 0) return null;
  return (
    <aside className="legend" aria-label="Legend">
      <svg width="0" height="0" aria-hidden="true">
        <Hatchings />
      </svg>
      <ul>
        {lines.slice(0, 24).map((p) => (
          <LegendLine key={`${p.name} ${p.colour} ${p.hatching}`} paint={p} />
        ))}
        {lines.length > 24 && <li className="muted">and {lines.length - 24} more</li>}
      </ul>
    </aside>
  );
});
