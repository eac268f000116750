/** Fields of logic: what an activity is linked to. */
import { formatLink, setTypedLinks } from '../commands/links.ts';
import { indexOf } from '../model/doc-index.ts';
import { dayLengths } from '../schedule/calendars.ts';
import { type ActivityCell, field, type Field } from './field.ts';

function linksOf(side: 'predecessors' | 'successors', { doc, a }: ActivityCell): string | null {
  const index = indexOf(doc);
  const list = side === 'predecessors' ? index.linksInto(a.id) : index.linksOutOf(a.id);
  const texts = list.flatMap((l) => {
    const from = doc.activities.get(l.from);
    const other = doc.activities.get(side === 'predecessors' ? l.from : l.to);
    return from && other ? [formatLink(other, l, dayLengths(doc, from))] : [];
  });
  return texts.join(', ') || null;
}

const side = (key: 'predecessors' | 'successors', title: string, about: string): Field =>
  field({
    key,
    title,
    about,
    kind: 'links',
    group: 'Logic',
    width: 110,
    // How many activities have links says nothing of a node.
    sum: 'none',
    value: (cell) => linksOf(key, cell),
    read: (text, { doc, a }, newId) => ({ outcome: setTypedLinks(doc, a.id, key, text, (x) => dayLengths(doc, x), newId) }),
  });

export const logicFields = [
  side('predecessors', 'Predecessors', 'What it waits for, as typed: 120FS+2d.'),
  side('successors', 'Successors', 'What waits for it, as typed: 120FS+2d.'),
];
