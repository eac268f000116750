/** What can be meant in two ways when rows are pasted: links from outside, and rows that are in the plan already. */
import type { Outcome } from '@yellowhammer/core/commands/result';
import { Question } from './Question';

interface At {
  x: number;
  y: number;
}

export type Pasting = At &
  (
    | {
        of: 'links';
        /** How many links lead into the copied rows from others. */
        incoming: number;
        without: Outcome;
        with: Outcome;
      }
    | {
        of: 'numbers';
        /** How many of the lines have the number of a row of the plan, and how many have not. */
        known: number;
        others: number;
        /** What is changed in the rows that are there. */
        changed: string;
        over: Outcome;
        add: Outcome;
      }
  );

interface Answer {
  outcome: Outcome;
  title: string;
  about: string;
}

/** What is asked, and the answers; what cannot be done says why. */
function asked(p: Pasting): { label: string; title: string; text: string; answers: Answer[] } {
  if (p.of === 'links') {
    const n = `${p.incoming} ${p.incoming === 1 ? 'link' : 'links'}`;
    return {
      label: 'Links from outside',
      title: 'Paste the rows',
      text: `${n} from other rows lead to what was copied.`,
      answers: [
        { outcome: p.without, title: 'Without them', about: 'only the links among the copied rows come along' },
        { outcome: p.with, title: 'With them', about: `what releases the originals releases the copies, too: ${n} more` },
      ],
    };
  }
  return {
    label: 'Rows that are in the plan',
    title: 'Paste the rows',
    text: `${p.known} of ${p.known + p.others} ${p.known + p.others === 1 ? 'line' : 'lines'} ${p.known === 1 ? 'has the number of a row' : 'have numbers of rows'} in the plan.`,
    answers: [
      {
        outcome: p.over,
        title: p.known === 1 ? 'Write over that row' : 'Write over those rows',
        about: [p.changed && `changes ${p.changed}`, p.others && `adds ${p.others} ${p.others === 1 ? 'row' : 'rows'}`].filter(Boolean).join('; '),
      },
      { outcome: p.add, title: 'Add all as new rows', about: 'with numbers of their own and without progress' },
    ],
  };
}

export function PasteQuestion({ pasting, onTake, onDone }: { pasting: Pasting; onTake: (outcome: Outcome) => void; onDone: () => void }) {
  const { label, title, text, answers } = asked(pasting);
  return (
    <Question label={label} x={pasting.x} y={pasting.y} onDone={onDone}>
      <b className="serif">{title}</b>
      <p className="muted">{text}</p>
      {answers.map((a) => (
        <button key={a.title} type="button" className="drag-answer" aria-disabled={!a.outcome.ok} onClick={() => onTake(a.outcome)}>
          <b>{a.title}</b>
          <span className="muted">{a.outcome.ok ? a.about : `not now: ${a.outcome.problems[0]?.message}`}</span>
        </button>
      ))}
      <button type="button" className="drag-answer" onClick={onDone}>
        <b>Do not paste</b>
      </button>
    </Question>
  );
}
