/** Looking for a text: steps through the hits in every field that is shown. */
import { IconArrowDown, IconArrowUp, IconSearch, IconX } from '@tabler/icons-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { planActions, useAppDispatch, usePlanView } from '../../app/store';
import { useSession, useTopic } from '../../project/hooks';
import { showText } from '../columns';
import type { PlanRow } from '../rows';
import { useShownBaseline } from './useKept';

interface Props {
  /** In which it is looked; null while nobody looks. */
  rows: readonly PlanRow[] | null;
  onGo: (row: string, column: string) => void;
  onDone: () => void;
}

export function SearchBox({ rows, ...to }: Props) {
  const dispatch = useAppDispatch();
  if (rows) return <Search rows={rows} {...to} />;
  return (
    <button
      type="button"
      className="strip-part"
      aria-label="Look for a text (Ctrl+F)"
      title="Look for a text in the rows (Ctrl+F)"
      onClick={() => dispatch(planActions.set({ search: '' }))}
    >
      <IconSearch size={13} stroke={1.7} />
    </button>
  );
}

function Search({ rows, onGo, onDone }: Props & { rows: readonly PlanRow[] }) {
  const { search: asked, columns, clock } = usePlanView();
  const search = asked ?? '';
  const session = useSession();
  const version = useTopic('doc');
  const viewVersion = useTopic('view');
  const dispatch = useAppDispatch();
  const [at, setAt] = useState(0);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => input.current?.select(), []);
  const baseline = useShownBaseline();
  const hits = useMemo(() => {
    const low = search.trim().toLowerCase();
    if (low === '') return [];
    const context = { doc: session.doc, view: session.view, baseline, clock };
    return rows.flatMap((r) => (r.kind === 'draft' ? [] : columns.flatMap((column) => (showText(r, column, context).toLowerCase().includes(low) ? [{ row: r.id, column }] : []))));
    // Versions say when the document inside has changed.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [search, rows, columns, clock, session, baseline, version, viewVersion]);
  const go = (to: number): void => {
    if (hits.length === 0) return;
    const n = ((to % hits.length) + hits.length) % hits.length;
    setAt(n);
    const hit = hits[n]!;
    onGo(hit.row, hit.column);
  };
  const close = (): void => {
    dispatch(planActions.set({ search: null }));
    onDone();
  };
  return (
    <span className="search-box" role="search">
      <input
        ref={input}
        aria-label="Text to look for"
        placeholder="Text in any column"
        value={search}
        onChange={(e) => {
          dispatch(planActions.set({ search: e.target.value }));
          setAt(-1);
        }}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') go(e.shiftKey ? at - 1 : at + 1);
          if (e.key === 'Escape') close();
        }}
      />
      <span className="muted" role="status">
        {search.trim() === '' ? '' : hits.length === 0 ? 'not found' : at >= 0 && at < hits.length ? `${at + 1} of ${hits.length}` : `${hits.length} found`}
      </span>
      <button type="button" className="plain-button" aria-label="Previous" onClick={() => go(at - 1)}>
        <IconArrowUp size={13} stroke={1.7} />
      </button>
      <button type="button" className="plain-button" aria-label="Next" onClick={() => go(at + 1)}>
        <IconArrowDown size={13} stroke={1.7} />
      </button>
      <button type="button" className="plain-button" aria-label="Close the search" onClick={close}>
        <IconX size={13} stroke={1.7} />
      </button>
    </span>
  );
}
