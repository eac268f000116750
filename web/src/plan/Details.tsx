import { Modal, Select } from '@mantine/core';
import { memo, useCallback, useRef, useState } from 'react';
import { cellText, setCells } from '@yellowhammer/core/commands/cells';
import type { Outcome } from '@yellowhammer/core/commands/result';
import type { Field } from '@yellowhammer/core/fields/field';
import { fieldsOf } from '@yellowhammer/core/fields/list';
import type { Document } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import type { ScheduleView } from '@yellowhammer/core/schedule/view';
import { CommitField } from '../app/CommitField';
import type { Chosen } from '../app/panel';
import { usePreview } from '../app/Preview';
import { newId, useSession } from '../project/hooks';

/** The text of a field that is the same for all, or null where it is mixed. Thousands may be selected, so stored values are compared before texts are made. */
function shared(doc: Document, activities: readonly Activity[], f: Field, view: ScheduleView | null): string | null {
  const first = activities[0];
  if (!first) return '';
  const { stored } = f;
  if (stored !== undefined && f.key !== 'constraint') {
    // The same minutes are other days on another calendar.
    const alike = (a: Activity): boolean => a[stored] === first[stored] && (f.kind !== 'duration' || (a.calendarId === first.calendarId && a.type === first.type));
    return activities.every(alike) ? cellText(doc, first, f.key, view) : null;
  }
  const text = cellText(doc, first, f.key, view);
  return activities.every((a) => cellText(doc, a, f.key, view) === text) ? text : null;
}

const examples: Record<string, string> = { duration: '10d', constraint: 'start not before 12 mar', deadline: '12 mar 2027', percent: '45%' };

interface InputProps {
  f: Field;
  /** The text of all selected rows; null where they differ. */
  text: string | null;
  /** What is chosen from, a line each; null where it is typed. */
  choices: string | null;
  /** Changes with what is selected: what was being typed belongs to the rows before. Undefined where nothing is typed. */
  of: string | undefined;
  onCommit: (f: Field, text: string) => string | null;
}

/** One field. Drawn anew only when its own text changes: a dozen of these are most of what an edit would redraw. */
const FieldInput = memo(function FieldInput({ f, text, choices, of, onCommit }: InputProps) {
  if (choices === null)
    return (
      <CommitField of={of} label={f.title} size="xs" placeholder={text === null ? 'mixed' : (examples[f.key] ?? '')} value={text ?? ''} onCommit={(typed) => onCommit(f, typed)} />
    );
  const data = choices.split('\n').map((label) => ({ value: label, label: label || (f.key === 'calendar' ? "the project's" : 'none') }));
  return <Select label={f.title} size="xs" placeholder={text === null ? 'mixed' : undefined} value={text} data={data} onChange={(v) => v !== null && onCommit(f, v)} />;
});

/** Fields of the product that can be typed here. */
export const Details = ({ activities }: Chosen) => <FieldGrid activities={activities} made={false} />;
/** Code sets and fields of people's own. */
export const CodesAndFields = ({ activities }: Chosen) => <FieldGrid activities={activities} made />;

/** Fields of the list, over all selected activities at once. */
function FieldGrid({ activities, made }: Pick<Chosen, 'activities'> & { made: boolean }) {
  const session = useSession();
  const { doc } = session;
  const ids = activities.map((a) => a.id);
  // A key for what is selected, however much that is.
  const of = `${ids.length} ${ids[0] ?? ''} ${ids[ids.length - 1] ?? ''}`;
  const preview = usePreview();
  const [question, setQuestion] = useState<{ text: string; choices: { label: string; outcome: Outcome }[] } | null>(null);
  /** Takes a text over; a message where it cannot be. */
  const now = useRef((_: Field, __: string): string | null => null);
  now.current = (f, text) => {
    const outcome = setCells(doc, ids, f.key, text, newId, session.view);
    if (!outcome.ok && outcome.choices) setQuestion({ text: outcome.problems[0]!.message, choices: outcome.choices });
    else if (!outcome.ok && f.kind === 'choice') session.run(outcome);
    else if (!outcome.ok) return outcome.problems[0]!.message;
    // Where another calendar moves dates, before and after are shown first.
    else if (f.key === 'calendar') preview.ask(outcome, true);
    else session.run(outcome);
    return null;
  };
  const commit = useCallback((f: Field, text: string) => now.current(f, text), []);
  const choicesOf = (f: Field): string | null =>
    (f.kind !== 'choice' && f.kind !== 'yesNo') || !f.choices ? null : [...(f.key === 'calendar' ? [''] : []), ...f.choices(doc)].join('\n');
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
      {[...fieldsOf(doc).values()]
        .filter((f) => f.inspector && (f.stored === 'values') === made)
        .map((f) => {
          const choices = choicesOf(f);
          return <FieldInput key={f.key} f={f} text={shared(doc, activities, f, session.view)} choices={choices} of={choices === null ? of : undefined} onCommit={commit} />;
        })}
    </div>
  );
}
