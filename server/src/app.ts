/** HTTP: everything that crosses it is checked; no data of a caller ends in an exception. */
import express, { type ErrorRequestHandler, type Express, type Request, type Response } from 'express';
import { z } from 'zod';
import { applyChanges } from '@yellowhammer/core/change/change';
import { newProject } from '@yellowhammer/core/commands/project';
import { importChoices, replaceByShared, sharedFrom } from '@yellowhammer/core/commands/shared';
import { projectOf } from '@yellowhammer/core/model/document';
import { problem } from '@yellowhammer/core/model/problem';
import { calendarSchema, MAX_FILE, MAX_NAME } from '@yellowhammer/core/model/schema';
import { isWhole } from '@yellowhammer/core/model/text';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { type DatabaseNotice, databaseProblem } from './database.ts';
import { events } from './events.ts';
import { guard } from './guard.ts';
import { author, notThere, refuse, zodProblems } from './http.ts';
import { JobFailed, type Jobs } from './jobs.ts';
import { reportRoutes } from './report-routes.ts';
import { alikeRoutes } from './alike-routes.ts';
import { holidayRoutes, sharedRoutes, sharedRowRoutes } from './shared-routes.ts';
import type { Shared } from './shared.ts';
import { Summaries } from './summaries.ts';
import type { Store } from './store.ts';
import { type Answer, answerOf, readBatch } from './tasks.ts';
import { patiently } from './waiting.ts';
import { writing } from './writing.ts';

/** Bytes that each kind of request may have. */
const historyQuery = z.object({ before: z.coerce.number().int().min(0).max(1e12).default(1e12), most: z.coerce.number().int().min(1).max(200).default(60) });
const LARGEST_FILE = 128 * 1024 * 1024;
const LARGEST_BATCH = 64 * 1024 * 1024;
const LARGEST_OTHER = 1024 * 1024;
const SMALL_BATCH = 200_000;

