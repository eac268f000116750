/** Fields of who does the work, and of how much there is to do. */
import { assignees, assignmentText, typeAssignments } from '../commands/assign.ts';
import { figuresOf } from '../load/figures.ts';
import { hoursOf } from '../load/hours.ts';
import { assignedTo, isMaterial } from '../model/assigned.ts';
import type { Document } from '../model/document.ts';
import { ordered } from '../model/document.ts';
import { activityDefaults, type Basis, bases } from '../model/schema.ts';
import { type ActivityCell, field } from './field.ts';
import { standingOf } from './standing.ts';
import { numberText, typedNumber } from '../model/number-text.ts';

export const basisNames: Record<Basis, string> = { fixedDuration: 'Fixed duration', fixedWork: 'Fixed work', productionRate: 'Production rate' };

/** Unit-minutes of labour and equipment, in thousandths: of one of the figures of their assignments. Null where nobody is assigned. */
function workIn(cell: ActivityCell, which: 'whole' | 'actual' | 'remaining'): number | null {
  const list = assignedTo(cell.doc, cell.a).filter((x) => !isMaterial(cell.doc, x));
  if (list.length === 0) return null;
  const standing = standingOf(cell);
  return list.reduce((n, x) => n + figuresOf(cell.doc, cell.a, x, standing)[which], 0);
}

const hours = (n: number): string => `${numberText(n, 1)} h`;

const workField = (key: string, title: string, about: string, value: (cell: ActivityCell) => number | null) =>
  field<number>({
    key,
    title,
    about,
    kind: 'number',
    group: 'Work',
    width: 76,
    computed: true,
    sum: 'sum',
    value: (cell) => {
      const work = value(cell);
      return work === null ? null : hoursOf(work);
    },
    show: (v) => hours(v),
    showSum: (v) => hours(v),
  });

/** A number above 0 with at most so many decimals; undefined where it cannot be read. */
function positive(text: string, least: number): number | undefined {
  const n = typedNumber(text);
  return n !== undefined && n >= least && n <= 1e9 ? Math.round(n * 1000) / 1000 : undefined;
}

const names = (doc: Document): string[] => assignees(doc).map((x) => x.name);

