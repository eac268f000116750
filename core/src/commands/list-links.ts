/** Commands on links. */
import { clearLinks, insertIntoLink, joinAround, linksAt, reverseLinks } from './bulk-links.ts';
import { activities, type Command, type CommandContext } from './command.ts';
import { deleteLinks, linkInOrder, linksAmong } from './links.ts';
import type { Outcome } from './result.ts';

const pointed = (c: CommandContext): true | string => (c.selection.link !== null && c.doc.links.has(c.selection.link)) || 'Point at a link first.';

export const linkCommands: readonly Command[] = [
  {
    id: 'link',
    title: 'Link the selected in order',
    about: 'Links the selected activities finish-to-start, in the order of selecting',
    words: 'connect logic relationship predecessor successor chain',
    group: 'Links',
    where: ['row', 'bar'],
    letter: 'L',
    able: (c) => activities(c).length > 1 || 'Select two or more activities, in the order in which they follow each other.',
    run: (c) => linkInOrder(c.doc, activities(c), c.newId),
  },
  {
    id: 'unlink',
    title: 'Delete the links among the selected',
    about: 'Deletes every link that leads from one selected activity to another',
    words: 'unlink disconnect remove logic',
    group: 'Links',
    where: ['row', 'bar'],
    able: (c) => linksAmong(c.doc, activities(c)).length > 0 || 'No two of the selected activities are linked.',
    run: (c) =>
      deleteLinks(
        c.doc,
        linksAmong(c.doc, activities(c)).map((l) => l.id),
      ),
  },
  ...(['predecessors', 'successors'] as const).map((side): Command => ({
    id: side === 'predecessors' ? 'clearPredecessors' : 'clearSuccessors',
    title: `Delete all ${side} of the selected`,
    about: 'Takes every link at that side of the selected activities away',
    words: 'remove unlink logic clear',
    group: 'Links',
    where: [],
    able: (c) => activities(c).some((id) => linksAt(c.doc, id, side).length > 0) || `The selected activities have no ${side}.`,
    run: (c) => clearLinks(c.doc, activities(c), side),
  })),
  {
    id: 'reverse',
    title: 'Reverse the links among the selected',
    about: 'Successors become predecessors, with the same types and lags',
    words: 'turn around swap direction',
    group: 'Links',
    where: ['row', 'bar'],
    able: (c) => linksAmong(c.doc, activities(c)).length > 0 || 'No two of the selected activities are linked.',
    run: (c) =>
      reverseLinks(
        c.doc,
        linksAmong(c.doc, activities(c)).map((l) => l.id),
        c.newId,
      ).outcome,
  },
  {
    id: 'reverseLink',
    title: 'Reverse this link',
    about: 'Its successor becomes its predecessor',
    words: 'turn around swap direction',
    group: 'Links',
    where: ['link'],
    able: pointed,
    run: (c) => reverseLinks(c.doc, c.selection.link === null ? [] : [c.selection.link], c.newId).outcome,
  },
  {
    id: 'insertIntoLink',
    title: 'Put the selected activity into this link',
    about: 'What led past it now leads through it; the lag stays before it',
    words: 'insert between',
    group: 'Links',
    where: ['link'],
    able(c) {
      const any = pointed(c);
      if (any !== true) return any;
      const [id, ...more] = activities(c);
      if (id === undefined || more.length > 0) return 'Select one activity first, then point at the link.';
      const o = insertIntoLink(c.doc, c.selection.link ?? '', id, c.newId).outcome;
      return o.ok || (o.problems[0]?.message ?? '');
    },
    run: (c): Outcome => insertIntoLink(c.doc, c.selection.link ?? '', activities(c)[0] ?? '', c.newId).outcome,
  },
  {
    id: 'joinAround',
    title: 'Join around the selected',
    about: 'Links their predecessors to their successors, and takes the selected out of the logic',
    words: 'bypass skip bridge take out',
    group: 'Links',
    where: ['row', 'bar'],
    letter: 'J',
    able: (c) => activities(c).some((id) => linksAt(c.doc, id, 'predecessors').length + linksAt(c.doc, id, 'successors').length > 0) || 'The selected activities have no links.',
    run: (c) => joinAround(c.doc, activities(c), false, c.newId),
  },
  {
    id: 'dissolveActivity',
    title: 'Dissolve the activities',
    about: 'Deletes the selected activities and links their predecessors to their successors',
    words: 'delete keep logic bypass remove bridge',
    group: 'Rows',
    where: ['row', 'bar'],
    letter: 'Shift+J',
    able: (c) => activities(c).length > 0 || 'Select activities first.',
    run: (c) => joinAround(c.doc, activities(c), true, c.newId),
  },
  {
    id: 'deleteLink',
    title: 'Delete this link',
    about: 'Deletes the link that is pointed at',
    words: 'remove unlink arrow',
    group: 'Links',
    where: ['link'],
    able: pointed,
    run: (c) => deleteLinks(c.doc, c.selection.link === null ? [] : [c.selection.link]),
  },
];
