/** What is meant by dragging a linked bar: asked once, where it was dropped, with what each answer does to its dates. */
import { useEffect, useRef, useState } from 'react';
import { labelOf } from '@yellowhammer/core/model/document';
import type { Answer } from '@yellowhammer/core/plan/drag-answers';
import { finishDays } from '@yellowhammer/core/compare/views';
import { placeOf } from '@yellowhammer/core/schedule/view';
import { planActions, useAppDispatch } from '../app/store';
import { finishText, signedDays, startText } from '../app/format';
import { useSession } from '../project/hooks';

export interface Asked {
  id: string;
  answers: Answer[];
  x: number;
  y: number;
}

const WIDTH = 340;
const HEIGHT = 280;

export function DragQuestion({ asked, onDone }: { asked: Asked; onDone: () => void }) {
  const session = useSession();
  const dispatch = useAppDispatch();
  const box = useRef<HTMLDivElement>(null);
  const [always, setAlways] = useState(false);
  const [dates, setDates] = useState<Record<string, string>>({});
  const a = session.doc.activities.get(asked.id);
  useEffect(() => {
    box.current?.querySelector<HTMLElement>('button')?.focus();
    let gone = false;
    for (const answer of asked.answers)
      if (answer.outcome.ok)
        void session.worker.previewDates(answer.outcome.changes).then((view) => {
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
  const step = (by: number): void => {
    const all = [...(box.current?.querySelectorAll<HTMLElement>('button') ?? [])];
    const at = all.indexOf(document.activeElement as HTMLElement);
    all[(at + by + all.length) % all.length]?.focus();
  };
  return (
    <div
      ref={box}
      className="drag-question"
      role="dialog"
      aria-label={`What moving ${labelOf(a)} means`}
      style={{ left: Math.max(8, Math.min(asked.x, innerWidth - WIDTH - 8)), top: Math.max(8, Math.min(asked.y + 10, innerHeight - HEIGHT - 8)), width: WIDTH }}
      onKeyDown={(e) => {
        if (e.key === 'Escape') onDone();
        else if (e.key === 'ArrowDown') step(1);
        else if (e.key === 'ArrowUp') step(-1);
        else return;
        e.preventDefault();
        e.stopPropagation();
      }}
      onBlur={(e) => e.relatedTarget !== null && !e.currentTarget.contains(e.relatedTarget) && onDone()}
    >
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
    </div>
  );
}
