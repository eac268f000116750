import { Spotlight, type SpotlightActionData } from '@mantine/spotlight';
import { IconSearch } from '@tabler/icons-react';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { labelOf } from '@yellowhammer/core/model/document';
import { useDoc, useSession } from '../project/hooks';
import { planActions, useAppDispatch } from './store';

const MOST = 12;

/** One box for finding an activity and doing anything (Ctrl+K). */
export function Palette({ onSettings }: { onSettings: () => void }) {
  const session = useSession();
  const { doc, version } = useDoc();
  const [query, setQuery] = useState('');
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const actions = useMemo(() => {
    const q = query.trim().toLowerCase();
    const go = (room: string) => () => void navigate(`/p/${session.id}/${room}`);
    const all: SpotlightActionData[] = [
      { id: 'plan', label: 'Go to Plan', onClick: go('plan') },
      { id: 'update', label: 'Status update', description: 'Choose a new data date and enter progress', onClick: go('update') },
      { id: 'compare', label: 'Compare with a baseline', onClick: go('compare') },
      { id: 'report', label: 'Report and PDF', onClick: go('report') },
      { id: 'library', label: 'Calendars', onClick: go('library') },
      { id: 'settings', label: 'Project settings', description: 'Name, planned start, required finish, options, baselines', onClick: onSettings },
      { id: 'undo', label: 'Undo', onClick: () => session.undo() },
      { id: 'redo', label: 'Redo', onClick: () => session.redo() },
      { id: 'projects', label: 'All projects', onClick: () => void navigate('/projects') },
    ];
    const commands = all.filter((a) => !q || `${a.label} ${a.description ?? ''}`.toLowerCase().includes(q));
    const found: SpotlightActionData[] = [];
    if (q)
      for (const a of doc.activities.values()) {
        if (!labelOf(a).toLowerCase().includes(q)) continue;
        found.push({
          id: a.id,
          label: labelOf(a),
          description: a.wbsId ? doc.wbs.get(a.wbsId)?.name : undefined,
          onClick: () => {
            dispatch(planActions.set({ trace: null, onlyCritical: false }));
            dispatch(planActions.select({ ids: [a.id], active: { row: a.id, column: 'name' } }));
            void navigate(`/p/${session.id}/plan`, { state: { reveal: a.id } });
          },
        });
        if (found.length >= MOST) break;
      }
    return [...found, ...commands];
    // The document is one object that changes inside; its version says when.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [query, version, doc, session, navigate, dispatch, onSettings]);
  return (
    <Spotlight
      actions={actions}
      query={query}
      onQueryChange={setQuery}
      filter={(_, list) => list}
      shortcut={['mod + K']}
      attributes={{ content: { 'aria-label': 'Find or do anything' } }}
      nothingFound="Nothing found"
      highlightQuery
      searchProps={{ placeholder: 'Find an activity, or something to do', leftSection: <IconSearch size={16} stroke={1.6} /> }}
    />
  );
}
