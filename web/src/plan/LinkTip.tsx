import { labelOf } from '@yellowhammer/core/model/document';
import { NONE } from '@yellowhammer/core/schedule/network';
import { linkState, placeOf } from '@yellowhammer/core/schedule/view';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';
import { formatDuration } from '@yellowhammer/core/time/duration';
import { floatText } from '../app/format';
import { useSession } from '../project/hooks';

export interface PointedLink {
  id: string;
  clientX: number;
  clientY: number;
}

const SIZE = { width: 320, height: 84 };

/** What a link is, for the pointer that rests on it. */
export function LinkTip({ at }: { at: PointedLink }) {
  const { doc, view } = useSession();
  const link = doc.links.get(at.id);
  const [from, to] = [doc.activities.get(link?.from ?? ''), doc.activities.get(link?.to ?? '')];
  if (!link || !from || !to) return null;
  const state = view ? linkState(view, link.id) : undefined;
  const i = view ? placeOf(view, to.id) : undefined;
  const perDay = view && i !== undefined ? view.minutesPerDay[i]! : 480;
  const lag = link.lag === 0 ? 'no lag' : `lag ${formatDuration(link.lag, dayLengths(doc, from))}`;
  return (
    <div className="bar-tip" style={{ left: Math.max(4, Math.min(at.clientX + 12, innerWidth - SIZE.width - 8)), top: Math.min(at.clientY + 14, innerHeight - SIZE.height) }}>
      <b>{labelOf(from)}</b>
      <div>
        {link.type} to <b>{labelOf(to)}</b>
      </div>
      <div className="muted">
        {lag}
        {state && ` · ${state.driving ? 'drives' : state.slack === NONE ? 'holds nothing' : `slack ${floatText(state.slack, perDay)}`}`} · click to select, Delete removes
      </div>
    </div>
  );
}
