/** Fields that an activity has of its own beside the plan: how important it is, a colour, an address, whether it is drawn. */
import { indexOf, type OutlineRef } from '../model/doc-index.ts';
import { isMilestone } from '../model/activity-kinds.ts';
import { type Document, ordered } from '../model/document.ts';
import { activityDefaults } from '../model/schema.ts';
import { showTypedDate } from '../time/typed-date.ts';
import { field } from './field.ts';
import { readAddress } from './typed.ts';

/** Colours by name: legible on paper and in the dark, apart from those that the product keeps for critical work and the data date. */
export const namedColours: Readonly<Record<string, string>> = {
  pine: '#1f5a4a',
  moss: '#6b7a3a',
  sea: '#2f6f83',
  sky: '#4f7fb5',
  plum: '#6d4a7a',
  rose: '#a8506b',
  clay: '#a8653f',
  stone: '#76726a',
};
const nameOf = (colour: string): string => Object.keys(namedColours).find((n) => namedColours[n] === colour) ?? colour;

/** What is to be seen at a glance beside the name of an activity. */
export interface Marks {
  colour: string | null;
  notes: boolean;
  address: boolean;
  hidden: boolean;
  /** Where it is not the usual one. */
  priority: number | null;
  files: boolean;
}
export function marksOf(doc: Document, row: OutlineRef): Marks {
  const a = row.kind === 'activity' ? doc.activities.get(row.id) : undefined;
  const index = indexOf(doc);
  const notes = (a ?? doc.wbs.get(row.id))?.notes ?? '';
  return {
    colour: a?.colour ?? null,
    notes: notes !== '' || index.attachedTo('datedNotes', row).length > 0,
    address: !!a?.address,
    hidden: a?.hidden === true,
    priority: a && a.priority !== activityDefaults.priority ? a.priority : null,
    files: index.attachedTo('files', row).length > 0,
  };
}

/** Days, author and text of dated notes, the newest first: `12 Oct 26 Ana: Rebar late`. */
function notesText(doc: Document, row: OutlineRef): string | null {
  const list = indexOf(doc).attachedTo('datedNotes', row);
  return list.length
    ? [...list]
        .reverse()
        .map((n) => `${showTypedDate(n.at.slice(0, 10))} ${n.who}: ${n.text}`)
        .join(' / ')
    : null;
}
const filesText = (doc: Document, row: OutlineRef): string | null =>
  indexOf(doc)
    .attachedTo('files', row)
    .map((f) => f.name)
    .join(', ') || null;

