import { useMemo, useState } from 'react';
import { linksOutside, replicate, type Replication } from '@yellowhammer/core/commands/replicate';
import type { RowRef } from '@yellowhammer/core/commands/outline';
import { labelOf } from '@yellowhammer/core/model/document';
import type { Link } from '@yellowhammer/core/model/schema';
import { newId, useDoc } from '../../project/hooks';
import { RowNames } from './parts';
import type { TaskProps } from './types';
import { Verdict } from './Verdict';

/** Rows or branches many times. The links to what is not copied are a choice each, which says what it does. */
export function ReplicateTask({ rows, onDone }: TaskProps) {
  const { doc, version } = useDoc();
  const refs = useMemo(() => rows.flatMap((id): RowRef[] => (doc.wbs.has(id) ? [{ kind: 'wbs', id }] : doc.activities.has(id) ? [{ kind: 'activity', id }] : [])), [doc, rows]);
  const [how, setHow] = useState<Replication>({ times: 1, names: '{name} {2..3}', replace: '', replaceBy: '', incoming: true, outgoing: true, chained: false });
  const set = (part: Partial<Replication>): void => setHow({ ...how, ...part });
  const outside = useMemo(() => linksOutside(doc, refs), [doc, refs]);
  const result = useMemo(
    () => replicate(doc, refs, how, newId),
    // The document changes inside; its version says when.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [doc, version, refs, how],
  );
  const name = (id: string): string => {
    const a = doc.activities.get(id);
    return a ? labelOf(a) : '';
  };
  const ends = (links: readonly Link[], end: 'from' | 'to'): string => {
    const all = [...new Set(links.map((l) => l[end]))];
    return `${all.slice(0, 2).map(name).join(', ')}${all.length > 2 ? ` and ${all.length - 2} more` : ''}`;
  };
  const many = (links: readonly Link[], end: 'from' | 'to'): boolean => new Set(links.map((l) => l[end])).size > 1;
  const { links } = result;
  const counts = counting(how.names);
  return (
    <>
      <RowNames doc={doc} ids={refs.map((r) => r.id)} />
      <label className="task-field">
        Names of the copies
        <input value={how.names} data-autofocus onChange={(e) => set({ names: e.target.value })} aria-describedby="pattern-help" />
        <span id="pattern-help" className="muted">
          {'{name}'} is the name there; {'{2..6}'} counts; {'{Kitchen, Bath}'} is a list
        </span>
      </label>
      {!counts && (
        <label className="task-field">
          Copies
          <input type="number" min={1} max={500} value={how.times} onChange={(e) => set({ times: Number(e.target.value) })} />
        </label>
      )}
      <label className="task-field">
        In the names inside, replace
        <input value={how.replace} placeholder="level 1" onChange={(e) => set({ replace: e.target.value })} />
      </label>
      {how.replace !== '' && (
        <label className="task-field">
          by
          <input value={how.replaceBy} placeholder="level {2..6}" onChange={(e) => set({ replaceBy: e.target.value })} />
        </label>
      )}
      {outside.incoming.length > 0 && (
        <label className="task-check">
          <input type="checkbox" checked={how.incoming} onChange={() => set({ incoming: !how.incoming })} />
          <span>
            Links into them: {ends(outside.incoming, 'from')} {many(outside.incoming, 'from') ? 'release' : 'releases'} {how.incoming ? 'every copy too' : 'the rows there only'}
          </span>
        </label>
      )}
      {outside.outgoing.length > 0 && (
        <label className="task-check">
          <input type="checkbox" checked={how.outgoing} onChange={() => set({ outgoing: !how.outgoing })} />
          <span>
            Links out of them: {ends(outside.outgoing, 'to')} {many(outside.outgoing, 'to') ? 'wait' : 'waits'} for {how.outgoing ? 'every copy too' : 'the rows there only'}
          </span>
        </label>
      )}
      <label className="task-check">
        <input type="checkbox" checked={how.chained} onChange={() => set({ chained: !how.chained })} />
        <span>One after the other: each copy begins when the one before it is finished</span>
      </label>
      <Verdict
        outcome={result.outcome}
        action={`Make ${result.copies} ${result.copies === 1 ? 'copy' : 'copies'}`}
        facts={
          result.outcome.ok
            ? [
                `${result.rows} rows: ${result.names.slice(0, 3).join(', ')}${result.names.length > 3 ? ` … ${result.names[result.names.length - 1]}` : ''}.`,
                `${links.among + links.incoming + links.outgoing + links.chained} links: ${links.among} among the copied, ${links.incoming} into them, ${links.outgoing} out of them${links.chained ? `, ${links.chained} from copy to copy` : ''}.`,
              ]
            : []
        }
        onDone={onDone}
      />
    </>
  );
}

/** Whether a pattern says by itself how many there are. */
const counting = (pattern: string): boolean => /\{[^{}]*(\.\.|,)[^{}]*\}/.test(pattern);
