/** Keys of the plan: spreadsheet habits, the outline, links, zoom, copy and paste. */
import { useCallback } from 'react';
import { type EditableColumn, setCell } from '@yellowhammer/core/commands/cells';
import { linkInOrder } from '@yellowhammer/core/commands/links';
import { deleteRows, levelDown, levelUp, moveRows, type RowRef } from '@yellowhammer/core/commands/outline';
import { pasteCells } from '@yellowhammer/core/commands/paste';
import { type ColumnKey, planActions, useAppDispatch, usePlan } from '../app/store';
import { newId } from '../project/hooks';
import { columns, editText, isEditable, isValueColumn } from './columns';
import { type SheetHands, useClipboard } from './useClipboard';
import { type DraftRow, type PlanRow, refOf } from './rows';

interface Args extends SheetHands {
  reveal: (id: string) => void;
  startDraft: (below: DraftRow['below'], makes: DraftRow['makes']) => void;
  startEdit: (row: string, column: ColumnKey, text?: string) => void;
  zoom: (factor: number) => void;
  fit: () => void;
  go: (id: string) => void;
  onHelp: () => void;
  stampSelected: () => void;
}

/** Brings the explanation of the selected activity into view, once it is there. */
export const showWhy = (): void => void setTimeout(() => document.getElementById('why')?.scrollIntoView({ block: 'nearest' }), 60);

/** Puts the focus on the first bound of the explanation; false where it is not there (yet). */
function focusWhy(): boolean {
  const why = document.getElementById('why');
  why?.scrollIntoView({ block: 'nearest' });
  why?.querySelector<HTMLElement>('.link-button')?.focus();
  return why !== null;
}

