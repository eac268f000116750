/** Reports: pages as JSON for the preview and as PDF, and the table as CSV, all made in worker threads. */
import type { Express, Request, Response } from 'express';
import { z } from 'zod';
import { builtIn } from '@yellowhammer/core/fields/list';
import { viewSettingsSchema } from '@yellowhammer/core/model/view-schema';
import { problem } from '@yellowhammer/core/model/problem';
import type { ReportSettings } from '@yellowhammer/core/report/plan-table';
import { papers, type Paper } from '@yellowhammer/core/report/scene';
import { notThere, refuse, zodProblems } from './http.ts';
import { JobFailed, type Jobs } from './jobs.ts';
import type { Store } from './store.ts';
import type { TaskResult } from './tasks.ts';

const flag = z.enum(['0', '1']).transform((v) => v === '1');
const settingsSchema = z.object({
  paper: z.enum(Object.keys(papers) as [Paper, ...Paper[]]).default('a3'),
  landscape: flag.default(true),
  title: z.string().max(200).default(''),
  subtitle: z.string().max(300).default(''),
  columns: z
    .string()
    .default('code,name,duration,start,finish,float')
    .transform((s) => s.split(',').filter(Boolean))
    .pipe(
      z
        .array(z.string().refine((key) => builtIn.some((f) => f.key === key) || /^(code|own):.{1,100}$/.test(key), 'a column of the report is wanted'))
        .min(1)
        .max(100),
    ),
  depth: z.coerce.number().int().min(0).max(9).default(0),
  rows: z.enum(['all', 'critical', 'milestones']).default('all'),
  legend: flag.default(true),
  project: flag.default(false),
  baseline: flag.default(true),
  graph: z.string().max(200).default(''),
  me: z.string().max(100).default(''),
  /** A view as JSON; empty: none. */
  view: z
    .string()
    .max(100_000)
    .default('')
    .transform((text, ctx): unknown => {
      if (text === '') return null;
      try {
        return JSON.parse(text) as unknown;
      } catch {
        ctx.addIssue({ code: 'custom', message: 'a saved view is wanted' });
        return z.NEVER;
      }
    })
    .pipe(viewSettingsSchema.nullable()),
});
const rangeSchema = z.object({ from: z.coerce.number().int().min(0).max(100_000).default(0), to: z.coerce.number().int().min(0).max(100_000).default(1) });

/** A PDF that is being made, or is made and waits to be fetched. */
interface Printing {
  done: number;
  of: number;
  result: TaskResult<'pdf'> | undefined;
  failed: string | undefined;
  abort: AbortController;
  at: number;
}
const KEPT_MS = 10 * 60_000;
const MOST_PRINTING = 20;

export function reportRoutes(app: Express, store: Store, jobs: Jobs): void {
  /** Settings of a request for a project that is there; otherwise the answer is given. */
  const asked = (req: Request<{ id: string }>, res: Response): ReportSettings | undefined => {
    const parsed = settingsSchema.safeParse(req.query);
    if (!parsed.success) refuse(res, 400, zodProblems(parsed.error));
    else if (!store.there(req.params.id)) notThere(res);
    else return parsed.data;
    return undefined;
  };
  const send = (res: Response, made: { name: string; bytes: Uint8Array } | { problems: ReturnType<typeof problem>[] } | null, type: string, ending: string): void => {
    if (!made) return notThere(res);
    if ('problems' in made) return refuse(res, 422, made.problems);
    res.setHeader('content-disposition', `attachment; filename="${made.name}.${ending}"`);
    res.type(type).send(Buffer.from(made.bytes.buffer, made.bytes.byteOffset, made.bytes.byteLength));
  };

  app.get('/api/projects/:id/report', async (req, res) => {
    const settings = asked(req, res);
    if (!settings) return;
    const range = rangeSchema.safeParse(req.query);
    if (!range.success) return refuse(res, 400, zodProblems(range.error));
    const { from, to } = range.data;
    const made = await jobs.run('pages', [req.params.id, settings, from, Math.min(to, from + 24)]);
    if (!made) return notThere(res);
    if ('problems' in made) return refuse(res, 422, made.problems);
    res.json(made);
  });

  app.get('/api/projects/:id/report.pdf', async (req, res) => {
    const settings = asked(req, res);
    if (settings) send(res, await jobs.run('pdf', [req.params.id, settings]), 'application/pdf', 'pdf');
  });

  app.get('/api/projects/:id/report.csv', async (req, res) => {
    const settings = asked(req, res);
    if (settings) send(res, await jobs.run('csv', [req.params.id, settings]), 'text/csv', 'csv');
  });

  // ---- the PDF with progress and cancel
  const printings = new Map<string, Printing>();
  const forget = (): void => {
    for (const [id, p] of printings) if (Date.now() - p.at > KEPT_MS) printings.delete(id);
  };
  app.post('/api/projects/:id/printing', (req, res) => {
    const settings = asked(req, res);
    if (!settings) return;
    forget();
    if (printings.size >= MOST_PRINTING) return refuse(res, 429, [problem('BUSY', `${MOST_PRINTING} reports are being made already. Wait for one of them.`)]);
    const id = crypto.randomUUID();
    const p: Printing = { done: 0, of: 0, result: undefined, failed: undefined, abort: new AbortController(), at: Date.now() };
    printings.set(id, p);
    jobs
      .run('pdf', [req.params.id, settings], {
        signal: p.abort.signal,
        progress(done, of) {
          p.done = done;
          p.of = of;
        },
      })
      .then(
        (result) => {
          if (result === null) p.failed = 'There is no such project. It may have been deleted.';
          else if ('problems' in result) p.failed = result.problems.map((x) => x.message).join(' ');
          else p.result = result;
        },
        (e: Error) => {
          if (!(e instanceof JobFailed)) console.error(e);
          p.failed = e instanceof JobFailed ? e.problem.message : 'Something went wrong on the server.';
        },
      );
    res.status(202).json({ id });
  });
  const gone = (res: Response): void => refuse(res, 404, [problem('UNKNOWN_PRINTING', 'That report is not being made (any more). Begin again.')]);
  app.get('/api/printing/:id', (req, res) => {
    const p = printings.get(req.params.id);
    if (!p) return gone(res);
    res.json({ done: p.done, of: p.of, ready: p.result !== undefined, failed: p.failed ?? null });
  });
  app.get('/api/printing/:id/pdf', (req, res) => {
    const p = printings.get(req.params.id);
    if (!p?.result) return gone(res);
    send(res, p.result, 'application/pdf', 'pdf');
  });
  app.delete('/api/printing/:id', (req, res) => {
    const p = printings.get(req.params.id);
    if (!p) return gone(res);
    printings.delete(req.params.id);
    p.abort.abort();
    res.json({ ok: true });
  });
}
