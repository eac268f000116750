/** Values that can be given, set by set, standing open beside the sheet: dragged onto rows, or stamped. */
import { useState } from 'react';
import { codeTree } from '@yellowhammer/core/commands/codes';
import { namedColours } from '@yellowhammer/core/fields/extras';
import { giverText, readGiver } from '@yellowhammer/core/plan/givers';
import { givable } from '@yellowhammer/core/plan/stamp';
import { codeLabel } from '@yellowhammer/core/view/groups';
import { planActions, useAppDispatch, usePlanView } from '../../app/store';
import { useSession, useTopic } from '../../project/hooks';
import { VALUE_TYPE } from '../useDropValue';
import type { TaskProps } from './types';

export function ValuesTask(_: TaskProps) {
  const session = useSession();
  useTopic('doc');
  const { doc } = session;
  const fields = givable(doc);
  const first = fields.find((f) => f.key.startsWith('code:')) ?? fields[0];
  const [key, setKey] = useState(first?.key ?? '');
  const field = fields.find((f) => f.key === key) ?? first;
  return (
    <div className="values-task">
      <select aria-label="Values of" data-autofocus value={field?.key ?? ''} onChange={(e) => setKey(e.target.value)}>
        {fields.map((f) => (
          <option key={f.key} value={f.key}>
            {f.title}
          </option>
        ))}
      </select>
      {field && <Values key={field.key} field={field} />}
      <p className="muted">
        Drag a value onto a row or a bar; onto one of several selected rows it goes to all of them. A click takes it as a stamp, Space gives it to the selected rows.
      </p>
    </div>
  );
}

function Values({ field }: { field: ReturnType<typeof givable>[number] }) {
  const { doc } = useSession();
  const { stamp } = usePlanView();
  const [amount, setAmount] = useState(field.amount?.usual ?? '');
  const textOf = (value: string): string => (field.amount ? giverText(value, amount) : value);
  const dispatch = useAppDispatch();
  const set = field.key.startsWith('code:') ? doc.codeSets.get(field.key.slice(5)) : undefined;
  const lines = set
    ? codeTree(set).map(({ value: v, depth }) => ({ text: v.short, label: codeLabel(v), depth, colour: v.colour }))
    : field.choices(doc).map((c) => ({ text: c, label: c, depth: 0, colour: namedColours[c] ?? null }));
  return (
    <>
      {field.amount && (
        <label className="values-amount">
          <span>{field.amount.title}</span>
          <input value={amount} onChange={(e) => setAmount(e.target.value)} onKeyDown={(e) => e.stopPropagation()} />
        </label>
      )}
      <ul className="value-list">
        {[...lines, ...(field.amount ? [] : [{ text: '', label: 'no value', depth: 0, colour: null }])].map((l) => {
          const on = stamp?.key === field.key && (field.amount ? readGiver(stamp.text).choice : stamp.text) === l.text;
          return (
            <li key={l.text}>
              <button
                type="button"
                className={`value-item${on ? ' on' : ''}`}
                style={{ paddingLeft: 8 + l.depth * 14 }}
                aria-pressed={on}
                draggable
                onDragStart={(e) => {
                  e.dataTransfer.setData(VALUE_TYPE, `${field.key}\n${textOf(l.text)}`);
                  e.dataTransfer.effectAllowed = 'copy';
                }}
                onClick={() => dispatch(planActions.set({ stamp: on ? null : { key: field.key, text: textOf(l.text) } }))}
              >
                {l.colour && <span className="row-colour" style={{ background: l.colour }} />}
                {l.label}
              </button>
            </li>
          );
        })}
      </ul>
    </>
  );
}
