/** Fields that people have made: a column for each code set, and one for each field of their own. Values lie in `values` of the row. */
import { byRank } from '../model/order.ts';
import type { Document } from '../model/document.ts';
import type { Activity, CodeSet, CodeValue, OwnField, StoredValue } from '../model/schema.ts';
import { Draft } from '../change/change.ts';
import type { NewId, Outcome } from '../commands/result.ts';
import { compileExpression, namesIn, type Names } from '../expr/compile.ts';
import { type Compiled, failed, identifierOf, kindOfType, typeOfKind, typeWords } from '../expr/types.ts';
import { codeKey, ownKey, withValue } from '../model/values.ts';
import { type Cell, field, type Field, type Kind, type Read, type Value, valueOf } from './field.ts';
import { ownChoices, ownEditText, ownText, ownValue, readOwn, withUnit } from './own-values.ts';

/** The value of a set by its short name or its name, whatever the case. */
export function codeValueNamed(set: CodeSet, text: string): CodeValue | undefined {
  const t = text.trim().toLowerCase();
  return set.values.find((v) => v.short.toLowerCase() === t) ?? set.values.find((v) => v.name.toLowerCase() === t);
}

/** A new value of a set with a short name, and an activity given it: said before it is made. */
function newValue(doc: Document, set: CodeSet, a: Activity, short: string, newId: NewId): Outcome {
  const id = newId();
  const draft = new Draft(doc);
  draft.patch('codeSets', set.id, { values: [...set.values, { id, parentId: null, short, name: '', colour: null, about: '' }] });
  draft.patch('activities', a.id, withValue(a, codeKey(set.id), id));
  return { ok: true, label: `New value ${short} of ${set.name}`, changes: draft.changes };
}

export function codeField(set: CodeSet): Field {
  const key = codeKey(set.id);
  const valueOf = (a: Activity): CodeValue | undefined => set.values.find((v) => v.id === a.values[key]);
  return field<string>({
    key,
    title: set.name,
    about: set.about || `Value of the code set ${set.name}.`,
    kind: 'choice',
    group: 'Codes',
    width: 90,
    stored: 'values',
    sum: 'same',
    inspector: true,
    value: ({ a }) => valueOf(a)?.short ?? null,
    edit: ({ a }) => valueOf(a)?.short ?? '',
    choices: () => ['', ...set.values.map((v) => v.short)],
    read(text, { doc, a }, newId): Read {
      if (text === '') return { fields: withValue(a, key, null) };
      const now = doc.codeSets.get(set.id) ?? set;
      const known = codeValueNamed(now, text);
      if (known) return { fields: withValue(a, key, known.id) };
      if (text.length > 40) return { error: `a short name has at most 40 characters; ${set.name} has no value of that name.` };
      return { ask: `${set.name} has no value ${text}.`, choices: [{ label: `Make ${text} a value of ${set.name}`, outcome: newValue(doc, now, a, text, newId) }] };
    },
  });
}

const kinds: Record<OwnField['kind'], Kind> = {
  text: 'text',
  number: 'number',
  money: 'money',
  date: 'date',
  duration: 'duration',
  yesNo: 'yesNo',
  choice: 'choice',
  address: 'text',
  computed: 'text',
};

function ownField(own: OwnField): Field {
  const key = ownKey(own.id);
  const choices = ownChoices(own);
  return field<Value>({
    ...plainOwn(own),
    about: own.about || `A field of this project.`,
    sum: own.sum === 'again' ? 'none' : own.sum,
    inspector: true,
    value: ({ a }) => ownValue(own, a.values[key]),
    show: (_, cell) => ownText(own, cell.a.values[key], cell.doc, cell.a),
    edit: ({ doc, a }) => ownEditText(own, a.values[key], doc, a),
    ...(choices ? { choices: () => choices } : {}),
    read(text, cell): Read {
      const r = readOwn(own, text, cell.doc, cell.a);
      return 'error' in r ? r : { fields: withValue(cell.a, key, r.value) };
    },
  });
}

/** What a field is whoever has it. */
const plainOwn = (own: OwnField) => ({
  key: ownKey(own.id),
  title: own.name,
  kind: kinds[own.kind],
  group: 'Own fields' as const,
  width: own.kind === 'text' || own.kind === 'address' ? 130 : 90,
  stored: 'values' as const,
  ...(own.kind === 'number' ? { showSum: (v: Value) => withUnit(v as number, own) } : {}),
});

const ofProject = { calendarId: null };

/**
 * A field of WBS nodes. What lies in a node has what the node has, unless a node between them says otherwise: so that
 * activities are filtered, grouped and coloured by it.
 */
function nodeField(own: OwnField): Field {
  const key = ownKey(own.id);
  const choices = ownChoices(own);
  /** What is stored in the nearest node that has something. */
  const stored = (doc: Document, from: string | null): StoredValue | undefined => {
    let at = from === null ? undefined : doc.wbs.get(from);
    for (let n = 0; at && n < 1000; n++) {
      const v = at.values[key];
      if (ownValue(own, v) !== null) return v;
      at = at.parentId === null ? undefined : doc.wbs.get(at.parentId);
    }
    return undefined;
  };
  const tell = (doc: Document, id: string | null): string => ownText(own, stored(doc, id), doc, ofProject);
  return field<Value>({
    ...plainOwn(own),
    about: `${own.about ? `${own.about} ` : ''}A field of WBS nodes: what lies in a node has it, too.`,
    sum: 'none',
    value: ({ doc, a }) => ownValue(own, stored(doc, a.wbsId)),
    node: ({ doc, node }) => ownValue(own, stored(doc, node.id)),
    show: (_, { doc, a }) => tell(doc, a.wbsId),
    showSum: (_, { doc, node }) => tell(doc, node.id),
    editNode: ({ doc, node }) => ownEditText(own, node.values[key], doc, ofProject),
    ...(choices ? { choices: () => choices } : {}),
    readNode(text, { doc, node }) {
      const r = readOwn(own, text, doc, ofProject);
      return 'error' in r ? r : { fields: withValue(node, key, r.value) };
    },
  });
}

