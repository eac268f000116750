import { ActionIcon, Menu, Tooltip } from '@mantine/core';
import {
  IconChevronDown,
  IconKeyboard,
  IconLayoutSidebarRight,
  IconMinus,
  IconPlayerPause,
  IconPlayerPlay,
  IconPlus,
  IconRouteAltLeft,
  IconRubberStamp,
  IconTableExport,
  IconZoomScan,
} from '@tabler/icons-react';
import type { Icon } from '@tabler/icons-react';
import { Fragment, memo, useEffect, useState } from 'react';
import { type Document, labelOf } from '@yellowhammer/core/model/document';
import { tables } from '@yellowhammer/core/model/tables';
import { giverText, readGiver } from '@yellowhammer/core/plan/givers';
import { givable } from '@yellowhammer/core/plan/stamp';
import { planActions, useAppDispatch, useOneSelected, usePlanView } from '../app/store';
import { useSession, useTopic } from '../project/hooks';
import { keysOf } from '../commands/keys';
import { commandOf } from '../commands/list';
import { useHands } from '../commands/useHands';
import { columnOf } from './columns';
import { BarTextChoice, ColumnMenu, DrawerChip } from './DockDrawers';
import { drawers } from './panels';

interface Props {
  rows: number;
  onGo: (id: string) => void;
  /** What stamping here would do. */
  stampWords: string;
}

const icon = { size: 16, stroke: 1.6 } as const;

/** A button of a command: its name, its key, and whether it can be done come from the list. */
const Tool = memo(function Tool({ id, label, icon: Icon }: { id: string; label?: string; icon: Icon }) {
  const { act } = useHands();
  const command = commandOf(id);
  const keys = command ? keysOf(command).split(' or ').pop() : '';
  const name = `${label ?? command?.title ?? id}${keys ? ` (${keys})` : ''}`;
  return (
    <Tooltip label={name}>
      <ActionIcon variant="subtle" color="ink" size="sm" aria-label={name} onClick={() => act(id)}>
        <Icon {...icon} />
      </ActionIcon>
    </Tooltip>
  );
});

/** A choice of the list as a line of a menu. */
function Choice({ id }: { id: string }) {
  const { hands, act } = useHands();
  const command = commandOf(id);
  return command && command.able(hands()) === true ? <Check label={command.title} on={command.on?.(hands()) ?? false} onClick={() => act(command)} /> : null;
}

/** What can be shown and hidden; the last part concerns what stands in any picture. */
const shownChoices = [
  ['links-all', 'links-driving', 'links-none'],
  ['assignments-hidden', 'assignments-strips', 'assignments-lines'],
  ['showFloat', 'ownStops', 'ribbonOwn', 'projectRow', 'map', 'clock', 'dense'],
];

