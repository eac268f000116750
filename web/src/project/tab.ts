/** This window among the others of the browser: its own id, and which others are alive. */
import { clientId, newClientId } from './api';

const lockOf = (client: string): string => `yellowhammer.window.${client}`;

let held: Promise<void> | undefined;

/** Takes a lock for as long as the window lives; false where another window has it. */
function hold(client: string): Promise<boolean> {
  return new Promise((got) => {
    void navigator.locks.request(lockOf(client), { ifAvailable: true }, (lock) => {
      got(lock !== null);
      // Held until the window is closed.
      return lock ? new Promise<void>(() => undefined) : undefined;
    });
  });
}

/**
 * Makes the id of this window its own: a window that was duplicated by the browser has the id of the other and gets a
 * new one. After a reload the last page may still be letting go, so it is tried for a moment.
 */
export function claimWindow(): Promise<void> {
  held ??= (async () => {
    if (!('locks' in navigator)) return;
    for (let tries = 0; tries < 5; tries++) {
      if (await hold(clientId())) return;
      await new Promise((r) => setTimeout(r, 80));
    }
    newClientId();
    await hold(clientId());
  })();
  return held;
}

/** Windows of this browser that are open. */
export async function openWindows(): Promise<Set<string>> {
  if (!('locks' in navigator)) return new Set([clientId()]);
  const { held: locks } = await navigator.locks.query();
  const prefix = lockOf('');
  return new Set((locks ?? []).flatMap((l) => (l.name?.startsWith(prefix) ? [l.name.slice(prefix.length)] : [])));
}

/** Runs something in one window of the browser at a time; not at all where another is at it. */
export async function alone(name: string, f: () => Promise<void>): Promise<void> {
  if (!('locks' in navigator)) return f();
  await navigator.locks.request(`yellowhammer.${name}`, { ifAvailable: true }, async (lock) => {
    if (lock) await f();
  });
}
