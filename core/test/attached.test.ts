/** Dated notes and files go where their rows go: copied, merged, dissolved, deleted; all of it can be taken back. */
import { addNote, attachFiles, changeNote, removeFile } from '@yellowhammer/core/commands/attached';
import { addExpenses } from '@yellowhammer/core/commands/expenses';
import { copyRows, pasteRows } from '@yellowhammer/core/commands/copy-rows';
import { deleteRows, type RowRef } from '@yellowhammer/core/commands/outline';
import { joinAround } from '@yellowhammer/core/commands/bulk-links';
import { replicate } from '@yellowhammer/core/commands/replicate';
import { dissolveNodes, mergeActivities, nodeToActivity } from '@yellowhammer/core/commands/reshape';
import { showField } from '@yellowhammer/core/fields/field';
import { marksOf } from '@yellowhammer/core/fields/extras';
import { activityCell, fieldOf } from '@yellowhammer/core/fields/list';
import { DocIndex, forgetIndex, indexOf } from '@yellowhammer/core/model/doc-index';
import type { Document } from '@yellowhammer/core/model/document';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import { type AttachedFile, type DatedNote, MAX_FILE, MAX_FILES } from '@yellowhammer/core/model/schema';
import { documentOf, must, mustBack, nodeInto, putInto, says, sure, tells, viewIn } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;
const by = (day: number, who = 'Ana'): { who: string; at: string } => ({ who, at: `2026-03-0${day}T10:00:00.000Z` });
const act = (id: string): RowRef => ({ kind: 'activity', id });
const node = (id: string): RowRef => ({ kind: 'wbs', id });
const HASH = 'a'.repeat(64);
const file = (name: string, size = 10): { name: string; size: number; hash: string } => ({ name, size, hash: HASH });
const notesOf = (doc: Document, row: RowRef | null): string[] =>
  indexOf(doc)
    .attachedTo('datedNotes', row)
    .map((x) => x.text);
const filesOf = (doc: Document, row: RowRef | null): string[] =>
  indexOf(doc)
    .attachedTo('files', row)
    .map((x) => x.name);

/** A > B in node T (in node U), C outside; a note and a file each on A, T and B. */
function plan(): Document {
  const doc = documentOf({
    activities: [
      ['A', '2d'],
      ['B', '1d'],
      ['C', '1d'],
    ],
    links: ['A > B', 'B > C'],
  });
  nodeInto(doc, 'U', null, 0);
  nodeInto(doc, 'T', 'U', 0);
  putInto(doc, 'A', 'T', 0);
  putInto(doc, 'B', 'T', 1);
  forgetIndex(doc);
  for (const [row, name] of [
    [act('A'), 'a'],
    [act('B'), 'b'],
    [node('T'), 't'],
  ] as const) {
    must(doc, addNote(doc, row, `on ${name}`, by(1), newId));
    must(doc, attachFiles(doc, row, [file(`${name}.txt`)], by(1), newId));
  }
  return doc;
}

const noteOf = (doc: Document, id: string, at = 0): string => sure(indexOf(doc).attachedTo('datedNotes', act(id))[at]).id;

test('notes are told with day and author, the newest first; files by their names', () => {
  const doc = plan();
  mustBack(doc, addNote(doc, act('A'), ' later ', by(3, 'Ben'), newId));
  mustBack(doc, attachFiles(doc, act('A'), [file('second.pdf')], by(3), newId));
  const shows = (key: string): string => showField(sure(fieldOf(doc, key)), activityCell({ doc, view: null, baseline: null, clock: false }, sure(doc.activities.get('A'))));
  expect(shows('datedNotes')).toBe('3 Mar 26 Ben: later / 1 Mar 26 Ana: on a');
  expect(shows('files')).toBe('a.txt, second.pdf');
  expect([marksOf(doc, node('T')).files, marksOf(doc, node('T')).notes, marksOf(doc, node('U')).files, marksOf(doc, act('C')).notes]).toEqual([true, true, false, false]);
});

test('a note is changed with its day kept, and goes when it is emptied', () => {
  const doc = plan();
  const id = sure(indexOf(doc).attachedTo('datedNotes', act('A'))[0]).id;
  mustBack(doc, changeNote(doc, id, 'other'));
  expect(doc.datedNotes.get(id)).toMatchObject({ text: 'other', who: 'Ana', at: '2026-03-01T10:00:00.000Z', activityId: 'A', wbsId: null });
  mustBack(doc, changeNote(doc, id, '  '));
  expect(notesOf(doc, act('A'))).toEqual([]);
  expect(says(changeNote(doc, id, 'x'))).toContain('not there any more');
});

