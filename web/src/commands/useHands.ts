/** The hands that commands work with, for components: made of what is open just now. */
import { spotlight } from '@mantine/spotlight';
import { useCallback } from 'react';
import { useNavigate } from 'react-router';
import { store, useAppDispatch } from '../app/store';
import { useSession } from '../project/hooks';
import { commandOf } from './list';
import type { AppCommand, Hands, PlanHands } from './types';

/** What the open rooms have put here. A window has one of each. */
const present: { plan: PlanHands | null; settings: Hands['settings']; help: () => void; dark: boolean; setDark: (dark: boolean) => void } = {
  plan: null,
  settings: () => undefined,
  help: () => undefined,
  dark: false,
  setDark: () => undefined,
};

/** Plan, while it is open, and the header with its dialogs say what they can do. */
export const offer = (part: Partial<typeof present>): void => void Object.assign(present, part);

export interface Doing {
  hands: (target?: { link?: string; column?: string }) => Hands;
  /** Does a command, or says why it cannot be done. */
  act: (command: AppCommand | string, target?: { link?: string; column?: string }) => void;
}

export function useHands(): Doing {
  const session = useSession();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const hands = useCallback(
    (target: { link?: string; column?: string } = {}): Hands => ({
      session,
      ui: store.getState().plan,
      dispatch,
      plan: present.plan,
      link: target.link ?? store.getState().plan.link,
      column: target.column ?? null,
      go: (path, state) => void navigate(path, { state }),
      settings: present.settings,
      help: present.help,
      find: () => spotlight.open(),
      dark: present.dark,
      setDark: present.setDark,
    }),
    [session, dispatch, navigate],
  );
  const act = useCallback(
    (command: AppCommand | string, target?: { link?: string; column?: string }): void => {
      const c = typeof command === 'string' ? commandOf(command) : command;
      if (!c) return;
      const h = hands(target);
      if (c.ofDates && session.stale && !session.paused) {
        // Not where something else was selected meanwhile: it would be done to that.
        void session.current().then(() => store.getState().plan.selected === h.ui.selected && act(c, target));
        return;
      }
      const able = c.able(h);
      if (able === true) c.run(h);
      else session.onNotice({ tone: 'problem', title: `${c.title}: not now`, text: able });
    },
    [hands, session],
  );
  return { hands, act };
}
