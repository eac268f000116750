/** The levels of groups: by which fields, dates by which span, numbers by which step. */
import './see.css';
import { IconArrowUp, IconX } from '@tabler/icons-react';
import { fieldOf, fieldsOf } from '@yellowhammer/core/fields/list';
import type { Field } from '@yellowhammer/core/fields/field';
import type { Document } from '@yellowhammer/core/model/document';
import { type Level, spans } from '@yellowhammer/core/model/view-schema';

const stepped = (f: Field | undefined): boolean => f !== undefined && ['number', 'money', 'percent', 'duration', 'days', 'difference'].includes(f.kind);
/** True of what lies in one another: some of its levels may be enough. */
const deep = (doc: Document, key: string): boolean =>
  key === 'wbs' || (key.startsWith('code:') && (doc.codeSets.get(key.slice(5))?.values.some((v) => v.parentId !== null) ?? false));

/** Levels in words: `Area, then Trade`. */
export const groupWords = (doc: Document, groups: readonly Level[]): string =>
  groups
    .map(
      (g) =>
        `${g.key === 'wbs' ? 'WBS' : (fieldOf(doc, g.key)?.title ?? 'a field that is not here')}${g.span && fieldOf(doc, g.key)?.kind === 'date' ? ` by ${g.span}` : ''}${g.levels ? ` to level ${g.levels}` : ''}`,
    )
    .join(', then ');

const levelOf = (doc: Document, key: string): Level => {
  const f = fieldOf(doc, key);
  return f?.kind === 'date'
    ? { key, span: 'month' }
    : f && stepped(f) && f.kind !== 'number'
      ? { key, step: f.kind === 'money' ? 10_000 : f.kind === 'percent' ? 25 : 5 }
      : { key };
};

export function GroupBuilder({ doc, groups, onChange }: { doc: Document; groups: readonly Level[]; onChange: (groups: Level[]) => void }) {
  const all = [...fieldsOf(doc).values()].filter((f) => f.key !== 'code' && f.key !== 'name' && f.kind !== 'links');
  const heads = [...new Set(all.map((f) => f.group))];
  // Codes are what plans are mostly grouped by, so they stand first.
  heads.sort((a, b) => Number(b === 'Codes') - Number(a === 'Codes'));
  const put = (i: number, level: Level | null): void => onChange(groups.flatMap((g, k) => (k === i ? (level ? [level] : []) : [g])));
  const options = heads.map((h) => (
    <optgroup key={h} label={h}>
      {all
        .filter((f) => f.group === h)
        .map((f) => (
          <option key={f.key} value={f.key}>
            {f.title}
          </option>
        ))}
    </optgroup>
  ));
  return (
    <div className="group-builder">
      {groups.map((g, i) => {
        const f = fieldOf(doc, g.key);
        return (
          <div key={`${i} ${g.key}`} className="filter-line">
            <span className="muted group-word">{i === 0 ? 'Group by' : 'then by'}</span>
            <select aria-label={`Field of level ${i + 1}`} value={g.key} onChange={(e) => put(i, levelOf(doc, e.target.value))}>
              {options}
            </select>
            {f?.kind === 'date' && (
              <select aria-label={`Span of level ${i + 1}`} value={g.span ?? 'month'} onChange={(e) => put(i, { ...g, span: e.target.value as NonNullable<Level['span']> })}>
                {spans.map((s) => (
                  <option key={s} value={s}>
                    by {s}
                  </option>
                ))}
              </select>
            )}
            {deep(doc, g.key) && (
              <label className="group-step">
                levels{' '}
                <input
                  aria-label={`Depth of level ${i + 1}`}
                  type="number"
                  min={1}
                  max={20}
                  placeholder="all"
                  value={g.levels ?? ''}
                  onChange={(e) => {
                    const { levels: _, ...rest } = g;
                    const n = Math.round(Number(e.target.value));
                    put(i, n >= 1 ? { ...rest, levels: Math.min(n, 20) } : rest);
                  }}
                />
              </label>
            )}
            {stepped(f) && (
              <label className="group-step">
                in steps of{' '}
                <input
                  aria-label={`Step of level ${i + 1}`}
                  type="number"
                  min={0}
                  step="any"
                  placeholder="each value"
                  value={g.step ?? ''}
                  onChange={(e) => {
                    const { step: _, ...rest } = g;
                    put(i, Number(e.target.value) > 0 ? { ...rest, step: Number(e.target.value) } : rest);
                  }}
                />
              </label>
            )}
            {i > 0 && (
              <button
                type="button"
                className="plain-button"
                aria-label={`Level ${i + 1} one up`}
                onClick={() => {
                  const next = [...groups];
                  next.splice(i - 1, 2, groups[i]!, groups[i - 1]!);
                  onChange(next);
                }}
              >
                <IconArrowUp size={13} stroke={1.6} />
              </button>
            )}
            <button type="button" className="plain-button" aria-label={`Take level ${i + 1} away`} onClick={() => put(i, null)}>
              <IconX size={13} stroke={1.6} />
            </button>
          </div>
        );
      })}
      {groups.length < 6 && (
        <div className="filter-line">
          <span className="muted group-word">{groups.length ? 'then by' : 'Group by'}</span>
          <select aria-label="Another level" data-autofocus value="" onChange={(e) => e.target.value && onChange([...groups, levelOf(doc, e.target.value)])}>
            <option value="">{groups.length ? 'nothing more' : 'the WBS as it is'}</option>
            {options}
          </select>
        </div>
      )}
    </div>
  );
}
