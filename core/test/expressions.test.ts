/** Computed fields: what expressions mean, what is refused and why, and that nothing makes them throw. */
import fc from 'fast-check';
import { setCell } from '@yellowhammer/core/commands/cells';
import { addCodeSet, addCodeValue, editCodeSet } from '@yellowhammer/core/commands/codes';
import { addOwnField, deleteOwnField, editOwnField, fieldNamed, freeName } from '@yellowhammer/core/commands/own-fields';
import { compileExpression, namesIn, renamedIn } from '@yellowhammer/core/expr/compile';
import { Failure, identifierOf } from '@yellowhammer/core/expr/types';
import { showField } from '@yellowhammer/core/fields/field';
import { activityCell, builtIn, fieldOf } from '@yellowhammer/core/fields/list';
import { namesOf } from '@yellowhammer/core/fields/own';
import { forgetIndex } from '@yellowhammer/core/model/doc-index';
import type { Document } from '@yellowhammer/core/model/document';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { documentOf, must, sure, tells, viewIn } from './helpers';

let n = 0;
const newId = (): string => `x${++n}`;
function plan(): Document {
  const doc = documentOf({
    activities: [
      ['A', '5d', { name: 'Pour pier', cost: 1200, notes: 'wet' }],
      ['B', '3d @six', { name: 'Cure', cost: 0 }],
      ['M', 'finish', { name: 'Ready' }],
    ],
    links: ['A > B', 'B > M'],
    project: { dataDate: '2026-03-04T08:00' },
  });
  const set = sure(must(doc, addCodeSet(doc, 'Funding stage', newId))[0]);
  must(doc, addCodeValue(doc, set, { short: 'S1' }, newId));
  must(doc, setCell(doc, 'A', `code:${set}`, 'S1', newId));
  must(doc, addOwnField(doc, 'Allowance', 'money', newId));
  const budget = sure([...doc.ownFields.keys()][0]);
  must(doc, setCell(doc, 'A', `own:${budget}`, '1000', newId));
  return doc;
}

/** What an expression gives in an activity: its value (dates in full), `empty`, why it failed, or `!` and why it is refused. */
function gives(doc: Document, text: string, id = 'A'): string {
  const names = namesOf(
    doc,
    (name) => builtIn.find((f) => f.key === name) ?? [...doc.ownFields.values()].flatMap((f) => (f.key === name ? (fieldOf(doc, `own:${f.id}`) ?? []) : []))[0],
  );
  const c = compileExpression(text, names);
  if ('error' in c) return `!${c.error}`;
  const v = c.run(activityCell({ doc, view: viewIn(doc), baseline: null, clock: false }, sure(doc.activities.get(id))));
  return v === null
    ? 'empty'
    : v instanceof Failure
      ? `(${v.reason})`
      : c.type === 'date'
        ? formatInstant(v as number)
        : `${v}${c.type === 'money' ? ' money' : c.type === 'duration' ? ' min' : ''}`;
}