test('the project has notes and files of its own', () => {
  const doc = plan();
  mustBack(doc, addNote(doc, null, 'for all', by(2), newId));
  mustBack(doc, attachFiles(doc, null, [file('all.txt')], by(2), newId));
  expect([notesOf(doc, null), filesOf(doc, null)]).toEqual([['for all'], ['all.txt']]);
  mustBack(doc, removeFile(doc, sure(indexOf(doc).attachedTo('files', null)[0]).id));
  expect(filesOf(doc, null)).toEqual([]);
});

test.each([
  ['an empty note', (doc: Document) => addNote(doc, act('A'), '  ', by(1), newId), 'empty'],
  ['a long note', (doc: Document) => addNote(doc, act('A'), 'x'.repeat(20_001), by(1), newId), '20,000'],
  ['a row that is gone', (doc: Document) => addNote(doc, act('Z'), 'x', by(1), newId), 'not in the plan'],
  ['a file that is too large', (doc: Document) => attachFiles(doc, act('A'), [file('big.bin', MAX_FILE + 1)], by(1), newId), 'big.bin has 10 MB; a file may have 10 MB'],
  [
    'more than a project may have',
    (doc: Document) =>
      attachFiles(
        doc,
        act('A'),
        [1, 2, 3, 4].map((i) => file(`${i}`, MAX_FILE)),
        by(1),
        newId,
      ),
    'together they may have 30 MB',
  ],
  ['a file that is gone', (doc: Document) => removeFile(doc, 'zz'), 'not there any more'],
])('%s is refused', (_, run, reason) => expect(says(run(plan()))).toContain(reason));

test.each([
  ['a note of the project', (doc: Document) => addNote(doc, null, 'x', by(1), newId), 'Note on the project'],
  ['a note of a node', (doc: Document) => addNote(doc, node('T'), 'x', by(1), newId), 'Note on T'],
  ['a note of an activity', (doc: Document) => addNote(doc, act('A'), 'x'.repeat(20_000), by(1), newId), 'Note on A A'],
  ['a note of a node that is gone', (doc: Document) => addNote(doc, node('A'), 'x', by(1), newId), 'NOTHING_SELECTED That row is not in the plan any more. @'],
  ['a file of a row that is gone', (doc: Document) => attachFiles(doc, act('T'), [file('x')], by(1), newId), 'NOTHING_SELECTED That row is not in the plan any more. @'],
  ['another text', (doc: Document) => changeNote(doc, noteOf(doc, 'A'), 'x'.repeat(20_000)), 'Change a note'],
  ['no text', (doc: Document) => changeNote(doc, noteOf(doc, 'A'), '  '), 'Delete a note'],
  [
    'too long a text',
    (doc: Document) => changeNote(doc, noteOf(doc, 'A'), 'x'.repeat(20_001)),
    'WRONG_VALUE The note is longer than 20,000 characters. Shorten it, or attach it as a file. @',
  ],
  ['two files', (doc: Document) => attachFiles(doc, node('T'), [file('x'), file('y')], by(1), newId), 'Attach 2 files to T'],
  ['a file taken away', (doc: Document) => removeFile(doc, sure(indexOf(doc).attachedTo('files', act('A'))[0]).id), 'Remove a.txt'],
])('%s: what the command says', (_, run, words) => expect(tells(run(plan()))).toBe(words));

test('texts are kept without space around them, files get a name of at most 255 characters, and each comes after those before', () => {
  const doc = plan();
  mustBack(doc, addNote(doc, act('A'), ' x ', by(2), newId));
  mustBack(doc, changeNote(doc, noteOf(doc, 'A', 1), '\ty\n'));
  mustBack(doc, attachFiles(doc, act('A'), [file(''), file('n'.repeat(256))], by(2), newId));
  const [notes, files] = (['datedNotes', 'files'] as const).map((table) => indexOf(doc).attachedTo(table, act('A'))) as [readonly DatedNote[], readonly AttachedFile[]];
  expect(notes.map((x) => [x.rank, x.text])).toEqual([
    [0, 'on a'],
    [1, 'y'],
  ]);
  expect(files.map((f) => [f.rank, f.name])).toEqual([
    [0, 'a.txt'],
    [1, 'file'],
    [2, 'n'.repeat(255)],
  ]);
});

test('exactly as much as a project may have is taken', () => {
  const doc = documentOf({ activities: [['A', '1d']] });
  expect(says(attachFiles(doc, act('A'), [file('1', MAX_FILE), file('2', MAX_FILE), file('3', MAX_FILES - 2 * MAX_FILE)], by(1), newId))).toBe('taken');
});

