/** The open project for components: the session, and subscriptions to its topics. */
import { createContext, useContext, useSyncExternalStore } from 'react';
import type { Document } from '@yellowhammer/core/model/document';
import type { ScheduleView } from '@yellowhammer/core/schedule/view';
import type { ProjectSession, Topic } from './session';

export const SessionContext = createContext<ProjectSession | null>(null);

export function useSession(): ProjectSession {
  const session = useContext(SessionContext);
  if (!session) throw new Error('no project is open');
  return session;
}

/** Renders again when a topic changes; the number can stand in dependency lists. */
export function useTopic(topic: Topic): number {
  const session = useSession();
  return useSyncExternalStore(
    (f) => session.subscribe(topic, f),
    () => session.version(topic),
  );
}

export function useDoc(): { doc: Document; version: number } {
  const version = useTopic('doc');
  return { doc: useSession().doc, version };
}

export function useView(): ScheduleView | null {
  useTopic('view');
  return useSession().view;
}

export const newId = (): string => crypto.randomUUID();
