/** Shared calendars and holidays over HTTP. */
import Holidays from 'date-holidays';
import type { Express, Request } from 'express';
import { z } from 'zod';
import { calendarSchema, type Exception } from '@yellowhammer/core/model/schema';
import { sharedTables, sharedThingSchema } from '@yellowhammer/core/commands/shared-things';
import { problem } from '@yellowhammer/core/model/problem';
import { author, notThere, refuse, zodProblems } from './http.ts';
import type { Jobs } from './jobs.ts';
import type { Shared } from './shared.ts';
import type { Store } from './store.ts';
import { patiently } from './waiting.ts';
import { writing } from './writing.ts';

const changeSchema = z.object({ revision: z.int().min(0), calendar: calendarSchema });

const wishSchema = z.object({
  things: z
    .array(z.intersection(sharedThingSchema, z.object({ revision: z.int().min(0) })))
    .min(1)
    .max(2_000),
  instead: z.record(z.string().max(100), z.string().max(100).nullable()).default({}),
});
const elsewhereSchema = z.object({ counting: z.array(z.string().max(100)).max(1_000).nullable(), known: z.string().max(500_000) });
const shareSchema = z.object({
  rows: z
    .array(z.object({ table: z.enum(sharedTables), id: z.string().max(100) }))
    .min(1)
    .max(20_000),
});

/** Shared accounts, code sets, roles, resources and crews. */
export function sharedRowRoutes(app: Express, store: Store, { rows }: Shared, jobs: Jobs): void {
  app.get('/api/shared', async (_req, res) => void res.json(await jobs.run('things', [])));

  app.post('/api/shared/effects', async (req, res) => {
    const parsed = wishSchema.safeParse(req.body);
    if (!parsed.success) return refuse(res, 400, zodProblems(parsed.error));
    const { effects, problems } = await jobs.run('thingEffects', [parsed.data]);
    if (problems.length) return refuse(res, 422, problems);
    res.json({ effects });
  });

  app.put('/api/shared', async (req, res) => {
    const parsed = wishSchema.safeParse(req.body);
    if (!parsed.success) return refuse(res, 400, zodProblems(parsed.error));
    const { problems } = await writing(store, jobs, 'changeThings', [parsed.data, author(req)]);
    if (problems.length) return refuse(res, 422, problems);
    res.json({ ok: true });
  });

  app.delete('/api/shared/:table/:id', async (req, res) => {
    const table = z.enum(sharedTables).safeParse(req.params.table);
    if (!table.success) return notThere(res);
    const { problems } = await patiently(() => rows.remove(table.data, req.params.id));
    if (problems.length) return refuse(res, 422, problems);
    res.json({ ok: true });
  });

  /** What other projects ask of what is shared. */
  app.post('/api/projects/:id/elsewhere', async (req, res) => {
    const parsed = elsewhereSchema.safeParse(req.body);
    if (!parsed.success) return refuse(res, 400, zodProblems(parsed.error));
    if (!store.head(req.params.id)) return notThere(res);
    res.json(await jobs.run('elsewhere', [req.params.id, parsed.data.counting, parsed.data.known]));
  });

  app.post('/api/projects/:id/share', async (req, res) => {
    const parsed = shareSchema.safeParse(req.body);
    if (!parsed.success) return refuse(res, 400, zodProblems(parsed.error));
    if (!store.head(req.params.id)) return notThere(res);
    const { problems, shared } = await writing(store, jobs, 'shareRows', [req.params.id, parsed.data.rows, author(req)]);
    if (problems.length) return refuse(res, 422, problems);
    res.json({ shared });
  });
}

export function sharedRoutes(app: Express, store: Store, shared: Shared, jobs: Jobs): void {
  app.get('/api/shared-calendars', (_req, res) => void res.json(shared.list()));

  app.post('/api/shared-calendars/effects', async (req, res) => {
    const parsed = z.object({ calendar: calendarSchema }).safeParse(req.body);
    if (!parsed.success) return refuse(res, 400, zodProblems(parsed.error));
    res.json({ effects: await jobs.run('effects', [parsed.data.calendar]) });
  });

  app.put('/api/shared-calendars/:id', async (req, res) => {
    const parsed = changeSchema.safeParse(req.body);
    if (!parsed.success) return refuse(res, 400, zodProblems(parsed.error));
    const id = req.params.id;
    const { problems } = await writing(store, jobs, 'changeCalendar', [{ ...parsed.data.calendar, id, sharedId: id }, parsed.data.revision, author(req)]);
    if (problems.length) return refuse(res, 422, problems);
    res.json({ ok: true });
  });

  app.delete('/api/shared-calendars/:id', async (req, res) => {
    const { problems } = await patiently(() => shared.remove(req.params.id));
    if (problems.length) return refuse(res, 422, problems);
    res.json({ ok: true });
  });

  app.post('/api/projects/:id/calendars/:row/share', async (req: Request<{ id: string; row: string }>, res) => {
    if (!store.there(req.params.id)) return notThere(res);
    const made = await writing(store, jobs, 'shareCalendar', [req.params.id, req.params.row, author(req)]);
    if (made.problems.length) return refuse(res, 422, made.problems);
    res.status(201).json({ id: made.id });
  });
}

const holidaySchema = z.object({
  region: z.string().max(20).optional(),
  /** Years parted by commas. */
  years: z
    .string()
    .max(200)
    .transform((s) => s.split(',').map(Number))
    .pipe(z.array(z.int().min(1990).max(2199)).min(1).max(20)),
});

/** Holidays of countries and their regions, from the package that ships with the application. */
export function holidayRoutes(app: Express): void {
  const countries = new Holidays().getCountries('en');
  app.get('/api/holidays', (_req, res) => void res.json({ countries }));
  app.get('/api/holidays/:country/regions', (req, res) => {
    if (!Object.hasOwn(countries, req.params.country)) return refuse(res, 404, [problem('UNKNOWN_COUNTRY', 'There are no holidays known for that country.')]);
    res.json({ regions: new Holidays().getStates(req.params.country, 'en') ?? {} });
  });
  app.get('/api/holidays/:country', (req, res) => {
    if (!Object.hasOwn(countries, req.params.country)) return refuse(res, 404, [problem('UNKNOWN_COUNTRY', 'There are no holidays known for that country.')]);
    const parsed = holidaySchema.safeParse(req.query);
    if (!parsed.success) return refuse(res, 400, zodProblems(parsed.error));
    const { region, years } = parsed.data;
    const known = region ? new Holidays(req.params.country, region) : new Holidays(req.params.country);
    res.json({ holidays: years.flatMap((y) => holidaysOf(known, y)) });
  });
}

/** Public and bank holidays of a year as exceptions without work, one a run of days. */
function holidaysOf(known: Holidays, year: number): Exception[] {
  return known.getHolidays(year, 'en').flatMap((h): Exception[] => {
    if (h.type !== 'public' && h.type !== 'bank') return [];
    // Wall-clock dates: `date` is the first day, start and end tell how long it lasts.
    const from = h.date.slice(0, 10);
    const days = Math.max(1, Math.round((h.end.getTime() - h.start.getTime()) / 86_400_000));
    const to = new Date(Date.parse(`${from}T00:00:00Z`) + (days - 1) * 86_400_000).toISOString().slice(0, 10);
    return [{ name: h.name, from, to, yearly: false, work: [] }];
  });
}
