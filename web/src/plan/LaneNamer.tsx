import { useRef } from 'react';
import type { Places } from '@yellowhammer/core/model/places';
import { setActivities } from '@yellowhammer/core/commands/cells';
import type { RowHeights } from '@yellowhammer/core/outline/heights';
import { placeOf } from '@yellowhammer/core/schedule/view';
import { useSession, useView } from '../project/hooks';
import { type Lanes, middleOf } from './rows';
import { type Scale, xOf } from './scale';

interface Props {
  id: string;
  place: Places;
  lanes: Lanes;
  heights: RowHeights;
  scale: Scale;
  onDone: () => void;
}

/** The name of an activity that was drawn in a closed lane: it has no cell there, so it is typed on its bar. */
export function LaneNamer({ id, place, lanes, heights, scale, onDone }: Props) {
  const session = useSession();
  const view = useView();
  const settled = useRef(false);
  const y = middleOf(id, place, lanes, heights);
  const i = view ? placeOf(view, id) : undefined;
  // A moment passes until its dates are there.
  if (!view || i === undefined || y === undefined) return null;
  const done = (text: string | null): void => {
    if (settled.current) return;
    settled.current = true;
    if (text?.trim()) session.run(setActivities(session.doc, [id], { name: text.trim().slice(0, 500) }));
    onDone();
  };
  return (
    <input
      className="lane-namer"
      style={{ left: Math.max(2, xOf(scale, view.start[i]!)), top: y - 12 }}
      aria-label="Name of the activity"
      placeholder="Name of the activity"
      autoFocus
      onPointerDown={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') done(e.currentTarget.value);
        if (e.key === 'Escape') done(null);
      }}
      onBlur={(e) => done(e.currentTarget.value)}
    />
  );
}
