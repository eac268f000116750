/** HTTP: everything that crosses it is checked; no data of a caller ends in an exception. */
import express, { type ErrorRequestHandler, type Express, type Request, type Response } from 'express';
import { z } from 'zod';
import { applyChanges, batchSchema, checkChanges } from '@yellowhammer/core/change/change';
import { newProject } from '@yellowhammer/core/commands/project';
import { importChoices, replaceByShared, sharedFrom } from '@yellowhammer/core/commands/shared';
import { ordered, projectOf } from '@yellowhammer/core/model/document';
import { writeDocument, writeProjectFile } from '@yellowhammer/core/model/file';
import { problem } from '@yellowhammer/core/model/problem';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { author, notThere, refuse, zodProblems } from './http.ts';
import { reportRoutes } from './report-routes.ts';
import { holidayRoutes, sharedRoutes } from './shared-routes.ts';
import type { Shared } from './shared.ts';
import { Summaries } from './summaries.ts';
import type { Store } from './store.ts';

const LARGEST_FILE = 100 * 1024 * 1024;

const newProjectSchema = z.object({
  code: z.string().trim().min(1).max(40),
  name: z.string().trim().min(1).max(500),
  plannedStart: z.string().refine((s) => parseInstant(s) !== undefined, 'an instant YYYY-MM-DDTHH:MM in 1990 to 2199 is wanted'),
  requiredFinish: z
    .string()
    .refine((s) => parseInstant(s) !== undefined, 'an instant YYYY-MM-DDTHH:MM in 1990 to 2199 is wanted')
    .nullable()
    .optional(),
  currency: z.string().max(10).optional(),
  /** A calendar from another project to start with. */
  calendarFrom: z.object({ projectId: z.string(), calendarId: z.string() }).optional(),
  sharedCalendarId: z.string().max(100).optional(),
});

/** Choices for calendars that meet shared ones, by calendar id, as JSON in the address. */
const choicesSchema = z
  .string()
  .max(100_000)
  .transform((text, context): unknown => {
    try {
      return JSON.parse(text);
    } catch {
      context.addIssue({ code: 'custom', message: 'the choices are not readable as JSON' });
      return z.NEVER;
    }
  })
  .pipe(z.record(z.string(), z.enum(importChoices)))
  .optional();

const newId = (): string => crypto.randomUUID();

