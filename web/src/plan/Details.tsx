import { Modal, Select } from '@mantine/core';
import { type ReactNode, useState } from 'react';
import { cellText, setActivities, setCells } from '@yellowhammer/core/commands/cells';
import type { Outcome } from '@yellowhammer/core/commands/result';
import type { Field } from '@yellowhammer/core/fields/field';
import { fieldsOf } from '@yellowhammer/core/fields/list';
import { ordered } from '@yellowhammer/core/model/document';
import { CommitField } from '../app/CommitField';
import type { Chosen } from '../app/panel';
import { usePreview } from '../app/Preview';
import { newId, useDoc, useSession } from '../project/hooks';

/** A text that is the same for all, or null where it is mixed. */
const shared = (list: readonly string[]): string | null => (list.every((t) => t === list[0]) ? (list[0] ?? '') : null);

const examples: Record<string, string> = { duration: '10d', constraint: 'start not before 12 mar', deadline: '12 mar 2027', percent: '45%' };

/** Every field of the list that can be typed here, over all selected activities at once. */
export function Details({ activities }: Chosen) {
  const session = useSession();
  const { doc } = useDoc();
  const ids = activities.map((a) => a.id);
  const preview = usePreview();
  const [question, setQuestion] = useState<{ text: string; choices: { label: string; outcome: Outcome }[] } | null>(null);
  /** Takes a text over; a message where it cannot be. */
  const commit = (f: Field, text: string): string | null => {
    const outcome = setCells(doc, ids, f.key, text, newId, session.view);
    if (!outcome.ok && outcome.choices) {
      setQuestion({ text: outcome.problems[0]!.message, choices: outcome.choices });
      return null;
    }
    if (!outcome.ok) return outcome.problems[0]!.message;
    session.run(outcome);
    return null;
  };
  const input = (f: Field): ReactNode => {
    const text = shared(activities.map((a) => cellText(doc, a, f.key, session.view)));
    if (f.key === 'calendar')
      return (
        <Select
          key={f.key}
          label={f.title}
          size="xs"
          placeholder={text === null ? 'mixed' : undefined}
          value={shared(activities.map((a) => a.calendarId ?? ''))}
          data={[{ value: '', label: "the project's" }, ...ordered(doc, 'calendars').map((c) => ({ value: c.id, label: c.name }))]}
          // Where dates move, before and after are shown first.
          onChange={(v) => preview.ask(setActivities(doc, ids, { calendarId: v || null }), true)}
        />
      );
    if (f.kind === 'choice' && f.choices)
      return (
        <Select
          key={f.key}
          label={f.title}
          size="xs"
          placeholder="mixed"
          value={text}
          data={[...f.choices(doc)]}
          onChange={(v) => {
            const error = v === null ? null : commit(f, v);
            if (error) session.onNotice({ tone: 'problem', title: 'Not done', text: error });
          }}
        />
      );
    return (
      <CommitField
        key={`${ids.join()} ${f.key}`}
        label={f.title}
        size="xs"
        placeholder={text === null ? 'mixed' : (examples[f.key] ?? '')}
        value={text ?? ''}
        onCommit={(typed) => commit(f, typed)}
      />
    );
  };
  return (
    <div className="detail-grid">
      {preview.element}
      {question && (
        <Modal opened onClose={() => setQuestion(null)} title="Which is meant?" size="sm">
          <p>{question.text}</p>
          <div className="form-stack">
            {question.choices.map((c) => (
              <button
                key={c.label}
                type="button"
                className="light-button"
                onClick={() => {
                  session.run(c.outcome);
                  setQuestion(null);
                }}
              >
                {c.label}
              </button>
            ))}
          </div>
        </Modal>
      )}
      {[...fieldsOf(doc).values()].filter((f) => f.inspector).map(input)}
    </div>
  );
}
