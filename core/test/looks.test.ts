/** Saved views and looks: kept, read back, fitted to a project; how bars are painted and what the legend says. */
import { setCell } from '@yellowhammer/core/commands/cells';
import { addCodeSet, addCodeValue } from '@yellowhammer/core/commands/codes';
import { addLook, deleteLook, deleteView, editLook, editView, keepView } from '@yellowhammer/core/commands/views';
import { namedColours } from '@yellowhammer/core/fields/extras';
import type { FieldContext } from '@yellowhammer/core/fields/field';
import type { Document } from '@yellowhammer/core/model/document';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import { type LookRule, usualSettings, type ViewSettings } from '@yellowhammer/core/model/view-schema';
import { hatch, lighter } from '@yellowhammer/core/report/scene';
import { legendOf, paintAt, painter } from '@yellowhammer/core/view/looks';
import { fitting, missingIn, suppliedViews } from '@yellowhammer/core/view/supplied';
import { inBands, nextBox, ranks } from '@yellowhammer/core/view/boxes';
import { layWeeks, monthOn, weeksOfMonth } from '@yellowhammer/core/view/month';
import { formatDay, parseDay } from '@yellowhammer/core/time/instant';
import { copyRows, pasteRows } from '@yellowhammer/core/commands/copy-rows';
import { documentOf, must, mustBack, sure, tells, viewIn } from './helpers';

let n = 0;
const newId = (): string => `l${++n}`;
function plan(): { doc: Document; context: FieldContext; area: string } {
  const doc = documentOf({
    activities: [
      ['A', '5d', { name: 'Pour', cost: 1200 }],
      ['B', '3d', { name: 'Cure', cost: 10 }],
      ['C', '1d', { name: 'Strip', colour: '#123456' }],
    ],
    links: ['A > B'],
  });
  const area = sure(must(doc, addCodeSet(doc, 'Area', newId))[0]);
  const west = sure(must(doc, addCodeValue(doc, area, { short: 'West', name: 'The west', colour: '#112233' }, newId))[0]);
  must(doc, addCodeValue(doc, area, { short: 'Quay', parentId: west }, newId));
  must(doc, setCell(doc, 'A', `code:${area}`, 'Quay', newId));
  must(doc, setCell(doc, 'C', `code:${area}`, 'West', newId));
  return { doc, area, context: { doc, view: viewIn(doc), baseline: null, clock: false } };
}
const rule = (fields: Partial<LookRule>): LookRule => ({
  name: 'r',
  filter: { match: 'all', of: [] },
  colour: null,
  colourBy: null,
  hatching: 'none',
  height: 'usual',
  texts: null,
  ...fields,
});
const dear = { match: 'all' as const, of: [{ field: 'cost', is: 'more' as const, values: [100] }] };

test('views and looks are kept, changed, deleted, and travel in the file', () => {
  const { doc } = plan();
  const view = sure(must(doc, keepView(doc, ' Mine ', { ...usualSettings, columns: ['name'] }, newId))[0]);
  const look = sure(must(doc, addLook(doc, 'Dear', [rule({ filter: dear, colour: '#aa0000' })], newId))[0]);
  expect(tells(keepView(doc, 'mine', usualSettings, newId))).toContain('NAME_TAKEN There is a saved view Mine already.');
  expect(tells(addLook(doc, '', [], newId))).toContain('NAME_NEEDED A bar look needs a name.');
  must(doc, editView(doc, view, { settings: { ...usualSettings, columns: ['name', 'cost'], look } }));
  must(doc, editLook(doc, look, { name: 'Expensive' }));
  const back = sure(readProjectText(writeProjectFile({ document: doc, copies: new Map() })).file).document;
  expect([back.savedViews.get(view), back.looks.get(look)]).toEqual([doc.savedViews.get(view), doc.looks.get(look)]);
  expect(doc.looks.get(look)?.name).toBe('Expensive');
  must(doc, deleteView(doc, view));
  must(doc, deleteLook(doc, look));
  expect([doc.savedViews.size, doc.looks.size, tells(editView(doc, view, {})), tells(deleteLook(doc, look))]).toEqual([
    0,
    0,
    expect.stringContaining('UNKNOWN_VIEW'),
    expect.stringContaining('UNKNOWN_LOOK'),
  ]);
});

