import { linkState, placeOf } from '@yellowhammer/core/schedule/view';
import { IconTrash } from '@tabler/icons-react';
import { useState } from 'react';
import { addTypedLinks, deleteLinks, editLink } from '@yellowhammer/core/commands/links';
import { labelOf } from '@yellowhammer/core/model/document';
import { type Activity, type Link, linkTypes } from '@yellowhammer/core/model/schema';
import { NONE } from '@yellowhammer/core/schedule/network';
import { formatDuration, parseDuration } from '@yellowhammer/core/time/duration';
import { floatText } from '../app/format';
import { newId, useSession } from '../project/hooks';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';

/** Links of an activity on one side: go there, change, delete, add; carried logic among them. */
export function LinkList({ a, side, links, onGo }: { a: Activity; side: 'predecessors' | 'successors'; links: readonly Link[]; onGo: (id: string) => void }) {
  const session = useSession();
  const { doc, view } = session;
  const [text, setText] = useState('');
  const lengths = (x: Activity) => dayLengths(doc, x);
  // Slack counts in the successor's calendar.
  const perDayOf = (id: string): number => view?.minutesPerDay[placeOf(view, id) ?? -1] ?? dayLengths(doc, a).minutesPerDay;
  const carried = (view?.carried ?? []).filter((c) => (side === 'predecessors' ? c.to : c.from) === a.id);
  const add = (): void => {
    if (!text.trim()) return;
    if (session.run(addTypedLinks(doc, a.id, side, text, newId))) setText('');
  };
  return (
    <div className="link-list">
      <h4>{side === 'predecessors' ? 'Predecessors' : 'Successors'}</h4>
      {links.map((l) => {
        const other = doc.activities.get(side === 'predecessors' ? l.from : l.to);
        const from = doc.activities.get(l.from);
        if (!other || !from) return null;
        const slack = view ? linkState(view, l.id) : undefined;
        return (
          <div key={l.id} className="link-row">
            <button type="button" className="link-button link-name" title={labelOf(other)} onClick={() => onGo(other.id)}>
              {labelOf(other)}
            </button>
            <select aria-label={`Type of the link with ${other.code}`} value={l.type} onChange={(e) => session.run(editLink(doc, l.id, { type: e.target.value as Link['type'] }))}>
              {linkTypes.map((t) => (
                <option key={t}>{t}</option>
              ))}
            </select>
            <LagInput key={`${l.id} ${l.lag}`} link={l} lengths={lengths(from)} code={other.code} />
            <span className={slack?.driving ? 'critical-text' : 'muted'} title={slack?.driving ? 'Driving' : 'Slack'}>
              {slack?.driving ? 'drives' : slack && slack.slack !== NONE ? floatText(slack.slack, perDayOf(l.to)) : ''}
            </span>
            <button type="button" className="plain-button" aria-label={`Delete the link with ${labelOf(other)}`} onClick={() => session.run(deleteLinks(doc, [l.id]))}>
              <IconTrash size={13} stroke={1.6} />
            </button>
          </div>
        );
      })}
      {carried.map((c) => {
        const other = doc.activities.get(side === 'predecessors' ? c.from : c.to);
        const through = doc.activities.get(c.through);
        return other ? (
          <div key={`${c.from} ${c.to}`} className="link-row carried">
            <button type="button" className="link-button link-name" onClick={() => onGo(other.id)}>
              {labelOf(other)}
            </button>
            <span className="muted">carried through {through?.code}</span>
          </div>
        ) : null;
      })}
      <input
        className="add-link"
        aria-label={`Add ${side}`}
        placeholder={side === 'predecessors' ? 'Add: 120fs+2d' : 'Add: 130'}
        list="row-numbers"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && add()}
        onBlur={add}
      />
    </div>
  );
}

function LagInput({ link, lengths, code }: { link: Link; lengths: { minutesPerDay: number; daysPerWeek: number }; code: string }) {
  const session = useSession();
  const [text, setText] = useState(link.lag === 0 ? '' : formatDuration(link.lag, lengths));
  const [wrong, setWrong] = useState(false);
  const commit = (): void => {
    const lag = text.trim() === '' ? 0 : parseDuration(text, lengths);
    if (lag === undefined) return setWrong(true);
    if (lag !== link.lag) session.run(editLink(session.doc, link.id, { lag }));
  };
  return (
    <input
      className={`lag${wrong ? ' wrong' : ''}`}
      aria-label={`Lag of the link with ${code}`}
      aria-invalid={wrong}
      title={wrong ? 'Type a lag as 2d, -4h or 1w' : 'Lag'}
      placeholder="lag"
      value={text}
      onChange={(e) => {
        setText(e.target.value);
        setWrong(false);
      }}
      onBlur={commit}
      onKeyDown={(e) => e.key === 'Enter' && commit()}
    />
  );
}
