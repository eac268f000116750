/** Editing cells of the sheet: beginning, taking over, and where the cursor goes afterwards. */
import { useCallback, useRef, useState } from 'react';
import type { Places } from '@yellowhammer/core/model/places';
import { setRow } from '@yellowhammer/core/commands/cells';
import { addActivity, addWbs } from '@yellowhammer/core/commands/outline';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { type ColumnKey, planActions, useAppDispatch, usePlan } from '../app/store';
import { newId } from '../project/hooks';
import type { ProjectSession } from '../project/session';
import { canType, type CellContext, editText } from './columns';
import { withGroup } from '@yellowhammer/core/view/put-in-group';
import { type DraftOf, type DraftRow, type PlanRow, targetAt } from './rows';
import { beginEditing, type Editing } from './CellEditor';

interface Args {
  session: ProjectSession;
  rows: PlanRow[];
  place: Places;
  context: CellContext;
  draft: DraftOf | null;
  setDraft: (draft: DraftOf | null) => void;
  focusGrid: () => void;
}

export function useEditing({ session, rows, place, context, draft, setDraft, focusGrid }: Args) {
  const ui = usePlan();
  const dispatch = useAppDispatch();
  const [editing, setEditing] = useState<Editing | null>(null);
  /** The row that was just typed: Enter stays on it, so that the next Enter puts a row right below it. */
  const fresh = useRef<string | null>(null);
  const startDraft = useCallback(
    (below: DraftRow['below'], makes: DraftRow['makes'], more: Pick<DraftOf, 'inside' | 'heading' | 'type'> = {}) => {
      setDraft({ below, makes, ...more });
      setEditing(beginEditing('draft', 'name', '', false));
    },
    [setDraft],
  );
  const startEdit = useCallback(
    (row: string, column: ColumnKey, text?: string) => {
      const r = rows[place.get(row) ?? -1];
      if (!r || !canType(r, column, context)) return;
      setEditing(beginEditing(row, column, text ?? editText(r, column, context), text === undefined));
    },
    [rows, place, context],
  );
  const commit = useCallback(
    (text: string, then: 'down' | 'next' | 'previous' | 'stay') => {
      const e = editing;
      if (!e) return;
      const fail = (error: string, outcome?: Outcome): void => setEditing({ ...e, text, error, choices: outcome && !outcome.ok ? outcome.choices : undefined });
      if (e.row === 'draft' && draft) {
        if (!text.trim()) {
          setDraft(null);
          setEditing(null);
          focusGrid();
          return;
        }
        const made =
          draft.makes === 'wbs'
            ? addWbs(session.doc, draft.below, text.trim(), newId, draft.inside)
            : addActivity(session.doc, draft.below, { name: text.trim(), type: draft.type }, newId);
        // Among groups a new row gets what its place stands for.
        const target = draft.makes === 'activity' && ui.groups.length ? targetAt(rows, place.get('draft') ?? -1, ui.groups) : null;
        const outcome = withGroup(session.doc, made, target, newId, session.view);
        if (!outcome.ok) return fail(outcome.problems[0]!.message);
        session.run(outcome);
        const id = outcome.made?.[0] as string;
        const on = then === 'next' && draft.makes === 'activity' && (draft.type === undefined || draft.type === 'margin');
        fresh.current = on ? id : null;
        dispatch(planActions.select({ ids: [id], active: { row: id, column: on ? 'duration' : 'name' } }));
        // A name and Enter, and the next activity can be typed; Tab goes on to its duration instead, where it has one.
        if (then === 'down') startDraft({ kind: draft.makes, id }, 'activity');
        else {
          setDraft(null);
          setEditing(on ? beginEditing(id, 'duration', '1d', true) : null);
          if (!on) focusGrid();
        }
        return;
      }
      const row = rows[place.get(e.row) ?? -1];
      if (!row || row.kind === 'draft') return setEditing(null);
      if (text.trim() !== e.text.trim() || text !== editText(row, e.column, context)) {
        const outcome = setRow(session.doc, row, e.column, text, newId, session.view);
        if (!outcome.ok) return fail(outcome.problems[0]!.message, outcome);
        session.run(outcome);
      }
      setEditing(null);
      const at = place.get(e.row) ?? 0;
      if (then === 'down' && fresh.current === e.row) {
        fresh.current = null;
        dispatch(planActions.select({ ids: [e.row], active: { row: e.row, column: 'name' } }));
      } else if (then === 'down') {
        const below = rows[at + 1];
        if (below) dispatch(planActions.select({ ids: [below.id], active: { row: below.id, column: e.column } }));
      } else if (then !== 'stay') {
        const keys = ui.columns.filter((k) => canType(row, k, context));
        const key = keys[keys.indexOf(e.column) + (then === 'next' ? 1 : -1)];
        if (key !== undefined && row.kind === 'activity') {
          dispatch(planActions.select({ ids: [row.id], active: { row: row.id, column: key } }));
          const text2 = editText(row, key, { ...context, doc: session.doc });
          setEditing(beginEditing(row.id, key, text2, true));
          return;
        }
      }
      focusGrid();
    },
    [editing, draft, session, dispatch, startDraft, rows, place, context, ui.columns, ui.groups, setDraft, focusGrid],
  );
  return { editing, setEditing, startDraft, startEdit, commit };
}