test('what cannot be read of a view in a file is told, and the usual is taken', () => {
  const { doc } = plan();
  must(doc, keepView(doc, 'Odd', { ...usualSettings, dense: true }, newId));
  const file = JSON.parse(writeProjectFile({ document: doc, copies: new Map() })) as { savedViews: { settings: Record<string, unknown> }[] };
  Object.assign(sure(file.savedViews[0]).settings, { sort: 'upside down', groups: [{ key: '' }] });
  const read = readProjectText(JSON.stringify(file));
  expect(read.problems.map((p) => p.message)).toEqual(['saved view Odd: groups cannot be read; the usual is taken.', 'saved view Odd: sort cannot be read; the usual is taken.']);
  const [odd] = [...sure(read.file).document.savedViews.values()];
  expect([odd?.settings.sort, odd?.settings.groups, odd?.settings.dense]).toEqual([[], [], true]);
});

test('a view that asks for what is not there says which, and shows the rest', () => {
  const { doc, area } = plan();
  const s: ViewSettings = {
    ...usualSettings,
    columns: ['name', 'code:gone', `code:${area}`],
    groups: [{ key: 'own:gone' }, { key: 'wbs' }],
    colourBy: 'nothing',
    look: 'x',
    texts: { before: 'zz', on: 'name', after: null },
  };
  expect(missingIn(doc, s)).toEqual(['a code set', 'an own field', 'the field nothing', 'the field zz', 'a bar look']);
  expect(fitting(doc, s)).toMatchObject({
    columns: ['name', `code:${area}`],
    groups: [{ key: 'wbs' }],
    colourBy: null,
    look: null,
    texts: { before: null, on: 'name', after: null },
  });
});

test('the six views of every project ask for nothing that is not there', () => {
  const { doc } = plan();
  expect(suppliedViews).toHaveLength(6);
  expect(suppliedViews.flatMap((v) => missingIn(doc, v.settings))).toEqual([]);
  expect(new Set(suppliedViews.map((v) => v.name)).size).toBe(6);
});

test('bars are painted by hand, by the first rule that fits, by the colour of a value or of what it lies in', () => {
  const { doc, context, area } = plan();
  const look = sure(
    must(
      doc,
      addLook(doc, 'L', [rule({ name: 'dear', filter: dear, colour: '#aa0000', hatching: 'rising', height: 'tall' }), rule({ name: 'by area', colourBy: `code:${area}` })], newId),
    )[0],
  );
  const told = (choice: { look: string | null; colourBy: string | null }): string[] =>
    ['A', 'B', 'C'].map((id) => {
      const p = painter(context, choice)(sure(doc.activities.get(id)));
      return [p.colour ?? '-', p.hatching, p.height, p.name ?? '-'].join(' ');
    });
  expect(told({ look: null, colourBy: null })).toEqual(['- none usual -', '- none usual -', '#123456 none usual -']);
  expect(told({ look: null, colourBy: `code:${area}` })).toEqual(['#112233 none usual Quay', '- none usual -', '#123456 none usual -']);
  expect(told({ look, colourBy: null })).toEqual(['#aa0000 rising tall dear', '- none usual by area', '#123456 none usual -']);
  // A rule goes before the field that is coloured by; a look that is gone draws as usual.
  expect(told({ look, colourBy: 'type' })[0]).toBe('#aa0000 rising tall dear');
  expect(told({ look: 'gone', colourBy: null })[0]).toBe('- none usual -');
  expect(legendOf(doc, ['A', 'B', 'C', 'A'], painter(context, { look, colourBy: null })).map((p) => p.name)).toEqual(['by area', 'dear']);
});

test('colours of values without one come by their place; beyond the last colour with a hatching', () => {
  const colours = Object.values(namedColours);
  expect([paintAt(0), paintAt(colours.length - 1), paintAt(colours.length)]).toEqual([
    { colour: colours[0], hatching: 'none' },
    { colour: colours[colours.length - 1], hatching: 'none' },
    { colour: colours[0], hatching: 'rising' },
  ]);
  const seen = Array.from({ length: colours.length * 6 }, (_, i) => JSON.stringify(paintAt(i)));
  expect(new Set(seen).size).toBe(seen.length);
});

