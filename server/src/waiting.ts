/** Waiting for the database without holding others up: what meets a lock is tried again a little later. */
const MOST_MS = 5_000;

const isLocked = (e: unknown): boolean => /^SQLITE_(BUSY|LOCKED)/.test(String((e as { code?: unknown } | null)?.code ?? ''));

/** Runs something that writes; while another writer holds the database it waits, five seconds at most. */
export async function patiently<T>(f: () => T): Promise<T> {
  const end = Date.now() + MOST_MS;
  for (let wait = 10; ; wait = Math.min(wait * 1.5, 200)) {
    try {
      return f();
    } catch (e) {
      if (!isLocked(e) || Date.now() > end) throw e;
    }
    await new Promise((r) => setTimeout(r, wait));
  }
}
