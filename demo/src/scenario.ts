/** The demo projects: SKY complete, SLIP and TRAIL smaller. Built by commands like any other plan. */
import { createHash } from 'node:crypto';
import { applyChanges } from '@yellowhammer/core/change/change';
import { keepBaseline, newProject } from '@yellowhammer/core/commands/project';
import { setTypedLinks } from '@yellowhammer/core/commands/links';
import { addNote, attachFiles } from '@yellowhammer/core/commands/attached';
import { addActivity, type RowRef } from '@yellowhammer/core/commands/outline';
import type { Document } from '@yellowhammer/core/model/document';
import type { ProjectFile } from '@yellowhammer/core/model/file';
import { calendars, letters } from './calendars.ts';
import { skyCodes, skyFields, smallCodes } from './codes.ts';
import { addAccounts, bookCosts, skyMoney } from './money.ts';
import { skyPeople, smallPeople } from './people.ts';
import { skyPictures } from './pictures.ts';
import { skyViews } from './views.ts';
import { buildList, counter, must, setByCode } from './list.ts';
import { statusUpdate, type Told, withoutSnapshots } from './progress.ts';
import { skyRows } from './sky-rows.ts';
import { slipRows, trailRows } from './small-rows.ts';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';

function begin(code: string, name: string, plannedStart: string, requiredFinish: string, project: 'mainland' | 'island'): { doc: Document; newId: () => string } {
  const newId = counter(`${code.toLowerCase()}-`);
  const first = calendars.find((c) => c.id === project);
  const doc = newProject({ code, name, plannedStart, requiredFinish, currency: 'crowns', calendar: first }, newId);
  applyChanges(
    doc,
    calendars.filter((c) => c.id !== project).map((c) => ({ table: 'calendars', id: c.id, before: null, after: c })),
  );
  return { doc, newId };
}

function baseline(doc: Document, copies: Map<string, Document>, newId: () => string, name: string, description: string, at: string): void {
  const copy = withoutSnapshots(doc);
  const id = must(doc, keepBaseline(doc, { id: newId(), name, description, at, compare: true }))[0]!;
  copies.set(id, copy);
}

const may: Record<string, Told> = {
  '45': { more: 6, note: 'The harbour board asked for a second landing plan.' },
  '125': { late: 4 },
};
const august: Record<string, Told> = {
  '130': { more: 25, note: 'The first blank cracked while cooling and was cast again.' },
  '315': { more: 3 },
  '405': { more: 4 },
};
const november: Record<string, Told> = {
  '435': { more: 9, note: 'Storm of 28 September: no landing for nine working days, part of the lime was lost.' },
  '430': { more: 4 },
  '240': { late: 3, note: 'No landing after the storm.' },
  '610': { more: 8 },
  '555': { late: 12, more: 20, note: 'Storm damage to the temporary roof; rust under the ring goes deeper than surveyed.' },
};