test('on paper a hatching stays within its bar, and lighter is nearer to white', () => {
  for (const kind of ['rising', 'falling', 'crossed', 'dotted', 'upright'] as const) {
    const shapes = hatch(kind, 10, 20, 30, 6);
    expect(shapes.length).toBeGreaterThan(2);
    for (const s of shapes) {
      const [xs, ys] =
        s.kind === 'line'
          ? [
              [s.x1, s.x2],
              [s.y1, s.y2],
            ]
          : s.kind === 'rect'
            ? [[s.x], [s.y]]
            : [[], []];
      for (const x of xs) expect(x >= 10 - 1e-9 && x <= 40 + 1e-9).toBe(true);
      for (const y of ys) expect(y >= 20 - 1e-9 && y <= 26 + 1e-9).toBe(true);
    }
  }
  expect([hatch('none', 0, 0, 9, 9), lighter('#000000', 0.5), lighter('#8040ff', 0), lighter('#123456', 1)]).toEqual([[], '#808080', '#8040ff', '#ffffff']);
});

test('ranks are the longest chains; a ring ends nowhere; boxes of a band never overlap', () => {
  const links = [
    ['a', 'b'],
    ['b', 'c'],
    ['a', 'c'],
    ['x', 'y'],
    ['y', 'x'],
  ].map(([from, to], i) => ({ id: String(i), from: sure(from), to: sure(to) }));
  expect([...ranks(['a', 'b', 'c', 'x', 'y'], links)]).toEqual([
    ['a', 0],
    ['b', 1],
    ['c', 2],
    ['x', 0],
    ['y', 0],
  ]);
  const placed = inBands(
    [
      { name: '1', ids: ['a', 'b', 'c'] },
      { name: '2', ids: ['x'] },
    ],
    (id) => ({ a: 0, b: 50, c: 400, x: 0 })[id] ?? 0,
    60,
  );
  const at = (id: string) => sure(placed.boxes.get(id));
  expect([at('a').y, at('b').y > at('a').y, at('c').y, placed.bands.map((b) => b.name)]).toEqual([8, true, 8, ['1', '2']]);
  expect(at('x').y).toBeGreaterThanOrEqual(sure(placed.bands[1]).top);
  expect(placed.height).toBe(sure(placed.bands[1]).top + sure(placed.bands[1]).height);
});

test('arrow keys walk along links, driving ones first, and to the nearest box up and down', () => {
  const boxes = new Map([
    ['a', { id: 'a', x: 0, y: 0 }],
    ['b', { id: 'b', x: 200, y: 0 }],
    ['c', { id: 'c', x: 200, y: 80 }],
    ['d', { id: 'd', x: 0, y: 90 }],
  ]);
  const link = (id: string, from: string, to: string) => ({ id, from, to, rank: 0, type: 'FS' as const, lag: 0, lagCalendar: null });
  const links = [link('1', 'a', 'b'), link('2', 'a', 'c')] as never;
  const go = (from: string, key: 'ArrowLeft' | 'ArrowRight' | 'ArrowUp' | 'ArrowDown', drives = ''): string | undefined =>
    nextBox(from, key, { boxes }, links, (l) => l.id === drives);
  expect([go('a', 'ArrowRight'), go('a', 'ArrowRight', '2'), go('c', 'ArrowLeft'), go('a', 'ArrowLeft'), go('a', 'ArrowDown'), go('c', 'ArrowUp'), go('zz', 'ArrowUp')]).toEqual([
    'b',
    'c',
    'a',
    undefined,
    'd',
    'b',
    'a',
  ]);
});

