/** The network: activities as boxes with their links. It follows filter, groups and selection; boxes are selected, edited and linked here. */
import { useElementSize } from '@mantine/hooks';
import { useEffect, useMemo, useRef, useState } from 'react';
import { setCell } from '@yellowhammer/core/commands/cells';
import { linkInOrder, linksAmong } from '@yellowhammer/core/commands/links';
import { showField } from '@yellowhammer/core/fields/field';
import { activityCell, fieldOf, fieldsOf } from '@yellowhammer/core/fields/list';
import { isMilestone } from '@yellowhammer/core/model/activity-kinds';
import type { Activity } from '@yellowhammer/core/model/schema';
import { linkState, placeOf } from '@yellowhammer/core/schedule/view';
import { boxWidth, isBox, nextBox } from '@yellowhammer/core/view/boxes';
import type { Paint } from '@yellowhammer/core/view/looks';
import { BAR, planActions, useAppDispatch, usePlan } from '../../app/store';
import { newId, useSession } from '../../project/hooks';
import type { CellContext } from '../columns';
import type { PlanRow } from '../rows';
import { BoxEditor, NetworkLinks } from './NetworkParts';
import { useLayout } from './useLayout';
import { PointSign } from './PointSign';

interface Props {
  rows: readonly PlanRow[];
  context: CellContext;
  stamp: string;
  paint: (a: Activity) => Paint;
  /** Keys that the plan has for all its pictures. */
  onKeyDown: (e: React.KeyboardEvent) => void;
  onMenu: (e: React.MouseEvent, id: string) => void;
  /** Takes what zooming and fitting do while this is shown. */
  onTools: (tools: { zoom: (factor: number) => void; fit: () => void } | null) => void;
}

const LINE = 15;
const HEAD = 34;
/** Boxes at the edge of the window that are drawn ahead. */
const AHEAD = 300;

