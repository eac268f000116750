/** Whose demand counts: this project alone, or all live ones, or just those that are chosen. */
import { Popover } from '@mantine/core';
import { useCallback, useEffect, useState, useSyncExternalStore } from 'react';
import { type Elsewhere, type OtherProject, stageNames } from '@yellowhammer/core/load/elsewhere';
import { call } from '../project/api';
import { useSession } from '../project/hooks';
import type { ProjectSession } from '../project/session';

/** While others count, they are asked for again so often: somebody may change them. */
const AGAIN_MS = 15_000;

interface State {
  on: boolean;
  /** Ids of projects that count; null: the live ones. */
  counting: string[] | null;
  projects: readonly OtherProject[];
  /** Codes of those that ask for something of this project. */
  asking: readonly string[];
  sign: string;
}

const initial: State = { on: false, counting: null, projects: [], asking: [], sign: '' };
/** Of each open project, also while another room is shown. */
const states = new WeakMap<ProjectSession, State>();
const counts = (p: OtherProject, counting: string[] | null): boolean => (counting ? counting.includes(p.id) : p.stage === 'live' && !p.archived);

function useOver(): { state: State; ask: (next: Partial<Pick<State, 'on' | 'counting'>>) => Promise<void> } {
  const session = useSession();
  const state = useSyncExternalStore(
    (f) => session.subscribe('view', f),
    () => states.get(session) ?? initial,
  );
  const ask = useCallback(
    async (next: Partial<Pick<State, 'on' | 'counting'>>): Promise<void> => {
      const was = states.get(session) ?? initial;
      const wish = { ...was, ...next };
      if (!wish.on) {
        states.set(session, { ...wish, sign: '' });
        return session.setElsewhere(null);
      }
      const reply = await call<Elsewhere & { sign: string }>('POST', `/projects/${session.id}/elsewhere`, { counting: wish.counting, known: was.on ? was.sign : '' });
      if (!reply.ok) {
        session.onNotice({ tone: 'problem', title: 'Other projects do not count', text: reply.problems.map((p) => p.message).join('\n') });
        return;
      }
      if (!('asks' in reply.value)) return;
      const { sign, ...elsewhere } = reply.value;
      const asking = new Set(elsewhere.asks.map((a) => elsewhere.projects[a.project]?.code ?? ''));
      states.set(session, { ...wish, sign, projects: elsewhere.projects, asking: [...asking].sort() });
      await session.setElsewhere(elsewhere);
    },
    [session],
  );
  return { state, ask };
}

export function Over() {
  const { state, ask } = useOver();
  const [opened, setOpened] = useState(false);
  const { on, projects } = state;
  // What is asked for is ticked at once, and counts when the others are computed.
  const [counting, setCounting] = useState(state.counting);
  const count = (ids: string[] | null): void => {
    setCounting(ids);
    void ask({ counting: ids });
  };
  useEffect(() => {
    if (!on) return;
    void ask({});
    const timer = setInterval(() => void ask({}), AGAIN_MS);
    return () => clearInterval(timer);
  }, [on, ask]);
  const counted = projects.filter((p) => counts(p, counting));
  const toggle = (p: OtherProject): void => {
    const ids = counted.map((x) => x.id);
    count(ids.includes(p.id) ? ids.filter((x) => x !== p.id) : [...ids, p.id]);
  };
  return (
    <>
      <div className="load-choice" role="group" aria-label="Whose demand counts">
        <button type="button" aria-pressed={!on} onClick={() => void ask({ on: false })}>
          This project
        </button>
        <button type="button" aria-pressed={on} title="With what the other live projects ask of the resources that they share with this one" onClick={() => void ask({ on: true })}>
          All live ones
        </button>
      </div>
      {on && (
        <Popover opened={opened} onChange={setOpened} position="bottom-start">
          <Popover.Target>
            <button type="button" className="chip" aria-expanded={opened} onClick={() => setOpened(!opened)}>
              {state.asking.length ? `with ${state.asking.join(', ')}` : 'nobody else asks'}
            </button>
          </Popover.Target>
          <Popover.Dropdown className="load-over">
            {projects.map((p) => (
              <label key={p.id}>
                <input type="checkbox" checked={counts(p, counting)} onChange={() => toggle(p)} /> <b>{p.code}</b> {p.name}{' '}
                <span className="muted">{p.archived ? 'archived' : p.stage === 'live' ? '' : stageNames[p.stage]}</span>
              </label>
            ))}
            {projects.length === 0 && <p className="muted">There is no other project.</p>}
            {counting && (
              <button type="button" className="chip" onClick={() => count(null)}>
                The live ones again
              </button>
            )}
          </Popover.Dropdown>
        </Popover>
      )}
    </>
  );
}