export function usePlanKeys(p: Args) {
  const ui = usePlan();
  const dispatch = useAppDispatch();
  const { session, rows, place } = p;
  const chosen = useCallback((): RowRef[] => ui.selected.map((id) => refOf(rows[place.get(id) ?? -1])).filter((r) => r !== null), [ui.selected, rows, place]);
  const inOrder = (): RowRef[] => chosen().sort((a, b) => (place.get(a.id) ?? 0) - (place.get(b.id) ?? 0));
  const below = (): RowRef | null => refOf(rows[place.get(ui.active?.row ?? '') ?? -1] ?? rows[rows.length - 1]);

  const moveTo = (row: PlanRow | undefined, column: ColumnKey, extend: boolean): void => {
    if (!row) return;
    if (extend && ui.active) {
      const anchor = ui.selected.includes(ui.active.row) && ui.selected.length > 0 ? (place.get(ui.selected[0]!) ?? 0) : (place.get(ui.active.row) ?? 0);
      const to = place.get(row.id) ?? 0;
      const ids = rows.slice(Math.min(anchor, to), Math.max(anchor, to) + 1).map((r) => r.id);
      if (anchor > to) ids.reverse();
      dispatch(planActions.select({ ids, active: { row: row.id, column } }));
    } else dispatch(planActions.select({ ids: [row.id], active: { row: row.id, column } }));
    p.reveal(row.id);
  };

  const outlineDepth = (depth: number): void => {
    const collapsed: Record<string, true> = {};
    const depthOf = (id: string): number => {
      let n = 0;
      for (let at = session.doc.wbs.get(id)?.parentId ?? null; at !== null; at = session.doc.wbs.get(at)?.parentId ?? null) n++;
      return n;
    };
    for (const id of session.doc.wbs.keys()) if (depthOf(id) >= depth) collapsed[id] = true;
    dispatch(planActions.set({ collapsed }));
  };

  const fillDown = (): void => {
    const list = inOrder();
    const column = ui.active?.column;
    const source = rows[place.get(list[0]?.id ?? '') ?? -1];
    if (!column || !isEditable(column) || !source || source.kind !== 'activity' || list.length < 2) return;
    const text = editText(source, column, p.context);
    session.run(
      pasteCells(
        session.doc,
        list.slice(1),
        [column],
        list.slice(1).map(() => [text]),
        newId,
        null,
        session.view,
      ),
    );
  };

  const withControl = (e: React.KeyboardEvent): boolean => {
    switch (e.key) {
      case 'Enter':
        p.startDraft(below(), 'wbs');
        return true;
      case ']':
        session.run(levelDown(session.doc, inOrder()));
        return true;
      case '[':
        session.run(levelUp(session.doc, inOrder()));
        return true;
      case 'd':
        fillDown();
        return true;
      case 'a':
        dispatch(planActions.select({ ids: rows.map((r) => r.id) }));
        return true;
      case 'Home':
        moveTo(rows[0], ui.active?.column ?? 'name', e.shiftKey);
        return true;
      case 'End':
        moveTo(rows[rows.length - 1], ui.active?.column ?? 'name', e.shiftKey);
        return true;
      default:
        return false;
    }
  };

  const clearCells = (): void => {
    const column = ui.active?.column;
    if (!column || !isValueColumn(column)) return;
    const targets = inOrder().filter((r) => r.kind === 'activity');
    const changes = [];
    for (const t of targets) {
      const outcome = setCell(session.doc, t.id, column as EditableColumn, '', newId, undefined, session.view);
      if (!outcome.ok) return void session.run(outcome);
      changes.push(...outcome.changes);
    }
    session.run({ ok: true, label: `Clear ${columns[column].title.toLowerCase()} of ${targets.length === 1 ? 'an activity' : `${targets.length} activities`}`, changes });
  };

  const removeOrClear = (): void => {
    const column = ui.active?.column;
    if (column && isValueColumn(column)) return clearCells();
    const at = Math.min(...ui.selected.map((id) => place.get(id) ?? 0));
    if (!session.run(deleteRows(session.doc, chosen()))) return;
    const gone = new Set(ui.selected);
    const next = rows.slice(at).find((r) => !gone.has(r.id)) ?? rows[at - 1];
    dispatch(planActions.select({ ids: next ? [next.id] : [], active: next ? { row: next.id, column: column ?? 'name' } : null }));
  };

  const shortcut = (e: React.KeyboardEvent, at: number): boolean => {
    if (/^[1-9]$/.test(e.key)) {
      outlineDepth(Number(e.key));
      return true;
    }
    switch (e.key) {
      case '0':
        p.fit();
        return true;
      case '+':
      case '=':
        p.zoom(1.4);
        return true;
      case '-':
        p.zoom(1 / 1.4);
        return true;
      case 'l':
        session.run(
          linkInOrder(
            session.doc,
            chosen()
              .filter((r) => r.kind === 'activity')
              .map((r) => r.id),
            newId,
          ),
        );
        return true;
      case 'w':
        dispatch(planActions.set({ inspector: true }));
        // At once where the inspector is open, so that W and Enter can be typed in one go.
        if (!focusWhy()) setTimeout(focusWhy);
        return true;
      case 't':
        dispatch(planActions.set({ trace: ui.trace || ui.selected.length !== 1 ? null : { id: ui.selected[0]!, mode: 'all', steps: 2 } }));
        return true;
      case 's':
        dispatch(planActions.set({ stamp: ui.stamp ? null : { calendarId: session.doc.activities.get(ui.active?.row ?? '')?.calendarId ?? null } }));
        return true;
      case '?':
        p.onHelp();
        return true;
      case ' ': {
        const row = rows[at];
        if (ui.stamp) {
          p.stampSelected();
          return true;
        }
        if (row?.kind !== 'wbs') return false;
        dispatch(planActions.toggle(row.id));
        return true;
      }
      default:
        return false;
    }
  };

  const onKeyDown = (e: React.KeyboardEvent): void => {
    if (p.editing || (e.target as HTMLElement).tagName === 'INPUT') return;
    const at = place.get(ui.active?.row ?? '') ?? -1;
    const column = ui.active?.column ?? 'name';
    const keys = ui.columns;
    const done = (): void => {
      e.preventDefault();
      e.stopPropagation();
    };
    if (e.ctrlKey || e.metaKey) {
      // The cursor goes without the selection; Ctrl+Space takes its row in or out.
      const step = { ArrowDown: 1, ArrowUp: -1 }[e.key];
      const to = step === undefined ? undefined : rows[at + step];
      if (to) {
        dispatch(planActions.select({ ids: ui.selected, active: { row: to.id, column } }));
        p.reveal(to.id);
        return done();
      }
      if (e.key === ' ' && rows[at]) {
        const { id } = rows[at];
        dispatch(planActions.select({ ids: ui.selected.includes(id) ? ui.selected.filter((x) => x !== id) : [...ui.selected, id] }));
        return done();
      }
      if (withControl(e)) done();
      return;
    }
    if (e.altKey) {
      if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return;
      session.run(moveRows(session.doc, inOrder(), e.key === 'ArrowUp' ? 'up' : 'down'));
      return done();
    }
    const row = rows[at];
    switch (e.key) {
      case 'ArrowDown':
        moveTo(rows[at + 1], column, e.shiftKey);
        return done();
      case 'ArrowUp':
        moveTo(rows[at - 1], column, e.shiftKey);
        return done();
      case 'PageDown':
        moveTo(rows[Math.min(at + 20, rows.length - 1)], column, e.shiftKey);
        return done();
      case 'PageUp':
        moveTo(rows[Math.max(at - 20, 0)], column, e.shiftKey);
        return done();
      case 'ArrowLeft':
      case 'ArrowRight': {
        if (row?.kind === 'wbs' && column === 'name' && (e.key === 'ArrowLeft') !== (ui.collapsed[row.id] === true)) {
          dispatch(planActions.toggle(row.id));
          return done();
        }
        const next = keys[keys.indexOf(column) + (e.key === 'ArrowLeft' ? -1 : 1)];
        if (row && next) moveTo(row, next, false);
        return done();
      }
      case 'Tab': {
        const next = keys[keys.indexOf(column) + (e.shiftKey ? -1 : 1)];
        if (!row || !next) return;
        moveTo(row, next, false);
        return done();
      }
      case 'Enter':
        p.startDraft(below(), 'activity');
        return done();
      case 'F2':
        if (row) p.startEdit(row.id, column);
        return done();
      case 'Delete':
        if (ui.selected.length) removeOrClear();
        return done();
      case 'Escape':
        if (ui.stamp) dispatch(planActions.set({ stamp: null }));
        else if (ui.cut.length) dispatch(planActions.set({ cut: [] }));
        else if (ui.trace) dispatch(planActions.set({ trace: null }));
        return;
      default:
    }
    // In a column of values a key begins typing; elsewhere keys are shortcuts.
    if (e.key.length === 1 && !ui.stamp && row?.kind === 'activity' && isValueColumn(column)) {
      p.startEdit(row.id, column, e.key);
      return done();
    }
    if (shortcut(e, at)) done();
  };

  const clipboard = useClipboard({ session, rows, place, context: p.context, editing: p.editing, inOrder, below, clear: clearCells });
  return { onKeyDown, ...clipboard, below };
}
