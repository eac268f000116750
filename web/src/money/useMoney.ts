/** The table of money and what makes its cells, from the worker, anew after each computation. */
import { useEffect, useState } from 'react';
import type { GroupBy, MoneyPart, MoneyTable } from '@yellowhammer/core/cost/table';
import type { BucketKind } from '@yellowhammer/core/load/buckets';
import { useSession, useTopic } from '../project/hooks';

export function useMoney(kind: BucketKind, by: GroupBy): MoneyTable | string | null {
  const session = useSession();
  const version = useTopic('view');
  const [table, setTable] = useState<MoneyTable | string | null>(null);
  useEffect(() => {
    let gone = false;
    void session.worker.money(kind, by).then((t) => {
      if (!gone) setTable(t);
    });
    return () => {
      gone = true;
    };
  }, [session, version, kind, by]);
  return table;
}

export interface Parts {
  parts: MoneyPart[];
  more: number;
}
export function useParts(by: GroupBy, what: { key: string | null; from: number; to: number } | null): Parts | null {
  const session = useSession();
  const version = useTopic('view');
  const [parts, setParts] = useState<Parts | null>(null);
  const [key, from, to] = [what?.key, what?.from, what?.to];
  useEffect(() => {
    if (key === undefined || from === undefined || to === undefined) return setParts(null);
    let gone = false;
    void session.worker.moneyParts(by, key, from, to).then((p) => {
      if (!gone) setParts(p);
    });
    return () => {
      gone = true;
    };
  }, [session, version, by, key, from, to]);
  return parts;
}