export function sky(): ProjectFile {
  const { doc, newId } = begin('SKY', 'Corran Skerry Observatory', '2026-03-02T08:00', '2027-09-24T17:00', 'mainland');
  const copies = new Map<string, Document>();
  buildList(doc, skyRows, letters, newId);
  baseline(doc, copies, newId, 'Grant plan', 'The plan that the grant was given for.', '2026-02-27T15:00:00.000Z');
  statusUpdate(doc, copies, '2026-06-01T08:00', may, '2026-06-01T09:10:00.000Z', newId);
  statusUpdate(doc, copies, '2026-08-31T08:00', august, '2026-08-31T09:05:00.000Z', newId);
  // After the storm the plan was made anew, and kept as a second baseline.
  const storm = activityOf(doc, '330');
  const id = must(
    doc,
    addActivity(doc, { kind: 'activity', id: storm }, { code: '332', name: 'Repair storm damage to temporary roof', duration: 5 * 600, calendarId: 'island' }, newId),
  )[0]!;
  must(
    doc,
    setTypedLinks(doc, id, 'predecessors', '330fs+10d', (a) => dayLengths(doc, a), newId),
  );
  must(
    doc,
    setTypedLinks(doc, id, 'successors', '555', (a) => dayLengths(doc, a), newId),
  );
  baseline(doc, copies, newId, 'Re-plan after storm', 'Agreed with the trust on 12 October 2026.', '2026-10-12T13:30:00.000Z');
  // The shutter drives were tried on the bare dome, before the copper was on: out of sequence.
  const early = { outOfSequence: { start: '2026-10-12T08:00', finish: '2026-10-30T17:00' } };
  statusUpdate(doc, copies, '2026-11-02T07:00', { ...november, '620': early }, '2026-11-02T10:20:00.000Z', newId);
  setByCode(doc, '640', { notes: 'Needs a calm window of two days; the crane barge is booked from 5 to 11 April.' });
  skyCodes(doc, newId);
  skyPeople(doc, newId);
  skyFields(doc, newId);
  skyMoney(doc, newId);
  skyViews(doc, newId);
  const contents = remember(doc, newId);
  skyPictures(doc, contents, newId);
  return { document: doc, copies, contents };
}

/** Notes of the days and a list of lifts, as they gather around a plan. */
function remember(doc: Document, newId: () => string): Map<string, string> {
  const on = (code: string): RowRef => ({ kind: 'activity', id: activityOf(doc, code) });
  for (const [code, who, at, text] of notes) must(doc, addNote(doc, on(code), text, { who, at }, newId));
  const bytes = Buffer.from(lifts);
  const hash = createHash('sha256').update(bytes).digest('hex');
  must(doc, attachFiles(doc, on('640'), [{ name: 'Lifts of the crane barge.csv', size: bytes.byteLength, hash }], { who: 'Mara Quill', at: '2026-10-20T08:15:00.000Z' }, newId));
  return new Map([[hash, bytes.toString('base64')]]);
}

const notes = [
  ['640', 'Mara Quill', '2026-10-14T13:05:00.000Z', 'Barge owner: a wind limit of 8 m/s holds for the whole lift, not for the hook alone.'],
  ['640', 'Ben Osk', '2026-10-20T08:10:00.000Z', 'Tides of May looked up: two windows of six hours on each of the booked days.'],
  ['555', 'Ben Osk', '2026-10-02T16:40:00.000Z', 'Rust measured at eleven places; three go through. Photographs with the surveyor.'],
] as const;
const lifts = 'lift,load,weight t,radius m\n1,shutter left,2.4,14\n2,shutter right,2.4,14\n3,ring segment,1.8,16\n';

const activityOf = (doc: Document, code: string): string => {
  const a = [...doc.activities.values()].find((x) => x.code === code);
  if (!a) throw new Error(`no activity ${code}`);
  return a.id;
};

export function slip(): ProjectFile {
  const { doc, newId } = begin('SLIP', 'Harbour slip repair', '2026-08-03T07:00', '2027-06-30T17:00', 'island');
  const copies = new Map<string, Document>();
  buildList(doc, slipRows, letters, newId);
  baseline(doc, copies, newId, 'Harbour board plan', '', '2026-07-30T12:00:00.000Z');
  statusUpdate(doc, copies, '2026-11-02T07:00', { '40': { more: 6 } }, '2026-11-02T11:00:00.000Z', newId);
  smallCodes(doc, newId, 'Trade');
  smallPeople(doc, newId);
  addAccounts(doc, newId);
  bookCosts(doc, newId);
  return { document: doc, copies };
}

export function trail(): ProjectFile {
  const { doc, newId } = begin('TRAIL', 'Seabird hide and trail', '2027-03-01T07:00', '2027-08-13T17:00', 'island');
  buildList(doc, trailRows, letters, newId);
  smallCodes(doc, newId, 'Trades');
  smallPeople(doc, newId);
  addAccounts(doc, newId);
  bookCosts(doc, newId);
  return { document: doc, copies: new Map() };
}
