/** Windows of one project in one browser: a timeline in a window of its own follows what is selected in the plan. */
import { useEffect, useRef } from 'react';
import { usePlan } from '../app/store';
import { afterFrame } from '../project/frames';

type Word = { selected: string[] } | { asks: true };

/** Tells what is selected, or follows it. `go`: selects rows and brings the last of them into view. */
export function useTwins(projectId: string, alone: boolean, go: (selected: string[]) => void): void {
  const { selected } = usePlan();
  const channel = useRef<BroadcastChannel | null>(null);
  const now = useRef({ selected, go });
  now.current = { selected, go };
  useEffect(() => {
    if (typeof BroadcastChannel === 'undefined') return;
    const c = new BroadcastChannel(`yellowhammer ${projectId}`);
    channel.current = c;
    c.onmessage = ({ data }: MessageEvent<Word>) => {
      if (alone && 'selected' in data) now.current.go(data.selected);
      if (!alone && 'asks' in data) c.postMessage({ selected: now.current.selected } satisfies Word);
    };
    if (alone) c.postMessage({ asks: true } satisfies Word);
    return () => {
      channel.current = null;
      c.close();
    };
  }, [projectId, alone]);
  useEffect(() => {
    // A selection that grows while a key is held down is thousands of ids in each frame: told where it rests.
    return alone ? undefined : afterFrame(() => channel.current?.postMessage({ selected } satisfies Word));
  }, [selected, alone]);
}
