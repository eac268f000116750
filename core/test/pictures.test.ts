/** Pictures: added, given to milestones, made the logo, deleted, copied into another project, carried by the file, drawn on paper. */
import { copyRows, pasteRows, readClip } from '@yellowhammer/core/commands/copy-rows';
import { addPicture, bringPictures, deletePicture, type KeptPicture, renamePicture } from '@yellowhammer/core/commands/pictures';
import { setProject } from '@yellowhammer/core/commands/project';
import { cellText, setCells } from '@yellowhammer/core/commands/cells';
import { fieldOf } from '@yellowhammer/core/fields/list';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { type Document, projectOf } from '@yellowhammer/core/model/document';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import { PlanPages } from '@yellowhammer/core/report/plan-report';
import { MAX_FILES, type Picture } from '@yellowhammer/core/model/schema';
import { Draft } from '@yellowhammer/core/change/change';
import { documentOf, must, mustBack, says, sure, tells, viewIn } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;
const kept = (letter: string, size = 1000): KeptPicture => ({ hash: letter.repeat(64), size, type: 'image/png', width: 64, height: 32 });
const shown = (doc: Document, id: string): string => cellText(doc, sure(doc.activities.get(id)), 'picture');
const named = (doc: Document, name: string): string => sure([...doc.pictures.values()].find((p) => p.name === name)).id;
const give = (doc: Document, id: string, text: string): Outcome => setCells(doc, [id], 'picture', text, newId);

/** Milestones M and N, a task T; pictures Bell (on M, and the logo) and Boat. */
function plan(): Document {
  const doc = documentOf({
    activities: [
      ['M', '0d', { type: 'finishMilestone' }],
      ['N', '0d', { type: 'startMilestone' }],
      ['T', '2d'],
    ],
    links: ['T > M'],
  });
  must(doc, addPicture(doc, 'Bell', kept('a'), newId));
  must(doc, addPicture(doc, ' Boat ', kept('b'), newId));
  must(doc, give(doc, 'M', 'bell'));
  must(doc, setProject(doc, { logoId: named(doc, 'Bell') }));
  return doc;
}

test('a picture is typed by its name on a milestone; none takes it away; elsewhere it is refused', () => {
  const doc = plan();
  expect(shown(doc, 'M')).toBe('Bell');
  expect(says(give(doc, 'T', 'Bell'))).toMatch(/T is no milestone/);
  expect(says(give(doc, 'N', 'Gull'))).toMatch(/there is no picture Gull/);
  must(doc, give(doc, 'M', 'none'));
  expect(sure(doc.activities.get('M')).pictureId).toBeNull();
  expect(sure(fieldOf(doc, 'picture')?.choices)(doc)).toEqual(['none', 'Bell', 'Boat']);
});

test.each<[string, () => ReturnType<typeof addPicture>, RegExp]>([
  ['a name that is taken', () => addPicture(plan(), 'BELL', kept('c'), newId), /There is a picture Bell already/],
  ['none', () => addPicture(plan(), 'None', kept('c'), newId), /Choose another name/],
  ['no name', () => addPicture(plan(), '  ', kept('c'), newId), /needs a name/],
  ['the same content', () => addPicture(plan(), 'Ringer', kept('a'), newId), /there already, as Bell/],
  ['more than all together may have', () => addPicture(plan(), 'Large', kept('c', MAX_FILES - 1999), newId), /30 MB together/],
  ['more than one may have', () => addPicture(plan(), 'Large', kept('c', 3_000_000), newId), /larger than a picture may be/],
  ['another name that is taken', () => renamePicture(plan(), 'nobody', 'x'), /not in the project any more/],
])('refused: %s', (_, act, why) => {
  expect(says(act())).toMatch(why);
});

test('deleting one takes it from milestones and from the project, and one undo brings all back', () => {
  const doc = plan();
  mustBack(doc, deletePicture(doc, named(doc, 'Bell')));
  expect([doc.activities.get('M')?.pictureId, projectOf(doc).logoId, doc.pictures.size]).toEqual([null, null, 1]);
});

test('a name follows where it is shown', () => {
  const doc = plan();
  must(doc, renamePicture(doc, named(doc, 'Bell'), 'Gong'));
  expect(shown(doc, 'M')).toBe('Gong');
});

