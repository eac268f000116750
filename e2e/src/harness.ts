/** The real server on a database of its own, and Debian's Chromium driving the built interface. */
import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Browser, type BrowserContext, chromium, type Locator, type Page } from 'playwright-core';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');

const freePort = (): Promise<number> =>
  new Promise((done) => {
    const s = createServer().listen(0, '127.0.0.1', () => {
      const { port } = s.address() as { port: number };
      s.close(() => done(port));
    });
  });

export class World {
  browser!: Browser;
  url = '';
  readonly dir = mkdtempSync(join(tmpdir(), 'yellowhammer-e2e-'));
  private server: ChildProcess | undefined;
  private port = 0;
  private contexts: BrowserContext[] = [];
  /** Errors on any page: a test that leaves one has failed. */
  errors: string[] = [];

  async start(): Promise<void> {
    const path = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'].find((p) => existsSync(p));
    if (!path) throw new Error("Chromium is missing: install Debian's package chromium, then run the tests again.");
    this.port = await freePort();
    this.url = `http://127.0.0.1:${this.port}`;
    await this.startServer();
    this.browser = await chromium.launch({
      executablePath: path,
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
    });
  }

  async startServer(): Promise<void> {
    this.server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
      cwd: root,
      env: { ...process.env, PORT: String(this.port), YELLOWHAMMER_DATA: join(this.dir, 'data.db') },
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    for (let i = 0; i < 200; i++) {
      if (
        await this.api('/projects').then(
          () => true,
          () => false,
        )
      )
        return;
      await new Promise((r) => setTimeout(r, 100));
    }
    throw new Error('the server did not start');
  }

  async stopServer(signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    const { server } = this;
    if (!server) return;
    await new Promise((r) => {
      server.once('exit', r);
      server.kill(signal);
    });
  }

  async api<T = unknown>(path: string, body?: unknown): Promise<T> {
    const res = await fetch(
      `${this.url}/api${path}`,
      body === undefined ? {} : { method: 'POST', headers: { 'content-type': 'application/json' }, body: typeof body === 'string' ? body : JSON.stringify(body) },
    );
    return (await res.json()) as T;
  }

  /** Imports a project file past the interface; the id of the project. */
  async importFile(text: string): Promise<string> {
    return (await this.api<{ id: string }>('/import', text)).id;
  }

  /** A window of its own, as of another person. */
  async window(options: { width?: number; height?: number; dark?: boolean } = {}): Promise<Page> {
    const context = await this.browser.newContext({
      viewport: { width: options.width ?? 1280, height: options.height ?? 800 },
      acceptDownloads: true,
      permissions: ['clipboard-read', 'clipboard-write'],
    });
    this.contexts.push(context);
    const page = await context.newPage();
    page.setDefaultTimeout(30_000);
    page.on('pageerror', (e) => this.errors.push(`page error: ${e.message}`));
    page.on('console', (m) => {
      // Refusals and a server that is away are part of the tests; anything else on the console is a defect.
      if (m.type() === 'error' && !/Failed to load resource|ERR_CONNECTION|ERR_EMPTY|net::ERR_FAILED|ERR_INCOMPLETE/.test(m.text()))
        this.errors.push(`console: ${m.text().slice(0, 400)}`);
    });
    if (options.dark) await page.addInitScript(() => localStorage.setItem('mantine-color-scheme-value', 'dark'));
    return page;
  }

  async closeWindows(): Promise<void> {
    for (const c of this.contexts.splice(0)) await c.close();
  }

  async stop(): Promise<void> {
    await this.browser?.close();
    await this.stopServer();
    rmSync(this.dir, { recursive: true, force: true });
  }
}

/** Waits until something holds, and says what was there instead when it does not. */
export async function until<T>(what: string, read: () => Promise<T>, holds: (v: T) => boolean, ms = 25_000): Promise<T> {
  const end = Date.now() + ms;
  let last: T | undefined;
  while (Date.now() < end) {
    last = await read().catch(() => undefined as T);
    if (last !== undefined && holds(last)) return last;
    await new Promise((r) => setTimeout(r, 40));
  }
  throw new Error(`${what}: still ${JSON.stringify(last)} after ${ms} ms`);
}

export function equal(actual: unknown, expected: unknown, what: string): void {
  if (JSON.stringify(actual) !== JSON.stringify(expected)) throw new Error(`${what}: expected ${JSON.stringify(expected)}, found ${JSON.stringify(actual)}`);
}

