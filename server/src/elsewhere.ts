/** What the other projects ask of shared resources and roles, computed project by project and kept until one changes. */
import { asksOfShared, type Elsewhere, type ElsewhereAsk, type OtherProject } from '@yellowhammer/core/load/elsewhere';
import { projectOf } from '@yellowhammer/core/model/document';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import type { Store } from './store.ts';

type Known = { revision: number; asks: Omit<ElsewhereAsk, 'project'>[] };
const kept = new WeakMap<Store, Map<string, Known>>();

/** Asked for over projects: all that are not deleted beside the open one, and what those ask that count. */
export interface ElsewhereReply extends Elsewhere {
  /** What it was made of: the same as before means the same answer. */
  sign: string;
}

/** Shared resources and roles that a project has copies of: only what is asked of those matters to it. */
function sharedIn(store: Store, projectId: string): Set<string> {
  const doc = store.document(projectId)?.doc;
  const keys = (['resources', 'roles'] as const).flatMap((table) => [...(doc?.[table].values() ?? [])].flatMap((r) => (r.sharedId === null ? [] : [`${table} ${r.sharedId}`])));
  return new Set(keys.sort());
}

/** `counting`: ids of the projects that count; null: the live ones that are not archived. `known`: the sign that the asker has; then nothing is sent again. */
export function elsewhere(store: Store, projectId: string, counting: readonly string[] | null, known: string): ElsewhereReply | { sign: string } {
  const memory = kept.get(store) ?? new Map<string, Known>();
  kept.set(store, memory);
  const projects: OtherProject[] = [];
  const asks: ElsewhereAsk[] = [];
  const heads = store.heads().filter((h) => h.id !== projectId && h.deletedAt === null);
  const wanted = sharedIn(store, projectId);
  const sign = JSON.stringify([counting, [...wanted], heads.map((h) => [h.id, h.revision, h.archivedAt !== null])]);
  if (sign === known) return { sign };
  const there = new Set(heads.map((h) => h.id));
  for (const id of memory.keys()) if (!there.has(id)) memory.delete(id);
  for (const head of heads) {
    const doc = store.document(head.id)?.doc;
    if (!doc) continue;
    const { code, name, stage } = projectOf(doc);
    const archived = head.archivedAt !== null;
    const project = projects.push({ id: head.id, code, name, stage, archived }) - 1;
    if (counting ? !counting.includes(head.id) : archived || stage !== 'live') continue;
    let of = memory.get(head.id);
    if (of?.revision !== head.revision) {
      const { computed } = schedule(doc);
      memory.set(head.id, (of = { revision: head.revision, asks: computed ? asksOfShared(doc, computed) : [] }));
    }
    for (const a of of.asks) if (wanted.has(`${a.table} ${a.sharedId}`)) asks.push({ ...a, project });
  }
  return { projects, asks, sign };
}
