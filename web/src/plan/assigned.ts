/** Assignments under their activity: how much room they take, and what is known of those in view. */
import { useEffect, useState } from 'react';
import type { AssignmentLine } from '@yellowhammer/core/load/lines';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import type { Document } from '@yellowhammer/core/model/document';
import type { ViewSettings } from '@yellowhammer/core/model/view-schema';
import type { RowHeights } from '@yellowhammer/core/outline/heights';
import type { ProjectSession } from '../project/session';
import type { PlanRow } from './rows';

/** Heights in rows: of a line, and of all strips of an activity. */
const LINE = 0.8;
const STRIPS = 0.4;

/** What a row needs below its own line. */
export function belowOf(doc: Document, how: ViewSettings['assignments']): (row: { kind: string; id: string }) => number {
  const index = indexOf(doc);
  return (row) => {
    const n = row.kind === 'activity' ? index.assignmentsOf(row.id).length : 0;
    return n === 0 ? 0 : how === 'lines' ? n * LINE : how === 'strips' ? STRIPS : 0;
  };
}

const none: ReadonlyMap<string, readonly AssignmentLine[]> = new Map();

/** The assignments of the rows in view, from the worker; a row whose lines are the same keeps its list. */
export function useAssigned(
  session: ProjectSession,
  rows: readonly PlanRow[],
  first: number,
  last: number,
  heights: RowHeights,
  version: number,
): ReadonlyMap<string, readonly AssignmentLine[]> {
  const [known, setKnown] = useState(none);
  const ids: string[] = [];
  for (let i = first; i <= last; i++) if (heights.below(i) > 0) ids.push(rows[i]!.id);
  const wanted = ids.join('\n');
  useEffect(() => {
    if (wanted === '') return;
    let gone = false;
    void session.worker.assignmentLines(wanted.split('\n')).then((lines) => {
      if (gone) return;
      const fresh = new Map<string, AssignmentLine[]>();
      for (const l of lines) fresh.set(l.activityId, [...(fresh.get(l.activityId) ?? []), l]);
      setKnown((old) => new Map([...fresh].map(([id, list]) => [id, JSON.stringify(old.get(id)) === JSON.stringify(list) ? (old.get(id) ?? list) : list])));
    });
    return () => {
      gone = true;
    };
  }, [session, wanted, version]);
  return known;
}
