/** A field of people's own: what it belongs to, its kind, unit, choices, what new rows have; and which rows have something in it. */
import { Checkbox } from '@mantine/core';
import { useState } from 'react';
import { deleteOwnField, editOwnField, fillStandard, inSheet, ownedCount, ownersOf, ownKindNames, ownUses, sumNames } from '@yellowhammer/core/commands/own-fields';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { nameInExpressions } from '@yellowhammer/core/fields/own';
import { readOwn, rowsOfOwn } from '@yellowhammer/core/fields/own-values';
import { labelOfRow, tables } from '@yellowhammer/core/model/tables';
import { type OwnField, type OwnKind, ownKinds, ownOf, type OwnOf, sums } from '@yellowhammer/core/model/schema';
import { CommitField } from '../app/CommitField';
import { ExpressionField } from './ExpressionField';
import { useDoc, useSession } from '../project/hooks';
import { MOST_NAMED, taken, Users } from './CodeSetView';

/** Where its values are typed and seen. */
const placeOf: Record<OwnOf, string> = {
  activities: 'A column of Plan; also in the inspector of an activity.',
  wbs: 'A column of Plan, typed in the rows of WBS nodes, and in their inspector. What lies in a node has it, too: filters, groups and colours go by it.',
  resources: 'On the page of each resource in the Library, and a head of the list that is pasted there.',
  assignments: 'In the inspector of an activity, under each of its assignments.',
  project: 'In the project settings.',
};

export function OwnFieldView({ field: f }: { field: OwnField }) {
  const session = useSession();
  const { doc } = useDoc();
  const [asked, setAsked] = useState<{ words: string; fields: Partial<OwnField> } | null>(null);
  const run = (o: Outcome): boolean => session.run(o);
  const users = ownUses(doc, f.id);
  const rows = rowsOfOwn(doc, f.of);
  const { words } = tables[f.of];
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
    const r = readOwn(f, text, doc, { calendarId: null });
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
          <span>Belongs to</span>
          <select value={f.of} disabled={f.kind === 'computed'} onChange={(e) => change({ of: e.target.value as OwnOf })}>
            {ownOf.map((t) => (
              <option key={t} value={t}>
                {ownersOf(t)}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span>Kind</span>
          <select value={f.kind} onChange={(e) => change({ kind: e.target.value as OwnKind })}>
            {ownKinds
              .filter((k) => k !== 'computed' || f.of === 'activities')
              .map((k) => (
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
        {inSheet(f.of) && <CommitField of={f.id} size="xs" label="Name in expressions" value={nameInExpressions(f)} onCommit={(key) => change({ key: key.trim() })} />}
        {f.kind !== 'computed' && f.of !== 'project' && (
          <CommitField
            of={`${f.id} ${f.kind}`}
            size="xs"
            label={`New ${words} have`}
            placeholder="nothing"
            value={f.standard === null ? '' : typeof f.standard === 'boolean' ? (f.standard ? 'yes' : 'no') : String(f.standard)}
            onCommit={standard}
          />
        )}
        {f.of === 'activities' && (
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
        )}
        {f.kind !== 'computed' && (
          <Checkbox
            size="xs"
            label={f.of === 'project' ? 'Needed: the plan check says so where it is empty' : `Needed: the plan check lists ${words} without it`}
            checked={f.required}
            onChange={(e) => void change({ required: e.currentTarget.checked })}
          />
        )}
      </div>
      {f.kind === 'computed' && <ExpressionField field={f} onCommit={(expression) => change({ expression })} />}
      {f.kind !== 'computed' && f.standard !== null && users.length < rows.length && (
        <div className="library-actions">
          <button type="button" className="chip" onClick={() => run(fillStandard(doc, f.id))}>
            Give it to the {ownedCount(f.of, rows.length - users.length)} without a value
          </button>
        </div>
      )}
      <p className="muted">{placeOf[f.of]}</p>
      {f.kind !== 'computed' && f.of === 'activities' && <Users title="Where it is used" groups={users.length ? [{ name: '', ids: users.map((a) => a.id) }] : []} />}
      {f.of !== 'activities' && users.length > 0 && (
        <section aria-label="Where it is used">
          <h3>Where it is used</h3>
          <p className="code-users">
            {users
              .slice(0, MOST_NAMED)
              .map((r) => labelOfRow(f.of, r, doc))
              .join(', ')}
            {users.length > MOST_NAMED && <span className="muted"> and {users.length - MOST_NAMED} more</span>}
          </p>
        </section>
      )}
    </main>
  );
}
