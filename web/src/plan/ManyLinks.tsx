/** The links of many selected activities: sorted, chosen, and changed, reversed or deleted together. */
import { useState } from 'react';
import { changeLinks, reverseLinks } from '@yellowhammer/core/commands/bulk-links';
import { deleteLinks } from '@yellowhammer/core/commands/links';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { type Activity, type Link, type LinkType, linkTypes } from '@yellowhammer/core/model/schema';
import { NONE } from '@yellowhammer/core/schedule/network';
import { linkState, placeOf } from '@yellowhammer/core/schedule/view';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';
import { formatDuration, parseDuration } from '@yellowhammer/core/time/duration';
import { CommitField } from '../app/CommitField';
import { floatText } from '../app/format';
import type { Chosen } from '../app/panel';
import { newId, useSession } from '../project/hooks';

const sorts = ['predecessor', 'successor', 'type', 'lag', 'slack'] as const;
type SortKey = (typeof sorts)[number];
const MOST_SHOWN = 200;

export function ManyLinks({ activities, onGo }: Pick<Chosen, 'activities' | 'onGo'>) {
  const session = useSession();
  const { doc, view } = session;
  const [sort, setSort] = useState<SortKey>('predecessor');
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const index = indexOf(doc);
  const links = new Map<string, Link>();
  for (const a of activities) for (const l of [...index.linksInto(a.id), ...index.linksOutOf(a.id)]) links.set(l.id, l);
  const codeOf = (id: string): string => doc.activities.get(id)?.code ?? '';
  const slackOf = (l: Link): number => (view ? (linkState(view, l.id)?.slack ?? NONE) : NONE);
  const byCode = (a: string, b: string): number => a.localeCompare(b, undefined, { numeric: true });
  const compare: Record<SortKey, (a: Link, b: Link) => number> = {
    predecessor: (a, b) => byCode(codeOf(a.from), codeOf(b.from)),
    successor: (a, b) => byCode(codeOf(a.to), codeOf(b.to)),
    type: (a, b) => linkTypes.indexOf(a.type) - linkTypes.indexOf(b.type),
    lag: (a, b) => a.lag - b.lag,
    slack: (a, b) => slackOf(a) - slackOf(b),
  };
  const all = [...links.values()].sort((a, b) => compare[sort](a, b) || compare.predecessor(a, b) || compare.successor(a, b));
  const chosen = all.filter((l) => !left.has(l.id)).map((l) => l.id);
  if (all.length === 0) return <p className="muted">The selected activities have no links.</p>;
  const lagText = (l: Link): string => {
    const from = doc.activities.get(l.from);
    return l.lag === 0 || !from ? '' : `${l.lag > 0 ? '+' : '−'}${formatDuration(Math.abs(l.lag), dayLengths(doc, from))}`;
  };
  const perDay = (id: string): number => view?.minutesPerDay[placeOf(view, id) ?? -1] ?? 480;
  const readLag = (text: string) => (a: Activity) => parseDuration(text, dayLengths(doc, a)) ?? 0;
  return (
    <div className="many-links">
      <label className="task-field">
        Sorted by
        <select value={sort} onChange={(e) => setSort(e.target.value as SortKey)}>
          {sorts.map((s) => (
            <option key={s}>{s}</option>
          ))}
        </select>
      </label>
      {all.slice(0, MOST_SHOWN).map((l) => {
        const state = view ? linkState(view, l.id) : undefined;
        return (
          <div key={l.id} className="many-link">
            <input
              type="checkbox"
              aria-label={`Choose the link ${codeOf(l.from)} to ${codeOf(l.to)}`}
              checked={!left.has(l.id)}
              onChange={() => setLeft(new Set(left.has(l.id) ? [...left].filter((x) => x !== l.id) : [...left, l.id]))}
            />
            <span>
              {[l.from, l.to].map((id, i) => (
                <span key={id}>
                  {i === 1 && <span className="muted"> to </span>}
                  <button type="button" className="link-button" title={doc.activities.get(id)?.name} onClick={() => onGo(id)}>
                    {codeOf(id)}
                  </button>
                </span>
              ))}
            </span>
            <span>
              {l.type} {lagText(l)}
            </span>
            <span className={state?.driving ? 'critical-text' : 'muted'}>
              {state?.driving ? 'drives' : state && state.slack !== NONE ? floatText(state.slack, perDay(l.to)) : ''}
            </span>
          </div>
        );
      })}
      {all.length > MOST_SHOWN && <p className="muted">and {all.length - MOST_SHOWN} more</p>}
      <p className="muted">
        {chosen.length} of {all.length} chosen
      </p>
      <label className="task-field">
        Type of the chosen
        <select value="" onChange={(e) => e.target.value !== '' && session.run(changeLinks(doc, chosen, { type: e.target.value as LinkType }))}>
          <option value="">as they are</option>
          {linkTypes.map((t) => (
            <option key={t}>{t}</option>
          ))}
        </select>
      </label>
      <CommitField
        label="Lag of the chosen"
        size="xs"
        placeholder="as they are"
        value=""
        of={chosen.join().slice(0, 400)}
        onCommit={(text) => {
          if (text.trim() === '') return null;
          if (parseDuration(text, dayLengths(doc, { calendarId: null })) === undefined) return `The lag ${text} cannot be read. Type it as 2d, -4h or 1w.`;
          const outcome = changeLinks(doc, chosen, { lag: readLag(text) });
          if (!outcome.ok) return outcome.problems[0]?.message ?? null;
          session.run(outcome);
          return null;
        }}
      />
      <div className="many-actions">
        <button type="button" className="light-button" disabled={chosen.length === 0} onClick={() => session.run(reverseLinks(doc, chosen, newId).outcome)}>
          Reverse
        </button>
        <button type="button" className="light-button" disabled={chosen.length === 0} onClick={() => session.run(deleteLinks(doc, chosen))}>
          Delete
        </button>
      </div>
    </div>
  );
}