export function createApp(store: Store, shared: Shared): Express {
  const app = express();
  const summaries = new Summaries(store);
  app.disable('x-powered-by');
  app.use('/api/import', express.text({ type: () => true, limit: LARGEST_FILE }));
  app.use('/api', express.json({ limit: LARGEST_FILE }));

  app.get('/api/projects', (_req, res) => void res.json(summaries.all()));

  app.post('/api/projects', (req, res) => {
    const parsed = newProjectSchema.safeParse(req.body);
    if (!parsed.success) return refuse(res, 400, zodProblems(parsed.error));
    const { calendarFrom, ...args } = parsed.data;
    const { sharedCalendarId, ...fields } = args;
    const source = calendarFrom && store.document(calendarFrom.projectId)?.doc;
    const calendar = source && sharedFrom(source, calendarFrom.calendarId, calendarFrom.calendarId);
    const document = newProject({ ...fields, ...(calendar ? { calendar: { ...calendar, sharedId: null } } : {}) }, newId);
    if (sharedCalendarId) {
      const outcome = replaceByShared(document, shared.all(), sharedCalendarId, projectOf(document).calendarId, newId);
      if (!outcome.ok) return refuse(res, 422, outcome.problems);
      applyChanges(document, outcome.changes);
    }
    res.status(201).json({ id: store.create({ document, copies: new Map() }, author(req), `New project ${args.name}`) });
  });

  app.post('/api/import', (req, res) => {
    const read = readProjectText(typeof req.body === 'string' ? req.body : '');
    if (!read.file) return refuse(res, 422, read.problems);
    const asked = choicesSchema.safeParse(req.query['choices']);
    if (!asked.success) return refuse(res, 400, zodProblems(asked.error));
    const choices = new Map(Object.entries(asked.data ?? {}));
    const looking = req.query['look'] !== undefined;
    const meetings = looking || asked.data === undefined ? shared.meet(read.file, choices) : [];
    // Nothing is made before the person has chosen.
    if (looking || meetings.length) return void res.json({ meetings, problems: read.problems });
    const made = shared.import(read.file, choices, author(req));
    res.status(201).json({ id: made.id, problems: [...read.problems, ...made.problems] });
  });

  app.get('/api/projects/:id', (req, res) => {
    const loaded = store.document(req.params.id);
    if (!loaded || store.head(req.params.id)?.deletedAt) return notThere(res);
    const document = Object.fromEntries(Object.entries(loaded.doc).map(([table, map]) => [table, [...(map as Map<string, unknown>).values()]]));
    res.json({ revision: loaded.revision, document, history: store.ofClient(req.params.id, author(req).client) });
  });

  app.get('/api/projects/:id/file', (req, res) => {
    const file = store.file(req.params.id);
    if (!file) return notThere(res);
    const name = (file.document.project.get('project')?.code ?? 'project').replace(/[^\w-]+/g, '_');
    res.setHeader('content-disposition', `attachment; filename="${name}.yellowhammer.json"`);
    res.type('application/json').send(writeProjectFile(file));
  });

  app.get('/api/projects/:id/copies/:copy', (req, res) => {
    const copy = store.copy(req.params.id, req.params.copy);
    if (!copy) return refuse(res, 404, [problem('UNKNOWN_SNAPSHOT', 'That copy is not there.')]);
    res.type('application/json').send(writeDocument(copy));
  });

  app.get('/api/projects/:id/log', (req, res) => void res.json(store.recent(req.params.id)));

  app.post('/api/projects/:id/changes', (req, res) => {
    const envelope = z.object({ revision: z.int().min(0), batch: batchSchema }).safeParse(req.body);
    if (!envelope.success) return refuse(res, 400, zodProblems(envelope.error));
    const { batch: loose, revision } = envelope.data;
    const { changes, problems } = checkChanges(loose.changes);
    if (problems.length) return refuse(res, 422, problems);
    const result = store.apply(req.params.id, revision, { ...loose, changes }, author(req));
    if (result.kind === 'applied') return void res.json({ revision: result.entry.revision, repeated: result.repeated });
    if (result.kind === 'behind') return void res.status(409).json({ revision: result.revision, missed: result.missed });
    if (result.kind === 'unknown') return notThere(res);
    refuse(res, 422, result.problems);
  });

  app.get('/api/projects/:id/events', (req, res) => events(store, req, res));

  app.post('/api/projects/:id/copy', (req, res) => {
    const file = store.file(req.params.id);
    if (!file) return notThere(res);
    const settings = ordered(file.document, 'project')[0];
    const project = new Map([['project', Object.freeze({ ...settings, name: `${settings.name} (copy)`, code: `${settings.code}-2`.slice(0, 40) })]]);
    res.status(201).json({ id: store.create({ ...file, document: { ...file.document, project } }, author(req), `Copy of ${settings.name}`) });
  });

  app.post('/api/projects/:id/state', (req, res) => {
    const parsed = z.object({ state: z.enum(['active', 'archived', 'deleted']) }).safeParse(req.body);
    if (!parsed.success) return refuse(res, 400, zodProblems(parsed.error));
    if (!store.head(req.params.id)) return notThere(res);
    const now = new Date().toISOString();
    store.mark(req.params.id, parsed.data.state === 'archived' ? now : null, parsed.data.state === 'deleted' ? now : null);
    res.json({ ok: true });
  });

  reportRoutes(app, store);
  sharedRoutes(app, shared);
  holidayRoutes(app);

  app.use('/api', (_req, res) => refuse(res, 404, [problem('UNKNOWN_ADDRESS', 'There is nothing at this address.')]));
  app.use(onError);
  return app;
}

/** Server-sent events: every entry after the revision that the window knows. */
function events(store: Store, req: Request<{ id: string }>, res: Response): void {
  const { id } = req.params;
  if (!store.head(id)) return notThere(res);
  res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-cache', connection: 'keep-alive' });
  const since = Number(req.query['since']);
  const send = (e: unknown): void => void res.write(`data: ${JSON.stringify(e)}\n\n`);
  res.write(': open\n\n');
  for (const e of store.since(id, Number.isInteger(since) ? since : (store.head(id)?.revision ?? 0))) send(e);
  const stop = store.listen(id, send);
  const beat = setInterval(() => res.write(': beat\n\n'), 15_000);
  req.on('close', () => {
    clearInterval(beat);
    stop();
  });
}

// Express tells error handlers by their four arguments.
const onError: ErrorRequestHandler = (e: { type?: string; message?: string }, _req, res, _next) => {
  if (e.type === 'entity.too.large')
    return refuse(res, 413, [problem('TOO_LARGE', `That is larger than ${LARGEST_FILE / 1024 / 1024} MB, more than is taken. Nothing was changed.`)]);
  if (e.type === 'entity.parse.failed') return refuse(res, 400, [problem('NOT_JSON', `This is not readable as JSON: ${e.message ?? ''}. Nothing was changed.`)]);
  if (e.type?.startsWith('encoding') || e.type?.startsWith('charset') || e.type?.startsWith('request'))
    return refuse(res, 400, [problem('UNREADABLE', 'The request could not be read. Nothing was changed.')]);
  console.error(e);
  refuse(res, 500, [problem('BUG', 'Something went wrong on the server. Nothing was changed.')]);
};
