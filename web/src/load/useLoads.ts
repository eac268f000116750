/** The table of loads from the worker, anew after each computation. */
import { useEffect, useState } from 'react';
import type { BucketKind } from '@yellowhammer/core/load/buckets';
import type { SubjectKind } from '@yellowhammer/core/load/load';
import type { AskedBy, LoadTable, Stretch } from '@yellowhammer/core/load/table';
import { useSession, useTopic } from '../project/hooks';

export function useLoads(kind: BucketKind, calendarId: string | null, span: { from: number; to: number } | null): LoadTable | null {
  const session = useSession();
  const version = useTopic('view');
  const [table, setTable] = useState<LoadTable | null>(null);
  const [from, to] = [span?.from, span?.to];
  useEffect(() => {
    let gone = false;
    void session.worker.loads(kind, calendarId, from === undefined || to === undefined ? null : { from, to }).then((t) => {
      if (!gone) setTable(t);
    });
    return () => {
      gone = true;
    };
  }, [session, version, kind, calendarId, from, to]);
  return table;
}

export function useStretch(what: { kind: SubjectKind; id: string; from: number; to: number } | null, by: AskedBy): Stretch | null {
  const session = useSession();
  const version = useTopic('view');
  const [stretch, setStretch] = useState<Stretch | null>(null);
  const [kind, id, from, to] = [what?.kind, what?.id, what?.from, what?.to];
  useEffect(() => {
    if (kind === undefined || id === undefined || from === undefined || to === undefined) return setStretch(null);
    let gone = false;
    void session.worker.stretch(kind, id, from, to, by).then((s) => {
      if (!gone) setStretch(s);
    });
    return () => {
      gone = true;
    };
  }, [session, version, kind, id, from, to, by]);
  return stretch;
}
