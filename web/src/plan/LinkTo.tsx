/** The second end of a link that was dropped on no bar: typed by number or name, and completed. */
import { useEffect, useId, useMemo, useState } from 'react';
import { addLink } from '@yellowhammer/core/commands/links';
import { type Document, labelOf } from '@yellowhammer/core/model/document';
import { type LinkType, linkTypes } from '@yellowhammer/core/model/schema';
import { finishDays } from '@yellowhammer/core/compare/views';
import { placeOf } from '@yellowhammer/core/schedule/view';
import { finishText, signedDays, startText } from '../app/format';
import { Question } from './Question';
import { newId, useSession } from '../project/hooks';

export interface LinkFrom {
  id: string;
  fromStart: boolean;
  x: number;
  y: number;
}

const MOST = 8;

/** What an activity is called; nothing where another window has deleted it meanwhile. */
function nameIn(doc: Document, id: string): string {
  const a = doc.activities.get(id);
  return a ? labelOf(a) : '';
}

export function LinkTo({ from, onDone }: { from: LinkFrom; onDone: () => void }) {
  const session = useSession();
  const { doc } = session;
  const list = useId();
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const [type, setType] = useState<LinkType>(from.fromStart ? 'SS' : 'FS');
  const [words, setWords] = useState('');
  const a = doc.activities.get(from.id);
  const found = useMemo(() => {
    const t = text.trim().toLowerCase();
    if (t === '') return [];
    const [begin, within] = [[], []] as [string[], string[]];
    for (const x of doc.activities.values()) {
      if (x.id === from.id) continue;
      if (x.code.toLowerCase().startsWith(t)) begin.push(x.id);
      else if (x.name.toLowerCase().includes(t)) within.push(x.id);
      if (begin.length >= MOST) break;
    }
    return [...begin, ...within].slice(0, MOST);
  }, [doc, text, from.id]);
  const to = found[Math.min(at, found.length - 1)];
  const outcome = useMemo(() => (to === undefined ? null : addLink(doc, { from: from.id, to, type }, newId)), [doc, from.id, to, type]);
  useEffect(() => {
    setWords('');
    if (!outcome?.ok || to === undefined) return;
    let gone = false;
    void session.computing.previewDates(outcome.changes).then((view) => {
      const i = view ? placeOf(view, to) : undefined;
      if (gone || !view || i === undefined) return;
      const moved = session.view ? finishDays(doc, session.view, view) : 0;
      setWords(`It would lie from ${startText(view.start[i]!)} to ${finishText(view.finish[i]!)}; ${moved === 0 ? 'the finish holds' : `the finish ${signedDays(moved)}`}.`);
    });
    return () => {
      gone = true;
    };
  }, [outcome, to, session, doc]);
  if (!a) return null;
  const take = (): void => {
    if (outcome && session.run(outcome)) onDone();
  };
  return (
    <Question label={`Link from ${labelOf(a)}`} x={from.x} y={from.y} onDone={onDone}>
      <div
        onKeyDown={(e) => {
          if (e.key === 'Enter') take();
          else if (e.key === 'ArrowDown') setAt((n) => Math.min(n + 1, found.length - 1));
          else if (e.key === 'ArrowUp') setAt((n) => Math.max(0, n - 1));
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
      >
        <b className="serif">{labelOf(a)}</b>
        <div className="link-to-row">
          <select aria-label="Type of the link" value={type} onChange={(e) => setType(e.target.value as LinkType)}>
            {linkTypes
              .filter((t) => (t[0] === 'S') === from.fromStart)
              .map((t) => (
                <option key={t}>{t}</option>
              ))}
          </select>
          <input
            role="combobox"
            aria-expanded={found.length > 0}
            aria-controls={list}
            aria-activedescendant={to && `${list}-${to}`}
            aria-label="Link to: number or name"
            placeholder="to: number or name"
            value={text}
            onChange={(e) => {
              setText(e.target.value);
              setAt(0);
            }}
          />
        </div>
        <ul id={list} role="listbox" aria-label="Activities" className="link-to-list">
          {found.map((id) => (
            <li key={id} id={`${list}-${id}`} role="option" aria-selected={id === to}>
              <button type="button" tabIndex={-1} className={`drag-answer${id === to ? ' on' : ''}`} onMouseEnter={() => setAt(found.indexOf(id))} onClick={take}>
                {nameIn(doc, id)}
              </button>
            </li>
          ))}
        </ul>
        <p className={outcome && !outcome.ok ? 'critical-text' : 'muted'} role="status">
          {outcome && !outcome.ok
            ? outcome.problems[0]!.message
            : words || (text.trim() && found.length === 0 ? 'No activity has that number or name.' : 'Enter links; Escape gives up.')}
        </p>
      </div>
    </Question>
  );
}
