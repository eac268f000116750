/** The outline of a project: WBS nodes and activities as one list of rows, with WBS codes. */
import { type Child, indexOf } from '../model/doc-index.ts';
import { type Document, projectOf } from '../model/document.ts';
import type { Rollup } from '../rollup/rollup.ts';
import { type Activity, wbsDefaults, type WbsNode } from '../model/schema.ts';

/** A heading as a row of the outline tells of it. */
export interface GroupFacts {
  /** Which level it belongs to. */
  level: number;
  /** What a row gets in the fields of the levels when it is put here, by the level's place. */
  gives: ReadonlyMap<number, string | null>;
  /** Where it stands among the values of each level that leads to it. */
  path: ReadonlyMap<number, string>;
  count: number;
  colour: string | null;
  /** Activities in it, those deeper included. */
  members: readonly string[];
}

export type OutlineRow =
  | {
      kind: 'wbs';
      id: string;
      depth: number;
      node: WbsNode;
      code: string;
      /** Closed and drawn as a lane. */
      lane?: true;
      /** A heading of groups, which is no node of the document, and what rolls up to it. */
      group?: GroupFacts;
      rollup?: Rollup | undefined;
    }
  | { kind: 'activity'; id: string; depth: number; activity: Activity };

/**
 * The own part of a node's WBS code: as it was given by hand, else its place among the nodes beside it (from 1), behind the
 * prefix of its level (0: the top).
 */
const partOf = (doc: Document, node: WbsNode | undefined, level: number, place: number): string =>
  node?.code ? node.code : `${projectOf(doc).options.wbsPrefixes[level] ?? ''}${place}`;

/** WBS codes of all nodes, the parts from the top parted by points: `2.1.3`, `T.L2.3`. */
export function wbsCodes(doc: Document): Map<string, string> {
  const index = indexOf(doc);
  const codes = new Map<string, string>();
  const stack: { parent: string | null; prefix: string; level: number }[] = [{ parent: null, prefix: '', level: 0 }];
  for (let at = stack.pop(); at; at = stack.pop()) {
    let n = 0;
    for (const c of index.childrenOf(at.parent))
      if (c.kind === 'wbs') {
        const code = `${at.prefix}${partOf(doc, doc.wbs.get(c.id), at.level, ++n)}`;
        codes.set(c.id, code);
        stack.push({ parent: c.id, prefix: `${code}.`, level: at.level + 1 });
      }
  }
  return codes;
}

/** The node with a WBS code, whatever the case of its letters; undefined where there is none. */
export function nodeWithCode(doc: Document, code: string): string | undefined {
  const index = indexOf(doc);
  let at: string | null = null;
  for (const [level, part] of code.toLowerCase().split('.').entries()) {
    const nodes: readonly Child[] = index.childrenOf(at).filter((c) => c.kind === 'wbs');
    const place: number = nodes.findIndex((c, i) => partOf(doc, doc.wbs.get(c.id), level, i + 1).toLowerCase() === part);
    if (place < 0) return undefined;
    at = nodes[place]!.id;
  }
  return at ?? undefined;
}

/** WBS code of one node, without coding all of them. */
export function wbsCodeOf(doc: Document, id: string | null): string {
  const index = indexOf(doc);
  const way: { node: WbsNode; place: number }[] = [];
  for (let at = id === null ? undefined : doc.wbs.get(id), n = 0; at && n < 100; at = at.parentId === null ? undefined : doc.wbs.get(at.parentId), n++) {
    let place = 0;
    for (const c of index.childrenOf(at.parentId)) {
      if (c.kind === 'wbs') place++;
      if (c.id === at.id) break;
    }
    way.unshift({ node: at, place });
  }
  return way.map(({ node, place }, level) => partOf(doc, node, level, place)).join('.');
}

/** Rows from top to bottom; what lies in a collapsed node is left out. */
export function outlineRows(doc: Document, collapsed: ReadonlySet<string> = new Set()): OutlineRow[] {
  const index = indexOf(doc);
  const codes = wbsCodes(doc);
  const rows: OutlineRow[] = [];
  const stack: { child: Child; depth: number }[] = [];
  const open = (parent: string | null, depth: number): void => {
    const list = index.childrenOf(parent);
    for (let i = list.length - 1; i >= 0; i--) stack.push({ child: list[i]!, depth });
  };
  open(null, 0);
  for (let at = stack.pop(); at; at = stack.pop()) {
    const { child, depth } = at;
    if (child.kind === 'wbs') {
      const node = doc.wbs.get(child.id) as WbsNode;
      const closed = collapsed.has(child.id);
      rows.push({ kind: 'wbs', id: child.id, depth, node, code: codes.get(child.id) ?? '', ...(closed && node.lane ? { lane: true } : {}) });
      if (!closed) open(child.id, depth + 1);
    } else rows.push({ kind: 'activity', id: child.id, depth, activity: doc.activities.get(child.id) as Activity });
  }
  return rows;
}

/** Where the id of a heading of groups begins, so that it is never the id of a node. */
export const GROUP = 'group:';
export const isGroupRow = (id: string): boolean => id.startsWith(GROUP);

/** The id of the row that stands for the whole project, and lies above all levels. No node has it. */
export const PROJECT_ROW = '';

/** The project as a row: what is rolled up to it is known under the same id. */
export const projectRow = (doc: Document): OutlineRow => ({
  kind: 'wbs',
  id: PROJECT_ROW,
  depth: -1,
  node: { ...wbsDefaults, id: PROJECT_ROW, rank: 0, name: projectOf(doc).name, notes: projectOf(doc).notes },
  code: projectOf(doc).code,
});

/** Rows that are in focus, each with all that lies in it; the rest is hidden. Levels count from the rows in focus. */
export function focused<R extends { id: string; depth: number }>(rows: readonly R[], focus: ReadonlySet<string>): R[] {
  const shown: R[] = [];
  // The depth of the row in focus that the rows lie in.
  let inside: number | null = null;
  for (const r of rows) {
    if (inside !== null && r.depth <= inside) inside = null;
    if (inside === null && focus.has(r.id)) inside = r.depth;
    if (inside !== null) shown.push(r);
  }
  return shown;
}
