/** What looks alike over all projects but differs, and making it one in each of them. */
import { randomUUID } from 'node:crypto';
import type { Batch } from '@yellowhammer/core/change/change';
import { type Adopt, adopt, type Lookalikes } from '@yellowhammer/core/commands/alike';
import { ordered, projectOf } from '@yellowhammer/core/model/document';
import { type Problem, problem } from '@yellowhammer/core/model/problem';
import type { Author, Store } from './store.ts';

/** Projects in work. Only what is looked at is read of each. */
export function lookalikes(store: Store): Lookalikes[] {
  return store.heads().flatMap((head) => {
    if (head.deletedAt !== null || head.archivedAt !== null) return [];
    const doc = store.part(head.id, ['project', 'codeSets', 'ownFields']);
    const { code, name } = projectOf(doc);
    return [{ projectId: head.id, code, name, codeSets: ordered(doc, 'codeSets'), ownFields: ordered(doc, 'ownFields') }];
  });
}

/** What each project would get, or has got, and why it was not done. */
export interface Made {
  does: { project: string; label: string; rows: number }[];
  problems: Problem[];
}

/** Makes sets or fields of several projects like one. `dry`: only says what it would do. */
export function makeAlike(store: Store, { targets, ...like }: Adopt, dry: boolean, author: Author): Made {
  const problems: Problem[] = [];
  const list = targets.flatMap(({ projectId, id }) => {
    const loaded = store.document(projectId);
    const head = store.head(projectId);
    if (!loaded || !head) {
      problems.push(problem('UNKNOWN_PROJECT', 'A project is not there any more. Look again.'));
      return [];
    }
    const outcome = adopt(loaded.doc, id, like, randomUUID);
    const { code } = projectOf(loaded.doc);
    if (outcome.ok) {
      const batch: Batch = { changeId: randomUUID(), label: outcome.label, kind: 'do', target: null, changes: outcome.changes };
      return [{ projectId, known: head.revision, batch, code }];
    }
    for (const p of outcome.problems) if (p.code !== 'NOTHING_CHANGED') problems.push({ ...p, message: `${code}: ${p.message}` });
    return [];
  });
  const does = list.map(({ code, batch }) => ({ project: code, label: batch.label, rows: batch.changes.length }));
  if (dry || problems.length > 0) return { does, problems };
  // All projects or none: a half would be another difference.
  const answers = store.applyAll(list, author);
  for (const a of answers) if (a.kind === 'refused') problems.push(...a.problems);
  if (answers.some((a) => a.kind !== 'refused' && a.kind !== 'applied')) problems.push(problem('BUSY', 'A project changed in between. Try again.'));
  return { does, problems };
}