describe('copied', () => {
  const clipOf = (doc: Document) => sure(readClip(JSON.stringify(copyRows(doc, 'one', [{ kind: 'activity', id: 'M' }], false))));
  test('inside its project the copy has the same picture', () => {
    const doc = plan();
    const [id] = must(doc, pasteRows(doc, 'one', clipOf(doc), null, newId));
    expect([doc.activities.get(sure(id))?.pictureId, doc.pictures.size]).toEqual([named(doc, 'Bell'), 2]);
  });
  test('into another project it comes along once, under a free name, and meets one of the same content', () => {
    const clip = clipOf(plan());
    const other = documentOf({ activities: [['X', '1d']] });
    must(other, addPicture(other, 'bell', kept('d'), newId));
    const first = must(other, pasteRows(other, 'two', clip, null, newId))[0];
    const second = must(other, pasteRows(other, 'two', clip, null, newId))[0];
    expect([...other.pictures.values()].map((p) => [p.name, p.hash[0]])).toEqual([
      ['bell', 'd'],
      ['Bell 2', 'a'],
    ]);
    expect([first, second].map((id) => other.activities.get(sure(id))?.pictureId)).toEqual([named(other, 'Bell 2'), named(other, 'Bell 2')]);
  });
  test('a picture that is gone meanwhile is not named by the copy', () => {
    const doc = plan();
    const clip = clipOf(doc);
    must(doc, deletePicture(doc, named(doc, 'Bell')));
    const [id] = must(doc, pasteRows(doc, 'one', clip, null, newId));
    expect(doc.activities.get(sure(id))?.pictureId).toBeNull();
  });
});

