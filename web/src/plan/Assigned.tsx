/** Assignments under their activity, in the sheet and in the timeline. */
import type { AssignmentLine } from '@yellowhammer/core/load/lines';
import type { ViewSettings } from '@yellowhammer/core/model/view-schema';
import { lineText } from '@yellowhammer/core/load/line-text';
import { MOST_STRIPS } from '@yellowhammer/core/report/paper-lines';
import { clip } from './Bars';
import { type Scale, xOf } from './scale';
import type { SheetColumn } from './sheet-columns';

interface Cells {
  lines: readonly AssignmentLine[];
  /** Of all of them together. */
  height: number;
  depth: number;
  columns: readonly SheetColumn[];
  /** The columns in view, from and up to. */
  from: number;
  upTo: number;
  clock: boolean;
  /** The activity is picked, or what is assigned to it typed. */
  onPick: () => void;
  onType: () => void;
}

/** One line for each assignment, under the cells of its activity. */
export function AssignedCells({ lines, height, depth, columns, from, upTo, clock, onPick, onType }: Cells) {
  const left = columns.slice(0, from).reduce((n, c) => n + c.width, 0);
  return (
    <div role="gridcell" aria-label="Assignments" className="row-cells assigned" style={{ height }} onMouseDown={(e) => e.button === 0 && onPick()} onDoubleClick={onType}>
      {lines.map((l) => (
        <div key={l.id} className="assigned-line" style={{ height: height / lines.length, paddingLeft: left }}>
          {columns.slice(from, upTo).map(({ key, width, right }) => {
            const text = lineText(l, key, clock);
            return (
              <span
                key={key}
                className={`cell${right ? ' right' : ''}`}
                style={{ width, ...(key === 'name' ? { paddingLeft: 24 + depth * 14 } : {}) }}
                title={text.length > 8 ? text : undefined}
              >
                {key === 'name' && <i className="assigned-mark" style={l.colour ? { background: l.colour } : undefined} aria-hidden="true" />}
                <span className="cell-text">{text}</span>
              </span>
            );
          })}
        </div>
      ))}
    </div>
  );
}

interface Drawn {
  lines: readonly AssignmentLine[] | undefined;
  scale: Scale;
  top: number;
  height: number;
  as: ViewSettings['assignments'];
}

/** A bar for each assignment below that of its activity, or thin strips. */
export function Assigned({ lines, scale, top, height, as }: Drawn) {
  if (!lines) return null;
  const strips = as === 'strips';
  const shown = strips ? lines.slice(0, MOST_STRIPS) : lines;
  const step = strips ? 4 : height / lines.length;
  return (
    <g className="tl-assigned">
      {shown.map((l, n) => {
        const y = strips ? top - 3 + n * step : top + n * step + step / 2 - 3;
        const last = l.finish === null ? undefined : clip(scale, xOf(scale, l.finish));
        return (
          <g key={l.id} data-assignment={l.id}>
            {l.parts.map((p, k) => {
              const x = clip(scale, xOf(scale, p.from));
              return (
                <rect
                  key={k}
                  className={p.done ? 'tl-done' : 'tl-ahead'}
                  x={x}
                  y={y}
                  width={Math.max(clip(scale, xOf(scale, p.to)) - x, 1.5)}
                  height={strips ? 3 : 6}
                  style={l.colour ? { fill: l.colour, fillOpacity: p.done ? 1 : 0.55 } : undefined}
                />
              );
            })}
            {!strips && last !== undefined && (
              <text className="tl-label" x={last + 6} y={y + 6.5}>
                {lineText(l, 'name', false)}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