describe('what becomes of them', () => {
  test('deleting a branch deletes what hangs on its rows, and nothing else', () => {
    const doc = plan();
    must(doc, addNote(doc, act('C'), 'stays', by(1), newId));
    mustBack(doc, deleteRows(doc, [node('T')]));
    expect([doc.datedNotes.size, doc.files.size, notesOf(doc, act('C'))]).toEqual([1, 0, ['stays']]);
  });
  test('one activity made of two has the notes and files of both', () => {
    const doc = plan();
    mustBack(doc, mergeActivities(doc, viewIn(doc), ['A', 'B'], null));
    expect([notesOf(doc, act('A')), filesOf(doc, act('A'))]).toEqual([
      ['on a', 'on b'],
      ['a.txt', 'b.txt'],
    ]);
  });
  test('and their expenses', () => {
    const doc = plan();
    must(doc, addExpenses(doc, ['B'], { name: 'Hire', budget: 40 }, newId));
    mustBack(doc, mergeActivities(doc, viewIn(doc), ['A', 'B'], null));
    expect([...doc.expenses.values()].map((e) => [e.activityId, e.name, e.budget])).toEqual([['A', 'Hire', 40]]);
    mustBack(doc, deleteRows(doc, [act('A')]));
    expect(doc.expenses.size).toBe(0);
  });
  test('an activity made of a node has the node’s too', () => {
    const doc = plan();
    mustBack(doc, nodeToActivity(doc, viewIn(doc), 'T'));
    expect(notesOf(doc, act('A')).sort()).toEqual(['on a', 'on b', 'on t']);
  });
  test('those of a dissolved node go to the node above; on the top level they go with it', () => {
    const doc = plan();
    mustBack(doc, dissolveNodes(doc, ['T']));
    expect([notesOf(doc, node('U')), filesOf(doc, node('U'))]).toEqual([['on t'], ['t.txt']]);
    mustBack(doc, dissolveNodes(doc, ['U']));
    expect([doc.datedNotes.size, doc.files.size]).toEqual([2, 2]);
  });
  test('an activity that is joined around takes its own with it', () => {
    const doc = plan();
    mustBack(doc, joinAround(doc, ['B'], true, newId));
    expect([doc.activities.has('B'), notesOf(doc, act('A')), doc.datedNotes.size]).toEqual([false, ['on a'], 2]);
  });
  test('copies have their own, with day and author', () => {
    const doc = plan();
    const [copy] = mustBack(doc, pasteRows(doc, 'p', sure(copyRows(doc, 'p', [node('T')], false)), node('U'), newId));
    expect([notesOf(doc, node(sure(copy))), filesOf(doc, node(sure(copy))), doc.datedNotes.size, doc.files.size]).toEqual([['on t'], ['t.txt'], 6, 6]);
    expect(new Set([...doc.datedNotes.values()].map((x) => `${x.at} ${x.who}`)).size).toBe(1);
    must(doc, replicate(doc, [act('A')], { times: 2, names: '', replace: '', replaceBy: '', incoming: false, outgoing: false, chained: false }, newId).outcome);
    expect([doc.datedNotes.size, doc.files.size]).toEqual([8, 8]);
  });
});

test('the index is kept as one made anew', () => {
  const doc = plan();
  indexOf(doc);
  must(doc, addNote(doc, act('A'), 'more', by(2), newId));
  must(doc, removeFile(doc, sure(indexOf(doc).attachedTo('files', node('T'))[0]).id));
  must(doc, mergeActivities(doc, viewIn(doc), ['A', 'B'], null));
  const [kept, anew] = [indexOf(doc), new DocIndex(doc)];
  for (const row of [act('A'), act('B'), node('T'), null])
    for (const table of ['datedNotes', 'files'] as const) expect(kept.attachedTo(table, row)).toEqual(anew.attachedTo(table, row));
});

describe('in the project file', () => {
  const content = { [HASH]: 'aGVsbG8=' };
  test('rows and contents are read as they were written', () => {
    const doc = plan();
    const text = writeProjectFile({ document: doc, copies: new Map(), contents: new Map(Object.entries(content)) });
    const read = readProjectText(text);
    expect(read.problems).toEqual([]);
    expect(read.file?.contents).toEqual(new Map(Object.entries(content)));
    expect(writeProjectFile(sure(read.file))).toBe(text);
  });
  test('a missing content is told, and the file stays listed; what belongs to no row goes', () => {
    const doc = plan();
    doc.datedNotes.set('lost', { ...sure([...doc.datedNotes.values()][0]), id: 'lost', activityId: 'nobody' });
    const read = readProjectText(writeProjectFile({ document: doc, copies: new Map() }));
    expect(read.problems.map((p) => p.code)).toEqual(['UNKNOWN_ACTIVITY', 'FILE_WITHOUT_CONTENT', 'FILE_WITHOUT_CONTENT', 'FILE_WITHOUT_CONTENT']);
    expect([read.file?.document.files.size, read.file?.document.datedNotes.size]).toEqual([3, 3]);
  });
});
