/** Keys of the plan: moving the cursor, selecting, typing; everything else is looked up in the list of commands. */
import { type Dispatch, type SetStateAction, useEffect } from 'react';
import type { Selection } from '@yellowhammer/core/commands/command';
import { setRows } from '@yellowhammer/core/commands/cells';
import type { RowRef } from '@yellowhammer/core/commands/outline';
import { rowKinds } from '@yellowhammer/core/outline/heights';
import { closedBelow, turnedFor } from '@yellowhammer/core/outline/depth';
import { type MenuAt } from '../commands/CommandMenu';
import { meaningOf } from '../commands/keys';
import type { PlanHands } from '../commands/types';
import { offer, useHands } from '../commands/useHands';
import { BAR, type ColumnKey, planActions, store, useAppDispatch, usePlan } from '../app/store';
import { newId } from '../project/hooks';
import { canType, meansRows } from './columns';
import type { Pasting } from './PasteQuestion';
import { type DraftRow, type PlanRow, refOf } from './rows';
import { type SheetHands, useClipboard } from './useClipboard';

interface Args extends SheetHands {
  reveal: (id: string) => void;
  startDraft: (below: DraftRow['below'], makes: DraftRow['makes'], more?: Pick<DraftRow, 'inside' | 'heading' | 'type'>) => void;
  rename: (id: string) => void;
  /** Nodes that are closed, and the closed lane that an activity is drawn in. */
  closed: ReadonlySet<string>;
  laneOf: ReadonlyMap<string, string>;
  /** All headings of groups. */
  headings: readonly { id: string; depth: number }[];
  /** Of the timeline in pixels. */
  width: number;
  startEdit: (row: string, column: ColumnKey, text?: string) => void;
  zoom: (factor: number) => void;
  fit: () => void;
  fitSelected: () => void;
  goDate: (at: number) => void;
  go: (id: string) => void;
  csv: () => void;
  linkWithChoices: () => void;
  stampSelected: () => void;
  setMenu: Dispatch<SetStateAction<MenuAt | null>>;
  onPasting: (pasting: Pasting) => void;
}

