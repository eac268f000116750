/** What the outline must not become: a WBS node inside itself, or deeper than can be handled. */
import type { Change } from '../change/change.ts';
import { limits } from '../model/limits.ts';
import { type Problem, problem } from '../model/problem.ts';
import type { ProblemCode } from '../model/problem-codes.ts';
import type { WbsNode } from '../model/schema.ts';

/**
 * Why changes of WBS nodes cannot be taken: a node would lie in itself (another window may have moved its new parent), or
 * too deep. Undefined where they can. `node` and `children` answer for what stands before the changes.
 */
export function outlineObjection(changes: readonly Change[], node: (id: string) => WbsNode | null | undefined, children: (id: string) => Iterable<string>): Problem | undefined {
  const after = new Map<string, WbsNode | null>();
  const moved: WbsNode[] = [];
  for (const c of changes) {
    if (c.table !== 'wbs') continue;
    after.set(c.id, c.after as WbsNode | null);
    if (c.after && (c.before as WbsNode | null)?.parentId !== (c.after as WbsNode).parentId) moved.push(c.after as WbsNode);
  }
  if (moved.length === 0) return undefined;
  const now = (id: string): WbsNode | null | undefined => (after.has(id) ? after.get(id) : node(id));
  // Depth of what was passed already, so that a branch is walked once.
  const depths = new Map<string, number>();
  for (const start of moved) {
    const way: string[] = [];
    let at: string | null = start.id;
    while (at !== null && !depths.has(at)) {
      if (way.includes(at))
        return said('WBS_LOOP', start, `${start.name || 'The WBS node'} would lie inside itself, since ${nameOf(now, start.parentId)} lies in it (now). Move it elsewhere.`);
      if (way.length > limits.wbsDepth) return tooDeep(start);
      way.push(at);
      at = now(at)?.parentId ?? null;
    }
    let depth = at === null ? 0 : (depths.get(at) as number);
    for (const id of way.reverse()) depths.set(id, ++depth);
  }
  // What lies in a moved node goes down with it.
  const childrenNow = new Map<string, string[]>();
  for (const [id, w] of after) {
    if (!w || w.parentId === null) continue;
    const list = childrenNow.get(w.parentId);
    if (list) list.push(id);
    else childrenNow.set(w.parentId, [id]);
  }
  for (const start of moved) {
    let level = [start.id];
    for (let depth = depths.get(start.id) as number; level.length; depth++) {
      if (depth > limits.wbsDepth) return tooDeep(start);
      const next: string[] = [];
      for (const id of level) {
        for (const c of children(id)) if (!after.has(c)) next.push(c);
        next.push(...(childrenNow.get(id) ?? []));
      }
      level = next;
    }
  }
  return undefined;
}

const nameOf = (now: (id: string) => WbsNode | null | undefined, id: string | null): string => (id === null ? 'it' : now(id)?.name || 'its new parent');
const said = (code: ProblemCode, w: WbsNode, text: string): Problem => problem(code, text, { table: 'wbs', id: w.id, label: w.name, field: 'parentId' });
const tooDeep = (w: WbsNode): Problem =>
  said('WBS_DEPTH', w, `${w.name || 'The WBS node'} and what is in it would lie more than ${limits.wbsDepth} levels deep. Put it higher up.`);
