/** The open project for components: the session, and subscriptions to its topics. */
import { createContext, startTransition, useContext, useEffect, useRef, useState, useSyncExternalStore } from 'react';
import type { Document } from '@yellowhammer/core/model/document';
import type { ScheduleView } from '@yellowhammer/core/schedule/view';
import { afterFrame } from './frames';
import { heldSelection, type HeldSelection } from './held-selection';
import type { ProjectSession, Topic } from './session';

export const SessionContext = createContext<ProjectSession | null>(null);

export function useSession(): ProjectSession {
  const session = useContext(SessionContext);
  if (!session) throw new Error('no project is open');
  return session;
}

/** Renders again when a topic changes, unless it is not `heard`; the number can stand in dependency lists. */
export function useTopic(topic: Topic, heard = true): number {
  const session = useSession();
  return useSyncExternalStore(
    (f) => session.subscribe(topic, f),
    () => (heard ? session.version(topic) : -1),
  );
}

export function useDoc(): { doc: Document; version: number } {
  const version = useTopic('doc');
  return { doc: useSession().doc, version };
}

/** What is read from the document as one text: renders again only when that says something else. */
export function useDocText(read: (doc: Document) => string): string {
  const session = useSession();
  return useSyncExternalStore(
    (f) => session.subscribe('doc', f),
    () => read(session.doc),
  );
}

export function useView(): ScheduleView | null {
  useTopic('view');
  return useSession().view;
}

/** A value as it was while the dates of an edit are on their way: for what follows the sheet a moment later, so that it is drawn once and not twice. */
export function useWithDates<T>(value: T, wait = true): T {
  useTopic('view');
  const { computing } = useSession();
  const kept = useRef(value);
  if (!wait || !computing.datesSoon) kept.current = value;
  return kept.current;
}

/**
 * What is selected, held with dates that are on their way only where the edit itself moved the selection (Enter goes down a
 * row). Where somebody goes to another row, what is typed into the inspector a moment later must be about that row.
 */
export function useSelectionWithDates<T>(selected: T, wait = true): T {
  useTopic('view');
  const edits = useTopic('doc');
  const { computing } = useSession();
  const kept = useRef<HeldSelection<T>>({ now: selected, edits, moved: false, shown: selected });
  kept.current = heldSelection(kept.current, selected, edits, wait && computing.datesSoon);
  return kept.current.shown;
}

/**
 * A value that follows only when the frame that it came with has been drawn, and no newer one has come meanwhile: for
 * what is beside the rows and bars. Drawn in the same moment (also if put off by React, which draws it before the frame
 * is made), it would hold their frame up, and while a key is held down each frame would begin it and none would end it.
 * It does not `wait` where somebody works with what it is for.
 */
export function useAfterFrame<T>(value: T, wait = true): T {
  const [shown, show] = useState(() => value);
  useEffect(() => {
    const take = (): void => startTransition(() => show(() => value));
    return wait ? afterFrame(take) : take();
  }, [value, wait]);
  return shown;
}

/** Whether a value has stayed the same for so many milliseconds; the first one has. */
export function useRested<T>(value: T, ms: number): boolean {
  const [rested, rest] = useState(() => value);
  useEffect(() => {
    const timer = setTimeout(() => rest(() => value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return rested === value;
}

export const newId = (): string => crypto.randomUUID();
