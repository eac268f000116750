/** Every field of the list, of every kind: shown, typed, sorted, filtered, grouped, exported, in an expression, printed. Nothing is special. */
import { assign } from '@yellowhammer/core/commands/assign';
import { addPeople } from '@yellowhammer/core/commands/resources';
import { setCell } from '@yellowhammer/core/commands/cells';
import { addCodeSet, addCodeValue } from '@yellowhammer/core/commands/codes';
import { addOwnField, editOwnField } from '@yellowhammer/core/commands/own-fields';
import { compileExpression } from '@yellowhammer/core/expr/compile';
import { Failure } from '@yellowhammer/core/expr/types';
import { editField, type Field, type FieldContext, showField, valueOf } from '@yellowhammer/core/fields/field';
import { activityCell, fieldsOf } from '@yellowhammer/core/fields/list';
import { namesOf } from '@yellowhammer/core/fields/own';
import { forgetIndex } from '@yellowhammer/core/model/doc-index';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import { expenseDefaults } from '@yellowhammer/core/model/money-schema';
import { ownKinds } from '@yellowhammer/core/model/schema';
import { type Operand, usualSettings } from '@yellowhammer/core/model/view-schema';
import { PlanPages } from '@yellowhammer/core/report/plan-report';
import { type ReportSettings, reportTable } from '@yellowhammer/core/report/plan-table';
import { conditionTest, operandsOf } from '@yellowhammer/core/view/filter';
import { comparisonsOf, readOperand } from '@yellowhammer/core/view/operands';
import { everything, organise } from '@yellowhammer/core/view/organise';
import { documentOf, must, nodeInto, putInto, sure, viewIn } from './helpers';