describe('in the project file', () => {
  const bell = (contents: Map<string, string> | undefined, change: (text: string) => string = (t) => t) =>
    readProjectText(change(writeProjectFile({ document: plan(), copies: new Map(), ...(contents ? { contents } : {}) })));
  test('they come back as they were; content that is missing is told of each', () => {
    const read = bell(new Map([['a'.repeat(64), 'AAAA']]));
    expect([...sure(read.file).document.pictures.values()].map((p) => p.name)).toEqual(['Bell', 'Boat']);
    expect(sure(read.file).document.activities.get('M')?.pictureId).toBe(named(sure(read.file).document, 'Bell'));
    expect(read.problems.filter((p) => p.code === 'FILE_WITHOUT_CONTENT').map((p) => p.message)).toEqual([expect.stringMatching(/^Picture Boat: /)]);
  });
  test('a name of a picture that is not there is emptied and told', () => {
    const read = bell(undefined, (text) => text.replaceAll(/"(pictureId|logoId)":\s*"[^"]*"/g, '"$1":"lost"'));
    const { document } = sure(read.file);
    expect([document.activities.get('M')?.pictureId, projectOf(document).logoId]).toEqual([null, null]);
    expect(read.problems.filter((p) => p.code === 'UNKNOWN_PICTURE').map((p) => p.where.field)).toEqual(expect.arrayContaining(['pictureId', 'logoId']));
  });
  test('anything but PNG or JPEG is set aside', () => {
    const read = bell(undefined, (text) => text.replace('"image/png"', '"image/svg+xml"'));
    expect([...sure(read.file).document.pictures.values()].map((p) => p.name)).toEqual(['Boat']);
  });
});

test('on paper the logo stands where the mark was, and pictures in the place of signs, critical ones with their edge', () => {
  const doc = plan();
  must(doc, give(doc, 'N', 'boat'));
  const report = new PlanPages({
    doc,
    view: viewIn(doc),
    baseline: null,
    measure: (text, size) => text.length * size * 0.5,
    printed: '1 Mar 26',
    settings: { paper: 'a4', landscape: true, title: '', subtitle: '', columns: ['code', 'name'], depth: 0, rows: 'all', legend: false, baseline: false },
  });
  const { shapes } = report.page(0);
  const pictures = shapes.flatMap((s) => (s.kind === 'picture' ? [s] : []));
  // 64 by 32 pixels into 110 by 30 points: 60 wide. On a milestone 11 by 5.5.
  expect(pictures.map((p) => [p.hash[0], p.w, p.h])).toEqual([
    ['a', 60, 30],
    ['a', 11, 5.5],
    ['b', 11, 5.5],
  ]);
  const title = shapes.find((s) => s.kind === 'text' && s.size === 17);
  expect(title).toMatchObject({ x: 34 + 70 });
  const edges = shapes.filter((s) => s.kind === 'rect' && s.stroke === 'chestnut' && s.fill === undefined);
  expect(edges.map((s) => (s.kind === 'rect' ? [Math.round(s.w * 10) / 10, Math.round(s.h * 10) / 10] : []))).toEqual([[12.2, 6.7]]);
});

describe('what the log and refusals say, and what stays', () => {
  const bell = (doc: Document): string => named(doc, 'Bell');
  test.each<[string, (doc: Document) => Outcome, string]>([
    ['no picture is called none', (d) => addPicture(d, ' NONE ', kept('c'), newId), 'NAME_TAKEN None is what a milestone without a picture says. Choose another name. @name'],
    ['the same content', (d) => addPicture(d, 'Ringer', kept('a'), newId), 'NOTHING_CHANGED That picture is there already, as Bell. @'],
    [
      'too much',
      (d) => addPicture(d, 'Large', kept('c', MAX_FILES), newId),
      'TOO_LARGE With that the files and pictures of the project would have more than 30 MB together. Delete some first. @',
    ],
    ['one more', (d) => addPicture(d, ' Gull ', kept('c'), newId), 'Add picture Gull'],
    ['another name', (d) => renamePicture(d, bell(d), ' Gong '), 'Name picture Gong'],
    ['a name of another', (d) => renamePicture(d, bell(d), 'boat'), 'NAME_TAKEN There is a picture Boat already. Choose another name. @name'],
    ['none as a new name', (d) => renamePicture(d, bell(d), 'none'), 'NAME_TAKEN None is what a milestone without a picture says. Choose another name. @name'],
    ['deleted', (d) => deletePicture(d, bell(d)), 'Delete picture Bell'],
    ['deleted already', (d) => deletePicture(d, 'gone'), 'UNKNOWN_PICTURE That picture is not in the project any more. @'],
  ])('%s', (_, act, told) => expect(tells(act(plan()))).toBe(told));
  test('one more comes behind those that are there, under its name without blanks', () => {
    const doc = plan();
    const made = mustBack(doc, addPicture(doc, ' Gull ', kept('c'), newId));
    expect([...doc.pictures.values()].map((p) => [p.name, p.rank])).toEqual([
      ['Bell', 0],
      ['Boat', 1],
      ['Gull', 2],
    ]);
    expect(made).toEqual([named(doc, 'Gull')]);
    mustBack(doc, renamePicture(doc, bell(doc), ' Gong '));
    expect(named(doc, 'Gong')).toBeTruthy();
  });
  test('as much as all together may have is taken', () => expect(tells(addPicture(documentOf({ activities: [] }), 'Only', kept('a', 1000), newId))).toBe('Add picture Only'));
  test('deleting one leaves the others where they are', () => {
    const doc = plan();
    must(doc, give(doc, 'N', 'boat'));
    mustBack(doc, deletePicture(doc, named(doc, 'Boat')));
    expect([doc.activities.get('M')?.pictureId, doc.activities.get('N')?.pictureId, projectOf(doc).logoId]).toEqual([bell(doc), null, bell(doc)]);
  });
  test('those that come along from another project stand behind those that are there, one after the other', () => {
    const doc = documentOf({ activities: [['X', 'start']] });
    must(doc, addPicture(doc, 'Own', kept('d'), newId));
    const own = named(doc, 'Own');
    doc.pictures.set(own, { ...sure(doc.pictures.get(own)), rank: 7 });
    const draft = new Draft(doc);
    const to = bringPictures(draft, [...plan().pictures.values()], newId);
    expect(draft.changes.map((c) => [(c.after as Picture).name, (c.after as Picture).rank])).toEqual([
      ['Bell', 8],
      ['Boat', 9],
    ]);
    expect([to(null), to('gone')]).toEqual([null, null]);
  });
});