test('weeks of a month, and bars in lines that do not overlap', () => {
  const day = (text: string): number => parseDay(text) as number;
  expect(weeksOfMonth(day('2026-11-18')).map(formatDay)).toEqual(['2026-10-26', '2026-11-02', '2026-11-09', '2026-11-16', '2026-11-23', '2026-11-30']);
  expect([formatDay(monthOn(day('2026-11-30'), 1)), formatDay(monthOn(day('2026-01-15'), -1)), formatDay(monthOn(day('2026-12-31'), 1))]).toEqual([
    '2026-12-01',
    '2025-12-01',
    '2027-01-01',
  ]);
  const [w, next] = layWeeks(
    [day('2026-11-02'), day('2026-11-09')],
    [
      { id: 'long', from: day('2026-10-30'), to: day('2026-11-10') },
      { id: 'mon', from: day('2026-11-02'), to: day('2026-11-03') },
      { id: 'wed', from: day('2026-11-04'), to: day('2026-11-04') },
      { id: 'tue', from: day('2026-11-03'), to: day('2026-11-05') },
    ],
  );
  const told = (bars: typeof w): string[] => sure(bars).bars.map((b) => `${b.id} ${b.from}-${b.to} line ${b.line}${b.before ? ' before' : ''}${b.after ? ' after' : ''}`);
  expect(told(w)).toEqual(['long 0-6 line 0 before after', 'mon 0-1 line 1', 'tue 1-3 line 2', 'wed 2-2 line 1']);
  expect([told(next), w?.lines]).toEqual([['long 0-1 line 0 before'], 3]);
});

describe('a look of its own', () => {
  const own = () => {
    const { doc, context, area } = plan();
    const late = sure(must(doc, addLook(doc, 'Late', [rule({ name: 'dear', filter: dear, colour: '#aa0000', hatching: 'rising' })], newId))[0]);
    const green = sure(must(doc, addLook(doc, 'Green', [rule({ name: 'all', colour: '#00aa00' })], newId))[0]);
    const paint = (id: string, look: string | null, colourBy: string | null = null) => {
      const p = painter(context, { look, colourBy })(sure(doc.activities.get(id)));
      return [p.colour, p.hatching, p.name];
    };
    return { doc, area, late, green, paint };
  };
  test('its first rule that fits goes before the look of the view and the colours of a field; a colour by hand before it', () => {
    const { doc, area, late, green, paint } = own();
    for (const id of ['A', 'B', 'C']) must(doc, setCell(doc, id, 'look', 'late', newId));
    expect(doc.activities.get('A')?.lookId).toBe(late);
    expect(paint('A', null)).toEqual(['#aa0000', 'rising', 'dear']);
    expect(paint('A', green, `code:${area}`)).toEqual(['#aa0000', 'rising', 'dear']);
    // None of its rules fits B: it is drawn as the view has it, or as usual.
    expect([paint('B', green), paint('B', null)]).toEqual([
      ['#00aa00', 'none', 'all'],
      [null, 'none', null],
    ]);
    expect(paint('C', null)[0]).toBe('#123456');
    must(doc, setCell(doc, 'A', 'look', 'none', newId));
    expect([doc.activities.get('A')?.lookId, paint('A', null)]).toEqual([null, [null, 'none', null]]);
    expect(tells(setCell(doc, 'A', 'look', 'Blue', newId))).toMatch(/there is no bar look Blue/);
  });
  test('deleting the look takes it from the rows, and one undo brings both back', () => {
    const { doc, late } = own();
    must(doc, setCell(doc, 'A', 'look', 'Late', newId));
    mustBack(doc, deleteLook(doc, late));
    expect([doc.looks.has(late), doc.activities.get('A')?.lookId]).toEqual([false, null]);
  });
  test('it comes along with copied rows: one of its name is met, else a copy is made', () => {
    const { doc } = own();
    must(doc, setCell(doc, 'A', 'look', 'Late', newId));
    const clip = sure(copyRows(doc, 'one', [{ kind: 'activity', id: 'A' }], false));
    const bare = documentOf({ activities: [['X', '1d']] });
    const copy = sure(must(bare, pasteRows(bare, 'two', clip, null, newId))[0]);
    expect([...bare.looks.values()].map((l) => [l.name, l.id === bare.activities.get(copy)?.lookId])).toEqual([['Late', true]]);
    const other = documentOf({ activities: [['X', '1d']] });
    const theirs = sure(must(other, addLook(other, 'LATE', [], newId))[0]);
    expect(other.activities.get(sure(must(other, pasteRows(other, 'two', clip, null, newId))[0]))?.lookId).toBe(theirs);
  });
});
