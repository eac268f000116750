import { Spotlight, type SpotlightActionData } from '@mantine/spotlight';
import { IconSearch } from '@tabler/icons-react';
import { memo, useMemo, useState } from 'react';
import { isTypable } from '@yellowhammer/core/commands/cells';
import { fieldsOf } from '@yellowhammer/core/fields/list';
import { labelOf } from '@yellowhammer/core/model/document';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { parseTypedDate, showTypedDate } from '@yellowhammer/core/time/typed-date';
import { type Findable, found } from '../commands/find';
import { commands, findableCommand } from '../commands/list';
import { keysOf } from '../commands/keys';
import type { AppCommand, Hands } from '../commands/types';
import { useHands } from '../commands/useHands';
import { useSession, useTopic } from '../project/hooks';
import { planActions, useAppDispatch, useAppSelector } from './store';
import { statusDay } from '@yellowhammer/core/model/status-day';

/** Activities and WBS nodes that are listed. */
const MOST = 12;
const MOST_NODES = 6;
/** Commands and fields that are listed where something is typed: of a first letter there are more than anybody reads, and each is drawn. */
const MOST_FITTING = 40;

/** What can be found: a command or a field. */
interface Entry extends Findable {
  action: () => SpotlightActionData;
}

/** What cannot be done now is shown with its reason, and does nothing. */
const ofCommand = (c: AppCommand, h: Hands, act: (c: AppCommand) => void): Entry => ({
  ...findableCommand(c),
  action() {
    const able = c.able(h);
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
  },
});

/** A field is a place, too: its column, and where one row is selected its value there. */
function ofFields(h: Hands): Entry[] {
  const { plan } = h;
  if (!plan) return [];
  const { doc } = h.session;
  const id = h.ui.selected.length === 1 ? h.ui.selected[0]! : '';
  const [activity, node] = [doc.activities.get(id), doc.wbs.get(id)];
  const row = activity ? labelOf(activity) : node?.name;
  return [...fieldsOf(doc).values()].flatMap((f): Entry[] =>
    f.naming
      ? []
      : [
          {
            title: f.title,
            rest: `${f.about} ${f.group}`,
            action: () => ({
              id: `field-${f.key}`,
              label: f.title,
              description: row !== undefined && isTypable(f, activity ? 'activity' : 'wbs') ? `Type it for ${row}` : `Shows the column. ${f.about}`,
              onClick: () => plan.editField(f.key),
            }),
          },
        ],
  );
}

/** One box for finding an activity, a WBS node or a field and doing anything (Ctrl+K). */
export const Palette = memo(function Palette() {
  const session = useSession();
  const { doc } = session;
  const [query, setQuery] = useState('');
  const [opened, setOpened] = useState(false);
  const version = useTopic('doc', opened);
  const ui = useAppSelector((s) => (opened ? s.plan : null));
  const dispatch = useAppDispatch();
  const { hands, act } = useHands();
  // Plan's panels bring commands, too; where Plan has not been open yet they come with the first look.
  const [known, setKnown] = useState(commands.length);
  const actions = useMemo(() => {
    // What can be done is found out when somebody looks.
    if (!opened) return [];
    const q = query.trim().toLowerCase();
    const h = hands();
    const things: SpotlightActionData[] = [];
    const row = (id: string, label: string, description: string | undefined): void => {
      things.push({
        id,
        label,
        description,
        onClick: () => {
          dispatch(planActions.set({ trace: null, quick: [], filter: null, headFilters: null, focus: null }));
          dispatch(planActions.select({ ids: [id], active: { row: id, column: 'name' } }));
          h.go(`/p/${session.id}/plan`, { reveal: id });
        },
      });
    };
    if (q) {
      for (const a of doc.activities.values()) {
        if (labelOf(a).toLowerCase().includes(q)) row(a.id, labelOf(a), doc.wbs.get(a.wbsId ?? '')?.name);
        if (things.length >= MOST) break;
      }
      const most = things.length + MOST_NODES;
      for (const n of doc.wbs.values()) {
        if (n.name.toLowerCase().includes(q)) row(n.id, n.name, n.parentId === null ? 'WBS node' : `WBS node in ${doc.wbs.get(n.parentId)?.name ?? ''}`);
        if (things.length >= most) break;
      }
    }
    // A typed date is a place to go to.
    const date = q ? parseTypedDate(q, statusDay(doc)) : undefined;
    const at = date === undefined ? undefined : (parseInstant(date) ?? parseInstant(`${date}T00:00`));
    if (date !== undefined && at !== undefined && h.plan)
      things.unshift({ id: 'go-date', label: `Go to ${showTypedDate(date)}`, description: 'Moves the timeline there', onClick: () => h.plan?.goDate(at) });
    // Fields are many: they come where something is typed.
    const entries = [...commands.map((c) => ofCommand(c, h, act)), ...(q ? ofFields(h) : [])];
    const fitting = found(query, entries, (x) => x);
    return [...things, ...(q ? fitting.slice(0, MOST_FITTING) : fitting).map((x) => x.action())];
    // The document is one object that changes inside; its version says when. What is selected decides what can be done.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [opened, query, version, doc, session, dispatch, hands, act, ui, known]);
  return (
    <Spotlight
      actions={actions}
      query={query}
      onQueryChange={setQuery}
      filter={(_, list) => list}
      onSpotlightOpen={() => {
        setOpened(true);
        void import('../plan/panels').then(() => setKnown(commands.length));
      }}
      onSpotlightClose={() => setOpened(false)}
      shortcut={null}
      scrollable
      maxHeight={440}
      // A plan out of focus would be drawn anew with each letter.
      overlayProps={{ blur: 0 }}
      attributes={{ content: { 'aria-label': 'Find or do anything' } }}
      nothingFound="Nothing found"
      highlightQuery
      searchProps={{ placeholder: 'Find an activity, or something to do', leftSection: <IconSearch size={16} stroke={1.6} /> }}
    />
  );
});