/** The strip below: adding, what is shown, problems, and the state of computing and saving. */
export const Dock = memo(function Dock({ rows, onGo, stampWords }: Props) {
  const { act } = useHands();
  const ui = usePlanView();
  const one = useOneSelected();
  const dispatch = useAppDispatch();
  const set = (s: Parameters<typeof planActions.set>[0]): void => void dispatch(planActions.set(s));
  const session = useSession();
  const timeline = ui.mode === 'timeline';
  // Who comes back to Plan finds it closed.
  useEffect(() => () => void dispatch(planActions.set({ drawer: null })), [dispatch]);
  const trace = ui.trace ? session.doc.activities.get(ui.trace.id) : undefined;
  return (
    <footer className={`dock${ui.stamp ? ' stamping' : ''}`}>
      {!ui.stamp && (
        <>
          <button type="button" className="chip" onClick={() => act('addActivity')}>
            Add activity
          </button>
          <button type="button" className="chip" onClick={() => act('addNode')}>
            Add WBS node
          </button>
        </>
      )}
      <Menu closeOnItemClick={false} position="top-start">
        <Menu.Target>
          <button type="button" className="chip">
            Show <IconChevronDown size={12} />
          </button>
        </Menu.Target>
        <Menu.Dropdown>
          {(timeline ? shownChoices : shownChoices.slice(-1)).map((ids, i) => (
            <Fragment key={ids[0]}>
              {i > 0 && <Menu.Divider />}
              {ids.map((id) => (
                <Choice key={id} id={id} />
              ))}
            </Fragment>
          ))}
        </Menu.Dropdown>
      </Menu>
      {timeline && (
        <>
          <ColumnMenu />
          <BarTextChoice />
          <button
            type="button"
            className={`chip${ui.graph === null ? '' : ' on'}`}
            aria-pressed={ui.graph !== null}
            onClick={() => act('graph')}
            title="Load or money on the axis of the timeline"
          >
            Graph
          </button>
        </>
      )}
      {ui.stamp ? (
        <StampBox words={stampWords} />
      ) : (
        <button type="button" className="chip" onClick={() => act('stamp')} title="Pick a value, then click or sweep over rows or bars (S)">
          Stamp
        </button>
      )}
      {trace && ui.trace && (
        <span className="trace-box">
          <IconRouteAltLeft {...icon} /> Connected with {labelOf(trace)}:
          <select aria-label="Which links to follow" value={ui.trace.mode} onChange={(e) => ui.trace && set({ trace: { ...ui.trace, mode: e.target.value as 'driving' | 'all' } })}>
            <option value="all">all links</option>
            <option value="driving">driving links</option>
          </select>
          <input
            aria-label="Steps"
            type="number"
            min={1}
            max={99}
            value={ui.trace.steps}
            onChange={(e) => ui.trace && set({ trace: { ...ui.trace, steps: Math.max(1, Number(e.target.value) || 1) } })}
          />{' '}
          steps
          <button type="button" className="link-button" onClick={() => set({ trace: null })}>
            Show all
          </button>
        </span>
      )}
      {!trace && !ui.stamp && one !== null && session.doc.activities.has(one) && (
        <button type="button" className="chip" onClick={() => act('trace')}>
          Connected
        </button>
      )}
      {ui.focus && (
        <button type="button" className="chip on" onClick={() => act('focus')} title="Show all rows (F or Escape)">
          {focusWords(session.doc, ui.focus)}: {rows} {rows === 1 ? 'row' : 'rows'} · show all
        </button>
      )}
      <LinkChip />
      {ui.sort.length > 0 && (
        <button type="button" className="chip on" onClick={() => act('sortOff')} title="Rows as in the outline again">
          Sorted by {ui.sort.map((s) => columnOf(session.doc, s.key)?.title ?? s.key).join(', then ')}: unsort
        </button>
      )}
      {drawers.map((d) => (
        <DrawerChip key={d.id} drawer={d} onGo={onGo} />
      ))}
      <span className="dock-right">
        <Computing />
        {ui.mode !== 'month' && (
          <>
            <Tool id="zoomOut" icon={IconMinus} />
            <Tool id="zoomIn" icon={IconPlus} />
            <Tool id="fit" icon={IconZoomScan} />
          </>
        )}
        <Tool id="csv" icon={IconTableExport} />
        <Tool id="keys" icon={IconKeyboard} />
        <Tool id="inspector" label={ui.inspector ? 'Hide the inspector' : 'Show the inspector'} icon={IconLayoutSidebarRight} />
      </span>
    </footer>
  );
});

/** What is in focus, by name where it is one. */
function focusWords(doc: Document, focus: readonly string[]): string {
  const [one] = focus;
  const name = one === undefined ? '' : (doc.wbs.get(one)?.name ?? doc.activities.get(one)?.name ?? '');
  return `Focus on ${focus.length === 1 && name ? (name.length > 24 ? `${name.slice(0, 23)}…` : name) : `${focus.length} ${focus.length === 1 ? 'row' : 'rows or branches'}`}`;
}

