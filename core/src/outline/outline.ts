/** The outline of a project: WBS nodes and activities as one list of rows, with WBS codes. */
import { type Child, type DocIndex, indexOf } from '../model/doc-index.ts';
import { type Document, projectOf } from '../model/document.ts';
import { commonEnds } from '../model/places.ts';
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
    const nodes: readonly Child[] = index.nodesIn(at);
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

/** The rows in a node, and what they hang on besides what is closed and the prefixes of codes; `own`: those that lie right in it. */
interface RowsIn {
  version: number;
  depth: number;
  code: string;
  own: readonly OutlineRow[];
  rows: readonly OutlineRow[];
}
interface KeptRows {
  collapsed: ReadonlySet<string>;
  prefixes: string;
  nodes: Map<string, RowsIn>;
}
/** Rows of the last time: an edit makes those anew of the nodes that it is in, and of no others. */
const keptRows = new WeakMap<DocIndex, KeptRows>();
const sameSet = (a: ReadonlySet<string>, b: ReadonlySet<string>): boolean => a === b || (a.size === b.size && [...a].every((x) => b.has(x)));

function keptFor(doc: Document, collapsed: ReadonlySet<string>): KeptRows {
  const index = indexOf(doc);
  const prefixes = JSON.stringify(projectOf(doc).options.wbsPrefixes);
  const last = keptRows.get(index);
  if (last && last.prefixes === prefixes && sameSet(last.collapsed, collapsed)) return last;
  const fresh = { collapsed: new Set(collapsed), prefixes, nodes: new Map<string, RowsIn>() };
  keptRows.set(index, fresh);
  return fresh;
}

/** Finds the row that a child had the last time; few are looked up where rows came in or went out at one place. */
function rowsBefore(own: readonly OutlineRow[], list: readonly Child[]): (i: number) => OutlineRow | undefined {
  const [head, tail] = commonEnds(own, list, (a, b) => a.id === b.id);
  const middle = new Map(own.slice(head, own.length - tail).map((r) => [r.id, r]));
  return (i) => (i < head ? own[i] : i >= list.length - tail ? own[i - list.length + own.length] : middle.get(list[i]!.id));
}

/** Rows from top to bottom; what lies in a collapsed node is left out. A row that is what it was is the same object as the last time. */
export function outlineRows(doc: Document, collapsed: ReadonlySet<string> = new Set()): OutlineRow[] {
  const index = indexOf(doc);
  const kept = keptFor(doc, collapsed).nodes;
  const inside = (node: string | null, depth: number, code: string): readonly OutlineRow[] => {
    const [key, version] = [node ?? '', index.versionIn(node ?? '')];
    const last = kept.get(key);
    if (last && last.version === version && last.depth === depth && last.code === code) return last.rows;
    const list = index.childrenOf(node);
    const before = last && last.depth === depth ? rowsBefore(last.own, list) : () => undefined;
    const [own, rows]: [OutlineRow[], OutlineRow[]] = [[], []];
    let n = 0;
    list.forEach((c, i) => {
      const was = before(i);
      if (c.kind === 'activity') {
        const activity = doc.activities.get(c.id) as Activity;
        own.push(was?.kind === 'activity' && was.activity === activity ? was : { kind: 'activity', id: c.id, depth, activity });
        rows.push(own[i]!);
        return;
      }
      const w = doc.wbs.get(c.id) as WbsNode;
      const its = (code === '' ? '' : `${code}.`) + partOf(doc, w, depth, ++n);
      const closed = collapsed.has(c.id);
      const lane = closed && w.lane ? ({ lane: true } as const) : {};
      own.push(was?.kind === 'wbs' && was.node === w && was.code === its ? was : { kind: 'wbs', id: c.id, depth, node: w, code: its, ...lane });
      rows.push(own[i]!);
      if (!closed) for (const r of inside(c.id, depth + 1, its)) rows.push(r);
    });
    kept.set(key, { version, depth, code, own, rows });
    return rows;
  };
  return inside(null, 0, '').slice();
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
