/** Where the boxes of the network stand: by rank the layout package says it, off the main thread; in bands and along time it follows from dates and ranks. */
import ELK, { type ElkNode } from 'elkjs/lib/elk-api';
import ElkWorker from 'elkjs/lib/elk-worker.min.js?worker';
import { useEffect, useMemo, useState } from 'react';
import type { Link } from '@yellowhammer/core/model/schema';
import type { ScheduleView } from '@yellowhammer/core/schedule/view';
import { alongTime, boxWidth, columnGap, inBands, type Placed, ranks, rowGap } from '@yellowhammer/core/view/boxes';

let elk: InstanceType<typeof ELK> | null = null;
/** The worker of the layout package, begun when it is first needed. */
const layouter = (): InstanceType<typeof ELK> => (elk ??= new ELK({ workerFactory: () => new ElkWorker() }));

/** Ranks that a link may cross to count for the order of the boxes. */
const MOST_RANKS = 2;

async function byRank(ids: readonly string[], links: readonly Link[], boxHeight: number): Promise<Placed> {
  const rank = ranks(ids, links);
  const span = (l: Link): number => (rank.get(l.to) ?? 0) - (rank.get(l.from) ?? 0);
  // Long links would cost a place in every rank that they cross, and most of the time: those to near ranks say who stands by whom.
  const near = links.filter((l) => span(l) > 0 && span(l) <= MOST_RANKS);
  const graph: ElkNode = {
    id: 'all',
    layoutOptions: {
      'elk.algorithm': 'layered',
      'elk.direction': 'RIGHT',
      'elk.layered.nodePlacement.strategy': 'SIMPLE',
      // The ranks are known; the package orders what stands in them, and places it.
      'elk.layered.layering.strategy': 'INTERACTIVE',
      'elk.layered.cycleBreaking.strategy': 'INTERACTIVE',
      'elk.separateConnectedComponents': 'false',
      'elk.layered.thoroughness': '1',
      'elk.layered.crossingMinimization.greedySwitch.type': 'OFF',
      'elk.edgeRouting': 'POLYLINE',
      'elk.spacing.nodeNode': String(rowGap),
      'elk.layered.spacing.nodeNodeBetweenLayers': String(columnGap),
    },
    children: ids.map((id, i) => ({ id, width: boxWidth, height: boxHeight, x: (rank.get(id) ?? 0) * (boxWidth + columnGap), y: i })),
    edges: near.map((l) => ({ id: `link ${l.id}`, sources: [l.from], targets: [l.to] })),
  };
  const done = await layouter().layout(graph);
  const boxes = new Map((done.children ?? []).map((c) => [c.id, { id: c.id, x: c.x ?? 0, y: c.y ?? 0 }]));
  return { boxes, width: done.width ?? 0, height: done.height ?? 0, bands: [] };
}

interface Wish {
  ids: readonly string[];
  links: readonly Link[];
  /** Activities by band; one without a name where there are none. */
  bands: readonly { name: string; ids: readonly string[] }[];
  arrange: 'rank' | 'time';
  perDay: number;
  boxHeight: number;
  view: ScheduleView | null;
}

/** The places of boxes; null until they are known for the first time. `waiting`: they are being found anew. */
export function useLayout({ ids, links, bands, arrange, perDay, boxHeight, view }: Wish): { placed: Placed | null; waiting: boolean } {
  const packed = arrange === 'rank' && bands.length <= 1;
  const signature = packed ? `${ids.join(' ')}|${links.map((l) => `${l.from}>${l.to}`).join(' ')}|${boxHeight}` : '';
  const [found, setFound] = useState<{ signature: string; placed: Placed } | null>(null);
  useEffect(() => {
    if (!packed) return;
    let gone = false;
    void byRank(ids, links, boxHeight).then((placed) => {
      if (!gone) setFound({ signature, placed });
    });
    return () => {
      gone = true;
    };
    // The signature says what the boxes and links are.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [packed, signature]);
  const own = useMemo(() => {
    if (packed || !view) return null;
    if (arrange === 'time') return inBands(bands, alongTime(view, perDay), boxHeight);
    const rank = ranks(ids, links);
    return inBands(bands, (id) => (rank.get(id) ?? 0) * (boxWidth + columnGap), boxHeight);
  }, [packed, arrange, bands, ids, links, view, perDay, boxHeight]);
  return packed ? { placed: found?.placed ?? null, waiting: found?.signature !== signature } : { placed: own, waiting: false };
}
