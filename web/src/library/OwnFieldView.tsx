/** A field of people's own: its kind, unit, choices, what new activities have; and which activities have something in it. */
import { Checkbox } from '@mantine/core';
import { useState } from 'react';
import { deleteOwnField, editOwnField, fillStandard, ownKindNames, ownUses, sumNames } from '@yellowhammer/core/commands/own-fields';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { nameInExpressions, readOwn } from '@yellowhammer/core/fields/own';
import { plainActivity } from '@yellowhammer/core/commands/outline';
import { type OwnField, type OwnKind, ownKinds, sums } from '@yellowhammer/core/model/schema';
import { CommitField } from '../app/CommitField';
import { ExpressionField } from './ExpressionField';
import { useDoc, useSession } from '../project/hooks';
import { taken, Users } from './CodeSetView';

export function OwnFieldView({ field: f }: { field: OwnField }) {
  const session = useSession();
  const { doc } = useDoc();
  const [asked, setAsked] = useState<{ words: string; fields: Partial<OwnField> } | null>(null);
  const run = (o: Outcome): boolean => session.run(o);
  const users = ownUses(doc, f.id);
  /** Changes the field; where values would be lost, that is asked first. */
  const change = (fields: Partial<OwnField>): string | null => {
    const o = editOwnField(doc, f.id, fields);
    if (!o.ok && o.problems[0]!.code === 'IN_USE') {
      setAsked({ words: o.problems[0]!.message, fields });
      return null;
    }
    return taken(run, o);
  };
  const standard = (text: string): string | null => {
    const r = readOwn(f, text, { doc, a: plainActivity('', '', 0) });
    return 'error' in r ? r.error : change({ standard: r.value });
  };
  return (
    <main className="library-main" aria-label={`Field ${f.name}`}>
      <div className="library-title">
        <CommitField of={f.id} aria-label="Name of the field" value={f.name} onCommit={(name) => change({ name })} />
        <button type="button" className="chip" onClick={() => run(deleteOwnField(doc, f.id))}>
          Delete the field
        </button>
      </div>
      <CommitField of={f.id} size="xs" aria-label="Description" placeholder="What it is for" value={f.about} onCommit={(about) => change({ about })} />
      {asked && (
        <div className="code-instead" role="alert">
          <span>{asked.words}</span>
          <button
            type="button"
            className="dark-button"
            onClick={() => {
              run(editOwnField(doc, f.id, asked.fields, true));
              setAsked(null);
            }}
          >
            Change it and drop them
          </button>
          <button type="button" className="link-button" onClick={() => setAsked(null)}>
            Leave it as it is
          </button>
        </div>
      )}
      <div className="own-grid">
        <label>
          <span>Kind</span>
          <select value={f.kind} onChange={(e) => change({ kind: e.target.value as OwnKind })}>
            {ownKinds.map((k) => (
              <option key={k} value={k}>
                {ownKindNames[k]}
              </option>
            ))}
          </select>
        </label>
        {(f.kind === 'number' || f.kind === 'computed') && (
          <CommitField of={f.id} size="xs" label="Unit" placeholder="m, t, pieces" value={f.unit} onCommit={(unit) => change({ unit })} />
        )}
        {f.kind === 'choice' && (
          <CommitField of={f.id} size="xs" label="Choices" placeholder="parted by commas" value={f.choices.join(', ')} onCommit={(text) => change({ choices: text.split(',') })} />
        )}
        <CommitField of={f.id} size="xs" label="Name in expressions" value={nameInExpressions(f)} onCommit={(key) => change({ key: key.trim() })} />
        {f.kind !== 'computed' && (
          <CommitField
            of={`${f.id} ${f.kind}`}
            size="xs"
            label="New activities have"
            placeholder="nothing"
            value={f.standard === null ? '' : typeof f.standard === 'boolean' ? (f.standard ? 'yes' : 'no') : String(f.standard)}
            onCommit={standard}
          />
        )}
        <label>
          <span>Nodes and groups show</span>
          <select value={f.sum} onChange={(e) => change({ sum: e.target.value as OwnField['sum'] })}>
            {sums
              .filter((s) => s !== 'again' || f.kind === 'computed')
              .map((s) => (
                <option key={s} value={s}>
                  {sumNames[s]}
                </option>
              ))}
          </select>
        </label>
        {f.kind !== 'computed' && (
          <Checkbox
            size="xs"
            label="Needed: the plan check lists activities without it"
            checked={f.required}
            onChange={(e) => void change({ required: e.currentTarget.checked })}
          />
        )}
      </div>
      {f.kind === 'computed' && <ExpressionField field={f} onCommit={(expression) => change({ expression })} />}
      {f.kind !== 'computed' && f.standard !== null && users.length < doc.activities.size && (
        <div className="library-actions">
          <button type="button" className="chip" onClick={() => run(fillStandard(doc, f.id))}>
            Give it to the {doc.activities.size - users.length} activities without a value
          </button>
        </div>
      )}
      {f.kind !== 'computed' && <Users title="Where it is used" groups={users.length ? [{ name: '', ids: users.map((a) => a.id) }] : []} />}
    </main>
  );
}
