import { Spotlight, type SpotlightActionData } from '@mantine/spotlight';
import { IconSearch } from '@tabler/icons-react';
import { memo, useMemo, useState } from 'react';
import { labelOf } from '@yellowhammer/core/model/document';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { parseTypedDate, showTypedDate } from '@yellowhammer/core/time/typed-date';
import { findCommands } from '../commands/list';
import { keysOf } from '../commands/keys';
import { useHands } from '../commands/useHands';
import { useSession, useTopic } from '../project/hooks';
import { planActions, useAppDispatch, useAppSelector } from './store';
import { statusDay } from '@yellowhammer/core/model/status-day';

const MOST = 12;

/** One box for finding an activity and doing anything (Ctrl+K). */
export const Palette = memo(function Palette() {
  const session = useSession();
  const { doc } = session;
  const [query, setQuery] = useState('');
  const [opened, setOpened] = useState(false);
  const version = useTopic('doc', opened);
  const ui = useAppSelector((s) => (opened ? s.plan : null));
  const dispatch = useAppDispatch();
  const { hands, act } = useHands();
  const actions = useMemo(() => {
    // What can be done is found out when somebody looks.
    if (!opened) return [];
    const q = query.trim().toLowerCase();
    const h = hands();
    const found: SpotlightActionData[] = [];
    if (q)
      for (const a of doc.activities.values()) {
        if (!labelOf(a).toLowerCase().includes(q)) continue;
        found.push({
          id: a.id,
          label: labelOf(a),
          description: a.wbsId ? doc.wbs.get(a.wbsId)?.name : undefined,
          onClick: () => {
            dispatch(planActions.set({ trace: null, quick: [], filter: null, headFilters: null }));
            dispatch(planActions.select({ ids: [a.id], active: { row: a.id, column: 'name' } }));
            h.go(`/p/${session.id}/plan`, { reveal: a.id });
          },
        });
        if (found.length >= MOST) break;
      }
    // A typed date is a place to go to.
    const date = q ? parseTypedDate(q, statusDay(doc)) : undefined;
    const at = date === undefined ? undefined : (parseInstant(date) ?? parseInstant(`${date}T00:00`));
    if (date !== undefined && at !== undefined && h.plan)
      found.unshift({ id: 'go-date', label: `Go to ${showTypedDate(date)}`, description: 'Moves the timeline there', onClick: () => h.plan?.goDate(at) });
    const listed = findCommands(query).map((c): SpotlightActionData => {
      const able = c.able(h);
      // What cannot be done now is shown with its reason, and does nothing.
      return {
        id: `command-${c.id}`,
        label: c.title,
        description: able === true ? c.about : able,
        disabled: able !== true,
        closeSpotlightOnTrigger: able === true,
        className: able === true ? undefined : 'not-now',
        rightSection: <span className="menu-key">{c.on?.(h) ? '✓' : keysOf(c)}</span>,
        onClick: () => able === true && act(c),
      };
    });
    return [...found, ...listed];
    // The document is one object that changes inside; its version says when. What is selected decides what can be done.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [opened, query, version, doc, session, dispatch, hands, act, ui]);
  return (
    <Spotlight
      actions={actions}
      query={query}
      onQueryChange={setQuery}
      filter={(_, list) => list}
      onSpotlightOpen={() => setOpened(true)}
      onSpotlightClose={() => setOpened(false)}
      shortcut={null}
      scrollable
      maxHeight={440}
      attributes={{ content: { 'aria-label': 'Find or do anything' } }}
      nothingFound="Nothing found"
      highlightQuery
      searchProps={{ placeholder: 'Find an activity, or something to do', leftSection: <IconSearch size={16} stroke={1.6} /> }}
    />
  );
});
