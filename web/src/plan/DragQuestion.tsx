/** What is meant by dragging a linked bar: asked once, where it was dropped, with what each answer does to its dates. */
import { useEffect, useState } from 'react';
import { labelOf } from '@yellowhammer/core/model/document';
import type { Answer } from '@yellowhammer/core/plan/drag-answers';
import { finishDays } from '@yellowhammer/core/compare/views';
import { placeOf } from '@yellowhammer/core/schedule/view';
import { planActions, useAppDispatch } from '../app/store';
import { finishText, signedDays, startText } from '../app/format';
import { useSession } from '../project/hooks';
import { Question } from './Question';

export interface Asked {
  id: string;
  answers: Answer[];
  x: number;
  y: number;
}

export function DragQuestion({ asked, onDone }: { asked: Asked; onDone: () => void }) {
  const session = useSession();
  const dispatch = useAppDispatch();
  const [always, setAlways] = useState(false);
  const [dates, setDates] = useState<Record<string, string>>({});
  const a = session.doc.activities.get(asked.id);
  useEffect(() => {
    let gone = false;
    for (const answer of asked.answers)
      if (answer.outcome.ok)
        void session.computing.previewDates(answer.outcome.changes).then((view) => {
          const i = view ? placeOf(view, asked.id) : undefined;
          if (gone || !view || i === undefined) return;
          const moved = session.view ? finishDays(session.doc, session.view, view) : 0;
          const text = `${startText(view.start[i]!)} to ${finishText(view.finish[i]!)}, ${moved === 0 ? 'the finish holds' : `the finish ${signedDays(moved)}`}`;
          setDates((d) => ({ ...d, [answer.id]: text }));
        });
    return () => {
      gone = true;
    };
  }, [asked, session]);
  if (!a) return null;
  const take = (answer: Answer): void => {
    if (always) dispatch(planActions.set({ dragAnswer: answer.id }));
    session.run(answer.outcome);
    onDone();
  };
  return (
    <Question label={`What moving ${labelOf(a)} means`} x={asked.x} y={asked.y} onDone={onDone}>
      <b className="serif">{labelOf(a)}</b>
      <p className="muted">It follows other work. What is meant?</p>
      {asked.answers.map((answer) => (
        <button key={answer.id} type="button" className="drag-answer" onClick={() => take(answer)}>
          <b>{answer.title}</b>
          <span className="muted">{dates[answer.id] ?? 'computing'}</span>
          <span className="muted">{answer.about}</span>
        </button>
      ))}
      <button type="button" className="drag-answer" onClick={onDone}>
        <b>Leave it where it was</b>
      </button>
      <label className="task-check">
        <input type="checkbox" checked={always} onChange={() => setAlways(!always)} />
        always so, until I say otherwise
      </label>
    </Question>
  );
}
