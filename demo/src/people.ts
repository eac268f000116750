/** Who and what builds the observatory: people, plant and material of the demo projects, and what they do. */
import { assign, assignCrew, setAssignment, unassign } from '@yellowhammer/core/commands/assign';
import { addPeople } from '@yellowhammer/core/commands/resources';
import { setActivities } from '@yellowhammer/core/commands/cells';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import type { Document } from '@yellowhammer/core/model/document';
import type { CrewLine, Resource } from '@yellowhammer/core/model/resource-schema';
import type { Activity } from '@yellowhammer/core/model/schema';
import { must } from './list.ts';

const from = '2026-01-01';
const off = (name: string, first: string, last: string): Resource['daysOff'][number] => ({ name, from: first, to: last, yearly: false, work: [] });

/** Name, role, group, calendar, units, crowns an hour. */
type Gang = [string, string, string, string, number, number];
const people: Gang[] = [
  ['Stone masons', 'mason', 'Tower gang', 'island', 4, 34],
  ['Lime plasterers', 'plasterer', 'Tower gang', 'island', 2, 33],
  ['Carpenters', 'carpenter', 'Tower gang', 'island', 3, 35],
  ['Electricians', 'electrician', 'Services', 'island', 2, 38],
  ['Riggers', 'rigger', 'Lifting', 'island', 3, 36],
  ['Optics engineers', 'optics engineer', 'Services', 'mainland', 2, 62],
  ['Boat crew', 'boat hand', 'Lifting', 'boat', 2, 41],
  ['Instrument fitters', 'instrument fitter', 'Services', 'island', 2, 48],
];
const plant: Gang[] = [
  ['Crane barge', '', 'Lifting', 'island', 1, 420],
  ['Generator', '', 'Services', 'island', 1, 18],
];

/** Words of a name, who does it, and with how many. The first that fits counts for each gang. */
const work: [RegExp, string, number][] = [
  [/strip and rake|joint|blockwork|stone floor|pier|parapet/i, 'Stone masons', 3],
  [/repoint|grout/i, 'Stone masons', 2],
  [/plaster|limewash/i, 'Lime plasterers', 2],
  [/floor and stair|joinery|displays|handrails|windows|hide|boardwalk/i, 'Carpenters', 2],
  [/^electrics|cable|lighting|solar|batter|inverter/i, 'Electricians', 2],
  [/scaffold|steel|ring|ribs|lift|hoist|mount|machinery|winch|cofferdam|rope way|anchor/i, 'Riggers', 2],
  [/mirror|spectro|camera|optic|tracking|telescope/i, 'Optics engineers', 1],
  [/^carry|boat/i, 'Boat crew', 2],
  [/camp|huts/i, 'Generator', 1],
];

export function addGangs(doc: Document, newId: () => string): void {
  const groups = new Map<string, string>();
  const roles = new Map<string, string>();
  for (const name of ['Tower gang', 'Services', 'Lifting']) groups.set(name, must(doc, addPeople(doc, 'resourceGroups', name, {}, newId))[0]!);
  for (const name of ['mason', 'plasterer', 'carpenter', 'electrician', 'rigger', 'optics engineer', 'boat hand', 'instrument fitter', 'surveyor'])
    roles.set(name, must(doc, addPeople(doc, 'roles', name, name === 'surveyor' ? { availability: [{ from, units: 1 }] } : {}, newId))[0]!);
  for (const [list, kind] of [
    [people, 'labour'],
    [plant, 'equipment'],
  ] as const)
    for (const [name, role, group, calendarId, units, perHour] of list) {
      const rates = [{ from, perHour, accountId: null }];
      // Wages of the masons rise with the new year; the barge is there for one week only, and the engineers have two weeks' leave.
      if (name === 'Stone masons') rates.push({ from: '2027-01-01', perHour: 36.5, accountId: null });
      const more: Partial<Resource> =
        name === 'Crane barge'
          ? {
              availability: [
                { from, units: 0 },
                { from: '2027-04-05', units: 1 },
                { from: '2027-04-12', units: 0 },
              ],
              perUse: 2_500,
            }
          : name === 'Optics engineers'
            ? { daysOff: [off('summer leave', '2027-08-02', '2027-08-13')] }
            : {};
      const fields = { kind, roleId: roles.get(role) ?? null, groupId: groups.get(group) ?? null, calendarId, availability: [{ from, units }], rates, ...more };
      must(doc, addPeople(doc, 'resources', name, fields, newId));
    }
  for (const [name, unit, price] of [
    ['Lime mortar', 't', 310],
    ['Copper sheet', 'm2', 95],
  ] as const)
    must(doc, addPeople(doc, 'resources', name, { kind: 'material', unit, prices: [{ from, price, accountId: null }] }, newId));
}

