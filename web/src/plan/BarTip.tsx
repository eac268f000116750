import { useEffect, useState } from 'react';
import { labelOf } from '@yellowhammer/core/model/document';
import { NONE } from '@yellowhammer/core/schedule/network';
import { placeOf } from '@yellowhammer/core/schedule/view';
import { durationText, finishText, floatText, startText } from '../app/format';
import type { RowHeights } from '@yellowhammer/core/outline/heights';
import { useSession } from '../project/hooks';
import { type Hover, markOf } from './parts';
import { typeNames } from '@yellowhammer/core/model/activity-kinds';

const WORDS: Record<NonNullable<Hover['part']>, string> = {
  body: 'drag to move',
  fixed: 'drag inside it to change its progress',
  left: 'drag to change its start',
  right: 'drag to change its length',
  linkStart: 'drag to link from its start',
  linkFinish: 'drag to link from its finish',
};

/** Below the bar, or above it near the lower edge; never over the right edge of the window. */
function placeOfTip(hover: Hover, rowHeight: number): React.CSSProperties {
  const left = Math.max(4, Math.min(hover.clientX + 10, innerWidth - TIP.width - 8));
  const low = hover.clientY + rowHeight + TIP.height > innerHeight;
  return { left, ...(low ? { bottom: innerHeight - hover.clientY + rowHeight / 2 } : { top: hover.clientY + rowHeight / 2 + 4 }) };
}
const TIP = { width: 340, height: 90 };

/** What a bar is, for the pointer that rests on it, and the ends that links are drawn from. */
export function BarTip({ hover, heights }: { hover: Hover; heights: RowHeights }) {
  const rowHeight = heights.height(hover.row);
  const session = useSession();
  const [shown, setShown] = useState(false);
  useEffect(() => {
    setShown(false);
    const timer = setTimeout(() => setShown(true), 450);
    return () => clearTimeout(timer);
  }, [hover.id]);
  const { doc, view } = session;
  const a = doc.activities.get(hover.id);
  const i = a && view ? placeOf(view, a.id) : undefined;
  if (!a || !view || i === undefined || hover.part === null) return null;
  const point = view.start[i] === view.finish[i];
  const perDay = view.minutesPerDay[i]!;
  const float = view.totalFloat[i]!;
  return (
    <>
      <svg className="ghost" width="100%" height="100%" aria-hidden="true">
        {[['linkStart', markOf(hover, true)] as const, ['linkFinish', markOf(hover, false)] as const].map(([part, { x, y }]) => (
          <circle key={part} className={`link-end${hover.part === part ? ' on' : ''}`} cx={x} cy={y} r={3.6} />
        ))}
      </svg>
      {shown && (
        <div className="bar-tip" style={placeOfTip(hover, rowHeight)}>
          <b>{labelOf(a)}</b>
          <div>
            {point ? finishText(view.finish[i]!, true) : `${startText(view.start[i]!, true)} to ${finishText(view.finish[i]!, true)}`}
            {a.type !== 'task' && ` · ${typeNames[a.type].toLowerCase()}`}
          </div>
          <div className="muted">
            {[
              point ? '' : durationText(view.length[i]!, perDay) + (view.state[i] === 1 ? ' remain' : ''),
              float === NONE ? '' : `float ${floatText(float, perDay)}`,
              WORDS[hover.part],
            ]
              .filter(Boolean)
              .join(' · ')}
          </div>
        </div>
      )}
    </>
  );
}