export const extraFields = [
  field<number>({
    key: 'priority',
    title: 'Priority',
    about: 'From 1 to 9; what is more important is higher, and comes first where resources are short.',
    kind: 'number',
    group: 'General',
    width: 60,
    stored: 'priority',
    sum: 'greatest',
    inspector: true,
    value: ({ a }) => a.priority,
    read(text) {
      const n = text === '' ? 5 : Number(text);
      return Number.isInteger(n) && n >= 1 && n <= 9 ? { fields: { priority: n } } : { error: `${text} is no priority. Type a whole number from 1 to 9; 5 is usual.` };
    },
  }),
  field<string>({
    key: 'colour',
    title: 'Colour',
    about: 'A colour of its own for its bar; empty: as the picture has it.',
    kind: 'choice',
    group: 'General',
    width: 76,
    stored: 'colour',
    sum: 'same',
    inspector: true,
    value: ({ a }) => (a.colour === null ? null : nameOf(a.colour)),
    edit: ({ a }) => (a.colour === null ? 'none' : nameOf(a.colour)),
    choices: () => ['none', ...Object.keys(namedColours)],
    read(text) {
      const t = text.trim().toLowerCase();
      if (t === '' || t === 'none') return { fields: { colour: null } };
      const colour = namedColours[t] ?? (/^#[0-9a-f]{6}$/.test(t) ? t : undefined);
      return colour ? { fields: { colour } } : { error: `${text} is no colour here. Choose ${Object.keys(namedColours).join(', ')}, or type one such as #4a6355.` };
    },
  }),
  field<string>({
    key: 'look',
    title: 'Bar look',
    about: 'A look of the Library for its bar alone; empty: as the view has it.',
    kind: 'choice',
    group: 'General',
    width: 96,
    stored: 'lookId',
    sum: 'none',
    inspector: true,
    value: ({ doc, a }) => (a.lookId === null ? null : (doc.looks.get(a.lookId)?.name ?? null)),
    edit: ({ doc, a }) => (a.lookId === null ? 'none' : (doc.looks.get(a.lookId)?.name ?? 'none')),
    choices: (doc) => ['none', ...ordered(doc, 'looks').map((l) => l.name)],
    read(text, { doc }) {
      const t = text.trim().toLowerCase();
      const look = [...doc.looks.values()].find((l) => l.name.toLowerCase() === t);
      if (look) return { fields: { lookId: look.id } };
      return t === '' || t === 'none' ? { fields: { lookId: null } } : { error: `there is no bar look ${text}. Make it in the Library first.` };
    },
  }),
  field<string>({
    key: 'picture',
    title: 'Picture',
    about: 'A picture of the project that stands for a milestone instead of the usual sign.',
    kind: 'choice',
    group: 'General',
    width: 96,
    stored: 'pictureId',
    sum: 'none',
    inspector: true,
    value: ({ doc, a }) => (a.pictureId === null ? null : (doc.pictures.get(a.pictureId)?.name ?? null)),
    edit: ({ doc, a }) => (a.pictureId === null ? 'none' : (doc.pictures.get(a.pictureId)?.name ?? 'none')),
    choices: (doc) => ['none', ...ordered(doc, 'pictures').map((p) => p.name)],
    read(text, { doc, a }) {
      const t = text.trim().toLowerCase();
      if (t === '' || t === 'none') return { fields: { pictureId: null } };
      const picture = [...doc.pictures.values()].find((p) => p.name.toLowerCase() === t);
      if (!picture) return { error: `there is no picture ${text}. Add it in the Library first.` };
      return isMilestone(a) ? { fields: { pictureId: picture.id } } : { error: `${a.code} is no milestone; pictures stand on milestones.` };
    },
  }),
  field<string>({
    key: 'address',
    title: 'Web address',
    short: 'Address',
    about: 'An address on the web that belongs to the activity.',
    kind: 'text',
    group: 'General',
    width: 160,
    stored: 'address',
    sum: 'none',
    inspector: true,
    value: ({ a }) => a.address || null,
    read(text) {
      const t = text.trim();
      if (t === '') return { fields: { address: '' } };
      const address = readAddress(t);
      return address === undefined ? { error: `${t} is no web address. Type it as https://example.org/page.` } : { fields: { address } };
    },
  }),
  field<boolean>({
    key: 'hidden',
    title: 'Hidden from the picture',
    short: 'Hidden',
    about: 'Its bar and its links are not drawn, on screen and paper; it is computed like any other.',
    kind: 'yesNo',
    group: 'General',
    width: 64,
    stored: 'hidden',
    sum: 'same',
    inspector: true,
    value: ({ a }) => a.hidden || null,
    choices: () => ['yes', 'no'],
    edit: ({ a }) => (a.hidden ? 'yes' : 'no'),
    read(text) {
      const t = text.trim().toLowerCase();
      if (['', 'no', 'n'].includes(t)) return { fields: { hidden: false } };
      return ['yes', 'y'].includes(t) ? { fields: { hidden: true } } : { error: `${text} is neither yes nor no.` };
    },
  }),
  field<string>({
    key: 'datedNotes',
    title: 'Dated notes',
    about: 'Notes with their day and author, the newest first.',
    kind: 'text',
    group: 'General',
    width: 180,
    sum: 'none',
    value: ({ doc, a }) => notesText(doc, { kind: 'activity', id: a.id }),
    node: ({ doc, node }) => notesText(doc, { kind: 'wbs', id: node.id }),
  }),
  field<string>({
    key: 'files',
    title: 'Files',
    about: 'Names of the files that are attached.',
    kind: 'text',
    group: 'General',
    width: 120,
    sum: 'none',
    value: ({ doc, a }) => filesText(doc, { kind: 'activity', id: a.id }),
    node: ({ doc, node }) => filesText(doc, { kind: 'wbs', id: node.id }),
  }),
];
