/** What looks alike over all projects, over HTTP. */
import type { Express } from 'express';
import { z } from 'zod';
import { adoptSchema } from '@yellowhammer/core/commands/alike';
import { lookalikes } from './alike.ts';
import { author, refuse, zodProblems } from './http.ts';
import type { Jobs } from './jobs.ts';
import type { Store } from './store.ts';
import { patiently } from './waiting.ts';
import { writing } from './writing.ts';

const wishSchema = adoptSchema.extend({ dry: z.boolean() });

export function alikeRoutes(app: Express, store: Store, jobs: Jobs): void {
  app.get('/api/alike', async (_req, res) => void res.json({ projects: await patiently(() => lookalikes(store)) }));

  /** `dry`: only says what it would do. */
  app.post('/api/alike', async (req, res) => {
    const parsed = wishSchema.safeParse(req.body);
    if (!parsed.success) return refuse(res, 400, zodProblems(parsed.error));
    const { dry, ...wish } = parsed.data;
    const { does, problems } = await writing(store, jobs, 'makeAlike', [wish, dry, author(req)]);
    if (problems.length && !dry) return refuse(res, 422, problems);
    res.json({ does, problems });
  });
}