/** The plan of a page in a planner's words. */
export class PlanScreen {
  readonly page: Page;
  constructor(page: Page) {
    this.page = page;
  }
  row(name: string): Locator {
    return this.page.locator('.sheet .row').filter({ has: this.page.locator('.cell.name .cell-text, .cell.name:not(.with-signs)', { hasText: new RegExp(`^${name}$`) }) });
  }
  cell(name: string, column: string): Locator {
    return this.row(name).locator(`.cell[data-column="${column}"]`);
  }
  async text(name: string, column: string): Promise<string> {
    return (await this.cell(name, column).innerText()).trim();
  }
  expect(name: string, column: string, text: string): Promise<string> {
    return until(
      `${column} of ${name}`,
      () => this.text(name, column),
      (t) => t === text,
    );
  }
  /** Types into a cell: by double click, as with F2. */
  async type(name: string, column: string, text: string): Promise<void> {
    await this.cell(name, column).dblclick();
    const input = this.page.locator('.cell-input');
    await input.fill(text);
    await input.press('Enter');
  }
  figure(caption: string): Promise<string> {
    return this.page.locator('.figure').filter({ hasText: caption }).locator('.figure-value').innerText();
  }
  expectFigure(caption: string, value: string): Promise<string> {
    return until(
      `figure ${caption}`,
      () => this.figure(caption),
      (v) => v === value,
    );
  }
  saved(): Promise<string> {
    return until(
      'saved',
      () => this.page.locator('.computing').innerText(),
      (t) => /· saved$/.test(t) && !/Computing/.test(t),
    );
  }
}

const day = [
  ['08:00', '12:00'],
  ['13:00', '17:00'],
];
/** A five-day week of eight hours, as it stands in a file. */
export const fiveDays = { id: 'c', name: 'Week', week: [day, day, day, day, day, [], []] };

/** A small project file that begins on Monday 2 March 2026, on the five-day week. */
export function planText(p: { code: string; name: string; project?: object; calendars?: object[]; wbs?: object[]; activities: object[]; links?: object[] }): string {
  const project = { id: 'project', code: p.code, name: p.name, plannedStart: '2026-03-02T08:00', calendarId: 'c', ...p.project };
  return JSON.stringify({
    format: 'yellowhammer-project',
    version: 1,
    project,
    calendars: [fiveDays, ...(p.calendars ?? [])],
    wbs: p.wbs ?? [],
    activities: p.activities,
    links: p.links ?? [],
  });
}

type Journey = { name: string; run: (w: World) => Promise<void> };
const journeys: Journey[] = [];
export const journey = (name: string, run: (w: World) => Promise<void>): void => void journeys.push({ name, run });

/**
 * Runs all journeys (or those whose name holds a word) and writes the counts where `npm test` reads them. Two worlds
 * take them in turn, each with a server, a database and a browser of its own: a journey waits most of its time.
 */
export async function runAll(only?: string): Promise<boolean> {
  const waiting = journeys.filter((j) => !only || j.name.includes(only));
  let passed = 0;
  let failed = 0;
  const inWorld = async (): Promise<void> => {
    const world = new World();
    try {
      await world.start();
      for (let j = waiting.shift(); j; j = waiting.shift()) {
        const from = Date.now();
        world.errors = [];
        try {
          await j.run(world);
          if (world.errors.length) throw new Error(world.errors.join('\n'));
          passed++;
          console.log(`ok     ${j.name} (${((Date.now() - from) / 1000).toFixed(1)} s)`);
        } catch (e) {
          failed++;
          console.log(`FAILED ${j.name}\n${(e as Error).stack}\n${world.errors.join('\n')}`);
        }
        await world.closeWindows();
      }
    } catch (e) {
      failed++;
      console.log(`FAILED browser tests could not start\n${(e as Error).message}`);
    }
    await world.stop();
  };
  await Promise.all(waiting.length > 1 ? [inWorld(), inWorld()] : [inWorld()]);
  console.log(`browser: ${passed} passed, ${failed} failed`);
  const file = process.env['YELLOWHAMMER_RESULTS'];
  if (file) writeFileSync(file, JSON.stringify({ numPassedTests: passed, numFailedTests: failed }));
  return failed === 0;
}
