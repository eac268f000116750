/**
 * What others wait for while one person asks the server for much: a small request, asked again and again from a thread of
 * its own meanwhile. The limit is 50 ms at a stretch (docs/performance.md).
 */
import { Worker } from 'node:worker_threads';
import { type Change, invertChanges } from '@yellowhammer/core/change/change';
import { setActivities } from '@yellowhammer/core/commands/cells';
import { deleteRows } from '@yellowhammer/core/commands/outline';
import { keepBaseline } from '@yellowhammer/core/commands/project';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { largePlan } from '@yellowhammer/demo/generate';
import { World } from '../e2e/src/harness.ts';

/** Asks one address without end, and says on demand how long the longest answer since the last time took. */
const PROBE = `
const { parentPort, workerData } = require('node:worker_threads');
const http = require('node:http');
const agent = new http.Agent({ keepAlive: true });
let [most, going] = [0, true];
parentPort.on('message', (m) => {
  if (m === 'end') going = false;
  else parentPort.postMessage(most);
  most = 0;
});
(async () => {
  while (going) {
    const from = performance.now();
    await new Promise((done, failed) => http.get(workerData, { agent }, (res) => res.resume().on('end', done)).on('error', failed));
    most = Math.max(most, performance.now() - from);
    await new Promise((r) => setTimeout(r, 2));
  }
  process.exit(0);
})();`;

const changesOf = (o: Outcome): Change[] => {
  if (!o.ok) throw new Error(o.problems[0]?.message);
  return o.changes;
};

export async function waitingForOthers(size = 50_000): Promise<void> {
  const w = new World();
  try {
    await w.start();
    const other = await w.importFile(writeProjectFile({ document: largePlan(100, 2), copies: new Map() }));
    const probe = new Worker(PROBE, { eval: true, workerData: `${w.url}/api/projects/${other}/log` });
    const longest = (): Promise<number> => new Promise((done) => (probe.once('message', done), probe.postMessage('most')));
    const ask = async (method: string, path: string, body?: string): Promise<string> => {
      const res = await fetch(`${w.url}/api${path}`, { method, headers: { 'content-type': 'application/json' }, ...(body === undefined ? {} : { body }) });
      const text = await res.text();
      if (!res.ok) throw new Error(`${method} ${path}: ${res.status} ${text.slice(0, 200)}`);
      return text;
    };
    console.log(`What another person's request waits for, with ${size} activities`);
    const during = async (what: string, method: string, path: string, body?: unknown): Promise<string> => {
      // Written before it is measured: the asker's own work would take a core from the server.
      const text = body === undefined ? undefined : JSON.stringify(body);
      await new Promise((r) => setTimeout(r, 300));
      await longest();
      const from = performance.now();
      const answer = await ask(method, path, text);
      const took = performance.now() - from;
      const most = await longest();
      console.log(`  ${what}: ${Math.round(took)} ms; others waited at most ${Math.round(most)} ms (limit 50)${most > 50 ? '  OVER' : ''}`);
      return answer;
    };
    const doc = largePlan(size, 1);
    const { id } = JSON.parse(await during('importing the plan', 'POST', '/import', JSON.parse(writeProjectFile({ document: doc, copies: new Map() })))) as { id: string };
    let revision = 1;
    const send = async (what: string, changes: Change[]): Promise<void> => {
      const batch = { changeId: `bench-others-${revision}`, label: what, kind: 'do', target: null, changes };
      ({ revision } = JSON.parse(await during(what, 'POST', `/projects/${id}/changes`, { revision, batch })) as { revision: number });
    };
    await during('opening it', 'GET', `/projects/${id}`);
    const all = changesOf(
      deleteRows(
        doc,
        [...doc.activities.keys()].map((a) => ({ kind: 'activity', id: a })),
      ),
    );
    await send('deleting all rows', all);
    await send('taking that back', invertChanges(all));
    await send('keeping a baseline', changesOf(keepBaseline(doc, { id: 'bench', name: 'Bench', description: '', at: '2026-03-01T08:00:00.000Z' })));
    await send('a change of 900 rows', changesOf(setActivities(doc, [...doc.activities.keys()].slice(0, 900), { notes: 'seen' })));
    await during('the log with its rows', 'GET', `/projects/${id}/history?before=1000&most=50`);
    await during('opening it anew', 'GET', `/projects/${id}`);
    await during('the list of projects', 'GET', '/projects');
    await during('what is alike over all projects', 'GET', '/alike');
    const [calendar] = doc.calendars.keys();
    await during('sharing a calendar', 'POST', `/projects/${id}/calendars/${calendar}/share`);
    const [listed] = JSON.parse(await during('the shared calendars', 'GET', '/shared-calendars')) as { calendar: { id: string; hoursPerDay: number }; revision: number }[];
    if (!listed) throw new Error('the calendar was not shared');
    const { calendar: shared, revision: known } = listed;
    await during('changing it for all', 'PUT', `/shared-calendars/${shared.id}`, { revision: known, calendar: { ...shared, hoursPerDay: 7 } });
    await during('a page of the report', 'GET', `/projects/${id}/report?from=0&to=1`);
    await during('the project file', 'GET', `/projects/${id}/file`);
    await during('a copy of the project', 'POST', `/projects/${id}/copy`, {});
    probe.postMessage('end');
    await new Promise((r) => probe.once('exit', r));
  } finally {
    await w.stop();
  }
}