test.each([
  ['1 + 2 * 3', '7'],
  ['(1 + 2) * 3 - -1', '10'],
  ['cost', '1200 money'],
  ['cost - allowance', '200 money'],
  ['cost * 1.5', '1800 money'],
  ['cost / allowance', '1.2'],
  ['cost * budget', '!money cannot be multiplied by money.'],
  ['cost > allowance', 'true'],
  ['cost > 1200', 'false'],
  ['cost >= 1200', 'true'],
  ['if(cost > allowance, "over budget", "within")', 'over budget'],
  ['duration', '2400 min'],
  ['duration + days(1)', '2880 min'],
  ['duration / days(1)', '5'],
  ['duration > 3', '!a duration cannot be compared with a number. A duration is written as days(3) or hours(4).'],
  ['duration > hours(39.5)', 'true'],
  ['days(0.5)', '240 min'],
  ['finish - start', '5'],
  ['start - finish', '-5'],
  ['finish + days(1)', '2026-03-11T17:00'],
  ['start + days(5)', '2026-03-11T08:00'],
  ['finish + start', '!a date cannot be added to a date.'],
  ['addWorkingDays(finish, 1)', '2026-03-11T17:00'],
  ['addWorkingDays(start, -1)', '2026-03-03T08:00'],
  ['addWorkingDays(start, 1000000)', '(the date lies outside of 1990 to 2199)'],
  ['workingDays(start, finish)', '5'],
  ['workingDays(date("2026-03-02"), date("2026-03-16"))', '10'],
  ['calendarDays(start, finish)', '6'],
  ['calendarDays(date("2026-03-02"), date("2026-03-16"))', '14'],
  ['year(finish) * 100 + month(finish)', '202603'],
  ['weekday(finish)', 'Tue'],
  ['weekday(date("2026-03-08"))', 'Sun'],
  ['finish > dataDate', 'true'],
  ['finish > "soon"', '!a date cannot be compared with a text. A date is written as date("2026-11-02").'],
  ['date("2026-02-30")', '!date is written as date("2026-11-02"), year first, in 1990 to 2199.'],
  ['projectFinish - finish', '3'],
  ['code("Funding stage")', 'S1'],
  ['code(fundingStage) = "s1"', 'true'],
  ['code("Area")', '!There is no code set Area.'],
  ['join(name, " ", code("Funding stage"), notes)', 'Pour pier S1wet'],
  ['name + "x"', '!a text cannot be added to a text. Texts are put together with join(a, b).'],
  ['contains(name, "PIER") and not starts(name, "x")', 'true'],
  ['not cost = 0', 'true'],
  ['name = "pour PIER"', 'true'],
  ['name < "quay"', 'true'],
  ['min(3, 1, 2)', '1'],
  ['max(start, dataDate)', '2026-03-04T08:00'],
  ['min(name, "a")', '!min wants numbers, money, durations or dates, not a text.'],
  ['round(1.005, 2)', '1.01'],
  ['round(-2.5)', '-3'],
  ['round(cost / 7, 1)', '171.4 money'],
  ['abs(-3)', '3'],
  ['1 / 0', '(division by 0)'],
  ['first(1 / 0, 2)', '(division by 0)'],
  ['if(yes, 1, 1 / 0)', '1'],
  ['1e308 * 10', '(the number is too large)'],
  ['deadline', 'empty'],
  ['deadline > start', 'empty'],
  ['isEmpty(deadline)', 'true'],
  ['deadline = empty', '!Whether something is empty is asked as isEmpty(x).'],
  ['if(deadline > start, 1, 2)', '2'],
  ['if(isEmpty(deadline), empty, 2)', 'empty'],
  ['first(deadline, finish)', '2026-03-10T17:00'],
  ['first(notes, "dry")', 'wet'],
  ['join(deadline)', '!join wants texts or numbers, not a date.'],
  ['isEmpty(cost) or yes', 'true'],
  ['1 and yes', '!and stands between conditions, not beside a number.'],
  ['-name', '!A sign cannot stand before a text.'],
  ['if(1, 2, 3)', '!if wants a condition first, not a number.'],
  ['if(yes, 2, "x")', '!if wants values of one type, not a number and a text.'],
  ['if(yes, 2)', '!if is written as if(condition, then, else).'],
  ['foo(1)', '!There is no function foo.'],
  ['constructor(1)', '!There is no function constructor.'],
  ['nothing', '!No field is called nothing.'],
  ['constructor', '!No field is called constructor.'],
  ['name.length', '!A point can stand only in a number.'],
  ['name["length"]', '!A point can stand only in a number.'],
  ['this', '!That cannot stand in an expression.'],
  ['[1]', '!That cannot stand in an expression.'],
  ['yes ? 1 : 2', '!Write a choice as if(condition, then, else).'],
  ['1 2', '!Two things stand beside each other without an operator or a comma between them.'],
  ['', '!The expression is empty.'],
  ['1 +', '!It cannot be read near “1 +”. Check brackets, quotes and commas.'],
])('%s', (text, expected) => expect(gives(plan(), text)).toBe(expected));

test('a name that people gave stays theirs where the product has a field of that name since', () => {
  const doc = plan();
  const id = sure([...doc.ownFields.keys()][0]);
  doc.ownFields.set(id, { ...sure(doc.ownFields.get(id)), key: 'budget' });
  forgetIndex(doc);
  const said = sure(must(doc, addOwnField(doc, 'Said', 'computed', newId))[0]);
  must(doc, editOwnField(doc, said, { expression: 'budget * 2' }));
  const cell = activityCell({ doc, view: viewIn(doc), baseline: null, clock: false }, sure(doc.activities.get('A')));
  expect([showField(sure(fieldOf(doc, `own:${said}`)), cell), fieldNamed(doc, 'budget')?.title, fieldNamed(doc, 'income')?.title]).toEqual(['2,000', 'Allowance', 'Income']);
  expect(freeName([...doc.ownFields.values()], 'Budget')).toBe('budget2');
});

test('days are those of the row, and a milestone has no duration', () => {
  const doc = plan();
  expect([gives(doc, 'finish - start', 'B'), gives(doc, 'days(1)', 'B'), gives(doc, 'duration', 'M'), gives(doc, 'duration > days(1)', 'M')]).toEqual([
    '3',
    '480 min',
    'empty',
    'empty',
  ]);
});

