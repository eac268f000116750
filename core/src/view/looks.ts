/** How bars are drawn: by rules, by the colours of a field's values, by hand; and the legend that follows from what is drawn. */
import { namedColours } from '../fields/extras.ts';
import { type ActivityCell, type Field, type FieldContext, showField } from '../fields/field.ts';
import { activityCell, fieldOf } from '../fields/list.ts';
import type { Document } from '../model/document.ts';
import type { Activity } from '../model/schema.ts';
import type { BarTexts, Hatching, LookRule } from '../model/view-schema.ts';
import { filterTest, type Test } from './filter.ts';
import { codeLabel } from './groups.ts';

export interface Paint {
  /** Null: as the product has it. */
  colour: string | null;
  hatching: Hatching;
  height: LookRule['height'];
  texts: BarTexts | null;
  /** Its line of the legend; null: it needs none. */
  name: string | null;
}

export const plain: Paint = { colour: null, hatching: 'none', height: 'usual', texts: null, name: null };

const colours = Object.values(namedColours);
const patterns: Hatching[] = ['none', 'rising', 'crossed', 'dotted', 'falling', 'upright'];

/** A colour, and beyond the list of them a hatching, for a place among values: legible in grey and apart for colour-blind people by the hatching. */
export const paintAt = (n: number): Pick<Paint, 'colour' | 'hatching'> => ({
  colour: colours[n % colours.length] ?? null,
  hatching: patterns[Math.floor(n / colours.length) % patterns.length] ?? 'none',
});

/** Fields by whose values bars can be coloured. */
export const colouring = (f: Field): boolean => f.kind === 'choice' || f.kind === 'yesNo' || (f.kind === 'text' && f.group === 'Own fields');

/** The paint of a row by the value that it has in a field; undefined where it has none. */
function byField(f: Field, context: FieldContext): (cell: ActivityCell) => Paint | undefined {
  const { doc } = context;
  const set = f.key.startsWith('code:') ? doc.codeSets.get(f.key.slice(5)) : undefined;
  const known = new Map<string, Paint>();
  const places = new Map((f.choices?.(doc) ?? []).filter(Boolean).map((c, i) => [c, i]));
  if (!set && places.size === 0) {
    // Places by the order of the texts, so that a colour does not follow from which row is drawn first.
    const texts = new Set<string>();
    for (const a of doc.activities.values()) {
      const text = showField(f, activityCell(context, a));
      if (text) texts.add(text);
    }
    [...texts].sort((a, b) => (a < b ? -1 : 1)).forEach((t, i) => places.set(t, i));
  }
  return (cell) => {
    const text = showField(f, cell);
    if (text === '') return undefined;
    let paint = known.get(text);
    if (!paint) {
      const at = set ? set.values.findIndex((v) => v.short === text) : -1;
      const value = set?.values[at];
      // A value without a colour of its own takes that of what it lies in.
      let colour = value?.colour ?? null;
      for (let p = value?.parentId ?? null, n = 0; colour === null && p !== null && n < 50; n++) {
        const parent = set?.values.find((v) => v.id === p);
        colour = parent?.colour ?? null;
        p = parent?.parentId ?? null;
      }
      const other = paintAt(set ? Math.max(0, at) : (places.get(text) ?? places.size));
      paint = { ...plain, ...(colour ? { colour } : other), name: value ? codeLabel(value) : text };
      known.set(text, paint);
    }
    return paint;
  };
}

/** A rule of a look, ready to be asked. */
interface Rule {
  test: Test;
  paint: (cell: ActivityCell) => Paint;
}

export interface LookChoice {
  look: string | null;
  colourBy: string | null;
}

/**
 * How each activity is drawn. A colour given by hand wins; then the first rule that fits of a look of its own; then of the
 * look of the view; then the colour of the field that is coloured by.
 */
export function painter(context: FieldContext, { look, colourBy }: LookChoice): (a: Activity) => Paint {
  const { doc } = context;
  const ruleOf = (rule: LookRule): Rule => {
    const f = rule.colourBy === null ? undefined : fieldOf(doc, rule.colourBy);
    const by = f && byField(f, context);
    const own: Paint = { colour: rule.colour, hatching: rule.hatching, height: rule.height, texts: rule.texts, name: rule.name || null };
    return {
      test: filterTest(rule.filter, context),
      paint(cell) {
        const coloured = by?.(cell);
        return coloured ? { ...own, colour: coloured.colour, hatching: own.hatching === 'none' ? coloured.hatching : own.hatching, name: coloured.name } : own;
      },
    };
  };
  const known = new Map<string, readonly Rule[]>();
  const rulesOf = (id: string | null): readonly Rule[] => {
    if (id === null) return [];
    let rules = known.get(id);
    if (!rules) known.set(id, (rules = (doc.looks.get(id)?.rules ?? []).map(ruleOf)));
    return rules;
  };
  const rules = rulesOf(look);
  const f = colourBy === null ? undefined : fieldOf(doc, colourBy);
  const by = f && byField(f, context);
  return (a) => {
    if (rules.length === 0 && !by && a.lookId === null) return a.colour === null ? plain : { ...plain, colour: a.colour };
    const cell = activityCell(context, a);
    const fits = rulesOf(a.lookId).find((r) => r.test(cell)) ?? rules.find((r) => r.test(cell));
    const paint = fits ? fits.paint(cell) : (by?.(cell) ?? plain);
    return a.colour === null ? paint : { ...paint, colour: a.colour, hatching: 'none', name: null };
  };
}

/** The lines of a legend: each way of drawing that some of these activities have, in the order in which it is first met. */
export function legendOf(doc: Document, ids: Iterable<string>, paint: (a: Activity) => Paint): Paint[] {
  const lines = new Map<string, Paint>();
  for (const id of ids) {
    const a = doc.activities.get(id);
    const p = a && paint(a);
    if (p?.name) lines.set(`${p.name} ${p.colour} ${p.hatching}`, p);
  }
  return [...lines.values()].sort((a, b) => ((a.name ?? '') < (b.name ?? '') ? -1 : 1));
}
