/** What is copied and pasted may have links from outside: asked only where there are some. */
import type { Outcome } from '@yellowhammer/core/commands/result';
import { Question } from './Question';

export interface Pasting {
  /** How many links lead into the copied rows from others. */
  incoming: number;
  without: Outcome;
  with: Outcome;
  x: number;
  y: number;
}

export function PasteQuestion({ pasting, onTake, onDone }: { pasting: Pasting; onTake: (outcome: Outcome) => void; onDone: () => void }) {
  const n = `${pasting.incoming} ${pasting.incoming === 1 ? 'link' : 'links'}`;
  return (
    <Question label="Links from outside" x={pasting.x} y={pasting.y} onDone={onDone}>
      <b className="serif">Paste the rows</b>
      <p className="muted">{n} from other rows lead to what was copied.</p>
      <button type="button" className="drag-answer" onClick={() => onTake(pasting.without)}>
        <b>Without them</b>
        <span className="muted">only the links among the copied rows come along</span>
      </button>
      <button type="button" className="drag-answer" onClick={() => onTake(pasting.with)}>
        <b>With them</b>
        <span className="muted">what releases the originals releases the copies, too: {n} more</span>
      </button>
      <button type="button" className="drag-answer" onClick={onDone}>
        <b>Do not paste</b>
      </button>
    </Question>
  );
}