const text = (most: number): z.ZodString => z.string().trim().max(most).refine(isWhole, 'it holds half a character');
const instant = z.string().refine((s) => parseInstant(s) !== undefined, 'an instant YYYY-MM-DDTHH:MM in 1990 to 2199 is wanted');
const newProjectSchema = z.object({
  code: text(40).min(1),
  name: text(MAX_NAME).min(1),
  plannedStart: instant,
  requiredFinish: instant.nullable().optional(),
  currency: text(10).optional(),
  /** A calendar from another project to start with. */
  calendarFrom: z.object({ projectId: z.string(), calendarId: z.string() }).optional(),
  sharedCalendarId: z.string().max(100).optional(),
  /** Working week and holidays as they were chosen. */
  calendar: calendarSchema.optional(),
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

/** JSON that another thread has written. */
const sendJson = (res: Response, bytes: Uint8Array): void => void res.type('application/json').send(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength));

/** The body of a request as bytes that another thread can take over; copied only where others lie in the same memory. */
function bytesOf(req: Request): ArrayBuffer {
  const body: unknown = req.body;
  if (!Buffer.isBuffer(body)) return new ArrayBuffer(0);
  const whole = body.byteOffset === 0 && body.byteLength === body.buffer.byteLength;
  return (whole ? body.buffer : body.buffer.slice(body.byteOffset, body.byteOffset + body.byteLength)) as ArrayBuffer;
}

const raw = (limit: number): ReturnType<typeof express.raw> => express.raw({ type: () => true, limit });

export function createApp(store: Store, shared: Shared, jobs: Jobs, notices: readonly DatabaseNotice[] = []): Express {
  const app = express();
  const summaries = new Summaries(store, jobs);
  guard(app);
  app.use('/api/import', raw(LARGEST_FILE));
  app.post('/api/projects/:id/changes', raw(LARGEST_BATCH));
  app.post('/api/contents', raw(MAX_FILE));
  app.use('/api', express.json({ limit: LARGEST_OTHER }));

  app.get('/api/health', (_req, res) => void res.json({ notices }));
  app.get('/api/projects', async (_req, res) => void res.json(await summaries.all()));

  app.post('/api/projects', async (req, res) => {
    const parsed = newProjectSchema.safeParse(req.body);
    if (!parsed.success) return refuse(res, 400, zodProblems(parsed.error));
    const { calendarFrom, sharedCalendarId, calendar: chosen, ...fields } = parsed.data;
    const source = calendarFrom && store.there(calendarFrom.projectId) && store.part(calendarFrom.projectId, ['calendars']);
    const taken = source && sharedFrom(source, calendarFrom.calendarId, calendarFrom.calendarId);
    const calendar = taken ? { ...taken, sharedId: null } : chosen && { ...chosen, id: newId(), rank: 0, basedOn: null, sharedId: null };
    const document = newProject({ ...fields, ...(calendar ? { calendar } : {}) }, newId);
    if (sharedCalendarId) {
      const outcome = replaceByShared(document, shared.all(), sharedCalendarId, projectOf(document).calendarId, newId);
      if (!outcome.ok) return refuse(res, 422, outcome.problems);
      applyChanges(document, outcome.changes);
    }
    const label = `New project ${fields.name}`.slice(0, 300);
    res.status(201).json({ id: await patiently(() => store.create({ document, copies: new Map() }, author(req), label)) });
  });

  app.post('/api/import', async (req, res) => {
    const asked = choicesSchema.safeParse(req.query['choices']);
    if (!asked.success) return refuse(res, 400, zodProblems(asked.error));
    const made = await writing(store, jobs, 'import', [bytesOf(req), asked.data ?? null, req.query['look'] !== undefined, author(req)]);
    if (made.refused) return refuse(res, 422, made.problems);
    if (made.meetings) return void res.json({ meetings: made.meetings, problems: made.problems });
    res.status(201).json({ id: made.id, problems: made.problems });
  });

  app.get('/api/projects/:id', async (req, res) => {
    const bytes = store.there(req.params.id) && (await jobs.run('opened', [req.params.id, author(req).client]));
    if (!bytes) return notThere(res);
    sendJson(res, bytes);
  });

  /** Calendars of a project that belong to it alone, for those who look for one to begin with. */
  app.get('/api/projects/:id/calendars', (req, res) => {
    if (!store.there(req.params.id)) return notThere(res);
    res.json(store.calendars(req.params.id).flatMap((c) => (c.sharedId === null ? [{ id: c.id, name: c.name }] : [])));
  });

  app.get('/api/projects/:id/file', async (req, res) => {
    const file = store.there(req.params.id) && (await jobs.run('file', [req.params.id]));
    if (!file) return notThere(res);
    res.setHeader('content-disposition', `attachment; filename="${file.name}.yellowhammer.json"`);
    sendJson(res, file.bytes);
  });

  /** Keeps what a file holds, by its hash; the row that names it comes with the changes of its project. */
  app.post('/api/contents', async (req, res) => void res.status(201).json(await jobs.run('keepContent', [bytesOf(req)])));

  /** An attached file: to be saved, never shown in the window, whatever it holds and is called. */
  app.get('/api/projects/:id/files/:file', async (req, res) => {
    const file = store.there(req.params.id) && (await jobs.run('attachedFile', [req.params.id, req.params.file]));
    if (!file) return refuse(res, 404, [problem('UNKNOWN_FILE', 'That file is not there, or what it held did not come with its project.')]);
    res.attachment(file.name.replace(/\p{Cc}/gu, '_'));
    res.setHeader('content-type', 'application/octet-stream');
    res.setHeader('content-security-policy', "sandbox; default-src 'none'");
    res.send(Buffer.from(file.bytes.buffer, file.bytes.byteOffset, file.bytes.byteLength));
  });

  /** A picture by the hash of what it holds: PNG or JPEG, by its bytes. What a hash names never changes. */
  app.get('/api/pictures/:hash', async (req, res) => {
    const picture = await jobs.run('picture', [req.params.hash]);
    if (!picture) return refuse(res, 404, [problem('UNKNOWN_PICTURE', 'That picture is not there, or it is neither PNG nor JPEG.')]);
    res.setHeader('content-type', picture.type);
    res.setHeader('content-security-policy', "sandbox; default-src 'none'");
    res.setHeader('cache-control', 'private, max-age=31536000, immutable');
    res.send(Buffer.from(picture.bytes.buffer, picture.bytes.byteOffset, picture.bytes.byteLength));
  });

  app.get('/api/projects/:id/copies/:copy', async (req, res) => {
    const copy = store.there(req.params.id) && (await jobs.run('copy', [req.params.id, req.params.copy]));
    if (!copy) return refuse(res, 404, [problem('UNKNOWN_SNAPSHOT', 'That copy is not there.')]);
    sendJson(res, copy);
  });

  app.get('/api/projects/:id/log', (req, res) => (store.there(req.params.id) ? void res.json(store.recent(req.params.id)) : notThere(res)));

  /** The log with its rows, page by page from the newest: for looking back, comparing and going back. */
  app.get('/api/projects/:id/history', async (req, res) => {
    const asked = historyQuery.safeParse(req.query);
    if (!asked.success) return refuse(res, 400, zodProblems(asked.error));
    if (!store.there(req.params.id)) return notThere(res);
    sendJson(res, await jobs.run('history', [req.params.id, asked.data.before, asked.data.most]));
  });

  app.post('/api/projects/:id/changes', async (req: Request<{ id: string }>, res: Response) => {
    // A small one is done at once: handing it over would take longer. A large one, or one that keeps a copy of the whole
    // project, would hold everybody up.
    const bytes = bytesOf(req);
    const read = bytes.byteLength <= SMALL_BATCH ? readBatch(bytes) : undefined;
    let answer: Answer;
    if (read && read.status !== 200) return refuse(res, read.status, read.problems);
    if (read?.status === 200 && !read.batch.changes.some((c) => c.table === 'snapshots')) {
      answer = answerOf(await patiently(() => store.apply(req.params.id, read.revision, read.batch, author(req))));
    } else {
      answer = await jobs.run('apply', [req.params.id, bytes, author(req)]);
      if (answer.status === 200 && !answer.repeated && jobs.apart) store.tellNews(req.params.id, answer.revision - 1, author(req).client);
    }
    if (answer.status === 200) return void res.json({ revision: answer.revision, repeated: answer.repeated });
    if (answer.status === 409) return void res.status(409).json({ revision: answer.revision, missed: answer.missed });
    if (answer.status === 404) return notThere(res);
    refuse(res, answer.status, answer.problems);
  });

  /** Whether a batch has arrived: its answer may have been lost. */
  app.get('/api/projects/:id/changes/:change', (req, res) => {
    const revision = store.there(req.params.id) && store.revisionOf(req.params.id, req.params.change);
    if (!revision) return refuse(res, 404, [problem('UNKNOWN_CHANGE', 'That change has not arrived.')]);
    res.json({ revision });
  });

  app.get('/api/projects/:id/events', (req, res) => events(store, req, res));

  app.post('/api/projects/:id/copy', async (req, res) => {
    const id = store.there(req.params.id) && (await jobs.run('copyProject', [req.params.id, author(req)]));
    if (!id) return notThere(res);
    res.status(201).json({ id });
  });

  app.post('/api/projects/:id/state', async (req, res) => {
    const parsed = z.object({ state: z.enum(['active', 'archived', 'deleted']) }).safeParse(req.body);
    if (!parsed.success) return refuse(res, 400, zodProblems(parsed.error));
    // Also of a deleted one: that is how it is brought back.
    if (!store.head(req.params.id)) return notThere(res);
    const now = new Date().toISOString();
    await patiently(() => store.mark(req.params.id, parsed.data.state === 'archived' ? now : null, parsed.data.state === 'deleted' ? now : null));
    res.json({ ok: true });
  });

  reportRoutes(app, store, jobs);
  sharedRoutes(app, store, shared, jobs);
  sharedRowRoutes(app, store, shared, jobs);
  alikeRoutes(app, store, jobs);
  holidayRoutes(app);

  app.use('/api', (_req, res) => refuse(res, 404, [problem('UNKNOWN_ADDRESS', 'There is nothing at this address.')]));
  app.use(onError);
  return app;
}

/** Errors of a request's own making have a status of 400 to 499. */
interface RequestError {
  type?: string;
  message?: string;
  status?: unknown;
  limit?: number;
}

/** Answers when the other side has sent all that it sends: an answer before that may never be read, and looks like a server that is away. */
function whenSent(req: Request, answer: () => void): void {
  if (req.complete) return answer();
  req.once('end', answer);
  req.resume();
}

// Express tells error handlers by their four arguments.
export const onError: ErrorRequestHandler = (e: RequestError, req, res, _next) => {
  if (res.headersSent) return void res.destroy();
  if (e instanceof JobFailed) return refuse(res, 422, [e.problem]);
  const database = databaseProblem(e);
  if (database) return refuse(res, 503, [database]);
  if (e.type === 'entity.too.large')
    return whenSent(req, () =>
      refuse(res, 413, [problem('TOO_LARGE', `That is larger than ${Math.round((e.limit ?? LARGEST_FILE) / 1024 / 1024)} MB, more than is taken here. Nothing was changed.`)]),
    );
  if (e.type === 'entity.parse.failed') return refuse(res, 400, [problem('NOT_JSON', `This is not readable as JSON: ${e.message ?? ''}. Nothing was changed.`)]);
  if (typeof e.status === 'number' && e.status >= 400 && e.status < 500)
    return refuse(res, e.status, [problem('UNREADABLE', 'The request could not be read as it stands. Nothing was changed.')]);
  console.error(e);
  refuse(res, 500, [problem('BUG', 'Something went wrong on the server. Nothing was changed.')]);
};
