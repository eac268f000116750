/** Riggers, boat crew and barge work on all three sites: SKY shares them, and the smaller projects take their copies. */
import { randomUUID } from 'node:crypto';
import { takeThing } from '@yellowhammer/core/commands/shared-rows';
import type { Author, Store } from '@yellowhammer/server/store';
import type { Shared } from '@yellowhammer/server/shared';

const together = ['Riggers', 'Boat crew', 'Crane barge'];

/** `projects`: the one that shares first. */
export function shareOnTheIsland(store: Store, shared: Shared, projects: readonly string[], author: Author): void {
  const [first, ...others] = projects;
  const doc = first === undefined ? undefined : store.document(first)?.doc;
  if (first === undefined || !doc) return;
  const rows = [...doc.resources.values()].filter((r) => together.includes(r.name)).map((r) => ({ table: 'resources' as const, id: r.id }));
  const { problems } = shared.rows.share(first, rows, author);
  for (const id of others)
    for (const { id: resource } of rows) {
      const loaded = store.document(id);
      const outcome = loaded && takeThing(loaded.doc, { things: shared.rows.things(), calendars: shared.all() }, 'resources', resource, randomUUID);
      if (!loaded || !outcome) continue;
      if (!outcome.ok) problems.push(...outcome.problems.filter((p) => p.code !== 'NOTHING_CHANGED'));
      else store.apply(id, loaded.revision, { changeId: randomUUID(), label: outcome.label, kind: 'do', target: null, changes: outcome.changes }, author);
    }
  if (problems.length) throw new Error(problems.map((p) => p.message).join('\n'));
}