export function NetworkView({ rows, context, stamp, paint, onKeyDown, onMenu, onTools }: Props) {
  const session = useSession();
  const { doc, view } = context;
  const ui = usePlan();
  const dispatch = useAppDispatch();
  const { ref, width, height } = useElementSize();
  const frame = useRef<HTMLDivElement | null>(null);
  const [zoom, setZoom] = useState(1);
  const [at, setAt] = useState({ x: 0, y: 0 });
  const [edit, setEdit] = useState<{ id: string; field: 'name' | 'duration'; error: string | null } | null>(null);
  const [drag, setDrag] = useState<{ from: string; x: number; y: number } | null>(null);
  const boxHeight = HEAD + Math.ceil(ui.boxes.length / 2) * LINE + 6;
  const { ids, bands } = useMemo(() => {
    const all: string[] = [];
    const out: { name: string; ids: string[] }[] = [];
    const seen = new Set<string>();
    const take = (id: string): void => {
      if (seen.has(id) || !isBox(doc.activities.get(id))) return;
      seen.add(id);
      all.push(id);
      if (out.length === 0) out.push({ name: '', ids: [] });
      out[out.length - 1]!.ids.push(id);
    };
    for (const r of rows) {
      // A band for each node or heading of the first level.
      if (r.kind === 'wbs' && r.depth === 0 && ui.bands) out.push({ name: r.node.name, ids: [] });
      if (r.kind === 'activity') take(r.id);
      else if (r.kind === 'wbs' && r.group) r.group.members.forEach(take);
    }
    return { ids: all, bands: out.filter((b) => b.ids.length > 0) };
  }, [rows, doc, ui.bands]);
  // The stamp says when links or dates have changed.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const links = useMemo(() => linksAmong(doc, ids), [doc, ids, stamp]);
  const perDay = 12 * zoom;
  const { placed, waiting } = useLayout({ ids, links, bands, arrange: ui.arrange, perDay: 12, boxHeight, view });
  const active = ui.active?.row ?? null;
  const clampX = (x: number): number => Math.max(0, Math.min(x, Math.max(0, (placed?.width ?? 0) + 60 - width / zoom)));
  const clampY = (y: number): number => Math.max(0, Math.min(y, Math.max(0, (placed?.height ?? 0) + 60 - height / zoom)));
  const reveal = (id: string): void => {
    const b = placed?.boxes.get(id);
    if (!b) return;
    const [w, h] = [width / zoom, height / zoom];
    setAt((p) => ({
      x: clampX(b.x < p.x + 20 || b.x + boxWidth > p.x + w - 20 ? b.x - w / 2 + boxWidth / 2 : p.x),
      y: clampY(b.y < p.y + 20 || b.y + boxHeight > p.y + h - 20 ? b.y - h / 2 + boxHeight / 2 : p.y),
    }));
  };
  const ready = placed !== null && width > 0;
  useEffect(() => {
    // With nothing chosen it begins where work goes on.
    const begin = active ?? ids.find((id) => isCritical(id) && !isDone(id)) ?? ids.find((id) => !isDone(id)) ?? ids[0];
    if (ready && begin) reveal(begin);
    // Only what is chosen elsewhere is brought into view; moving here moves by itself.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [active, ready, ui.arrange, ui.bands]);
  useEffect(() => {
    const el = frame.current;
    if (!el) return;
    const wheel = (e: WheelEvent): void => {
      e.preventDefault();
      if (e.ctrlKey || e.metaKey) setZoom((z) => Math.max(0.15, Math.min(2, z * (e.deltaY < 0 ? 1.12 : 1 / 1.12))));
      else setAt((p) => ({ x: clampX(p.x + (e.shiftKey ? e.deltaY : e.deltaX) / zoom), y: clampY(p.y + (e.shiftKey ? 0 : e.deltaY) / zoom) }));
    };
    el.addEventListener('wheel', wheel, { passive: false });
    return () => el.removeEventListener('wheel', wheel);
  });
  const tools = {
    zoom: (factor: number) => setZoom((z) => Math.max(0.15, Math.min(2, z * factor))),
    fit: () => {
      if (!placed) return;
      setZoom(Math.max(0.15, Math.min(1, width / (placed.width + 60), height / (placed.height + 60))));
      setAt({ x: 0, y: 0 });
    },
  };
  useEffect(() => {
    onTools(tools);
    return () => onTools(null);
  });
  // The keyboard is here as soon as it is shown.
  useEffect(() => frame.current?.focus({ preventScroll: true }), []);
  const select = (id: string, add: boolean): void => {
    const selected = add ? (ui.selected.includes(id) ? ui.selected.filter((x) => x !== id) : [...ui.selected, id]) : [id];
    dispatch(planActions.select({ ids: selected, active: { row: id, column: BAR } }));
  };
  const key = (e: React.KeyboardEvent): void => {
    if ((e.target as HTMLElement).tagName === 'INPUT') return;
    if (placed && (e.key === 'ArrowLeft' || e.key === 'ArrowRight' || e.key === 'ArrowUp' || e.key === 'ArrowDown') && !e.ctrlKey && !e.altKey) {
      e.preventDefault();
      const to = nextBox(active ?? '', e.key, placed, links, (l) => view !== null && linkState(view, l.id)?.driving === true);
      if (to) {
        select(to, e.shiftKey);
        reveal(to);
      }
      return;
    }
    if ((e.key === 'F2' || e.key === 'Enter') && active && doc.activities.has(active) && !e.ctrlKey && !e.altKey) {
      e.preventDefault();
      setEdit({ id: active, field: 'name', error: null });
      return;
    }
    onKeyDown(e);
  };
  const spot = (e: { clientX: number; clientY: number }): { x: number; y: number } => {
    const box = frame.current?.getBoundingClientRect();
    return { x: (e.clientX - (box?.left ?? 0)) / zoom + at.x, y: (e.clientY - (box?.top ?? 0)) / zoom + at.y };
  };
  const boxAt = (p: { x: number; y: number }): string | undefined =>
    [...(placed?.boxes.values() ?? [])].find((b) => p.x >= b.x && p.x <= b.x + boxWidth && p.y >= b.y && p.y <= b.y + boxHeight)?.id;
  const follow = (onMove: (e: PointerEvent) => void, onUp: (e: PointerEvent) => void): void => {
    const up = (e: PointerEvent): void => {
      window.removeEventListener('pointermove', onMove);
      window.removeEventListener('pointerup', up);
      onUp(e);
    };
    window.addEventListener('pointermove', onMove);
    window.addEventListener('pointerup', up);
  };
  const onPointerDown = (e: React.PointerEvent): void => {
    if (e.button !== 0 || (e.target as HTMLElement).closest('input')) return;
    frame.current?.focus({ preventScroll: true });
    const p = spot(e);
    const id = boxAt(p);
    const b = id === undefined ? undefined : placed?.boxes.get(id);
    if (!id || !b) {
      const [x0, y0, from] = [e.clientX, e.clientY, at];
      follow(
        (m) => setAt({ x: clampX(from.x - (m.clientX - x0) / zoom), y: clampY(from.y - (m.clientY - y0) / zoom) }),
        () => undefined,
      );
      return;
    }
    // From the last part of a box a link is drawn; elsewhere it is selected.
    if (p.x < b.x + boxWidth - 16) return select(id, e.ctrlKey || e.metaKey || e.shiftKey);
    setDrag({ from: id, ...p });
    follow(
      (m) => setDrag({ from: id, ...spot(m) }),
      (m) => {
        setDrag(null);
        const to = boxAt(spot(m));
        if (to && to !== id) session.run(linkInOrder(doc, [id, to], newId));
        else if (!to || to === id) select(id, false);
      },
    );
  };
  const inView = (b: { x: number; y: number }): boolean =>
    b.x + boxWidth > at.x - AHEAD && b.x < at.x + width / zoom + AHEAD && b.y + boxHeight > at.y - AHEAD && b.y < at.y + height / zoom + AHEAD;
  const fields = ui.boxes.flatMap((k) => fieldOf(doc, k) ?? []);
  const textIn = (a: Activity | undefined, key: string): string => {
    const f = fieldOf(doc, key);
    return a && f ? showField(f, activityCell(context, a)) : '';
  };
  const commit = (text: string): void => {
    if (!edit) return;
    const outcome = setCell(doc, edit.id, edit.field, text, newId, view);
    if (!outcome.ok) return setEdit({ ...edit, error: outcome.problems[0]!.message });
    session.run(outcome);
    setEdit(null);
    frame.current?.focus({ preventScroll: true });
  };
  return (
    <div className="network">
      <div className="network-bar">
        {(['rank', 'time'] as const).map((x) => (
          <button
            key={x}
            type="button"
            className={`chip${ui.arrange === x ? ' on' : ''}`}
            aria-pressed={ui.arrange === x}
            onClick={() => dispatch(planActions.set({ arrange: x }))}
          >
            {x === 'rank' ? 'By logic' : 'Along time'}
          </button>
        ))}
        <button type="button" className={`chip${ui.bands ? ' on' : ''}`} aria-pressed={ui.bands} onClick={() => dispatch(planActions.set({ bands: !ui.bands }))}>
          {ui.groups.length ? 'A band for each group' : 'A band for each WBS branch'}
        </button>
        <label className="muted">
          In the boxes{' '}
          {[0, 1, 2, 3].map((i) => (
            <select
              key={i}
              aria-label={`Field ${i + 1} of the boxes`}
              value={ui.boxes[i] ?? ''}
              onChange={(e) => {
                const next = [0, 1, 2, 3].map((k) => (k === i ? e.target.value : (ui.boxes[k] ?? ''))).filter(Boolean);
                dispatch(planActions.set({ boxes: next }));
              }}
            >
              <option value="">nothing</option>
              {[...fieldsOf(doc).values()]
                .filter((f) => !f.naming)
                .map((f) => (
                  <option key={f.key} value={f.key}>
                    {f.title}
                  </option>
                ))}
            </select>
          ))}
        </label>
      </div>
      <div
        ref={(el) => {
          frame.current = el;
          ref(el);
        }}
        className="network-frame"
        tabIndex={0}
        role="application"
        aria-label="Network of activities. Arrow keys walk along links."
        onKeyDown={key}
        onPointerDown={onPointerDown}
        onContextMenu={(e) => {
          const id = boxAt(spot(e));
          if (id) onMenu(e, id);
        }}
        onDoubleClick={(e) => {
          const id = boxAt(spot(e));
          if (id) setEdit({ id, field: 'name', error: null });
        }}
      >
        {placed && (
          <svg width={width} height={height} viewBox={`${at.x} ${at.y} ${width / zoom || 1} ${height / zoom || 1}`}>
            {placed.bands.length > 1 &&
              placed.bands.map((b, i) => (
                <g key={b.name + i}>
                  <rect className={`network-band${i % 2 ? ' odd' : ''}`} x={at.x} y={b.top} width={width / zoom} height={b.height} />
                  <text className="network-band-name" x={at.x + 8} y={b.top + 12}>
                    {b.name}
                  </text>
                </g>
              ))}
            <NetworkLinks
              placed={placed}
              links={links}
              boxHeight={boxHeight}
              inView={inView}
              driving={(l) => view !== null && linkState(view, l.id)?.driving === true}
              critical={(id) => isCritical(id)}
            />
            {[...placed.boxes.values()].filter(inView).map((b) => {
              const a = doc.activities.get(b.id);
              if (!a) return null;
              const p = paint(a);
              const critical = isCritical(b.id);
              const i = view ? placeOf(view, b.id) : undefined;
              return (
                <g
                  key={b.id}
                  transform={`translate(${b.x} ${b.y})`}
                  className={`network-box${critical ? ' critical' : ''}${ui.selected.includes(b.id) ? ' selected' : ''}`}
                  data-activity={b.id}
                >
                  <rect width={boxWidth} height={boxHeight} rx={isMilestone(a) ? 12 : 3} className="network-card" />
                  <rect
                    width={5}
                    height={boxHeight}
                    className={view && i !== undefined && view.state[i] === 2 ? 'tl-done' : 'tl-ahead'}
                    style={p.colour ? { fill: p.colour } : undefined}
                  />
                  {critical && <rect y={boxHeight - 3.5} width={boxWidth} height={3.5} className="tl-edge" />}
                  <foreignObject x={9} y={2} width={boxWidth - 14} height={boxHeight - 4}>
                    <div className="network-text">
                      <div className="network-number">
                        <span>{a.code}</span>
                        <span>{textIn(a, 'duration')}</span>
                      </div>
                      <div className="network-name" title={a.name}>
                        {isMilestone(a) && <PointSign doc={doc} a={a} />}
                        {a.name}
                      </div>
                      <div className="network-fields">
                        {fields.map((f) => (
                          <span key={f.key} title={f.title}>
                            {showField(f, activityCell(context, a)) || '–'}
                          </span>
                        ))}
                      </div>
                    </div>
                  </foreignObject>
                  <circle className="network-port" cx={boxWidth - 1} cy={boxHeight / 2} r={5} />
                </g>
              );
            })}
            {drag && (
              <path
                className="ghost-link"
                d={`M${(placed.boxes.get(drag.from)?.x ?? 0) + boxWidth} ${(placed.boxes.get(drag.from)?.y ?? 0) + boxHeight / 2}L${drag.x} ${drag.y}`}
              />
            )}
          </svg>
        )}
        <span className="network-scale muted" role="status">
          {waiting ? `Arranging ${ids.length} boxes` : `${ids.length} boxes, ${links.length} links${ui.arrange === 'time' ? `; ${Math.round(perDay)} pixels a day` : ''}`}
        </span>
        {edit && placed?.boxes.has(edit.id) && (
          <BoxEditor
            key={`${edit.id} ${edit.field}`}
            edit={edit}
            place={placed}
            at={at}
            zoom={zoom}
            text={textIn(doc.activities.get(edit.id), edit.field)}
            onCommit={commit}
            onNext={() => setEdit({ id: edit.id, field: edit.field === 'name' ? 'duration' : 'name', error: null })}
            onCancel={() => (setEdit(null), frame.current?.focus())}
          />
        )}
        {ids.length === 0 && <p className="network-none muted">No activity is shown. Show all rows with A, or type the first one with Enter in the sheet.</p>}
      </div>
    </div>
  );

  function isDone(id: string): boolean {
    const i = view ? placeOf(view, id) : undefined;
    return view !== null && i !== undefined && view.state[i] === 2;
  }

  function isCritical(id: string): boolean {
    const i = view ? placeOf(view, id) : undefined;
    return view !== null && i !== undefined && view.critical[i] === 1;
  }
}
