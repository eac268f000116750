/** What the list of projects shows: computed by the core, kept until the revision changes. */
import { projectOf } from '@yellowhammer/core/model/document';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { summarise, type Summary } from '@yellowhammer/core/rollup/summary';
import type { ProjectHead, Store } from './store.ts';

export interface ProjectSummary extends ProjectHead, Summary {
  name: string;
  code: string;
}

export class Summaries {
  private readonly known = new Map<string, { revision: number; summary: Summary & { name: string; code: string } }>();
  private readonly store: Store;
  constructor(store: Store) {
    this.store = store;
  }

  all(): ProjectSummary[] {
    return this.store.heads().flatMap((head) => {
      const summary = this.of(head);
      return summary ? [{ ...head, ...summary }] : [];
    });
  }

  private of(head: ProjectHead): (Summary & { name: string; code: string }) | undefined {
    const known = this.known.get(head.id);
    if (known && known.revision === head.revision) return known.summary;
    const loaded = this.store.document(head.id);
    if (!loaded) return undefined;
    const project = projectOf(loaded.doc);
    const { computed } = schedule(loaded.doc);
    const copy = project.baselineId === null ? undefined : this.store.copy(head.id, project.baselineId);
    const baselineFinish = copy && schedule(copy).computed?.projectFinish;
    const summary = { name: project.name, code: project.code, ...summarise(loaded.doc, computed, baselineFinish) };
    this.known.set(head.id, { revision: head.revision, summary });
    return summary;
  }
}
