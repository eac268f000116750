/** Unsent batches in memory, for tests of the road and the courier. */
import type { UnsentStore, Waiting } from '../src/project/unsent';

export class MemoryStore implements UnsentStore {
  list: Waiting[] = [];
  put(w: Waiting): Promise<void> {
    if (!this.list.some((x) => x.batch.changeId === w.batch.changeId)) this.list.push({ ...w });
    return Promise.resolve();
  }
  remove(changeIds: readonly string[]): Promise<void> {
    this.list = this.list.filter((w) => !changeIds.includes(w.batch.changeId));
    return Promise.resolve();
  }
  mark(changeId: string): Promise<void> {
    for (const w of this.list) if (w.batch.changeId === changeId) w.clash = true;
    return Promise.resolve();
  }
  adopt(changeId: string, client: string): Promise<void> {
    for (const w of this.list) if (w.batch.changeId === changeId) w.client = client;
    return Promise.resolve();
  }
  all(projectId?: string): Promise<Waiting[]> {
    return Promise.resolve(this.list.filter((w) => projectId === undefined || w.projectId === projectId));
  }
}