/** The link that is selected, and what can be done with it. */
function LinkChip() {
  const { doc } = useSession();
  const { link } = usePlanView();
  const { act } = useHands();
  const dispatch = useAppDispatch();
  useTopic('links');
  const l = link === null ? undefined : doc.links.get(link);
  return l ? (
    <button type="button" className="chip on" title="Delete" onClick={() => (act('deleteLink'), dispatch(planActions.set({ link: null })))}>
      Link {tables.links.label(l, doc)} ({l.type}): delete
    </button>
  ) : null;
}

/** The value that is stamped, and what it would do to the row under the pointer. */
function StampBox({ words }: { words: string }) {
  const ui = usePlanView();
  const dispatch = useAppDispatch();
  const { doc } = useSession();
  const key = ui.stamp?.key ?? 'calendar';
  const all = givable(doc);
  const one = all.find((x) => x.key === key);
  const { choice, amount } = one?.amount ? readGiver(ui.stamp?.text ?? '') : { choice: ui.stamp?.text ?? '', amount: '' };
  const set = (stamp: { key: string; text: string } | null): void => void dispatch(planActions.set({ stamp }));
  const put = (of: (typeof all)[number] | undefined, value: string, much = of?.amount?.usual ?? ''): void =>
    set({ key: of?.key ?? key, text: of?.amount ? giverText(value, much) : value });
  return (
    <span className="trace-box">
      <IconRubberStamp {...icon} /> Stamp
      <select
        aria-label="Field to stamp"
        value={key}
        onChange={(e) => {
          const next = all.find((x) => x.key === e.target.value);
          put(next, next?.choices(doc)[0] ?? '');
        }}
      >
        {all.map((x) => (
          <option key={x.key} value={x.key}>
            {x.title}
          </option>
        ))}
      </select>
      <select aria-label="Value to stamp" value={choice} onChange={(e) => put(one, e.target.value, amount)}>
        {!one?.amount && <option value="">{key === 'calendar' ? 'the project’s calendar' : 'nothing'}</option>}
        {one?.choices(doc).map((v) => (
          <option key={v} value={v}>
            {v}
          </option>
        ))}
      </select>
      {one?.amount && (
        <input aria-label={one.amount.title} className="stamp-amount" value={amount} onChange={(e) => put(one, choice, e.target.value)} onKeyDown={(e) => e.stopPropagation()} />
      )}
      <span className="muted stamp-words" role="status">
        {words || 'click or sweep over rows or bars'}
      </span>
      <button type="button" className="link-button" onClick={() => set(null)}>
        Done
      </button>
    </span>
  );
}

function Check({ label, on, onClick }: { label: string; on: boolean; onClick: () => void }) {
  return (
    <Menu.Item rightSection={on ? '✓' : ''} onClick={onClick}>
      {label}
    </Menu.Item>
  );
}

function Computing() {
  const session = useSession();
  useTopic('view');
  useTopic('doc');
  useTopic('sync');
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((n) => n + 1), 5000);
    return () => clearInterval(timer);
  }, []);
  const ago = Math.max(0, Math.round((Date.now() - session.computing.computedAt) / 100) / 10);
  const saved = { saved: 'saved', saving: 'saving', offline: 'server away', blocked: 'not saved', gone: 'deleted' }[session.sync.state];
  const text = session.stale
    ? session.paused
      ? 'Recomputing paused: dates are not up to date'
      : 'Computing'
    : `Computed in ${Math.round(session.computing.milliseconds)} ms, ${ago < 60 ? `${Math.round(ago)} s` : `${Math.round(ago / 60)} min`} ago`;
  return (
    <>
      <span className={`computing${session.stale ? ' stale' : ''}`} role="status">
        <span className="dot" /> {text} · {saved}
      </span>
      <Tool id="pause" label={session.paused ? 'Resume recomputing' : 'Pause recomputing'} icon={session.paused ? IconPlayerPlay : IconPlayerPause} />
    </>
  );
}
