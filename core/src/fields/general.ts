/** Fields that say what a row is: number, name, type, WBS node, calendar, notes. */
import { isMilestone, typeNames } from '../model/activity-kinds.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Document, ordered } from '../model/document.ts';
import { type Activity, type ActivityType, MAX_NAME, noProgress } from '../model/schema.ts';
import { nodeWithCode, wbsCodeOf } from '../outline/outline.ts';
import { dayLengths } from '../schedule/calendars.ts';
import { field } from './field.ts';

/** What else changes with the type: milestones have no duration; margins and levels of effort no constraints or progress. */
function typeFields(doc: Document, a: Activity, type: ActivityType): Partial<Activity> {
  const duration = a.duration || dayLengths(doc, a).minutesPerDay;
  if (type === 'task') return { type, duration };
  if (isMilestone({ type })) return { type, duration: 0, remaining: null };
  return { type, duration, constraints: [], ...noProgress };
}

/** A WBS node by its code or its name; undefined where there is none. */
function findNode(doc: Document, text: string): string | undefined {
  const coded = nodeWithCode(doc, text);
  if (coded !== undefined) return coded;
  const low = text.toLowerCase();
  for (const w of doc.wbs.values()) if (w.name.toLowerCase() === low) return w.id;
  return undefined;
}

export const generalFields = [
  field({
    key: 'code',
    title: 'No.',
    about: 'Number of the activity, by which links are typed; code of a WBS node, whose last part can be typed.',
    kind: 'text',
    group: 'General',
    width: 44,
    paper: 30,
    stored: 'code',
    naming: true,
    sum: 'none',
    value: ({ a }) => a.code,
    node: ({ code }) => code,
    read(text, { doc, a }) {
      if (!text || text.length > 40) return { error: 'a number of 1 to 40 characters is needed, since links are typed with it.' };
      if (/[,;]/.test(text)) return { error: 'a number cannot hold a comma, since links are parted by commas.' };
      const node = nodeWithCode(doc, text);
      if (node !== undefined) return { error: `${text} is the code of the WBS node ${doc.wbs.get(node)?.name ?? ''}. Type a number that is no code of a node.` };
      const other = indexOf(doc)
        .withCode(text)
        .find((x) => x.id !== a.id);
      return other ? { error: `number ${text} is taken by ${other.name || 'another activity'}.` } : { fields: { code: text } };
    },
  }),
  field({
    key: 'name',
    title: 'Activity',
    about: 'What is done, or the name of the WBS node.',
    kind: 'text',
    group: 'General',
    width: 188,
    paper: 168,
    stored: 'name',
    naming: true,
    sum: 'none',
    value: ({ a }) => a.name,
    node: ({ node }) => node.name,
    read: (text) => (text.length > MAX_NAME ? { error: `the name is longer than ${MAX_NAME} characters.` } : { fields: { name: text } }),
  }),
  field<string>({
    key: 'type',
    title: 'Type',
    about: 'Task, start or finish milestone, level of effort, margin.',
    kind: 'choice',
    group: 'General',
    width: 110,
    stored: 'type',
    sum: 'same',
    inspector: true,
    value: ({ a }) => typeNames[a.type],
    choices: () => Object.values(typeNames),
    read(text, { doc, a }) {
      const type = (Object.keys(typeNames) as ActivityType[]).find((t) => t === text || typeNames[t].toLowerCase() === text.toLowerCase());
      return type ? { fields: typeFields(doc, a, type) } : { error: `${text} is no type. Choose task, start milestone, finish milestone, level of effort or margin.` };
    },
  }),
  field({
    key: 'wbs',
    title: 'WBS',
    about: 'Code of the WBS node that it is in.',
    kind: 'text',
    group: 'General',
    width: 60,
    stored: 'wbsId',
    sum: 'none',
    value: ({ doc, a }) => wbsCodeOf(doc, a.wbsId) || null,
    read(text, { doc, a }) {
      const node = text === '' ? null : findNode(doc, text);
      if (node === undefined) return { error: `there is no WBS node ${text}. Type its code or its name, or nothing for the top level.` };
      if (node === a.wbsId) return { fields: {} };
      return { fields: { wbsId: node, rank: (indexOf(doc).lastIn(node)?.rank ?? -1) + 1 } };
    },
  }),
  field({
    key: 'calendar',
    title: 'Calendar',
    about: 'The calendar that it is computed on; empty for the project’s.',
    kind: 'choice',
    group: 'General',
    width: 116,
    stored: 'calendarId',
    sum: 'same',
    inspector: true,
    value: ({ doc, a }) => (a.calendarId === null ? null : (doc.calendars.get(a.calendarId)?.name ?? null)),
    choices: (doc) => ordered(doc, 'calendars').map((c) => c.name),
    read(text, { doc }) {
      if (text === '') return { fields: { calendarId: null } };
      const c = doc.calendars.get(text) ?? [...doc.calendars.values()].find((x) => x.name.toLowerCase() === text.toLowerCase());
      return c ? { fields: { calendarId: c.id } } : { error: `there is no calendar ${text}. Make it in the Library first.` };
    },
  }),
  field({
    key: 'notes',
    title: 'Notes',
    about: 'Notes on the activity.',
    kind: 'text',
    group: 'General',
    width: 180,
    stored: 'notes',
    sum: 'none',
    value: ({ a }) => a.notes || null,
    node: ({ node }) => node.notes || null,
    read: (text) => (text.length > 20_000 ? { error: 'the notes are longer than 20,000 characters.' } : { fields: { notes: text } }),
  }),
];
