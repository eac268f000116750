/** Conditions that read like a sentence, each with a field, a comparison and what it is compared with. What is not complete yet filters nothing. */
import './see.css';
import { IconPlus, IconX } from '@tabler/icons-react';
import { useId, useState } from 'react';
import type { Field } from '@yellowhammer/core/fields/field';
import { builtIn, fieldOf, fieldsOf } from '@yellowhammer/core/fields/list';
import { type Document, ordered } from '@yellowhammer/core/model/document';
import type { ComparisonName, Condition, Filter } from '@yellowhammer/core/model/view-schema';
import { wbsCodes } from '@yellowhammer/core/outline/outline';
import { isGroup, keptFields, operandsOf } from '@yellowhammer/core/view/filter';
import { comparisonsOf, comparisonWords, readOperand, showOperand } from '@yellowhammer/core/view/operands';

/** A condition as it is being typed. */
interface Line {
  id: number;
  field: string;
  is: ComparisonName;
  texts: string[];
}
interface Block {
  id: number;
  match: Filter['match'];
  of: (Line | Block)[];
}
const isBlock = (x: Line | Block): x is Block => 'match' in x;
let ids = 0;

function blockOf(doc: Document, filter: Filter): Block {
  return {
    id: ++ids,
    match: filter.match,
    of: filter.of.map((p): Line | Block => {
      if (isGroup(p)) return blockOf(doc, p);
      const f = fieldOf(doc, p.field);
      return { id: ++ids, field: p.field, is: p.is, texts: f ? p.values.map((v) => showOperand(doc, f, v, p.is)) : p.values.map(String) };
    }),
  };
}

/** What is complete of a block as a filter, and what is wrong by line. */
function filterOfBlock(doc: Document, block: Block, wrong: Map<number, string>): Filter {
  const of = block.of.flatMap((x): (Condition | Filter)[] => {
    if (isBlock(x)) {
      const inner = filterOfBlock(doc, x, wrong);
      return inner.of.length ? [inner] : [];
    }
    const f = fieldOf(doc, x.field);
    if (!f) return [];
    const count = operandsOf(x.is);
    const texts =
      count === null
        ? (x.texts[0] ?? '')
            .split(',')
            .map((t) => t.trim())
            .filter(Boolean)
        : x.texts.slice(0, count);
    if (count === null ? texts.length === 0 : texts.length < count || texts.some((t) => t.trim() === '')) return [];
    const values = [];
    for (const t of texts) {
      const r = readOperand(doc, f, t, x.is);
      if ('error' in r) {
        wrong.set(x.id, r.error);
        return [];
      }
      values.push(r.value);
    }
    return [{ field: x.field, is: x.is, values }];
  });
  return { match: block.match, of };
}

const dates = ['data date', 'data date + 2 weeks', 'data date - 1 week', 'today', 'start of this week', 'start of this month', 'start of this month + 1 month'];

/** What can be chosen as a value of a condition; empty: it is typed. */
function choicesFor(doc: Document, f: Field, is: ComparisonName): string[] {
  if (is === 'changed') return ordered(doc, 'snapshots').map((s) => s.name);
  if (f.key === 'wbs') return [...wbsCodes(doc)].map(([id, code]) => `${code} ${doc.wbs.get(id)?.name ?? ''}`.trim());
  if (f.kind === 'date') return dates;
  if (is === 'contains' || is === 'containsNot' || is === 'starts') return [];
  return (f.choices?.(doc) ?? []).filter((c) => c !== '');
}

/** What a new condition begins with. */
const nameField = builtIn.find((f) => f.key === 'name') as Field;

const starting = (doc: Document, f: Field): Line => {
  const is = comparisonsOf(f, false)[0]!;
  return {
    id: ++ids,
    field: f.key,
    is,
    texts: f.kind === 'yesNo' ? ['yes'] : [choicesFor(doc, f, is).length && f.kind !== 'date' && f.key !== 'wbs' ? choicesFor(doc, f, is)[0]! : ''],
  };
};

interface LineProps {
  doc: Document;
  line: Line;
  error: string | undefined;
  first: boolean;
  onChange: (line: Line) => void;
  onRemove: () => void;
}

