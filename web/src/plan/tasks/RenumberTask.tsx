import { useMemo, useState } from 'react';
import { prefixFor, renumber } from '@yellowhammer/core/commands/renumber';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { projectOf } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { useDoc } from '../../project/hooks';
import { activitiesIn } from './parts';
import type { TaskProps } from './types';
import { Verdict } from './Verdict';

/** Numbers by a rule: first, step, digits, and a prefix for each branch on the top level. */
export function RenumberTask({ rows, onDone }: TaskProps) {
  const { doc, version } = useDoc();
  const options = projectOf(doc).options;
  const chosen = useMemo(() => activitiesIn(doc, rows), [doc, rows]);
  const [all, setAll] = useState(chosen.length < 2);
  const [rule, setRule] = useState({ from: String(options.numberFrom), step: String(options.numberStep), digits: '1', anew: false });
  const [prefixes, setPrefixes] = useState<ReadonlyMap<string, string>>(new Map());
  const branches = indexOf(doc)
    .childrenOf(null)
    .flatMap((c) => (c.kind === 'wbs' ? (doc.wbs.get(c.id) ?? []) : []));
  const outcome = useMemo(
    () =>
      renumber(doc, all ? null : new Set(chosen), {
        from: Number(rule.from || 'x'),
        step: Number(rule.step || 'x'),
        digits: Number(rule.digits || 'x'),
        anew: rule.anew,
        prefixes: new Map([...prefixes].filter(([, p]) => p !== '')),
      }),
    // The document changes inside; its version says when.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [doc, version, all, chosen, rule, prefixes],
  );
  const examples = outcome.ok ? outcome.changes.slice(0, 3).map((c) => `${(c.before as Activity).code} becomes ${(c.after as Activity).code}`) : [];
  const figure = (key: 'from' | 'step' | 'digits', label: string, first?: boolean) => (
    <label className="task-field">
      {label}
      <input type="number" min={0} data-autofocus={first || undefined} value={rule[key]} onChange={(e) => setRule({ ...rule, [key]: e.target.value })} />
    </label>
  );
  return (
    <>
      {chosen.length > 0 && (
        <label className="task-check">
          <input type="checkbox" checked={!all} onChange={() => setAll(!all)} />
          only the {chosen.length} selected
        </label>
      )}
      <div className="history-filter">
        {figure('from', 'First number', true)}
        {figure('step', 'Step')}
        {figure('digits', 'Digits at least')}
      </div>
      <h4>Prefix of each branch</h4>
      {branches.map((b) => (
        <label key={b.id} className="prefix-row">
          <span>{b.name}</span>
          <input value={prefixes.get(b.id) ?? ''} aria-label={`Prefix of ${b.name}`} onChange={(e) => setPrefixes(new Map([...prefixes, [b.id, e.target.value.trim()]]))} />
        </label>
      ))}
      {branches.length > 0 && (
        <button type="button" className="link-button" onClick={() => setPrefixes(new Map(branches.map((b) => [b.id, prefixFor(b.name)])))}>
          Take first letters
        </button>
      )}
      <label className="task-check">
        <input type="checkbox" checked={rule.anew} onChange={() => setRule({ ...rule, anew: !rule.anew })} />
        each branch with a prefix begins anew
      </label>
      <Verdict
        outcome={outcome}
        action="Number them"
        facts={examples.length ? [`${examples.join(', ')}${outcome.ok && outcome.changes.length > 3 ? ' …' : ''}. Links keep their ends.`] : []}
        onDone={() => onDone([])}
      />
    </>
  );
}
