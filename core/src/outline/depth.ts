/** Which WBS nodes are closed at an outline depth. */
import { indexOf } from '../model/doc-index.ts';
import type { Document } from '../model/document.ts';
import { isGroupRow } from './outline.ts';

/**
 * Nodes that are closed. A window keeps what was turned over: a node is open and a lane is closed until a person says
 * otherwise.
 */
export function closedNodes(doc: Document, turned: Readonly<Record<string, true>>): Set<string> {
  const closed = new Set<string>();
  for (const id in turned) if (isGroupRow(id) || doc.wbs.get(id)?.lane === false) closed.add(id);
  for (const w of doc.wbs.values()) if (w.lane && !turned[w.id]) closed.add(w.id);
  return closed;
}

/** Nodes that are turned over where these are closed and all others open: the inverse of the above. */
export function turnedFor(doc: Document, closed: ReadonlySet<string>): Record<string, true> {
  const turned: Record<string, true> = {};
  for (const w of doc.wbs.values()) if (closed.has(w.id) !== w.lane) turned[w.id] = true;
  for (const id of closed) if (isGroupRow(id)) turned[id] = true;
  return turned;
}

/** Nodes that are closed where so many levels are shown (1 is the top). Lanes stay closed unless all levels are. */
export function closedBelow(doc: Document, depth: number): Set<string> {
  const index = indexOf(doc);
  const closed = new Set<string>();
  const stack: { parent: string | null; level: number }[] = [{ parent: null, level: 1 }];
  for (let at = stack.pop(); at; at = stack.pop())
    for (const c of index.childrenOf(at.parent)) {
      if (c.kind !== 'wbs') continue;
      if (at.level > depth || (depth < ALL_LEVELS && doc.wbs.get(c.id)?.lane)) closed.add(c.id);
      stack.push({ parent: c.id, level: at.level + 1 });
    }
  return closed;
}

/** Outline depth that shows all levels. */
const ALL_LEVELS = 9;

/** WBS nodes above an activity or a WBS node, which must be open for it to be seen. */
export function nodesAbove(doc: Document, row: string): Set<string> {
  const above = new Set<string>();
  for (let at = doc.activities.get(row)?.wbsId ?? doc.wbs.get(row)?.parentId ?? null; at !== null && !above.has(at); at = doc.wbs.get(at)?.parentId ?? null) above.add(at);
  return above;
}

/** Nodes with all nodes that lie in them. */
export function nodesBelow(doc: Document, ids: readonly string[]): string[] {
  const index = indexOf(doc);
  const all = [...ids];
  for (let i = 0; i < all.length; i++) for (const c of index.childrenOf(all[i]!)) if (c.kind === 'wbs') all.push(c.id);
  return all;
}
