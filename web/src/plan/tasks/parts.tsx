/** Fields that several tasks have. */
import { useMemo, useState } from 'react';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { type Document, labelOf } from '@yellowhammer/core/model/document';
import { type Activity, type LinkType, linkTypes } from '@yellowhammer/core/model/schema';
import type { LagOf } from '@yellowhammer/core/commands/bulk-links';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';
import { parseDuration } from '@yellowhammer/core/time/duration';

export const typeNames: Record<LinkType, string> = { FS: 'finish to start', SS: 'start to start', FF: 'finish to finish', SF: 'start to finish' };

/** Rows by their labels, the first few of them. */
export function RowNames({ doc, ids, most = 4 }: { doc: Document; ids: readonly string[]; most?: number }) {
  const names = ids.slice(0, most).map((id) => {
    const a = doc.activities.get(id);
    return a ? labelOf(a) : (doc.wbs.get(id)?.name ?? '');
  });
  return (
    <ul className="row-names">
      {names.map((name, i) => (
        <li key={ids[i]}>{name}</li>
      ))}
      {ids.length > most && <li className="muted">and {ids.length - most} more</li>}
    </ul>
  );
}

export function TypeSelect({ value, onChange, autoFocus }: { value: LinkType; onChange: (t: LinkType) => void; autoFocus?: boolean }) {
  return (
    <label className="task-field">
      Type
      <select value={value} data-autofocus={autoFocus || undefined} onChange={(e) => onChange(e.target.value as LinkType)}>
        {linkTypes.map((t) => (
          <option key={t} value={t}>
            {t}: {typeNames[t]}
          </option>
        ))}
      </select>
    </label>
  );
}

/** A lag as it is typed: minutes by each predecessor's day; an error where it cannot be read. */
export function useLag(doc: Document): { text: string; setText: (t: string) => void; lag: LagOf; error: string | null } {
  const [text, setText] = useState('');
  return useMemo(() => {
    const read = (a: Pick<Activity, 'calendarId'>): number | undefined => (text.trim() === '' ? 0 : parseDuration(text, dayLengths(doc, a)));
    const error = read({ calendarId: null }) === undefined ? `The lag ${text} cannot be read. Type it as 2d, -4h or 1w.` : null;
    return { text, setText, lag: (a: Activity) => read(a) ?? 0, error };
  }, [doc, text]);
}

export function LagField({ lag }: { lag: ReturnType<typeof useLag> }) {
  return (
    <label className="task-field">
      Lag
      <input value={lag.text} placeholder="2d, -4h" aria-invalid={lag.error !== null} onChange={(e) => lag.setText(e.target.value)} />
      {lag.error && <span className="critical-text">{lag.error}</span>}
    </label>
  );
}

/** Activities that are selected, and those in selected WBS nodes. */
export function activitiesIn(doc: Document, ids: readonly string[]): string[] {
  const out = new Set<string>();
  const walk = (id: string): void => {
    if (doc.activities.has(id)) out.add(id);
    else for (const c of indexOf(doc).childrenOf(id)) walk(c.id);
  };
  for (const id of ids) if (doc.activities.has(id) || doc.wbs.has(id)) walk(id);
  return [...out];
}
