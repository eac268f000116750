/** A field and a table, each added in one place, are seen everywhere: docs/extending.md. */
import { z } from 'zod';
import { checkChanges, diffDocuments } from '@yellowhammer/core/change/change';
import { cellText, fillDown, setCell } from '@yellowhammer/core/commands/cells';
import { pasteCells } from '@yellowhammer/core/commands/paste';
import { field, showField } from '@yellowhammer/core/fields/field';
import { activityCell, builtIn, fieldsOf } from '@yellowhammer/core/fields/list';
import { rowDifferences } from '@yellowhammer/core/fields/stored';
import { fieldTexts } from '@yellowhammer/core/fields/texts';
import { copyDocument, documentFrom, emptyDocument, rowsOf } from '@yellowhammer/core/model/document';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import { columnsOf, nameOfRow, type Table, type TableName, tableNames, tables } from '@yellowhammer/core/model/tables';
import { reportTable } from '@yellowhammer/core/report/plan-table';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { viewOf } from '@yellowhammer/core/schedule/view';
import { documentOf, must, sure } from './helpers';

test('a field: typed, shown, pasted, filled, printed, exported, told in undo and in a clash', () => {
  const crew = field<string>({
    key: 'crew',
    title: 'Crew',
    about: 'Who does it.',
    kind: 'text',
    group: 'Own fields',
    width: 80,
    stored: 'values',
    sum: 'same',
    value: ({ a }) => (a.values['crew'] as string | undefined) ?? null,
    read: (text, { a }) => (text.length > 20 ? { error: 'a crew has at most 20 characters.' } : { fields: { values: { ...a.values, crew: text } } }),
  });
  builtIn.push(crew);
  try {
    const doc = documentOf({
      activities: [
        ['A', '1d'],
        ['B', '2d'],
        ['C', '3d'],
      ],
    });
    const newId = (): string => 'x';
    expect(fieldsOf(doc).get('crew')).toBe(crew);
    const typed = setCell(doc, 'A', 'crew', ' masons ', newId);
    must(doc, typed);
    expect(typed).toMatchObject({ ok: true, label: 'Set Crew of A A' });
    expect(setCell(doc, 'A', 'crew', 'x'.repeat(21), newId)).toMatchObject({ ok: false, problems: [{ message: 'A A: a crew has at most 20 characters.' }] });
    must(
      doc,
      fillDown(
        doc,
        ['A', 'B'].map((id) => ({ kind: 'activity', id })),
        'crew',
        newId,
      ),
    );
    must(doc, pasteCells(doc, [{ kind: 'activity', id: 'C' }], ['crew'], [['riggers']], newId));
    expect(['A', 'B', 'C'].map((id) => cellText(doc, sure(doc.activities.get(id)), 'crew'))).toEqual(['masons', 'masons', 'riggers']);
    const view = viewOf(doc, sure(schedule(doc).computed), [], undefined);
    expect(showField(crew, activityCell({ doc, view, baseline: null, clock: false }, sure(doc.activities.get('C'))))).toBe('riggers');
    const settings = { paper: 'a4', landscape: true, title: '', subtitle: '', columns: ['code', 'crew'], depth: 0, rows: 'all', legend: false, baseline: false } as const;
    expect(reportTable({ doc, view, baseline: null, settings: { ...settings, columns: [...settings.columns] } })).toEqual({
      header: ['No.', 'Crew'],
      rows: [
        ['A', 'masons'],
        ['B', 'masons'],
        ['C', 'riggers'],
      ],
    });
    expect(fieldTexts(doc, ['crew'])).toEqual({
      rows: [
        { id: 'A', crew: 'masons' },
        { id: 'B', crew: 'masons' },
        { id: 'C', crew: 'riggers' },
      ],
    });
    const [a, c] = [sure(doc.activities.get('A')), sure(doc.activities.get('C'))];
    expect(rowDifferences(doc, 'activities', a, { ...c, id: 'A', code: 'A', name: 'A', rank: a.rank, duration: a.duration }).map((d) => [d.theirs, d.mine])).toEqual([
      ['masons', 'riggers'],
    ]);
    // It is in the file, and needs no column of its own.
    const text = writeProjectFile({ document: doc, copies: new Map() });
    expect(sure(readProjectText(text).file).document.activities.get('A')?.values).toEqual({ crew: 'masons' });
  } finally {
    builtIn.pop();
  }
  expect(fieldTexts(documentOf({ activities: [] }), ['crew'])).toMatchObject({ problem: { code: 'USAGE' } });
});

test('a table: in the document, its copy, the file and its reader, differences, names, references and columns', () => {
  interface Risk {
    id: string;
    rank: number;
    name: string;
    activityId: string | null;
    marks: string[];
  }
  const risks: Table<Risk> = {
    word: 'risk',
    words: 'risks',
    unknown: 'REFERENCE',
    schema: z.object({ id: z.string(), rank: z.number(), name: z.string(), activityId: z.string().nullable(), marks: z.array(z.string()) }),
    defaults: { name: '', activityId: null, marks: [] },
    label: (r) => r.name,
    refs: [{ field: 'activityId', to: 'activities', word: 'activity', missing: 'clear', said: 'it belongs to none' }],
    most: 100,
    sql: { table: 'risks' },
  };
  const name = 'risks' as unknown as TableName;
  Object.assign(tables, { risks });
  tableNames.push(name);
  try {
    expect(emptyDocument()[name]).toEqual(new Map());
    const doc = documentOf({ activities: [['A', '1d']] });
    const row = { id: 'r1', rank: 0, name: 'Storm', activityId: 'A', marks: ['sea'] };
    (doc[name] as unknown as Map<string, Risk>).set('r1', row);
    const copy = copyDocument(doc);
    expect([copy[name].size, documentFrom(rowsOf(doc))[name].size]).toEqual([1, 1]);
    const text = writeProjectFile({ document: doc, copies: new Map() });
    expect(sure(readProjectText(text).file).document[name].get('r1')).toEqual(row);
    const lost = readProjectText(text.replace('"activityId":"A"', '"activityId":"gone"'));
    expect([lost.problems.map((p) => p.message), (sure(lost.file).document[name].get('r1') as unknown as Risk).activityId]).toEqual([
      ['Risk Storm: activity gone is not in the file; it belongs to none.'],
      null,
    ]);
    expect(readProjectText(text.replace('"name":"Storm"', '"name":7')).problems[0]?.message).toContain('a number where text belongs');
    expect(diffDocuments(emptyDocument(), doc).filter((c) => c.table === name)).toHaveLength(1);
    expect(nameOfRow(name, row as never, doc)).toBe('Risk Storm');
    expect(columnsOf(name)).toEqual([
      { field: 'id', column: 'id', json: false },
      { field: 'rank', column: 'rank', json: false },
      { field: 'name', column: 'name', json: false },
      { field: 'activityId', column: 'activity_id', json: false },
      { field: 'marks', column: 'marks', json: true },
    ]);
    expect(checkChanges([{ table: name, id: 'r2', before: null, after: { ...row, id: 'r2', marks: 'sea' } }]).problems).toHaveLength(1);
  } finally {
    tableNames.pop();
    delete (tables as unknown as Record<string, unknown>)['risks'];
  }
});
