/** What looks alike over all projects but differs, and making it one in each of them. */
import { randomUUID } from 'node:crypto';
import type { Express } from 'express';
import { z } from 'zod';
import type { Batch } from '@yellowhammer/core/change/change';
import { adopt, adoptSchema, type Lookalikes } from '@yellowhammer/core/commands/alike';
import { ordered, projectOf } from '@yellowhammer/core/model/document';
import { type Problem, problem } from '@yellowhammer/core/model/problem';
import { author, refuse, zodProblems } from './http.ts';
import type { Store } from './store.ts';
import { patiently } from './waiting.ts';

/** Projects in work. Only what is looked at is read of each. */
function lookalikes(store: Store): Lookalikes[] {
  return store.heads().flatMap((head) => {
    if (head.deletedAt !== null || head.archivedAt !== null) return [];
    const doc = store.document(head.id)?.doc;
    if (!doc) return [];
    const { code, name } = projectOf(doc);
    return [{ projectId: head.id, code, name, codeSets: ordered(doc, 'codeSets'), ownFields: ordered(doc, 'ownFields') }];
  });
}

export function alikeRoutes(app: Express, store: Store): void {
  app.get('/api/alike', async (_req, res) => void res.json({ projects: await patiently(() => lookalikes(store)) }));

  /** `dry`: only says what it would do. */
  app.post('/api/alike', async (req, res) => {
    const parsed = adoptSchema.extend({ dry: z.boolean() }).safeParse(req.body);
    if (!parsed.success) return refuse(res, 400, zodProblems(parsed.error));
    const { targets, dry, ...like } = parsed.data;
    const problems: Problem[] = [];
    const made = await patiently(() => {
      const list = targets.flatMap(({ projectId, id }) => {
        const loaded = store.document(projectId);
        const head = store.head(projectId);
        if (!loaded || !head) {
          problems.push(problem('UNKNOWN_PROJECT', 'A project is not there any more. Look again.'));
          return [];
        }
        const outcome = adopt(loaded.doc, id, like, randomUUID);
        if (outcome.ok) {
          const batch: Batch = { changeId: randomUUID(), label: outcome.label, kind: 'do', target: null, changes: outcome.changes };
          return [{ projectId, known: head.revision, batch, code: projectOf(loaded.doc).code }];
        }
        const { code } = projectOf(loaded.doc);
        for (const p of outcome.problems) if (p.code !== 'NOTHING_CHANGED') problems.push({ ...p, message: `${code}: ${p.message}` });
        return [];
      });
      if (dry || problems.length > 0) return list;
      // All projects or none: a half would be another difference.
      const answers = store.applyAll(list, author(req));
      for (const a of answers) if (a.kind === 'refused') problems.push(...a.problems);
      if (answers.some((a) => a.kind !== 'refused' && a.kind !== 'applied')) problems.push(problem('BUSY', 'A project changed in between. Try again.'));
      return list;
    });
    if (problems.length && !dry) return refuse(res, 422, problems);
    res.json({ does: made.map(({ code, batch }) => ({ project: code, label: batch.label, rows: batch.changes.length })), problems });
  });
}
