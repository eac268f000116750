/** What nodes show of fields without a roll-up, after any edits: the same as when it is reckoned anew. */
import fc from 'fast-check';
import { applyChanges, type Change, invertChanges } from '@yellowhammer/core/change/change';
import { editCalendar } from '@yellowhammer/core/commands/calendars';
import { setCell } from '@yellowhammer/core/commands/cells';
import { addCodeSet, addCodeValue, editCodeValue } from '@yellowhammer/core/commands/codes';
import { addActivity, deleteRows } from '@yellowhammer/core/commands/outline';
import { addOwnField } from '@yellowhammer/core/commands/own-fields';
import { moveRowsTo } from '@yellowhammer/core/commands/copy-rows';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { type Cell, showField } from '@yellowhammer/core/fields/field';
import { fieldOf, fieldsOf } from '@yellowhammer/core/fields/list';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { forgetIndex, indexOf } from '@yellowhammer/core/model/doc-index';
import { PROJECT_ROW } from '@yellowhammer/core/outline/outline';
import { Sums } from '@yellowhammer/core/view/sums';
import { documentOf, must, nodeInto, putInto, sure, viewIn } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;

/** Six activities in three nodes, two in one another; a code set, own fields that sum up in each way. */
function plan(): { doc: Document; keys: string[] } {
  const doc = documentOf({
    activities: [
      ['A', '5d'],
      ['B', '3d @six'],
      ['C', '1d'],
      ['D', '2d'],
      ['E', '2d'],
      ['M', '0d', { type: 'finishMilestone' }],
    ],
    links: ['A > B', 'B > M'],
  });
  nodeInto(doc, 'P', null, 1);
  nodeInto(doc, 'Q', 'P', 1);
  nodeInto(doc, 'R', null, 2);
  for (const [id, node] of [
    ['A', 'P'],
    ['B', 'Q'],
    ['C', 'Q'],
    ['D', 'R'],
    ['E', 'R'],
  ] as const)
    putInto(doc, id, node, id.charCodeAt(0));
  forgetIndex(doc);
  const set = sure(must(doc, addCodeSet(doc, 'Area', newId))[0]);
  for (const short of ['West', 'East']) must(doc, addCodeValue(doc, set, { short }, newId));
  const own = (['sum', 'mean', 'least', 'greatest', 'same', 'count'] as const).map((sum) => {
    const id = sure(must(doc, addOwnField(doc, `My ${sum}`, 'number', newId))[0]);
    doc.ownFields.set(id, { ...sure(doc.ownFields.get(id)), sum });
    return `own:${id}`;
  });
  const days = sure(must(doc, addOwnField(doc, 'My days', 'duration', newId))[0]);
  // Told in days of the row that has the least: they follow its calendar.
  doc.ownFields.set(days, { ...sure(doc.ownFields.get(days)), sum: 'least' });
  forgetIndex(doc);
  for (const key of [...own, `own:${days}`]) for (const id of ['A', 'B', 'C', 'E']) must(doc, setCell(doc, id, key, id === 'A' ? '2' : '5', newId));
  return {
    doc,
    keys: [`code:${set}`, ...own, `own:${days}`, 'calendar', 'calendar', 'priority', 'colour', 'hidden', 'duration', 'duration', 'responsible', 'constraint', 'deadline'],
  };
}

const groups = new Map([
  ['g1', ['A', 'D', 'M']],
  ['g2', ['B', 'C']],
]);
function shown(doc: Document, view: ReturnType<typeof viewIn>): string[] {
  const context = { doc, view, baseline: null, clock: false };
  const sums = new Sums(context, groups);
  return [...fieldsOf(doc).values()].flatMap((f) =>
    ['P', 'Q', 'R', PROJECT_ROW, 'g1', 'g2'].map((row) => {
      const node = doc.wbs.get(row);
      const cell = { ...context, sums, kind: 'wbs', node: node ?? { ...sure(doc.wbs.get('P')), id: row }, code: '', rollup: node ? view.rollups.get(row) : undefined } as Cell;
      return f.node ? '' : `${f.key} ${row}: ${showField(f, cell)}`;
    }),
  );
}

const values: Record<string, string[]> = {
  calendar: ['', 'Six', 'Clock'],
  priority: ['3', '7'],
  colour: ['pine', 'none'],
  hidden: ['yes', 'no'],
  duration: ['1d', '4d'],
  responsible: ['Ana', ''],
};
const step = fc.record({ act: fc.nat(9), who: fc.nat(5), key: fc.nat(30), value: fc.nat(5) });

test('sums that are kept from edit to edit are what they would be anew', () => {
  fc.assert(
    fc.property(fc.array(step, { minLength: 3, maxLength: 14 }), (steps) => {
      const { doc, keys } = plan();
      const done: Change[][] = [];
      const take = (o: Outcome): void => {
        if (!o.ok) return;
        applyChanges(doc, o.changes);
        done.push([...o.changes]);
      };
      shown(doc, viewIn(doc));
      for (const s of steps) {
        const id = [...doc.activities.keys()][s.who % Math.max(doc.activities.size, 1)];
        if (!id) return;
        const key = keys[s.key % keys.length]!;
        if (s.act === 0) take(addActivity(doc, { kind: 'activity', id }, { name: 'New', duration: 480 * s.value }, newId));
        else if (s.act === 1) take(deleteRows(doc, [{ kind: 'activity', id }]));
        else if (s.act === 2) take(moveRowsTo(doc, [{ kind: 'activity', id }], { parent: ['P', 'Q', 'R', null][s.value % 4]!, after: null }));
        else if (s.act === 3) take(editCalendar(doc, 'six', { name: `Six ${s.value}` }));
        else if (s.act === 4 && done.length) applyChanges(doc, invertChanges(done.pop() as Change[]));
        else if (s.act === 5) {
          const set = sure([...doc.codeSets.values()][0]);
          take(editCodeValue(doc, set.id, sure(set.values[0]).id, { short: `W${s.value}` }));
        } else {
          const choices = values[key] ?? (key.startsWith('code:') ? ['East', ''] : key === 'constraint' || key === 'deadline' ? [''] : ['2', '5', '', '1']);
          take(setCell(doc, id, key, choices[s.value % choices.length]!, newId));
        }
        const view = viewIn(doc);
        expect(shown(doc, view)).toEqual(shown(copyDocument(doc), view));
      }
    }),
    { numRuns: 25 },
  );
});

test('an edit of something else leaves what a field hangs on; its own, a move, another row or undo does not', () => {
  const { doc } = plan();
  const calendar = (): string => indexOf(doc).stampOf(['calendarId']);
  const at = calendar();
  must(doc, setCell(doc, 'A', 'duration', '9d', newId));
  expect(calendar()).toBe(at);
  const seen = [at];
  const changed = (o: Outcome): void => {
    must(doc, o);
    expect(seen).not.toContain(calendar());
    seen.push(calendar());
  };
  changed(setCell(doc, 'A', 'calendar', 'six', newId));
  changed(moveRowsTo(doc, [{ kind: 'activity', id: 'A' }], { parent: 'R', after: null }));
  changed(editCalendar(doc, 'six', { name: 'Other' }));
  changed(addActivity(doc, null, { name: 'New' }, newId));
  expect(fieldOf(doc, 'calendar')?.stored).toBe('calendarId');
});