const byName = (doc: Document, name: string): Resource => {
  const r = [...doc.resources.values()].find((x) => x.name === name);
  if (!r) throw new Error(`no resource ${name}`);
  return r;
};

/** Assigns by the words of the names, where those who are meant work the same hours. */
export function giveWork(doc: Document, newId: () => string): void {
  for (const a of [...doc.activities.values()]) {
    if (a.type !== 'task') continue;
    const taken = new Set<string>();
    for (const [words, who, units] of work) {
      if (!words.test(a.name) || taken.has(who)) continue;
      const r = byName(doc, who);
      if (a.calendarId !== r.calendarId) continue;
      taken.add(who);
      must(doc, assign(doc, [a.id], [{ resourceId: r.id, roleId: null, units }], newId));
    }
  }
}

const at = (doc: Document, code: string): Activity => {
  const a = indexOf(doc).byCode(code);
  if (!a) throw new Error(`no activity ${code}`);
  return a;
};
/** All of SKY. */
export function skyPeople(doc: Document, newId: () => string): void {
  addGangs(doc, newId);
  giveWork(doc, newId);
  // The surveyor is a role that nobody fills yet.
  const surveyor = [...doc.roles.values()].find((r) => r.name === 'surveyor')?.id ?? '';
  for (const code of ['15', '20', '200']) must(doc, assign(doc, [at(doc, code).id], [{ resourceId: null, roleId: surveyor, units: 1 }], newId));
  must(doc, setActivities(doc, [at(doc, '15').id], { responsible: 'Mara Quill' }));
  // A crew for what is lifted from the sea; the barge is there for one week.
  const line = (who: string, units: number): CrewLine => ({ resourceId: byName(doc, who).id, roleId: null, units });
  const crew = must(doc, addPeople(doc, 'crews', 'Lifting crew', { about: 'For what is lifted from the sea', lines: [line('Riggers', 1), line('Crane barge', 1)] }, newId))[0]!;
  const lift = at(doc, '640').id;
  for (const x of indexOf(doc).assignmentsOf(lift)) must(doc, unassign(doc, [x.id]));
  must(doc, assignCrew(doc, [lift], crew, 1, newId));
  for (const x of indexOf(doc).assignmentsOf(lift)) must(doc, setAssignment(doc, x.id, { drives: false }));
  // Work to come that asks for more than is there: some of it can wait, some cannot.
  for (const [code, who, units] of [
    ['645', 'Riggers', 2],
    ['655', 'Riggers', 2],
    ['570', 'Carpenters', 2],
    ['740', 'Instrument fitters', 1],
    ['745', 'Instrument fitters', 2],
    ['750', 'Instrument fitters', 1],
  ] as const)
    if (
      !indexOf(doc)
        .assignmentsOf(at(doc, code).id)
        .some((x) => x.resourceId === byName(doc, who).id)
    )
      must(doc, assign(doc, [at(doc, code).id], [line(who, units)], newId));
  // Lime goes with the joints, copper with the flashing.
  for (const a of [...doc.activities.values()]) {
    const [what, quantity] = /^repoint/i.test(a.name)
      ? (['Lime mortar', a.duration / 600 / 2] as const)
      : /copper flashing/i.test(a.name)
        ? (['Copper sheet', 64] as const)
        : ['', 0];
    if (!what) continue;
    must(doc, assign(doc, [a.id], [line(what, 1)], newId));
    const last = indexOf(doc).assignmentsOf(a.id).at(-1);
    if (last) must(doc, setAssignment(doc, last.id, { quantity }));
  }
  // What a crew does in a day makes the time it takes, with nobody assigned at all.
  must(doc, setActivities(doc, [at(doc, '720').id], { quantity: 36, quantityUnit: 'm3', rate: 6, crews: 1 }));
  must(doc, setActivities(doc, [at(doc, '720').id], { basis: 'productionRate' }));
  // More riggers would shorten this one: what there is to do stays.
  must(doc, setActivities(doc, [at(doc, '645').id], { basis: 'fixedWork' }));
  // Visitors are invited: these nights take place whoever is away.
  must(doc, setActivities(doc, [at(doc, '960').id], { keepsDays: true }));
}

/** The smaller projects share riggers, boat crew and barge by name. */
export function smallPeople(doc: Document, newId: () => string): void {
  addGangs(doc, newId);
  giveWork(doc, newId);
}