test('a computed field is a field: shown, and other computed fields ask for it', () => {
  const doc = plan();
  const over = sure(must(doc, addOwnField(doc, 'Over', 'computed', newId))[0]);
  const words = sure(must(doc, addOwnField(doc, 'In words', 'computed', newId))[0]);
  must(doc, editOwnField(doc, over, { expression: 'cost - allowance' }));
  must(
    doc,
    editOwnField(doc, words, { expression: 'if(over > 0, join("over by ", round(over / 100)*1, " h"), "within")'.replace('round(over / 100)*1', 'workingDays(start, finish)') }),
  );
  const show = (key: string, id: string): string =>
    showField(sure(fieldOf(doc, key)), activityCell({ doc, view: viewIn(doc), baseline: null, clock: false }, sure(doc.activities.get(id))));
  expect([show(`own:${over}`, 'A'), show(`own:${over}`, 'B'), show(`own:${words}`, 'A'), show(`own:${words}`, 'B')]).toEqual(['200', '', 'over by 5 h', 'within']);
  // A ring is refused with its members; so is deleting what is asked for.
  expect(tells(editOwnField(doc, over, { expression: 'if(inWords = "x", 1, 2)' }))).toContain(
    'BAD_EXPRESSION Fields cannot ask for each other in a ring: Over asks for In words asks for Over.',
  );
  expect(tells(editOwnField(doc, over, { expression: 'over' }))).toContain('in a ring');
  expect(tells(deleteOwnField(doc, over))).toContain('IN_USE In words is computed from Over.');
  expect(tells(editOwnField(doc, over, { expression: 'cost *' }))).toContain('BAD_EXPRESSION It cannot be read');
  // Expressions follow a new name.
  must(doc, editOwnField(doc, over, { key: 'overspent' }));
  expect(doc.ownFields.get(words)?.expression).toBe('if(overspent > 0, join("over by ", workingDays(start, finish), " h"), "within")');
  expect(show(`own:${words}`, 'A')).toBe('over by 5 h');
  expect(tells(editOwnField(doc, over, { key: 'finish' }))).toContain('NAME_TAKEN');
  expect(tells(editOwnField(doc, over, { key: '2x' }))).toContain('WRONG_VALUE');
});

test('a division by 0 is told in the cell; a ring that came from a file is told, too', () => {
  const doc = plan();
  const f = sure(must(doc, addOwnField(doc, 'Rate', 'computed', newId))[0]);
  must(doc, editOwnField(doc, f, { expression: 'duration / days(cost)' }));
  const show = (id: string): string =>
    showField(sure(fieldOf(doc, `own:${f}`)), activityCell({ doc, view: viewIn(doc), baseline: null, clock: false }, sure(doc.activities.get(id))));
  expect([show('B'), show('M')]).toEqual(['(division by 0)', '']);
  const ring = documentOf({ activities: [['A', '1d']] });
  for (const [id, expression] of [
    ['p', 'q + 1'],
    ['q', 'p + 1'],
  ] as const)
    ring.ownFields.set(id, { ...sure(doc.ownFields.get(f)), id, name: id, key: id, expression });
  expect(showField(sure(fieldOf(ring, 'own:p')), activityCell({ doc: ring, view: null, baseline: null, clock: false }, sure(ring.activities.get('A'))))).toBe(
    '(cannot be computed: p asks for q in a ring)',
  );
});

test('expressions follow a code set that gets another name', () => {
  const doc = plan();
  const f = sure(must(doc, addOwnField(doc, 'Stage', 'computed', newId))[0]);
  must(doc, editOwnField(doc, f, { expression: 'join(code(fundingStage), code("Funding stage"), "code(fundingStage)")' }));
  must(doc, editCodeSet(doc, sure([...doc.codeSets.keys()][0]), { name: 'Grant' }));
  expect(doc.ownFields.get(f)?.expression).toBe('join(code("Grant"), code("Grant"), "code("Grant")")');
});

test.each([
  ['Funding stage', 'fundingStage'],
  ['Größe der Fläche', 'groEDerFlache'],
  ['2nd check', 'f2ndCheck'],
  ['  ', 'f'],
])('the name of %s is %s', (name, expected) => expect(identifierOf(name)).toBe(expected));

test('names in an expression are found and exchanged, texts are left', () => {
  expect(namesIn('if(a > b, code(trade), join("a", code("Area")))')).toEqual({ fields: ['a', 'b'], sets: ['trade', 'Area'] });
  expect(renamedIn('a + ab + "a" + a', 'a', 'z', 'field')).toBe('z + ab + "a" + z');
  expect(renamedIn('max(max, 1)', 'max', 'z', 'field')).toBe('max(z, 1)');
});

