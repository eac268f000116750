/** Jobs that write to projects from another thread. */
import type { Jobs } from './jobs.ts';
import type { Store } from './store.ts';
import type { TaskArgs, TaskName, TaskResult } from './tasks.ts';

/** Tasks that say which projects they wrote to. */
export type Writing = { [T in TaskName]: TaskResult<T> extends { told: string[] } ? T : never }[TaskName];

/** Runs one of them; what it wrote in another thread is told to the windows of this one. */
export async function writing<T extends Writing>(store: Store, jobs: Jobs, task: T, args: TaskArgs<T>): Promise<TaskResult<T>> {
  const before = new Map(store.heads().map((h) => [h.id, h.revision]));
  const made = await jobs.run(task, args);
  if (jobs.apart)
    for (const id of (made as { told: string[] }).told) {
      const since = before.get(id);
      if (since !== undefined) store.tellNews(id, since);
    }
  return made;
}
