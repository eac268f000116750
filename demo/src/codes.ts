/** Trade, area and funding stage of the demo projects, and the field that says which work needs a permit. */
import { setCells } from '@yellowhammer/core/commands/cells';
import { addCodeSet, addCodeValue } from '@yellowhammer/core/commands/codes';
import { addOwnField, editOwnField, setOwn } from '@yellowhammer/core/commands/own-fields';
import { wbsCodeOf } from '@yellowhammer/core/outline/outline';
import type { Activity, OwnKind, OwnOf } from '@yellowhammer/core/model/schema';
import type { Document } from '@yellowhammer/core/model/document';
import { namedColours } from '@yellowhammer/core/fields/extras';
import { must } from './list.ts';

/** A value: short name, name, colour, and the one that it lies in. */
type ValueText = [string, string, string, string?];

const trades: [ValueText, RegExp][] = [
  [['Mason', 'Stone and lime', 'clay'], /joint|repoint|lime|plaster|blockwork|stone floor|pier|grout/i],
  [['Steel', 'Steel and riggers', 'stone'], /steel|ring|ribs|lift|bolt|scaffold|hoist|crane|mount|landing|machinery/i],
  [['Copper', 'Roofers and coppersmiths', 'moss'], /copper|roof/i],
  [['Joiner', 'Joiners and glaziers', 'plum'], /floor and stair|joinery|windows|displays|handrails|hide/i],
  [['Power', 'Electrical works', 'sky'], /electric|solar|batter|inverter|cable|lighting|power|lights|drives|fire and safety/i],
  [['Optics', 'Mirror and instruments', 'sea'], /mirror|spectro|camera|optic|tracking|telescope|remote operation/i],
  [['Office', 'Design, consents and purchase', 'pine'], /survey|appraisal|design|consent|licence|study|tender|order|inspection|booking/i],
];

/** The short name of the first trade whose words a name has. */
const tradeOf = (name: string): string | undefined => trades.find(([, words]) => words.test(name))?.[0][0];

function makeSet(doc: Document, newId: () => string, name: string, values: readonly ValueText[]): string {
  const set = must(doc, addCodeSet(doc, name, newId))[0]!;
  const ids = new Map<string, string>();
  for (const [short, long, colour, within] of values)
    ids.set(
      short,
      must(doc, addCodeValue(doc, set, { short, name: long, colour: namedColours[colour] ?? null, parentId: within === undefined ? null : (ids.get(within) ?? null) }, newId))[0]!,
    );
  return `code:${set}`;
}

/** Gives every activity the value that its rule says. */
function give(doc: Document, key: string, newId: () => string, rule: (a: Activity) => string | undefined): void {
  const byValue = new Map<string, string[]>();
  for (const a of doc.activities.values()) {
    const v = rule(a);
    if (v !== undefined) byValue.set(v, [...(byValue.get(v) ?? []), a.id]);
  }
  for (const [v, ids] of byValue) must(doc, setCells(doc, ids, key, v, newId));
}

const areas: Record<string, string> = {
  '1': 'Mainland',
  '2': 'Mainland',
  '3': 'Landing',
  '4': 'Tower',
  '5': 'Tower',
  '6': 'Yard',
  '7': 'Tower',
  '8': 'Skerry',
  '9': 'Rooms',
  '10': 'Tower',
  '11': 'Skerry',
};

/** All of SKY: trade by its words, area by its WBS node, funding stage by what it waits for, and the permit. */
export function skyCodes(doc: Document, newId: () => string): void {
  const trade = makeSet(
    doc,
    newId,
    'Trade',
    trades.map(([v]) => v),
  );
  give(doc, trade, newId, (a) => (a.type === 'task' ? tradeOf(a.name) : undefined));
  const area = makeSet(doc, newId, 'Area', [
    ['Mainland', 'On the mainland', 'pine'],
    ['Yard', 'The steel yard', 'stone', 'Mainland'],
    ['Skerry', 'On the skerry', 'sea'],
    ['Landing', 'Landing stage and camp', 'sky', 'Skerry'],
    ['Tower', 'The tower with its lantern', 'clay', 'Skerry'],
    ['Rooms', 'Visitor rooms', 'plum', 'Skerry'],
  ]);
  give(doc, area, newId, (a) => areas[wbsCodeOf(doc, a.wbsId).split('.')[0] ?? '']);
  const stage = makeSet(doc, newId, 'Funding stage', [
    ['1', 'First grant: to the handover of the tower', 'moss'],
    ['2', 'Second grant: to the weathertight dome', 'clay'],
    ['3', 'Third grant: to the opening', 'plum'],
  ]);
  give(doc, stage, newId, (a) => (Number(a.code) < 400 ? '1' : Number(a.code) < 700 ? '2' : '3'));
  const permit = must(doc, addOwnField(doc, 'Permit needed', 'yesNo', newId))[0]!;
  must(doc, editOwnField(doc, permit, { about: 'A permit of the harbour board or the heritage office must be at hand before it begins.' }));
  give(doc, `own:${permit}`, newId, (a) => (/lift|landing|scaffold|asbestos|boat/i.test(a.name) && a.type === 'task' ? 'yes' : undefined));
}

/** Fields of its WBS nodes, resources, assignments and the project itself. */
export function skyFields(doc: Document, newId: () => string): void {
  const own = (name: string, of: OwnOf, kind: OwnKind, about: string, fields: Parameters<typeof editOwnField>[2] = {}): string => {
    const id = must(doc, addOwnField(doc, name, kind, newId, of))[0]!;
    must(doc, editOwnField(doc, id, { about, ...fields }));
    return id;
  };
  const set = (id: string, row: string, text: string): void => void must(doc, setOwn(doc, id, row, text));
  const manager = own('Site manager', 'wbs', 'text', 'Who walks the site for this part each morning.');
  for (const w of doc.wbs.values()) {
    const who = managers[wbsCodeOf(doc, w.id)];
    if (who) set(manager, w.id, who);
  }
  const licence = own('Licence until', 'resources', 'date', 'The last day of the lifting or boat licence.');
  const until: Record<string, string> = { Riggers: '31 aug 2027', 'Boat crew': '14 may 2027', 'Crane barge': '30 jun 2027' };
  for (const r of doc.resources.values()) if (until[r.name]) set(licence, r.id, until[r.name] as string);
  const night = own('Lodging', 'assignments', 'choice', 'Where the gang sleeps while it works on the skerry.', { choices: ['camp', 'boat', 'mainland'] });
  for (const x of doc.assignments.values()) if (doc.resources.get(x.resourceId ?? '')?.name === 'Riggers') set(night, x.id, 'camp');
  set(own('Grant file', 'project', 'text', 'The number under which the grant office keeps this project.'), 'project', 'CS-2026-014');
}

const managers: Record<string, string> = { '3': 'Isa Morrow', '4': 'Isa Morrow', '5': 'Tam Reid', '5.5': 'Isa Morrow', '6': 'Ben Osk', '8': 'Tam Reid', '9': 'Tam Reid' };

/** The smaller projects have trades, too; one calls them a little otherwise. */
export function smallCodes(doc: Document, newId: () => string, name: string): void {
  const trade = makeSet(
    doc,
    newId,
    name,
    trades.map(([[short, long, colour]]): ValueText => [name === 'Trade' ? short : `${short}s`, long, colour]),
  );
  give(doc, trade, newId, (a) => {
    const t = a.type === 'task' ? tradeOf(a.name) : undefined;
    return t && (name === 'Trade' ? t : `${t}s`);
  });
}
