/** Sends what closed windows left unsent, for projects that no window has open. */
import { call } from './api';
import { alone, openWindows } from './tab';
import { type UnsentStore, unsentStore } from './unsent';

/** Delivers in order, project by project. What the server does not take is kept, and shown when the project is opened. */
export async function deliver(except: string | undefined, store: UnsentStore = unsentStore): Promise<void> {
  const waiting = (await store.all()).filter((w) => w.projectId !== except);
  if (waiting.length === 0) return;
  const alive = await openWindows();
  for (const projectId of new Set(waiting.map((w) => w.projectId)))
    await alone(`adopt.${projectId}`, async () => {
      let revision = 0;
      for (const w of await store.all(projectId)) {
        // A batch after one that stands against something may rest on it: the person is asked about all of them.
        if (w.clash) return;
        if (alive.has(w.client)) continue;
        for (let tries = 0; tries < 4; tries++) {
          const reply = await call<{ revision: number }>('POST', `/projects/${projectId}/changes`, { revision, batch: w.batch }, w.client);
          if (reply.ok) {
            revision = reply.value.revision;
            await store.remove([w.batch.changeId]);
            break;
          }
          if (reply.status === 409) {
            revision = (reply.body as { revision: number }).revision;
            continue;
          }
          if (reply.status === 422) await store.mark(w.batch.changeId);
          return;
        }
      }
    });
}
