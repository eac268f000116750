import './plan.css';
import { useElementSize } from '@mantine/hooks';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useLocation } from 'react-router';
import { closedNodes, nodesAbove, turnedFor } from '@yellowhammer/core/outline/depth';
import { belowOf } from './assigned';
import { heightsOf } from '@yellowhammer/core/outline/heights';
import { labelOf, projectOf } from '@yellowhammer/core/model/document';
import { placeOf } from '@yellowhammer/core/schedule/view';
import { MINUTES_PER_DAY, parseInstant } from '@yellowhammer/core/time/instant';
import { downloadCsv } from '../app/csv';
import { longDate } from '../app/format';
import { BAR, type ColumnKey, planActions, store, useAppDispatch, usePlan } from '../app/store';
import { useDoc, useSession, useTopic, useView } from '../project/hooks';
import { type CellContext, columnOf, isComputedDate, ofSchedule, showText } from './columns';
import { Choices } from './Choices';
import { Dock } from './Dock';
import { Inspector } from './Inspector';
import { PlanBody } from './PlanBody';
import { HeadCell } from './HeadCell';
import { Divider, HorizontalBar, panWith, TimeBar } from './PlanParts';
import { useHands } from '../commands/useHands';
import { PlanGraph } from './PlanGraph';
import { PlanMap } from './PlanMap';
import { useGestures } from './useGestures';
import { useTwins } from './useTwins';
import { useAlone } from '../app/useAlone';
import { QuestionBoxes, useQuestions } from './Questions';
import { Ribbon } from './Ribbon';
import { type DraftOf, useLanes, useRows } from './rows';
import { painter } from '@yellowhammer/core/view/looks';
import { HeadFilters } from './view/HeadFilters';
import { Legend } from '../see/Legend';
import { ViewStrip } from './view/ViewStrip';
import type { Scale } from './scale';
import { beginEditing, type RowHandlers } from './CellEditor';
import { selectedOf } from './selected';
import { widthOf } from './sheet-columns';
import { Ruler, TimelineGround } from './Timeline';
import { useDrag } from './useDrag';
import { useEditing } from './useEditing';
import { usePlanKeys } from './usePlanKeys';
import { menuAt } from './menu-at';
import { useLive } from './useLive';
import { showWhy } from './section-focus';
import { useFocusKeeper } from './useFocus';
import { TaskPanel } from './tasks/TaskPanel';
import { useDropValue } from './useDropValue';
import { useStamp } from './useStamp';
import { useTimeWindow } from './useTimeWindow';
import { useShownBaseline } from './view/useKept';

const NetworkView = lazy(() => import('./view/NetworkView').then((m) => ({ default: m.NetworkView })));
const MonthView = lazy(() => import('./view/MonthView').then((m) => ({ default: m.MonthView })));