/** A slow, plain twin: the same tree reckoned by itself. */
type Twin = { text: string; value: number | boolean | null | 'fails' };
const number: fc.Arbitrary<Twin> = fc.oneof(
  fc.integer({ min: 0, max: 50 }).map((v) => ({ text: String(v), value: v })),
  fc.constant<Twin>({ text: 'priority', value: 5 }),
  fc.constant<Twin>({ text: '(remaining / days(1))', value: null }),
);
const tree: fc.Arbitrary<Twin> = fc.letrec<{ n: Twin; b: Twin }>((tie) => ({
  n: fc.oneof(
    { maxDepth: 5, depthSize: 'small' },
    number,
    fc.tuple(tie('n'), fc.constantFrom('+', '-', '*', '/'), tie('n')).map(([a, op, b]): Twin => {
      const v =
        a.value === 'fails' || b.value === 'fails'
          ? a.value === 'fails'
            ? 'fails'
            : a.value === null
              ? b.value === 'fails'
                ? 'fails'
                : null
              : 'fails'
          : a.value === null || b.value === null
            ? null
            : reckon(op, Number(a.value), Number(b.value));
      return { text: `(${a.text} ${op} ${b.text})`, value: v };
    }),
    fc
      .tuple(tie('b'), tie('n'), tie('n'))
      .map(([c, a, b]): Twin => ({ text: `if(${c.text}, ${a.text}, ${b.text})`, value: c.value === 'fails' ? 'fails' : c.value === true ? a.value : b.value })),
  ),
  b: fc.oneof(
    { maxDepth: 4, depthSize: 'small' },
    fc.constantFrom<Twin>({ text: 'yes', value: true }, { text: 'no', value: false }),
    fc.tuple(tie('n'), fc.constantFrom('<', '<=', '=', '!=', '>', '>='), tie('n')).map(([a, op, b]): Twin => ({
      text: `(${a.text} ${op} ${b.text})`,
      value: a.value === 'fails' || b.value === 'fails' ? 'fails' : a.value === null || b.value === null ? null : compare(op, Number(a.value), Number(b.value)),
    })),
    fc.tuple(tie('b'), fc.constantFrom('and', 'or'), tie('b')).map(([a, op, b]): Twin => ({
      text: `(${a.text} ${op} ${b.text})`,
      value: a.value === 'fails' || b.value === 'fails' ? 'fails' : a.value === null || b.value === null ? null : op === 'and' ? a.value && b.value : a.value || b.value,
    })),
    tie('b').map((a): Twin => ({ text: `(not ${a.text})`, value: a.value === 'fails' || a.value === null ? a.value : !a.value })),
  ),
})).n;
function reckon(op: string, a: number, b: number): number | 'fails' {
  const v = op === '+' ? a + b : op === '-' ? a - b : op === '*' ? a * b : b === 0 ? NaN : a / b;
  return Number.isFinite(v) ? v : 'fails';
}
const compare = (op: string, a: number, b: number): boolean =>
  op === '<' ? a < b : op === '<=' ? a <= b : op === '=' ? a === b : op === '!=' ? a !== b : op === '>' ? a > b : a >= b;

test('expressions agree with a slow twin', () => {
  const doc = plan();
  fc.assert(
    fc.property(tree, ({ text, value }) => {
      fc.pre(text.length < 2000);
      const got = gives(doc, text);
      expect(got.startsWith('(') ? 'fails' : got).toBe(value === null ? 'empty' : String(value));
    }),
    { numRuns: 300 },
  );
});

test('no text makes them throw, and what they read is the row only', () => {
  const doc = plan();
  const word = fc.constantFrom(
    '(',
    ')',
    '+',
    '"',
    "'",
    ',',
    'if',
    'cost',
    'finish',
    'not',
    'and',
    '.',
    '[',
    ']',
    '1',
    'days',
    'code',
    '?',
    ':',
    '=',
    '__proto__',
    'toString',
    '\\',
    '`',
    '{',
    '\u0000',
  );
  fc.assert(
    fc.property(
      fc.oneof(
        fc.string({ maxLength: 40 }),
        fc.array(word, { maxLength: 14 }).map((w) => w.join(' ')),
      ),
      (text) => {
        expect(typeof gives(doc, text)).toBe('string');
      },
    ),
    { numRuns: 1000 },
  );
  expect(gives(doc, '('.repeat(1900)).startsWith('!')).toBe(true);
  expect(gives(doc, 'x'.repeat(2001))).toBe('!The expression is longer than 2000 characters.');
});
