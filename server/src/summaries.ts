/** What the list of projects shows: computed beside everything else, kept until the revision changes, also over a restart. */
import type { Stage } from '@yellowhammer/core/model/schema';
import type { Summary } from '@yellowhammer/core/rollup/summary';
import { JobFailed, type Jobs } from './jobs.ts';
import type { ProjectHead, Store } from './store.ts';
import type { Figures } from './tasks.ts';

/** Counts up when the core computes figures otherwise than before. */
const VERSION = 2;
/** How long a look at the list waits for figures that are being computed. */
const PATIENCE_MS = 500;

export interface ProjectSummary extends ProjectHead, Summary {
  name: string;
  code: string;
  stage: Stage;
  /** The content of its logo, by its hash. */
  logo: string | null;
  /** `none`: a deleted project, whose figures nobody needs. */
  figures: 'ready' | 'computing' | 'failed' | 'none';
  /** Why they could not be computed. */
  failure: string | null;
}

type Known = { revision: number } & ({ figures: Figures } | { failure: string });

const blank: Summary = {
  start: null,
  finish: null,
  dataDate: null,
  requiredFinish: null,
  againstBaseline: null,
  baselineName: null,
  toRequired: null,
  activities: 0,
  links: 0,
  percent: 0,
  cost: 0,
  nextMilestone: null,
};

export class Summaries {
  private readonly known = new Map<string, Known>();
  private readonly underWay = new Map<string, Promise<void>>();
  private readonly store: Store;
  private readonly jobs: Jobs;

  constructor(store: Store, jobs: Jobs) {
    this.store = store;
    this.jobs = jobs;
    for (const { id, revision, content } of store.keptSummaries(VERSION)) this.known.set(id, { revision, figures: JSON.parse(content) as Figures });
  }

  async all(): Promise<ProjectSummary[]> {
    const heads = this.store.heads();
    const waiting = heads.filter((h) => h.deletedAt === null && this.known.get(h.id)?.revision !== h.revision).map((h) => this.compute(h));
    if (waiting.length) await Promise.race([Promise.all(waiting), new Promise((r) => setTimeout(r, PATIENCE_MS).unref())]);
    const names = new Map(this.store.names().map((n) => [n.id, n]));
    return heads.map((head): ProjectSummary => {
      const { code, name, stage, logo } = names.get(head.id) ?? { code: '', name: '', stage: 'live' as const, logo: null };
      const base = { ...head, ...blank, code, name, stage, logo, failure: null };
      if (head.deletedAt !== null) return { ...base, ...this.store.counts(head.id), figures: 'none' };
      const known = this.known.get(head.id);
      if (known?.revision !== head.revision) return { ...base, ...this.store.counts(head.id), figures: 'computing' };
      if ('failure' in known) return { ...base, ...this.store.counts(head.id), figures: 'failed', failure: known.failure };
      return { ...base, ...known.figures, figures: 'ready' };
    });
  }

  private compute(head: ProjectHead): Promise<void> {
    const key = `${head.id} ${head.revision}`;
    let work = this.underWay.get(key);
    if (!work) {
      work = this.jobs
        .run('summary', [head.id])
        .then(
          (figures) => {
            if (!figures) return;
            this.known.set(head.id, { revision: head.revision, figures });
            try {
              this.store.keepSummary(head.id, head.revision, VERSION, JSON.stringify(figures));
            } catch {
              // Kept only to be quicker after a restart: a locked or full database may do without.
            }
          },
          (e: Error) => void this.known.set(head.id, { revision: head.revision, failure: e instanceof JobFailed ? e.problem.message : 'Its figures could not be computed.' }),
        )
        .finally(() => this.underWay.delete(key));
      this.underWay.set(key, work);
    }
    return work;
  }
}
