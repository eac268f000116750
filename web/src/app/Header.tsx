import { ActionIcon, Menu, Tooltip, useComputedColorScheme, useMantineColorScheme } from '@mantine/core';
import { IconArrowBackUp, IconArrowForwardUp, IconMoon, IconSearch, IconSun, IconUserCircle } from '@tabler/icons-react';
import { memo, useCallback, useEffect, useState } from 'react';
import { count } from '@yellowhammer/core/commands/result';
import { projectOf } from '@yellowhammer/core/model/document';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { personName, pictureAddress, setPersonName } from '../project/api';
import { useDoc, useSession, useTopic, useView, useWithDates } from '../project/hooks';
import { longDate, longFinish, signedDays } from './format';
import { meaningOf } from '../commands/keys';
import type { SettingsPart } from '../commands/types';
import { offer, useHands } from '../commands/useHands';
import { KeysHelp } from '../plan/KeysHelp';
import { Palette } from './Palette';
import { ProjectSettings } from './ProjectSettings';

function Figure(props: { value: string; caption: string; late?: boolean; stale?: boolean; title?: string }) {
  return (
    <div className={`figure${props.late ? ' late' : ''}${props.stale ? ' stale' : ''}`} title={props.title}>
      <div className="figure-value">{props.value}</div>
      <div className="figure-caption">{props.caption}</div>
    </div>
  );
}

/** Project name, the four figures, undo and redo, search. */
export function Header() {
  const session = useSession();
  const { doc } = useDoc();
  const view = useView();
  const [settings, setSettings] = useState<SettingsPart | 'all' | null>(null);
  const [help, setHelp] = useState(false);
  useEffect(() => offer({ settings: (at) => setSettings(at ?? 'all'), help: () => setHelp(true) }), []);
  const closeSettings = useCallback(() => setSettings(null), []);
  useKeysEverywhere();
  const project = projectOf(doc);
  const logo = doc.pictures.get(project.logoId ?? '');
  const s = view?.summary;
  const stale = session.stale;
  const { act } = useHands();
  useTopic('moved');
  const moved = session.moved?.recalled ? 0 : (session.moved?.finishDays ?? 0);
  return (
    <header className="header">
      {logo && <img className="header-logo" src={pictureAddress(logo.hash)} alt="" />}
      <div className="header-name">
        <button type="button" className="plain-button header-title" onClick={() => setSettings('all')} title={`${project.name}: project settings`}>
          {project.name || 'Unnamed project'}
        </button>
        <div className="header-counts">
          {project.code} · {count(doc.activities.size, 'activity')} · {count(doc.links.size, 'link')}
        </div>
      </div>
      <div className="header-figures" aria-live="polite">
        {s?.finish ? (
          <>
            <Figure
              value={longFinish(parseInstant(s.finish) as number)}
              caption={stale ? 'forecast finish, not up to date' : moved ? `forecast finish, ${signedDays(moved)} just now` : 'forecast finish'}
              stale={stale}
            />
            {s.againstBaseline !== null && (
              <Figure value={signedDays(s.againstBaseline)} caption={`against ${s.baselineName ?? 'baseline'}`} late={s.againstBaseline > 0} stale={stale} />
            )}
            {s.toRequired !== null && (
              <Figure
                value={signedDays(s.toRequired)}
                caption="to required finish"
                late={s.toRequired < 0}
                stale={stale}
                title={`Required ${longDate(project.requiredFinish)}. Negative: the forecast misses it.`}
              />
            )}
          </>
        ) : (
          <Figure
            value={session.computing.computedVersion < 0 ? 'Computing' : 'No dates yet'}
            caption={session.computing.computedVersion < 0 ? 'dates come in a moment' : doc.activities.size ? 'see problems' : 'add activities first'}
          />
        )}
        <Figure value={project.dataDate ? longDate(project.dataDate) : longDate(project.plannedStart)} caption={project.dataDate ? 'data date' : 'planned start'} />
      </div>
      <div className="header-actions">
        <SyncMark />
        <Undo />
        <button type="button" className="find-box" onClick={() => act('find')}>
          <IconSearch size={14} stroke={1.6} />
          <span>Find or do anything</span>
          <kbd>Ctrl K</kbd>
        </button>
        <Person />
        <Theme />
      </div>
      <Palette />
      <KeysHelp opened={help} onClose={() => setHelp(false)} />
      {settings && <ProjectSettings opened at={settings} onClose={closeSettings} />}
    </header>
  );
}

