/** Where rows land that are dragged in the sheet: between which rows, at which level, and so in which node. */
export interface LandingRow {
  id: string;
  kind: 'wbs' | 'activity';
  depth: number;
}

export interface Landing {
  /** The gap between rows, from 0 (above the first) on. */
  gap: number;
  depth: number;
  /** The node that they go into, and the row of it that they follow; null: the top, the first. */
  parent: string | null;
  after: string | null;
}

/**
 * The landing in a gap at the level that is nearest to the one wished for. A gap has the levels from that of the row below
 * it to that of the row above it, and one more where that is a WBS node. `closed`: nodes whose rows are not shown; what goes
 * into one of them comes first there.
 */
export function landing(rows: readonly LandingRow[], gap: number, wish: number, closed: ReadonlySet<string>): Landing {
  const above = rows[gap - 1];
  if (!above) return { gap: 0, depth: 0, parent: null, after: null };
  const deepest = above.kind === 'wbs' ? above.depth + 1 : above.depth;
  const least = Math.min(rows[gap]?.depth ?? 0, deepest);
  // An open node's first row is right below it: what lands there is in the node.
  const depth = Math.max(above.kind === 'wbs' && !closed.has(above.id) && (rows[gap]?.depth ?? -1) > above.depth ? deepest : least, Math.min(wish, deepest));
  // The row of the project lies above all levels, and names no node.
  if (depth === above.depth + 1) return { gap, depth, parent: above.id || null, after: null };
  // The row above, or the node around it, that stands on the level.
  let sibling = gap - 1;
  while (sibling > 0 && rows[sibling]!.depth > depth) sibling--;
  let parent: string | null = null;
  for (let i = sibling; i >= 0; i--)
    if (rows[i]!.depth === depth - 1) {
      parent = rows[i]!.id || null;
      break;
    }
  return { gap, depth, parent, after: rows[sibling]!.id };
}