/** Sheet and timeline on one scroll, the path ribbon over them, the inspector beside, the dock below. */
export function PlanPage() {
  const session = useSession();
  const { doc, version } = useDoc();
  const view = useView();
  const viewVersion = useTopic('view');
  const ui = usePlan();
  const dispatch = useAppDispatch();
  const location = useLocation();
  const [draft, setDraft] = useState<DraftOf | null>(null);
  const questions = useQuestions();
  const { setMenu, setAsked, setPasting, setLinkFrom, setLinking } = questions;
  /** What was drawn in a lane and is being named there. */
  const [naming, setNaming] = useState<string | null>(null);
  const [sheetX, setSheetX] = useState(0);
  const scroller = useRef<HTMLDivElement>(null);
  const body = useRef<HTMLDivElement>(null);
  const grid = useRef<HTMLDivElement>(null);
  const { ref: sizeRef, width: gridWidth } = useElementSize();
  const rowHeight = ui.dense ? 21 : 26;
  const alone = useAlone();
  const sheetWidth = alone ? 0 : Math.min(ui.sheetWidth, Math.max(160, gridWidth - 160));
  const timelineWidth = Math.max(0, gridWidth - sheetWidth);
  const inView = ui.from === null || !ui.quick.includes('inWindow') ? null : { from: ui.from, to: ui.from + (timelineWidth / ui.pixelsPerDay) * MINUTES_PER_DAY };
  const { rows, place, links, closed, shown, all, headings, sums } = useRows(draft, inView);
  const lanes = useLanes(rows);
  const docVersion = useTopic('doc');
  const under = ui.mode === 'timeline' ? ui.assignments : 'hidden';
  // The document changes inside: its version says when who is assigned may have changed, and heights with it.
  const assigned = under === 'hidden' ? 0 : docVersion;
  const heights = useMemo(
    () => heightsOf(rows, rowHeight, lanes.heights, under === 'hidden' ? undefined : belowOf(session.doc, under)),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [rows, rowHeight, lanes.heights, assigned, session, under],
  );
  const baseline = useShownBaseline();
  const context = useMemo<CellContext>(() => ({ doc, view, baseline, clock: ui.clock, sums }), [doc, view, baseline, ui.clock, sums]);
  // Versions say when what bars are coloured by has changed.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const paint = useMemo(() => painter({ doc, view, baseline, clock: false }, ui), [doc, view, baseline, ui.look, ui.colourBy, version, viewVersion]);
  // A set or field that is not in this project (any more) has no column here.
  useEffect(() => {
    const there = ui.columns.filter((k) => columnOf(doc, k));
    if (there.length < ui.columns.length) dispatch(planActions.set({ columns: there }));
  }, [doc, version, ui.columns, dispatch]);
  const selected = useMemo(() => selectedOf(ui.selected, place), [ui.selected, place]);

  // The first drawing fits the whole plan.
  const fitted = ui.from !== null;
  const scale: Scale = useMemo(() => ({ from: ui.from ?? 0, ppm: ui.pixelsPerDay / MINUTES_PER_DAY, width: timelineWidth }), [ui.from, ui.pixelsPerDay, timelineWidth]);
  const { fit, fitSelected, goDate, zoom } = useTimeWindow(session, view, timelineWidth);

  const reveal = useCallback(
    (id: string) => {
      const at = place.get(id) ?? place.get(lanes.laneOf.get(id) ?? '');
      const el = scroller.current;
      if (at !== undefined && el) {
        const y = heights.top(at);
        if (y < el.scrollTop) el.scrollTop = y;
        else if (y + heights.height(at) > el.scrollTop + el.clientHeight) el.scrollTop = y + heights.height(at) + rowHeight - el.clientHeight;
      }
      const i = session.view ? placeOf(session.view, id) : undefined;
      const v = session.view;
      if (i === undefined || !v || ui.from === null) return;
      const right = ui.from + (timelineWidth / ui.pixelsPerDay) * MINUTES_PER_DAY;
      if (v.finish[i]! < ui.from || v.start[i]! > right) dispatch(planActions.set({ from: v.start[i]! - ((timelineWidth * 0.25) / ui.pixelsPerDay) * MINUTES_PER_DAY }));
    },
    [place, lanes, heights, rowHeight, session, ui.from, ui.pixelsPerDay, timelineWidth, dispatch],
  );

  /** Goes to an activity: opens the nodes it is in, selects it and brings it into view. */
  const [going, setGoing] = useState<string | null>(null);
  const go = useCallback(
    (id: string) => {
      const shut = closedNodes(session.doc, ui.collapsed);
      // A closed lane shows its activities; what lies above it is opened.
      const above = [...nodesAbove(session.doc, id)];
      const lane = above.findLastIndex((node) => session.doc.wbs.get(node)?.lane);
      for (const node of above.slice(lane + 1)) shut.delete(node);
      dispatch(planActions.set({ collapsed: turnedFor(session.doc, shut) }));
      dispatch(planActions.select({ ids: [id], active: { row: id, column: 'name' } }));
      setGoing(id);
    },
    [dispatch, session, ui.collapsed],
  );
  useEffect(() => {
    if (going === null || !(place.has(going) || lanes.laneOf.has(going))) return;
    reveal(going);
    setGoing(null);
  }, [going, place, lanes, reveal]);
  const wanted = (location.state as { reveal?: string } | null)?.reveal;
  useEffect(() => {
    if (wanted && view) go(wanted);
    // Once for each arrival.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [wanted, location.key, view === null]);

  const byPointer = useRef(false);
  /** What is made anew with each drawing, for what is not. */
  const acts = useRef<(Pick<ReturnType<typeof useEditing>, 'startEdit' | 'commit'> & { reveal: (id: string) => void }) | null>(null);
  const focusGrid = useCallback((): void => (document.querySelector<HTMLElement>('.network-frame, .month-frame') ?? grid.current)?.focus({ preventScroll: true }), []);
  /** Puts the cursor on a cell that was found. */
  const goCell = useCallback(
    (row: string, column: ColumnKey): void => {
      byPointer.current = false;
      dispatch(planActions.select({ ids: [row], active: { row, column } }));
      acts.current?.reveal(row);
    },
    [dispatch],
  );
  const { editing, setEditing, startDraft, startEdit, commit } = useEditing({ session, rows, place, context, draft, setDraft, focusGrid });

  const state = useRef({ rows, place, context, selected: ui.selected, active: ui.active });
  state.current = { rows, place, context, selected: ui.selected, active: ui.active };
  const pick = useCallback(
    (row: string, column: ColumnKey, mode: 'one' | 'range' | 'add') => {
      const s = state.current;
      byPointer.current = true;
      if (row === 'draft') return;
      // A click on a computed date asks for its reason.
      if (mode === 'one' && isComputedDate(session.doc, column)) {
        dispatch(planActions.set({ inspector: true }));
        showWhy();
      }
      let ids = [row];
      // Rows that are selected already can be dragged together: a press on one of their numbers keeps them.
      if (mode === 'one' && column === 'code' && s.selected.length > 1 && s.selected.includes(row)) return;
      if (mode === 'add') ids = s.selected.includes(row) ? s.selected.filter((x) => x !== row) : [...s.selected, row];
      if (mode === 'range' && s.active) {
        const a = s.place.get(s.active.row) ?? 0;
        const b = s.place.get(row) ?? 0;
        ids = s.rows.slice(Math.min(a, b), Math.max(a, b) + 1).map((r) => r.id);
        if (a > b) ids.reverse();
      }
      dispatch(planActions.select({ ids, active: mode === 'range' && s.active ? { row: s.active.row, column } : { row, column } }));
    },
    [dispatch, session],
  );
  acts.current = { startEdit, commit, reveal };
  const handlers = useMemo<RowHandlers>(
    () => ({
      pick,
      edit: (row, column) => acts.current?.startEdit(row, column),
      toggle: (id) => dispatch(planActions.toggle(id)),
      type: (text) => setEditing((e) => e && { ...e, text, error: null }),
      commit: (text, then) => acts.current?.commit(text, then),
      cancel: () => {
        // At once: the next key of somebody who types fast must find the grid.
        grid.current?.focus({ preventScroll: true });
        setEditing(null);
        setDraft(null);
      },
      answer: (outcome) => {
        grid.current?.focus({ preventScroll: true });
        session.run(outcome);
        setEditing(null);
      },
    }),
    [pick, dispatch, setEditing, session],
  );

  /** What zooming and fitting do in the picture that is shown in place of the timeline. */
  const tools = useRef<{ zoom: (factor: number) => void; fit: () => void } | null>(null);
  const takeTools = useCallback((t: typeof tools.current) => void (tools.current = t), []);
  const stamping = useStamp({ session, rows, heights, body });
  const keys = usePlanKeys({
    session,
    rows,
    place,
    context,
    reveal,
    startDraft,
    startEdit,
    rename: (id) => setEditing(beginEditing(id, 'name', session.doc.wbs.get(id)?.name ?? session.doc.activities.get(id)?.name ?? '', true)),
    zoom: (factor) =>
      ui.mode === 'timeline' ? zoom(factor) : ui.mode === 'month' ? void dispatch(planActions.set({ monthBy: factor > 1 ? 'days' : 'weeks' })) : tools.current?.zoom(factor),
    fit: () => (ui.mode === 'network' ? tools.current?.fit() : fit()),
    fitSelected,
    goDate,
    go,
    csv: () => csv(),
    linkWithChoices: () => setLinking(ui.selected.filter((id) => session.doc.activities.has(id))),
    stampSelected: stamping.stampSelected,
    editing: editing !== null,
    setMenu,
    onPasting: setPasting,
    closed,
    headings,
    width: timelineWidth,
    laneOf: lanes.laneOf,
  });
  const dropping = useDropValue({ session, rows, heights, body });
  const { act } = useHands();
  const { live, follow } = useLive(session);
  const drag = useDrag({
    session,
    rows,
    place,
    links,
    lanes,
    linkDrawn: ui.linkDrawn,
    scale,
    heights,
    body,
    // On the bar nothing can be typed: letters act there.
    onPick: (id, add) => pick(id, BAR, add ? 'add' : 'one'),
    answer: ui.dragAnswer,
    onAsk: setAsked,
    onLinkTo: setLinkFrom,
    onPickLink: (link) => {
      dispatch(planActions.set({ link, ...(ui.active ? { active: { row: ui.active.row, column: BAR } } : {}) }));
      focusGrid();
    },
    scroller,
    pan: (dx) => pan(dx),
    onLive: follow,
    onDrawn: (id, inLane) => {
      dispatch(planActions.select({ ids: [id], active: { row: id, column: inLane ? BAR : 'name' } }));
      if (inLane) setNaming(id);
      else setEditing(beginEditing(id, 'name', '', true));
    },
  });

  const pan = (dx: number): void => {
    const { from, pixelsPerDay } = store.getState().plan;
    if (from !== null) dispatch(planActions.set({ from: from + (dx / pixelsPerDay) * MINUTES_PER_DAY }));
  };
  const sheetTotal = ui.columns.reduce((n, k) => n + widthOf(doc, k, ui.widths, ui.clock), 0);
  const maxSheetX = Math.max(0, sheetTotal - sheetWidth);
  const shownX = Math.min(sheetX, maxSheetX);
  // The sheet follows the cursor sideways, also while cells are edited one after the other.
  const column = editing?.column ?? ui.active?.column;
  useEffect(() => {
    // What the pointer has hit stays under it.
    if (!column || column === BAR || (byPointer.current && !editing)) return;
    const left = ui.columns.slice(0, ui.columns.indexOf(column)).reduce((n, k) => n + widthOf(doc, k, ui.widths, ui.clock), 0);
    const right = left + widthOf(doc, column, ui.widths, ui.clock);
    setSheetX((x) => (left < x ? left : right > x + sheetWidth ? Math.min(right - sheetWidth, left) : x));
  }, [column, editing, doc, ui.columns, ui.widths, ui.clock, sheetWidth]);
  useFocusKeeper(grid);
  useGestures({ frame: grid, sheetWidth, zoom, pan, panSheet: (dx) => setSheetX(Math.max(0, Math.min(maxSheetX, shownX + dx))) });
  useTwins(session.id, alone, (ids) => {
    const shown = ids.filter((id) => doc.activities.has(id) || doc.wbs.has(id));
    const last = shown[shown.length - 1];
    if (last === undefined) return;
    go(last);
    if (shown.length > 1) dispatch(planActions.select({ ids: shown, active: { row: last, column: BAR } }));
  });

  /** The menu of an activity, in pictures without rows. */
  const menuOf = (e: React.MouseEvent, id: string): void => {
    e.preventDefault();
    const a = doc.activities.get(id);
    if (!a) return;
    if (!ui.selected.includes(id)) dispatch(planActions.select({ ids: [id], active: { row: id, column: BAR } }));
    setMenu({ x: e.clientX, y: e.clientY, where: 'bar', title: labelOf(a) });
  };
  const stale = session.paused && session.stale;
  const csv = (): void =>
    downloadCsv(
      `${projectOf(doc).code} plan`,
      // What is not up to date says so in its heading.
      ui.columns.map((k) => `${columnOf(doc, k)?.title ?? k}${stale && ofSchedule(doc, k) ? ' (not up to date)' : ''}`),
      rows.map((r) => ui.columns.map((k) => showText(r, k, context))),
    );
  const project = projectOf(doc);
  const dataDate = project.dataDate === null ? undefined : parseInstant(project.dataDate);
  const one = ui.selected.length === 1 ? doc.activities.get(ui.selected[0]!) : undefined;
  const stamp = `${version} ${viewVersion} ${ui.clock} ${baseline?.id ?? ''}`;
  const empty = rows.length === 0;
  return (
    <div className={`plan${alone ? ' alone' : ''}${!alone && (ui.inspector || ui.task) ? '' : ' no-inspector'}${stale ? ' stale' : ''}`}>
      {!alone && <Ribbon scale={scale} sheetWidth={sheetWidth} inspector={ui.inspector || ui.task !== null} links={links} onGo={go} />}
      {!alone && <ViewStrip shown={shown} all={all} now={state} searched={ui.search === null ? null : rows} width={timelineWidth} onGo={goCell} onDone={focusGrid} />}
      <div className="plan-frame" ref={sizeRef}>
        <div
          ref={grid}
          className={`plan-grid${ui.mode !== 'timeline' && !alone ? ' covered' : ''}`}
          role="treegrid"
          aria-label="Plan"
          aria-rowcount={rows.length + 1}
          aria-colcount={ui.columns.length}
          aria-multiselectable="true"
          aria-activedescendant={
            ui.active && place.has(ui.active.row) ? (ui.active.column === BAR ? `row-${ui.active.row}` : `cell-${ui.active.row}-${ui.active.column}`) : undefined
          }
          tabIndex={0}
          onKeyDown={(e) => {
            byPointer.current = false;
            keys.onKeyDown(e);
          }}
          onContextMenu={(e) => {
            const at = menuAt(e, { rows, heights, body: body.current, doc: session.doc });
            if (!at) return;
            e.preventDefault();
            if (at.row && !ui.selected.includes(at.row)) dispatch(planActions.select({ ids: [at.row], active: { row: at.row, column: at.field ?? BAR } }));
            else if (at.row) dispatch(planActions.set({ active: { row: at.row, column: at.field ?? BAR } }));
            setMenu(at);
          }}
          onCopy={keys.onCopy}
          onCut={keys.onCut}
          onPaste={keys.onPaste}
        >
          <div className={`plan-head${ui.headFilters && !alone ? ' with-filters' : ''}`} role="row" aria-rowindex={1}>
            <div className="sheet-head" style={{ width: sheetWidth }}>
              <div className="row-cells" style={{ transform: `translateX(${-shownX}px)` }}>
                {ui.columns.map((key) => (
                  <HeadCell key={key} column={key} doc={doc} title={columnOf(doc, key)?.title ?? key} shown={state} shift={shownX} />
                ))}
              </div>
              {ui.headFilters && <HeadFilters doc={doc} sheetX={shownX} onDone={focusGrid} />}
            </div>
            <div className="ruler-box" aria-hidden="true" onPointerDown={(e) => panWith(e, ui.from, ui.pixelsPerDay, (from) => dispatch(planActions.set({ from })))}>
              {fitted ? <Ruler scale={scale} dataDate={dataDate} label={longDate(project.dataDate)} doc={doc} /> : <span className="ruler-wait muted">Computing dates</span>}
            </div>
          </div>
          <div className="plan-ground" style={{ left: sheetWidth, width: timelineWidth, top: ui.headFilters && !alone ? 62 : 36 }}>
            {fitted && <TimelineGround doc={doc} scale={scale} calendarId={ui.ownStops ? undefined : (one?.calendarId ?? null)} version={version} />}
          </div>
          <div className={`plan-scroll${ui.stamp ? ' stamping' : ''}`} ref={scroller} {...stamping.capture} {...dropping.handlers}>
            <PlanBody
              session={session}
              scroller={scroller}
              body={body}
              rows={rows}
              place={place}
              links={links}
              context={context}
              stamp={stamp}
              viewVersion={viewVersion}
              scale={scale}
              fitted={fitted}
              heights={heights}
              sheetWidth={sheetWidth}
              sheetX={shownX}
              selected={selected}
              editing={editing}
              closed={closed}
              lanes={lanes}
              live={live}
              paint={paint}
              naming={naming}
              onNamed={() => {
                setNaming(null);
                focusGrid();
              }}
              stale={stale}
              handlers={handlers}
              drag={drag}
            />
            <div className="plan-rest" style={{ paddingLeft: sheetWidth }} onPointerDown={drag.onPointerDown} onDoubleClick={() => startDraft(null, 'activity')}></div>
          </div>
        </div>
        {empty && all === 0 && !editing && (
          <div className="plan-empty">
            <h2>A plan begins with what has to be done</h2>
            <p>
              Type the name of an activity and press Enter for the next one. Ctrl+Enter makes a WBS node to put activities in. Drawing a bar on the timeline makes an activity, too.
            </p>
            <button type="button" className="dark-button" onClick={() => act('addActivity')}>
              Type the first activity
            </button>
          </div>
        )}
        {ui.mode !== 'timeline' && !alone && (
          <Suspense fallback={null}>
            {ui.mode === 'network' ? (
              <NetworkView rows={rows} context={context} stamp={stamp} paint={paint} onKeyDown={keys.onKeyDown} onMenu={menuOf} onTools={takeTools} />
            ) : (
              <MonthView rows={rows} context={context} stamp={stamp} paint={paint} onAsk={setAsked} onKeyDown={keys.onKeyDown} onMenu={menuOf} />
            )}
          </Suspense>
        )}
        {empty && all > 0 && !editing && (
          <div className="plan-empty">
            <h2>No row fits</h2>
            <p>What is shown is narrowed down; all {all} activities are there and are computed as before.</p>
            <button type="button" className="dark-button" onClick={() => act('showAll')}>
              Show all rows
            </button>
          </div>
        )}
        {ui.legend && fitted && <Legend rows={rows} doc={doc} paint={paint} stamp={stamp} />}
        {ui.map && fitted && <PlanMap rows={rows} view={view} heights={heights} scale={scale} scroller={scroller} onTime={(from) => dispatch(planActions.set({ from }))} />}
        {!alone && <Divider sheetWidth={sheetWidth} onMove={(w) => dispatch(planActions.set({ sheetWidth: Math.max(160, Math.min(w, gridWidth - 160)) }))} />}
        <div className="plan-bars">
          {!alone && <HorizontalBar width={sheetWidth} content={sheetTotal} at={shownX} onScroll={setSheetX} label="Scroll the sheet sideways" />}
          <TimeBar scale={scale} view={view} onScroll={(from) => dispatch(planActions.set({ from }))} />
        </div>
        {ui.graph !== null && ui.mode === 'timeline' && fitted && !alone && <PlanGraph graph={ui.graph} scale={scale} sheetWidth={sheetWidth} selected={ui.selected} />}
      </div>
      {alone ? null : ui.task ? <TaskPanel key={`${ui.task.id} ${ui.task.rows.join()}`} task={ui.task} onGo={go} onClose={focusGrid} /> : ui.inspector && <Inspector onGo={go} />}
      {!alone && <Dock rows={rows.length} onGo={go} stampWords={stamping.words} />}
      <QuestionBoxes q={questions} focus={focusGrid} onPasted={keys.pasted} />
      <Choices />
    </div>
  );
}