/** True where keys with Ctrl belong to a text; a list, a tick or a choice has none that could be taken back. */
const takesText = (el: HTMLElement | null): boolean =>
  el instanceof HTMLInputElement ? !el.readOnly && !['checkbox', 'radio', 'button', 'file', 'color', 'range'].includes(el.type) : !(el instanceof HTMLSelectElement);

/** Keys of commands that act in every room, outside of texts that are being typed. */
function useKeysEverywhere(): void {
  const { hands, act } = useHands();
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      const target = e.target as HTMLElement | null;
      const typing = target?.closest?.('input, textarea, select, [contenteditable]') !== null;
      const held = e.ctrlKey || e.metaKey;
      if (e.defaultPrevented || (typing && !(held && (e.key === 'k' || !takesText(target))))) return;
      const meaning = meaningOf(e, typing);
      if (!meaning || !('command' in meaning) || !meaning.command.everywhere) return;
      e.preventDefault();
      // With nothing to undo there is nothing to say, either.
      if (meaning.command.able(hands()) === true) act(meaning.command);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [act, hands]);
}

const SyncMark = memo(function SyncMark() {
  const session = useSession();
  useTopic('sync');
  const { state, pending, reason } = useWithDates(session.sync);
  const text = {
    saved: 'Saved',
    saving: `Saving ${pending}`,
    offline: `Server away · ${pending} ${pending === 1 ? 'change waits' : 'changes wait'}`,
    blocked: `Not saved · ${pending} ${pending === 1 ? 'change waits' : 'changes wait'}`,
    gone: 'This project was deleted',
  }[state];
  return (
    <span className={`sync sync-${state}`} role="status" title={state === 'offline' ? 'What you enter is kept in this browser and sent when the server is back.' : reason}>
      {state === 'saved' ? '' : text}
      {state === 'blocked' && <span className="sync-reason">{reason}</span>}
    </span>
  );
});

const Undo = memo(function Undo() {
  const session = useSession();
  useTopic('history');
  const undo = session.undoStack[session.undoStack.length - 1];
  const redo = session.redoStack[session.redoStack.length - 1];
  const { act } = useHands();
  return (
    <>
      <Tooltip label={undo ? `Undo: ${undo.label}` : 'Nothing to undo'}>
        <ActionIcon variant="subtle" color="ink" aria-label={undo ? `Undo: ${undo.label}` : 'Undo'} disabled={!undo} onClick={() => act('undo')}>
          <IconArrowBackUp size={19} stroke={1.6} />
        </ActionIcon>
      </Tooltip>
      <Tooltip label={redo ? `Redo: ${redo.label}` : 'Nothing to redo'}>
        <ActionIcon variant="subtle" color="ink" aria-label={redo ? `Redo: ${redo.label}` : 'Redo'} disabled={!redo} onClick={() => act('redo')}>
          <IconArrowForwardUp size={19} stroke={1.6} />
        </ActionIcon>
      </Tooltip>
    </>
  );
});

/** Which theme there is, for commands. Asked once here: each who asks Mantine asks the browser again whenever it is drawn. */
const Theme = memo(function Theme() {
  const { setColorScheme } = useMantineColorScheme();
  const dark = useComputedColorScheme('light') === 'dark';
  useEffect(() => offer({ dark, setDark: (next) => setColorScheme(next ? 'dark' : 'light') }), [dark, setColorScheme]);
  return null;
});

/** Name of the person, as others see it, and the theme. */
export const Person = memo(function Person() {
  const { setColorScheme } = useMantineColorScheme();
  const scheme = useComputedColorScheme('light');
  const [name, setName] = useState(personName());
  return (
    <Menu position="bottom-end" width={220}>
      <Menu.Target>
        <ActionIcon variant="subtle" color="ink" aria-label={`You are ${name}; theme`}>
          <IconUserCircle size={20} stroke={1.6} />
        </ActionIcon>
      </Menu.Target>
      <Menu.Dropdown>
        <div className="menu-field">
          <label htmlFor="person">Your name, as others see it</label>
          <input
            id="person"
            value={name}
            onChange={(e) => {
              setName(e.target.value);
              setPersonName(e.target.value);
            }}
          />
        </div>
        <Menu.Item
          leftSection={scheme === 'dark' ? <IconSun size={16} stroke={1.6} /> : <IconMoon size={16} stroke={1.6} />}
          onClick={() => setColorScheme(scheme === 'dark' ? 'light' : 'dark')}
        >
          {scheme === 'dark' ? 'Light theme' : 'Dark theme'}
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
});