export function usePlanKeys(p: Args) {
  const ui = usePlan();
  const dispatch = useAppDispatch();
  const { act } = useHands();
  const { session, rows, place } = p;
  // What is selected is read when it is asked for: a menu opens in the same moment in which it selects its row.
  const refAt = (id: string): RowRef | null => refOf(rows[place.get(id) ?? -1]) ?? (p.laneOf.has(id) ? { kind: 'activity', id } : null);
  // An activity in a closed lane stands where the lane does.
  const placeIn = (id: string): number => place.get(id) ?? place.get(p.laneOf.get(id) ?? '') ?? -1;
  const chosen = (): RowRef[] => store.getState().plan.selected.flatMap((id) => refAt(id) ?? []);
  const inOrder = (): RowRef[] => chosen().sort((a, b) => placeIn(a.id) - placeIn(b.id));
  const below = (): RowRef | null => refOf(rows[placeIn(store.getState().plan.active?.row ?? '')] ?? rows[rows.length - 1]);
  const onBar = ui.active?.column === BAR;

  const selection = (): Selection => {
    const { active } = store.getState().plan;
    return {
      rows: chosen(),
      inOrder: inOrder(),
      row: active ? refAt(active.row) : null,
      field: active && active.column !== BAR ? active.column : null,
      link: null,
    };
  };

  const moveTo = (row: PlanRow | undefined, column: ColumnKey, extend: boolean): void => {
    if (!row) return;
    if (extend && ui.active) {
      const anchor = ui.selected.includes(ui.active.row) && ui.selected.length > 0 ? (place.get(ui.selected[0]!) ?? 0) : (place.get(ui.active.row) ?? 0);
      const to = place.get(row.id) ?? 0;
      const step = anchor > to ? -1 : 1;
      const ids = Array.from({ length: Math.abs(to - anchor) + 1 }, (_, i) => rows[anchor + i * step]!.id);
      dispatch(planActions.select({ ids, active: { row: row.id, column } }));
    } else dispatch(planActions.select({ ids: [row.id], active: { row: row.id, column } }));
    p.reveal(row.id);
  };

  /** Clears the cells of the selected rows in the column of the cursor. */
  const clear = (): void => {
    const column = ui.active?.column;
    if (column) session.run(setRows(session.doc, inOrder(), column, '', newId, session.view));
  };
  const clipboard = useClipboard({ session, rows, place, context: p.context, editing: p.editing, inOrder, below, clear, onPasting: p.onPasting });

  const hands: PlanHands = {
    selection,
    startDraft(makes, inside, type) {
      const at = below();
      // New rows are typed in the sheet.
      if (ui.mode !== 'timeline') dispatch(planActions.set({ mode: 'timeline' }));
      // What is put into a closed node opens it.
      if (at && p.closed.has(at.id)) dispatch(planActions.toggle(at.id));
      const cursor = rows[placeIn(store.getState().plan.active?.row ?? '')];
      p.startDraft(at, makes, { inside, type, ...(cursor?.kind === 'wbs' && cursor.group ? { heading: cursor.id } : {}) });
    },
    afterMade(ids, rename) {
      const [first] = ids;
      if (first === undefined) return;
      dispatch(planActions.select({ ids: [...ids], active: { row: first, column: rename ? 'name' : (ui.active?.column ?? 'name') } }));
      if (rename && ui.mode === 'timeline') p.rename(first);
    },
    startEdit: () => ui.active && ui.mode === 'timeline' && p.startEdit(ui.active.row, onBar ? 'name' : ui.active.column),
    editField(key) {
      const row = rows[placeIn(store.getState().plan.active?.row ?? store.getState().plan.selected[0] ?? '')];
      const { columns } = store.getState().plan;
      // A new column comes beside the name, so that it is seen whose value is typed.
      const at = columns.indexOf('name') + 1;
      dispatch(planActions.set({ mode: 'timeline', ...(columns.includes(key) ? {} : { columns: [...columns.slice(0, at), key, ...columns.slice(at)] }) }));
      if (!row || row.kind === 'draft') return;
      dispatch(planActions.select({ ids: [row.id], active: { row: row.id, column: key } }));
      p.reveal(row.id);
      p.startEdit(row.id, key);
    },
    zoom: p.zoom,
    fit: p.fit,
    fitSelected: p.fitSelected,
    goDate: p.goDate,
    go: p.go,
    csv: p.csv,
    stampSelected: p.stampSelected,
    linkWithChoices: p.linkWithChoices,
    outlineDepth: (depth) =>
      dispatch(
        planActions.set({
          collapsed: p.headings.length
            ? Object.fromEntries(p.headings.flatMap((h) => (h.depth >= depth ? [[h.id, true as const]] : [])))
            : turnedFor(session.doc, closedBelow(session.doc, depth)),
        }),
      ),
    width: p.width,
    selectAll: () => dispatch(planActions.select({ ids: rows.map((r) => r.id) })),
    afterDelete(gone) {
      const at = rows.findIndex((r) => gone.has(r.id));
      const next = rows.slice(Math.max(0, at)).find((r) => !gone.has(r.id)) ?? rows[at - 1];
      const left = next && session.doc.activities.has(next.id) ? next : next && session.doc.wbs.has(next.id) ? next : undefined;
      dispatch(planActions.select({ ids: left ? [left.id] : [], active: left ? { row: left.id, column: ui.active?.column ?? 'name' } : null }));
    },
    clipboard: clipboard.byCommand,
  };
  useEffect(() => {
    offer({ plan: hands });
    return () => offer({ plan: null });
  });

  /** Moves of the cursor; true where the key was one. */
  const cursor = (e: React.KeyboardEvent, at: number, column: ColumnKey): boolean => {
    const row = rows[at];
    const keys = [...ui.columns, BAR];
    switch (e.key) {
      case 'ArrowDown':
        moveTo(rows[at + 1], column, e.shiftKey);
        return true;
      case 'ArrowUp':
        moveTo(rows[at - 1], column, e.shiftKey);
        return true;
      case 'PageDown':
        moveTo(rows[Math.min(at + 20, rows.length - 1)], column, e.shiftKey);
        return true;
      case 'PageUp':
        moveTo(rows[Math.max(at - 20, 0)], column, e.shiftKey);
        return true;
      case 'ArrowLeft':
      case 'ArrowRight': {
        if (row?.kind === 'wbs' && column === 'name' && (e.key === 'ArrowLeft') !== p.closed.has(row.id)) {
          dispatch(planActions.toggle(row.id));
          return true;
        }
        const next = keys[keys.indexOf(column) + (e.key === 'ArrowLeft' ? -1 : 1)];
        if (row && next) moveTo(row, next, false);
        return true;
      }
      case 'Tab': {
        const next = ui.columns[ui.columns.indexOf(column) + (e.shiftKey ? -1 : 1)];
        if (!row || !next || column === BAR) return false;
        moveTo(row, next, false);
        return true;
      }
      default:
        return false;
    }
  };

  const withControl = (e: React.KeyboardEvent, at: number, column: ColumnKey): boolean => {
    // The cursor goes without the selection; Ctrl+Space takes its row in or out.
    const step = { ArrowDown: 1, ArrowUp: -1 }[e.key];
    const to = step === undefined ? undefined : rows[at + step];
    if (to) {
      dispatch(planActions.select({ ids: ui.selected, active: { row: to.id, column } }));
      p.reveal(to.id);
      return true;
    }
    if (e.key === ' ' && rows[at]) {
      const { id } = rows[at];
      dispatch(planActions.select({ ids: ui.selected.includes(id) ? ui.selected.filter((x) => x !== id) : [...ui.selected, id] }));
      return true;
    }
    if (e.key === 'Home' || e.key === 'End') {
      moveTo(e.key === 'Home' ? rows[0] : rows[rows.length - 1], column, e.shiftKey);
      return true;
    }
    return false;
  };

  /** The menu of the row under the cursor, from the keyboard. */
  const openMenu = (row: PlanRow): void => {
    const box = document.getElementById(`row-${row.id}`)?.getBoundingClientRect();
    if (box && row.kind !== 'draft')
      p.setMenu({
        where: onBar ? 'bar' : rowKinds[row.kind].where,
        x: box.left + 40,
        y: box.bottom,
        title: row.kind === 'wbs' ? row.node.name : `${row.activity.code} ${row.activity.name}`,
      });
  };

  const onKeyDown = (e: React.KeyboardEvent): void => {
    if (p.editing || (e.target as HTMLElement).tagName === 'INPUT') return;
    const at = placeIn(ui.active?.row ?? '');
    const column = ui.active?.column ?? 'name';
    const row = rows[at];
    const done = (): void => {
      e.preventDefault();
      e.stopPropagation();
    };
    const control = e.ctrlKey || e.metaKey;
    if (ui.mode === 'timeline' && (control ? withControl(e, at, column) : !e.altKey && cursor(e, at, column))) return done();
    if ((e.key === 'ContextMenu' || (e.key === 'F10' && e.shiftKey)) && row) {
      openMenu(row);
      return done();
    }
    if (e.key === 'Escape') {
      if (ui.search !== null) dispatch(planActions.set({ search: null }));
      else if (ui.link) dispatch(planActions.set({ link: null }));
      else if (ui.stamp) dispatch(planActions.set({ stamp: null }));
      else if (ui.cut.length) dispatch(planActions.set({ cut: [] }));
      else if (ui.task) dispatch(planActions.set({ task: null }));
      else if (ui.trace) dispatch(planActions.set({ trace: null }));
      else if (ui.focus) dispatch(planActions.set({ focus: null }));
      return;
    }
    if (e.key === ' ' && ui.stamp && !control) {
      p.stampSelected();
      return done();
    }
    // In a column of values Delete empties the cells, elsewhere it deletes the rows.
    if (e.key === 'Delete' && !control && ui.link !== null) {
      act('deleteLink');
      dispatch(planActions.set({ link: null }));
      return done();
    }
    if (e.key === 'Delete' && !control) {
      if (ui.selected.length === 0) return;
      if (
        !onBar &&
        !meansRows(session.doc, column) &&
        ['activity', 'wbs'].some((kind) =>
          canType(
            rows.find((r) => r.kind === kind),
            column,
            p.context,
          ),
        )
      )
        clear();
      else act('deleteRows');
      return done();
    }
    // Copying goes by the browser's own events, so that other programs take part.
    if (control && /^[cxv]$/i.test(e.key)) return;
    const typable = !ui.stamp && !onBar && column !== 'code' && canType(row, column, p.context);
    const meaning = meaningOf(e, typable);
    if (!meaning) return;
    done();
    if ('command' in meaning) act(meaning.command);
    else if (row) p.startEdit(row.id, column, meaning.types);
  };

  return { onKeyDown, onCopy: clipboard.onCopy, onCut: clipboard.onCut, onPaste: clipboard.onPaste, pasted: clipboard.pasted, below };
}