/** What names of expressions mean in a project: fields of the product and of its own, and its code sets. */
export function namesOf(doc: Document, fields: (name: string) => Field | undefined): Names {
  const asCompiled = (f: Field): Compiled => ({
    type: typeOfKind(f.kind),
    end: f.end ?? 'start',
    computed: f.computed === true,
    run: (cell) => f.result?.(cell) ?? valueOf(f, cell),
  });
  return {
    field(name) {
      const f = fields(name);
      return f && asCompiled(f);
    },
    code(name) {
      const low = name.toLowerCase();
      const set = [...doc.codeSets.values()].find((s) => s.name.toLowerCase() === low || identifierOf(s.name).toLowerCase() === low);
      return set && asCompiled(codeField(set));
    },
  };
}

/** What can be asked for in an expression: field by name, its title and its type in words. */
export const askable = (fields: readonly Field[], own: readonly OwnField[]): { name: string; title: string; about: string }[] =>
  fields.flatMap((f) => {
    const mine = own.find((o) => ownKey(o.id) === f.key);
    if (f.key.startsWith('code:')) return [];
    return [{ name: mine ? nameInExpressions(mine) : f.key, title: f.title, about: typeWords[typeOfKind(f.kind)] }];
  });

/** A computed field: its expression on the same row. `names`: what it may ask for. */
function computedField(own: OwnField, names: Names | null, loop?: readonly string[]): Field {
  const compiled = names ? compileExpression(own.expression, names) : { error: `${loop?.join(' asks for ') ?? ''} in a ring` };
  const bad = 'error' in compiled ? compiled.error : null;
  const { type, end, computed } = 'error' in compiled ? { type: 'text' as const, end: 'start' as const, computed: false } : compiled;
  const result = (cell: Cell) => ('error' in compiled ? null : compiled.run(cell));
  const value = (cell: Cell): Value | null => {
    const v = result(cell);
    return failed(v) ? null : v;
  };
  const again = own.sum === 'again';
  return field<Value>({
    key: ownKey(own.id),
    title: own.name,
    about: `${own.about ? `${own.about} ` : ''}Computed: ${own.expression}`,
    kind: kindOfType(type),
    group: 'Own fields',
    width: type === 'text' ? 130 : 90,
    end,
    ...(computed ? { computed: true as const } : {}),
    sum: own.sum === 'again' ? 'none' : own.sum,
    value,
    result,
    // Asked of a row that has no value: what stands in its way.
    failure(cell) {
      if (bad !== null) return `(cannot be computed: ${bad})`;
      const v = result(cell);
      return failed(v) ? `(${v.reason})` : null;
    },
    ...(again ? { node: value, again: true as const } : {}),
    ...(own.unit && type === 'number' ? { show: (v) => withUnit(v as number, own), showSum: (v) => withUnit(v as number, own) } : {}),
    ...(type === 'number' && !own.unit ? { show: (v) => withUnit(v as number, own) } : {}),
  });
}

/** What a field is called in expressions: as it was told, else by its name. */
export const nameInExpressions = (f: Pick<OwnField, 'key' | 'name'>): string => f.key || identifierOf(f.name);

/** Computed fields that ask for each other in a ring, by name; undefined where none do. */
export function loopOf(own: readonly OwnField[], start: OwnField): string[] | undefined {
  const byKey = new Map(own.filter((f) => f.kind === 'computed').map((f) => [nameInExpressions(f), f]));
  byKey.set(nameInExpressions(start), start);
  const way: string[] = [];
  const done = new Set<string>();
  const visit = (f: OwnField): string[] | undefined => {
    const key = nameInExpressions(f);
    if (way.includes(key)) return way.slice(way.indexOf(key)).map((k) => byKey.get(k)?.name ?? k);
    if (done.has(key)) return undefined;
    way.push(key);
    for (const name of namesIn(f.expression).fields) {
      const next = byKey.get(name);
      const loop = next && visit(next);
      if (loop) return loop;
    }
    way.pop();
    done.add(key);
    return undefined;
  };
  return visit(start);
}

/** All fields of a project's own making. Computed ones may ask for each other; those in a ring say so and have no values. */
export function ownFieldsOf(doc: Document, builtIn: readonly Field[]): Field[] {
  // Fields of resources, assignments and the project are no columns: rows of the plan have none of them.
  const own = [...doc.ownFields.values()].filter((f) => f.of === 'activities' || f.of === 'wbs').sort(byRank);
  const byName = new Map(builtIn.map((f) => [f.key, f]));
  const made = new Map<string, Field>();
  for (const f of own) if (f.kind !== 'computed') made.set(f.id, f.of === 'wbs' ? nodeField(f) : ownField(f));
  for (const f of own) {
    const there = made.get(f.id);
    // A name that people gave stays theirs, also where the product has got a field of that name since.
    if (there) byName.set(nameInExpressions(f), there);
  }
  const names = namesOf(doc, (name) => {
    const f = own.find((x) => x.kind === 'computed' && nameInExpressions(x) === name);
    return f ? compute(f) : byName.get(name);
  });
  const compute = (f: OwnField): Field => {
    let there = made.get(f.id);
    if (!there) {
      // In a ring nothing has a value; the fields of the ring are told.
      const loop = loopOf(own, f);
      there = computedField(f, loop ? null : names, loop);
      made.set(f.id, there);
    }
    return there;
  };
  return own.map((f) => compute(f));
}