export const workFields = [
  field<string>({
    key: 'assignments',
    title: 'Assigned',
    about: 'Who and what does the work, with units: `mason 3, crane 0.5`.',
    kind: 'text',
    group: 'Work',
    width: 140,
    sum: 'none',
    inspector: true,
    open: true,
    choices: names,
    value: ({ doc, a }) =>
      assignedTo(doc, a)
        .map((x) => assignmentText(doc, x))
        .join(', ') || null,
    read: (text, { doc, a }, newId) => ({ outcome: typeAssignments(doc, a.id, text, newId) }),
  }),
  workField('work', 'Work', 'Hours of all who are assigned together, at completion.', (cell) => {
    const [actual, left] = [workIn(cell, 'actual'), workIn(cell, 'remaining')];
    return actual === null || left === null ? null : actual + left;
  }),
  workField('actualWork', 'Actual work', 'Hours that are done, as entered or as they follow from the progress.', (cell) => workIn(cell, 'actual')),
  workField('remainingWork', 'Remaining work', 'Hours that are left.', (cell) => workIn(cell, 'remaining')),
  field<string>({
    key: 'basis',
    title: 'Duration basis',
    about: 'What stays when those who do it change: the duration, the work, or the production rate.',
    kind: 'choice',
    group: 'Work',
    width: 110,
    stored: 'basis',
    sum: 'same',
    inspector: true,
    value: ({ a }) => basisNames[a.basis],
    choices: () => Object.values(basisNames),
    read(text) {
      const basis = bases.find((b) => b === text || basisNames[b].toLowerCase() === text.toLowerCase());
      return basis ? { fields: { basis } } : { error: `${text} is no basis. Choose fixed duration, fixed work or production rate.` };
    },
  }),
  field<number>({
    key: 'quantity',
    title: 'Quantity',
    about: 'How much there is to do, in the unit of the quantity.',
    kind: 'number',
    group: 'Work',
    width: 76,
    stored: 'quantity',
    sum: 'sum',
    inspector: true,
    value: ({ a }) => a.quantity,
    show: (v, { a }) => `${numberText(v, 3)}${a.quantityUnit ? ` ${a.quantityUnit}` : ''}`,
    edit: ({ a }) => (a.quantity === null ? '' : `${a.quantity}${a.quantityUnit ? ` ${a.quantityUnit}` : ''}`),
    read(text, { a }) {
      if (text === '') return { fields: { quantity: null } };
      const m = /^([\d.,]+)\s*(\D.*)?$/.exec(text);
      const n = m ? positive(m[1] ?? '', 0) : undefined;
      if (n === undefined) return { error: `${text} is no quantity. Type a number, and the unit behind it if you like: 120 m2.` };
      const unit = (m?.[2] ?? '').trim();
      return { fields: { quantity: n, ...(unit && unit !== a.quantityUnit ? { quantityUnit: unit.slice(0, 20) } : {}) } };
    },
  }),
  field<string>({
    key: 'quantityUnit',
    title: 'Unit',
    about: 'What the quantity is measured in: m, m2, pieces.',
    kind: 'text',
    group: 'Work',
    width: 56,
    stored: 'quantityUnit',
    sum: 'same',
    value: ({ a }) => a.quantityUnit || null,
    read: (text) => (text.length > 20 ? { error: 'the unit is longer than 20 characters.' } : { fields: { quantityUnit: text } }),
  }),
  field<number>({
    key: 'rate',
    title: 'Production rate',
    short: 'Rate a day',
    about: 'How much of the quantity one crew does in a working day. With the basis production rate it makes the duration.',
    kind: 'number',
    group: 'Work',
    width: 84,
    stored: 'rate',
    sum: 'none',
    inspector: true,
    value: ({ a }) => a.rate,
    show: (v) => numberText(v, 3),
    edit: ({ a }) => (a.rate === null ? '' : String(Math.round(a.rate * 1e6) / 1e6)),
    read(text) {
      if (text === '') return { fields: { rate: null } };
      const n = typedNumber(text);
      return n !== undefined && n > 0 && n <= 1e9 ? { fields: { rate: n } } : { error: `${text} is no production rate. Type how much a crew does in a day, above 0.` };
    },
  }),
  field<number>({
    key: 'crews',
    title: 'Crews',
    about: 'How many crews work at it side by side.',
    kind: 'number',
    group: 'Work',
    width: 56,
    stored: 'crews',
    sum: 'none',
    value: ({ a }) => (a.crews === activityDefaults.crews ? null : a.crews),
    edit: ({ a }) => String(a.crews),
    read(text) {
      const n = text === '' ? 1 : positive(text, 0.001);
      return n !== undefined && n <= 1_000 ? { fields: { crews: n } } : { error: `${text} is no number of crews. Type a number above 0, at most 1,000.` };
    },
  }),
  field<boolean>({
    key: 'keepsDays',
    title: 'Keeps its days',
    about: 'It takes place whoever is away: days off of those who do it do not move it.',
    kind: 'yesNo',
    group: 'Work',
    width: 80,
    stored: 'keepsDays',
    sum: 'same',
    inspector: true,
    value: ({ a }) => (a.keepsDays ? true : null),
    choices: () => ['yes', 'no'],
    edit: ({ a }) => (a.keepsDays ? 'yes' : ''),
    read(text) {
      const t = text.toLowerCase();
      if (t === 'yes' || t === 'y') return { fields: { keepsDays: true } };
      return t === '' || t === 'no' || t === 'n' ? { fields: { keepsDays: false } } : { error: `${text} is neither yes nor no.` };
    },
  }),
  field<string>({
    key: 'responsible',
    title: 'Responsible',
    about: 'Who answers for it. No assignment: it makes no load.',
    kind: 'text',
    group: 'Work',
    width: 110,
    stored: 'responsible',
    sum: 'same',
    inspector: true,
    value: ({ a }) => a.responsible || null,
    choices: (doc) => ordered(doc, 'resources').flatMap((r) => (r.kind === 'labour' ? [r.name] : [])),
    read: (text) => (text.length > 100 ? { error: 'the name is longer than 100 characters.' } : { fields: { responsible: text } }),
  }),
];
