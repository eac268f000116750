/** Talking to the server. Failures are values: a lost connection is told apart from a refusal. */
import type { Problem } from '@yellowhammer/core/model/problem';

export type Reply<T> = { ok: true; value: T } | { ok: false; status: number; problems: Problem[]; body: unknown };

const remembered = (storage: Storage, key: string, make: () => string): string => {
  const known = storage.getItem(key);
  if (known) return known;
  const value = make();
  storage.setItem(key, value);
  return value;
};

/** This window, also after a reload: undo and redo belong to it. */
export const clientId = (): string => remembered(sessionStorage, 'yellowhammer.client', () => crypto.randomUUID());
/** Another id for this window: that of a duplicated one belongs to its origin. */
export const newClientId = (): void => sessionStorage.setItem('yellowhammer.client', crypto.randomUUID());
export const personName = (): string => localStorage.getItem('yellowhammer.who') ?? 'Planner';
export const setPersonName = (name: string): void => localStorage.setItem('yellowhammer.who', name.trim() || 'Planner');

/** Where a picture is, by the hash of its content. */
export const pictureAddress = (hash: string): string => `/api/pictures/${hash}`;

/** Keeps what a file holds; its row comes with the changes of its project. */
export const keepContent = (file: Blob): Promise<Reply<{ hash: string; size: number }>> => call('POST', '/contents', file);

/**
 * Status 0: the server could not be reached. A text or file is sent as it is, anything else as JSON; `client` is whose act it
 * is; `heard` gets the text of an answer before it is read here.
 */
export async function call<T>(method: string, path: string, body?: unknown, client = clientId(), heard?: (text: string) => void): Promise<Reply<T>> {
  try {
    const response = await fetch(`/api${path}`, {
      method,
      // The type is told also where there is no body: the server takes nothing else that changes something.
      headers: { 'x-client': client, 'x-who': encodeURIComponent(personName()), ...(method === 'GET' ? {} : { 'content-type': 'application/json' }) },
      ...(body === undefined ? {} : { body: typeof body === 'string' || body instanceof Blob ? body : JSON.stringify(body) }),
    });
    const text = await response.text();
    if (response.ok) heard?.(text);
    let value: unknown = text;
    if (response.headers.get('content-type')?.includes('json') && !path.includes('/copies/') && !path.endsWith('/file')) value = JSON.parse(text);
    if (response.ok) return { ok: true, value: value as T };
    const problems = (value as { problems?: Problem[] }).problems ?? [
      { code: 'SERVER', severity: 'error' as const, message: `The server answered ${response.status}.`, where: {} },
    ];
    // A proxy that finds no server behind it answers 502 to 504: the same as no connection.
    return { ok: false, status: response.status >= 502 && response.status <= 504 ? 0 : response.status, problems, body: value };
  } catch {
    return { ok: false, status: 0, problems: [{ code: 'OFFLINE', severity: 'error', message: 'The server cannot be reached.', where: {} }], body: null };
  }
}
