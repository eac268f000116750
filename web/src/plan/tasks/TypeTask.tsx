import { Modal } from '@mantine/core';
import Papa from 'papaparse';
import { useDeferredValue, useMemo, useState } from 'react';
import { type TypedPlan, typedPlan } from '@yellowhammer/core/plan/typed-plan';
import type { TypedRow } from '@yellowhammer/core/plan/typed-lines';
import { count } from '@yellowhammer/core/commands/result';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';
import { formatDuration } from '@yellowhammer/core/time/duration';
import { showTypedDate } from '@yellowhammer/core/time/typed-date';
import { store } from '../../app/store';
import { newId, useDoc } from '../../project/hooks';
import type { TaskProps } from './types';
import { Verdict } from './Verdict';

const EXAMPLE = `Tower level 2
  Strip floor 4d after 120
  Plaster 1w after Strip floor
  Paint 3 days after above
Level 2 handed over, milestone after Paint`;

const kinds: Record<TypedRow['kind'], string> = { node: 'WBS node', activity: 'Activity', startMilestone: 'Start milestone', finishMilestone: 'Finish milestone' };

/** Lines on the left, how each was understood on the right. Nothing is taken while a line cannot be read. */
export function TypeTask({ onDone }: TaskProps) {
  const { doc, version } = useDoc();
  const [text, setText] = useState('');
  const shown = useDeferredValue(text);
  // Where it goes: below the row that had the cursor when it was opened.
  const [at] = useState(() => {
    const row = store.getState().plan.active?.row ?? '';
    return doc.wbs.has(row) ? ({ kind: 'wbs', id: row } as const) : doc.activities.has(row) ? ({ kind: 'activity', id: row } as const) : null;
  });
  const plan: TypedPlan = useMemo(() => {
    // Tabs inside lines are a spreadsheet's columns.
    const table = /\S\t/.test(shown) ? Papa.parse<string[]>(shown, { delimiter: '\t' }).data : null;
    return typedPlan(doc, shown, table, at, newId);
    // The document changes inside; its version says when.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [doc, version, shown, at]);
  const many = (kind: TypedRow['kind'][]): number => plan.rows.filter((r) => kind.includes(r.kind)).length;
  const wrong = plan.rows.filter((r) => r.faults.length > 0);
  const target = at?.kind === 'wbs' ? `into ${doc.wbs.get(at.id)?.name ?? ''}` : at ? `below ${doc.activities.get(at.id)?.code ?? ''}` : 'at the end';
  return (
    <Modal opened onClose={() => onDone([])} title="Type or paste a plan" size={1080} returnFocus={false}>
      <div className="type-plan">
        <label className="type-plan-text">
          <span className="muted">
            One line each, with indents or bullets; or rows of a spreadsheet with their heads (level or WBS code, name, duration, predecessors). It goes {target}.
          </span>
          <textarea value={text} placeholder={EXAMPLE} spellCheck={false} data-autofocus aria-label="The plan as text" onChange={(e) => setText(e.target.value)} onKeyDown={tabs} />
        </label>
        <div className="type-plan-read" role="region" aria-label="How it is understood" tabIndex={0}>
          {plan.rows.length === 0 ? (
            <p className="muted">How each line is understood stands here: nodes, activities, milestones, durations, links, and what cannot be read.</p>
          ) : (
            <ReadRows plan={plan} />
          )}
        </div>
      </div>
      {plan.unused.length > 0 && <p className="muted">Nothing is taken from: {plan.unused.join(', ')}.</p>}
      {wrong.length > 0 && (
        <ul className="skipped" role="alert">
          {wrong.slice(0, 8).map((r) => (
            <li key={r.line}>
              <b>Line {r.line}</b> {r.name && `(${r.name})`}: {r.faults.join(' ')}
            </li>
          ))}
          {wrong.length > 8 && <li className="muted">and {wrong.length - 8} more lines</li>}
        </ul>
      )}
      <Verdict
        outcome={plan.outcome}
        action="Take it into the plan"
        facts={
          plan.rows.length
            ? [
                `${[count(many(['node']), 'WBS node'), count(many(['activity']), 'activity'), count(many(['startMilestone', 'finishMilestone']), 'milestone'), count(plan.links.length, 'link')].join(', ')}.`,
              ]
            : []
        }
        onDone={onDone}
      />
    </Modal>
  );
}

/** Tab indents, as in a plan on paper; Shift+Tab leaves the field. */
function tabs(e: React.KeyboardEvent<HTMLTextAreaElement>): void {
  if (e.key !== 'Tab' || e.shiftKey || e.ctrlKey || e.altKey) return;
  e.preventDefault();
  // The browser's own way of typing, so that its undo knows it.
  document.execCommand('insertText', false, '  ');
}

function ReadRows({ plan }: { plan: TypedPlan }) {
  const { doc } = useDoc();
  const lengths = dayLengths(doc, { calendarId: null });
  return (
    <table className="table">
      <thead>
        <tr>
          <th className="right">Line</th>
          <th>Understood as</th>
          <th className="right">Duration</th>
          <th>After</th>
          <th>Dates</th>
        </tr>
      </thead>
      <tbody>
        {plan.rows.slice(0, 500).map((r) => (
          <tr key={r.line} className={r.faults.length ? 'wrong-row' : ''}>
            <td className="right muted">{r.line}</td>
            <td style={{ paddingLeft: 8 + r.depth * 14 }} title={kinds[r.kind]}>
              {r.kind === 'node' ? <b className="serif">{r.name}</b> : r.kind === 'activity' ? r.name : `◆ ${r.name}`}
            </td>
            <td className="right">{r.kind === 'activity' ? formatDuration(r.minutes ?? lengths.minutesPerDay, lengths) : ''}</td>
            <td>{r.after.join(', ')}</td>
            <td>{[r.from && `not before ${showTypedDate(r.from)}`, r.by && `by ${showTypedDate(r.by)}`].filter(Boolean).join(', ')}</td>
          </tr>
        ))}
        {plan.rows.length > 500 && (
          <tr>
            <td />
            <td className="muted">and {plan.rows.length - 500} more</td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
