/** Reports: the same pages as JSON for the preview and as PDF, and the table as CSV. */
import type { Express, Request, Response } from 'express';
import Papa from 'papaparse';
import { z } from 'zod';
import { projectOf } from '@yellowhammer/core/model/document';
import { problem } from '@yellowhammer/core/model/problem';
import { planReport, reportColumns, type ReportSettings, reportTable } from '@yellowhammer/core/report/plan-report';
import { papers, type Paper } from '@yellowhammer/core/report/scene';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { baselineViewOf, viewOf } from '@yellowhammer/core/schedule/view';
import { showDay } from '@yellowhammer/core/time/typed-date';
import { measure } from './fonts.ts';
import { writePdf } from './pdf.ts';
import type { Store } from './store.ts';

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
    .pipe(z.array(z.enum(reportColumns)).min(1).max(reportColumns.length)),
  depth: z.coerce.number().int().min(0).max(9).default(0),
  rows: z.enum(['all', 'critical', 'milestones']).default('all'),
  legend: flag.default(true),
  baseline: flag.default(true),
});

export function reportRoutes(app: Express, store: Store): void {
  const prepare = (req: Request<{ id: string }>, res: Response) => {
    const parsed = settingsSchema.safeParse(req.query);
    if (!parsed.success) {
      res.status(400).json({ problems: parsed.error.issues.map((i) => problem('WRONG_VALUE', `${i.path.join('.')}: ${i.message}`, { field: i.path.join('.') })) });
      return undefined;
    }
    const loaded = store.document(req.params.id);
    if (!loaded) {
      res.status(404).json({ problems: [problem('UNKNOWN_PROJECT', 'There is no such project. It may have been deleted.')] });
      return undefined;
    }
    const { doc } = loaded;
    const { computed, problems } = schedule(doc);
    if (!computed) {
      res.status(422).json({ problems });
      return undefined;
    }
    const project = projectOf(doc);
    const copy = project.baselineId === null ? undefined : store.copy(req.params.id, project.baselineId);
    const old = copy && schedule(copy).computed;
    const baseline = old && copy ? baselineViewOf(project.baselineId as string, doc.snapshots.get(project.baselineId as string)?.name ?? '', copy, old) : null;
    const settings: ReportSettings = parsed.data;
    const view = viewOf(doc, computed, problems, old?.projectFinish);
    return {
      doc,
      view,
      baseline,
      settings,
      measure,
      printed: showDay(Math.floor(Date.now() / 86_400_000)),
      name: project.code.replace(/[^\w-]+/g, '_'),
      title: settings.title || project.name,
    };
  };

  app.get('/api/projects/:id/report', (req, res) => {
    const input = prepare(req, res);
    if (input) res.json(planReport(input));
  });

  app.get('/api/projects/:id/report.pdf', async (req, res) => {
    const input = prepare(req, res);
    if (!input) return;
    const pdf = await writePdf(planReport(input), input.title);
    res.setHeader('content-disposition', `attachment; filename="${input.name}.pdf"`);
    res.type('application/pdf').send(pdf);
  });

  app.get('/api/projects/:id/report.csv', (req, res) => {
    const input = prepare(req, res);
    if (!input) return;
    const { header, rows } = reportTable(input);
    res.setHeader('content-disposition', `attachment; filename="${input.name}.csv"`);
    // A byte order mark, so that spreadsheets read names in other scripts rightly.
    res.type('text/csv').send(`\ufeff${Papa.unparse([header, ...rows], { escapeFormulae: true })}\r\n`);
  });
}