let n = 0;
const newId = (): string => `e${++n}`;
/** A plan in which every field has a value somewhere. */
function plan(): { doc: Document; context: FieldContext } {
  const doc = documentOf({
    activities: [
      ['A', '5d', { name: 'Pour', cost: 1200, notes: 'wet', priority: 7, colour: '#1f5a4a', address: 'https://example.org/a', deadline: '2026-03-20', hidden: true }],
      [
        'B',
        '3d @six',
        {
          name: 'Cure',
          actualStart: '2026-03-02T08:00',
          remaining: 480,
          suspend: '2026-03-03T17:00',
          resume: '2026-03-05T08:00',
          constraints: [{ kind: 'startNotBefore', date: '2026-03-02' }],
        },
      ],
      ['C', '2d', { name: 'Strip', actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00' }],
      ['W', '4d', { name: 'Wall', quantity: 40, quantityUnit: 'm2', rate: 10, crews: 2, keepsDays: true, responsible: 'Ana', basis: 'fixedDuration' }],
      ['M', 'finish', { name: 'Ready' }],
    ],
    links: ['A > M'],
    project: { dataDate: '2026-03-04T08:00' },
  });
  const [mason] = must(doc, addPeople(doc, 'resources', 'mason', {}, newId));
  must(doc, assign(doc, ['W', 'B'], [{ resourceId: sure(mason), roleId: null, units: 2 }], newId));
  // Fees that are over their budget, some of it ordered; a grant that comes with the milestone of what is done already.
  doc.accounts.set('fees', { id: 'fees', rank: 0, parentId: null, code: '', name: 'Fees', sharedId: null });
  const money = { ...expenseDefaults, accountId: 'fees', rank: 0 } as const;
  doc.expenses.set('e1', { ...money, id: 'e1', activityId: 'W', budget: 50, actual: 80, committed: 30 });
  doc.expenses.set('e2', { ...money, id: 'e2', activityId: 'C', budget: 500, income: true, when: 'start' });
  doc.resources.set(sure(mason), { ...sure(doc.resources.get(sure(mason))), rates: [{ from: '2026-01-01', perHour: 30, accountId: null }] });
  doc.pictures.set('bell', { id: 'bell', rank: 0, name: 'Bell', size: 1, hash: 'f'.repeat(64), type: 'image/png', width: 8, height: 8 });
  must(doc, setCell(doc, 'M', 'picture', 'Bell', newId));
  doc.looks.set('late', { id: 'late', rank: 0, name: 'Late', about: '', rules: [] });
  must(doc, setCell(doc, 'W', 'look', 'Late', newId));
  nodeInto(doc, 'P', null, 1);
  putInto(doc, 'A', 'P', 1);
  const set = sure(must(doc, addCodeSet(doc, 'Area', newId))[0]);
  for (const short of ['West', 'East']) must(doc, addCodeValue(doc, set, { short }, newId));
  must(doc, setCell(doc, 'A', `code:${set}`, 'East', newId));
  const texts: Record<string, string> = { text: 'a', number: '4.5', money: '1000', date: '12 mar 26', duration: '3d', yesNo: 'yes', choice: 'Low', address: 'https://example.org' };
  for (const kind of ownKinds) {
    const id = sure(must(doc, addOwnField(doc, `My ${kind}`, kind, newId))[0]);
    if (kind === 'choice') must(doc, editOwnField(doc, id, { choices: ['High', 'Low'] }));
    if (kind === 'computed') must(doc, editOwnField(doc, id, { expression: 'myNumber * 2' }));
    else must(doc, setCell(doc, 'A', `own:${id}`, texts[kind] ?? '', newId));
  }
  for (const table of ['datedNotes', 'files'] as const)
    doc[table].set('x', {
      id: 'x',
      rank: 0,
      activityId: 'A',
      wbsId: null,
      at: '2026-03-01T00:00:00.000Z',
      who: 'Ana',
      text: 'late',
      name: 'a.csv',
      size: 1,
      hash: 'f'.repeat(64),
    } as never);
  forgetIndex(doc);
  const view = viewIn(doc);
  // A baseline a day earlier, so that what is compared with it has values, too.
  const dates = new Map(view.ids.map((id, i) => [id, { start: view.start[i]! - 1440, finish: view.finish[i]! - 1440, duration: 480, cost: 5, percent: 0, float: 0 }]));
  return { doc, context: { doc, view, baseline: { id: 'b', name: 'B', projectFinish: view.projectFinish, dates, nodes: new Map() }, clock: false } };
}
const { doc, context } = plan();
const all: [string, Field][] = [...fieldsOf(doc)];
const rows = [...doc.activities.values()];

test('the list holds fields of the product and of every kind of our own', () => {
  expect(all.length).toBeGreaterThan(45);
  expect(all.filter(([k]) => k.startsWith('own:'))).toHaveLength(ownKinds.length);
});

describe.each(all)('%s', (key, f) => {
  const cells = rows.map((a) => activityCell(context, a));
  const withValue = cells.filter((c) => valueOf(f, c) !== null);

  test('is shown, and empty where it has no value', () => {
    expect(withValue.length).toBeGreaterThan(0);
    for (const c of cells) if (valueOf(f, c) === null) expect(showField(f, c)).toBe('');
    expect(withValue.some((c) => showField(f, c) !== '')).toBe(true);
  });

  test('what is shown for typing can be typed again, and changes nothing', () => {
    for (const c of withValue.filter((x) => f.read && x.a.actualStart === null)) {
      const copy = copyDocument(doc);
      const outcome = setCell(copy, c.a.id, key, editField(f, c), newId, context.view);
      if (!outcome.ok) continue;
      const next = { ...context, doc: copy };
      for (const change of outcome.changes)
        expect(change.table === 'activities' && key !== 'finish' && key !== 'start' ? change.after : null).toEqual(key === 'finish' || key === 'start' ? null : change.before);
      expect(editField(f, activityCell(next, sure(copy.activities.get(c.a.id))))).toBe(editField(f, c));
    }
  });

  test('sorts, empty last both ways', () => {
    for (const descending of [false, true]) {
      const order = organise(context, { ...everything, flat: true, sort: [{ key, descending }] }).rows.flatMap((r) => (r.kind === 'activity' ? r.activity : []));
      expect(order).toHaveLength(rows.length);
      const empty = order.map((a) => valueOf(f, activityCell(context, a)) === null);
      expect(empty.indexOf(true) === -1 || empty.slice(empty.indexOf(true)).every(Boolean)).toBe(true);
    }
  });

  test('groups: each row once, those without a value under the last heading', () => {
    const { rows: grouped } = organise(context, { ...everything, groups: [{ key }] });
    expect(grouped.filter((r) => r.kind === 'activity')).toHaveLength(rows.length);
    const heads = grouped.flatMap((r) => (r.kind === 'wbs' && r.depth === 0 ? [r.node.name] : []));
    const none = heads.findIndex((h) => /^(No |In no )/.test(h));
    expect(none === -1 || none === heads.length - 1).toBe(true);
  });

  test('filters by every comparison that fits it, with the value that a row has', () => {
    for (const is of comparisonsOf(f, false)) {
      const values: Operand[] = [];
      const sample = withValue[0];
      const typed = !sample
        ? ''
        : f.kind === 'date'
          ? '4 mar 26'
          : f.kind === 'yesNo'
            ? 'yes'
            : key === 'wbs'
              ? 'P'
              : ['duration', 'days', 'difference', 'number', 'money', 'percent'].includes(f.kind)
                ? '3'
                : showField(f, sample);
      for (let i = 0; i < (operandsOf(is) ?? 1); i++) {
        const r = readOperand(doc, f, typed, is);
        expect(r).not.toHaveProperty('error');
        if ('value' in r) values.push(r.value);
      }
      const test = conditionTest({ field: key, is, values }, context);
      expect(test).toBeDefined();
      for (const c of cells) expect(typeof test?.(c)).toBe('boolean');
    }
  });

  test('can be asked for in an expression', () => {
    const names = namesOf(doc, (name) => (name === 'it' ? f : undefined));
    const c = compileExpression('if(isEmpty(it), empty, it)', names);
    expect(c).not.toHaveProperty('error');
    if ('error' in c) return;
    for (const cell of cells) {
      const v = c.run(cell);
      expect(v instanceof Failure).toBe(false);
      expect(v === null || v === valueOf(f, cell)).toBe(true);
    }
  });

  test('is exported, printed and in the file', () => {
    const settings: ReportSettings = {
      paper: 'a3',
      landscape: true,
      title: '',
      subtitle: '',
      columns: ['name', key],
      depth: 0,
      rows: 'all',
      legend: false,
      baseline: true,
      view: { ...usualSettings, columns: ['name', key] },
    };
    const input = { doc, view: sure(context.view), baseline: context.baseline, settings };
    const told = new Set(reportTable(input).rows.flat());
    for (const c of withValue) expect(told.has(showField(f, c))).toBe(true);
    const pages = new PlanPages({ ...input, measure: (t, size) => t.length * size * 0.5, printed: '' });
    const printed = pages.page(0).shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []));
    expect(printed.some((t) => withValue.some((c) => t.startsWith(showField(f, c).slice(0, 4))))).toBe(true);
    const back = sure(readProjectText(writeProjectFile({ document: doc, copies: new Map() })).file).document;
    for (const c of withValue.filter((x) => f.stored && x)) {
      const g = sure(fieldsOf(back).get(key));
      expect(showField(g, activityCell({ ...context, doc: back }, sure(back.activities.get(c.a.id))))).toBe(showField(f, c));
    }
  });
});
