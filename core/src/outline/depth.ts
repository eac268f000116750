/** Which WBS nodes are closed at an outline depth. */
import { indexOf } from '../model/doc-index.ts';
import type { Document } from '../model/document.ts';

/** Nodes below a number of levels (1 is the top), as keys. */
export function closedBelow(doc: Document, depth: number): Record<string, true> {
  const index = indexOf(doc);
  const closed: Record<string, true> = {};
  const stack: { parent: string | null; level: number }[] = [{ parent: null, level: 1 }];
  for (let at = stack.pop(); at; at = stack.pop())
    for (const c of index.childrenOf(at.parent)) {
      if (c.kind !== 'wbs') continue;
      if (at.level > depth) closed[c.id] = true;
      stack.push({ parent: c.id, level: at.level + 1 });
    }
  return closed;
}

/** WBS nodes above an activity, which must be open for it to be seen. */
export function nodesAbove(doc: Document, activity: string): Set<string> {
  const above = new Set<string>();
  for (let at = doc.activities.get(activity)?.wbsId ?? null; at !== null && !above.has(at); at = doc.wbs.get(at)?.parentId ?? null) above.add(at);
  return above;
}

/** Nodes with all nodes that lie in them. */
export function nodesBelow(doc: Document, ids: readonly string[]): string[] {
  const index = indexOf(doc);
  const all = [...ids];
  for (let i = 0; i < all.length; i++) for (const c of index.childrenOf(all[i]!)) if (c.kind === 'wbs') all.push(c.id);
  return all;
}