function ConditionLine({ doc, line, error, first, onChange, onRemove }: LineProps) {
  const list = useId();
  const f = fieldOf(doc, line.field);
  const all = [...fieldsOf(doc).values()];
  const groups = [...new Set(all.map((x) => x.group))];
  const is = f ? comparisonsOf(f, keptFields[f.key] !== undefined && doc.snapshots.size > 0) : [];
  const count = operandsOf(line.is);
  const choices = f ? choicesFor(doc, f, line.is) : [];
  const value = (i: number) => {
    const set = (text: string): void => onChange({ ...line, texts: Object.assign([...line.texts], { [i]: text }) });
    const label = `Value${i ? ' up to' : ''}`;
    if (f?.kind === 'yesNo')
      return (
        <select aria-label={label} value={line.texts[0] ?? 'yes'} onChange={(e) => set(e.target.value)}>
          <option>yes</option>
          <option>no</option>
        </select>
      );
    return (
      <input
        key={i}
        aria-label={label}
        value={line.texts[i] ?? ''}
        list={choices.length ? list : undefined}
        placeholder={f?.kind === 'date' ? 'data date + 2 weeks' : count === null ? 'one, another' : ''}
        onChange={(e) => set(e.target.value)}
      />
    );
  };
  return (
    <div className="filter-line">
      <select
        aria-label="Field"
        data-autofocus={first || undefined}
        value={line.field}
        onChange={(e) => {
          const next = fieldOf(doc, e.target.value);
          if (next) onChange({ ...starting(doc, next), id: line.id });
        }}
      >
        {!f && <option value={line.field}>a field that is not here</option>}
        {groups.map((g) => (
          <optgroup key={g} label={g}>
            {all
              .filter((x) => x.group === g)
              .map((x) => (
                <option key={x.key} value={x.key}>
                  {x.key === 'code' ? 'Number' : x.key === 'name' ? 'Name' : x.title}
                </option>
              ))}
          </optgroup>
        ))}
      </select>
      <select aria-label="Comparison" value={line.is} onChange={(e) => onChange({ ...line, is: e.target.value as ComparisonName })}>
        {is.map((x) => (
          <option key={x} value={x}>
            {comparisonWords(x, f?.kind === 'date')}
          </option>
        ))}
      </select>
      {count !== 0 && value(0)}
      {count === 2 && <span className="muted">and</span>}
      {count === 2 && value(1)}
      <button type="button" className="plain-button" aria-label="Take this condition away" onClick={onRemove}>
        <IconX size={13} stroke={1.6} />
      </button>
      {choices.length > 0 && (
        <datalist id={list}>
          {choices.map((c) => (
            <option key={c} value={c} />
          ))}
        </datalist>
      )}
      {error && (
        <span className="filter-error" role="alert">
          {error}
        </span>
      )}
    </div>
  );
}

function BlockView({
  doc,
  block,
  wrong,
  top,
  onChange,
  onRemove,
}: {
  doc: Document;
  block: Block;
  wrong: ReadonlyMap<number, string>;
  top: string | null;
  onChange: (b: Block) => void;
  onRemove?: () => void;
}) {
  const replace = (id: number, next: (Line | Block) | null): void => onChange({ ...block, of: block.of.flatMap((x) => (x.id === id ? (next ? [next] : []) : [x])) });
  const add = (x: Line | Block): void => onChange({ ...block, of: [...block.of, x] });
  return (
    <div className={`filter-block${top ? ' top' : ''}`} role="group" aria-label={top ? 'Conditions' : 'Conditions within'}>
      <div className="filter-lead">
        {top ?? 'and'}{' '}
        <select aria-label="How many of them" value={block.match} onChange={(e) => onChange({ ...block, match: e.target.value as Filter['match'] })}>
          <option value="all">all of these hold</option>
          <option value="any">any of these holds</option>
          <option value="none">none of these holds</option>
        </select>
        {onRemove && (
          <button type="button" className="plain-button" aria-label="Take these conditions away" onClick={onRemove}>
            <IconX size={13} stroke={1.6} />
          </button>
        )}
      </div>
      {block.of.map((x, i) =>
        isBlock(x) ? (
          <BlockView key={x.id} doc={doc} block={x} wrong={wrong} top={null} onChange={(b) => replace(x.id, b)} onRemove={() => replace(x.id, null)} />
        ) : (
          <ConditionLine
            key={x.id}
            doc={doc}
            line={x}
            first={top !== null && i === 0}
            error={wrong.get(x.id)}
            onChange={(l) => replace(x.id, l)}
            onRemove={() => replace(x.id, null)}
          />
        ),
      )}
      <div className="filter-adds">
        <button type="button" className="chip" onClick={() => add(starting(doc, nameField))}>
          <IconPlus size={12} stroke={1.8} /> Condition
        </button>
        <button type="button" className="chip" onClick={() => add({ id: ++ids, match: block.match === 'any' ? 'all' : 'any', of: [starting(doc, nameField)] })}>
          <IconPlus size={12} stroke={1.8} /> Conditions within
        </button>
      </div>
    </div>
  );
}

export function FilterBuilder({
  doc,
  filter,
  onChange,
  lead = 'Show activities for which',
}: {
  lead?: string;
  doc: Document;
  filter: Filter | null;
  onChange: (filter: Filter | null) => void;
}) {
  const [block, setBlock] = useState(() => (filter ? blockOf(doc, filter) : { id: ++ids, match: 'all' as const, of: [starting(doc, nameField)] }));
  const wrong = new Map<number, string>();
  filterOfBlock(doc, block, wrong);
  const change = (next: Block): void => {
    setBlock(next);
    const made = filterOfBlock(doc, next, new Map());
    onChange(made.of.length ? made : null);
  };
  return <BlockView doc={doc} block={block} wrong={wrong} top={lead} onChange={change} />;
}
