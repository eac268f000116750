/** Fields of people's own in a row that is no row of the sheet: a WBS node, a resource, an assignment, the project. */
import { setOwn } from '@yellowhammer/core/commands/own-fields';
import { ownChoices, ownEditText, calendared, type OwnedRow, ownFieldsFor, ownText } from '@yellowhammer/core/fields/own-values';
import type { OwnField, OwnOf } from '@yellowhammer/core/model/schema';
import { ownKey } from '@yellowhammer/core/model/values';
import { useDoc, useSession } from '../project/hooks';
import { CommitField } from './CommitField';

/** A field for each that the table has; nothing where it has none. `inherited`: what an empty one has from elsewhere. */
export function OwnValues({ of, row, inherited, size = 'xs' }: { of: OwnOf; row: OwnedRow; inherited?: (f: OwnField) => string; size?: 'xs' | 'sm' }) {
  const { doc } = useDoc();
  return ownFieldsFor(doc, of).map((f) => <OwnInput key={f.id} row={row} field={f} without={inherited?.(f) ?? ''} size={size} />);
}

function OwnInput({ row, field: f, without, size }: { row: OwnedRow; field: OwnField; without: string; size: 'xs' | 'sm' }) {
  const session = useSession();
  const { doc } = session;
  const stored = row.values[ownKey(f.id)];
  const choices = ownChoices(f);
  const set = (text: string): string | null => {
    const o = setOwn(session.doc, f.id, row.id, text);
    if (!o.ok) return o.problems[0]!.message;
    session.run(o);
    return null;
  };
  const label = f.unit ? `${f.name} (${f.unit})` : f.name;
  if (choices)
    return (
      <label className="own-choice">
        <span>{label}</span>
        <select value={ownText(f, stored, doc, calendared(row))} onChange={(e) => void set(e.target.value)}>
          {choices.map((c) => (
            <option key={c} value={c}>
              {c || without || 'none'}
            </option>
          ))}
        </select>
      </label>
    );
  return <CommitField of={`${row.id} ${f.id}`} size={size} label={label} placeholder={without} value={ownEditText(f, stored, doc, calendared(row))} onCommit={set} />;
}
