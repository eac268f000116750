import { placeOf } from '@yellowhammer/core/schedule/view';
import { useEffect, useRef, useState } from 'react';
import type { Activity } from '@yellowhammer/core/model/schema';
import type { Bound, Explanation } from '@yellowhammer/core/schedule/explain';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { durationText, finishText, floatText, stationText } from '../app/format';
import { useSession, useTopic } from '../project/hooks';
import { Section } from './Section';

/** Why this date? Governing bounds as stations on a chestnut line, others grey; each can be followed back. */
export function Why({ a, onGo: goTo }: { a: Activity; onGo: (id: string) => void }) {
  const session = useSession();
  const viewVersion = useTopic('view');
  const [why, setWhy] = useState<Explanation | null>(null);
  const [more, setMore] = useState(false);
  // Following a bound keeps the focus on the chain, so that Enter after Enter walks back to the project start.
  const list = useRef<HTMLOListElement>(null);
  const ahead = useRef<HTMLUListElement>(null);
  const following = useRef<'back' | 'ahead' | null>(null);
  const onGo = (id: string, way: 'back' | 'ahead' = 'back'): void => {
    following.current = way;
    goTo(id);
  };
  useEffect(() => {
    if (!following.current || why?.id !== a.id) return;
    const way = following.current === 'ahead' ? ahead : list;
    following.current = null;
    // At the end of the walk there is nothing to follow: the list itself has the focus, and arrows still go on from it.
    (way.current?.querySelector<HTMLElement>('.link-button') ?? list.current)?.focus();
  }, [why, a.id]);
  useEffect(() => {
    let gone = false;
    void session.worker.explain(a.id).then((e) => !gone && setWhy(e));
    return () => {
      gone = true;
    };
  }, [session, a.id, viewVersion]);
  const view = session.view;
  const i = view ? placeOf(view, a.id) : undefined;
  if (!why || why.id !== a.id || !view || i === undefined) return null;
  const perDay = view.minutesPerDay[i]!;
  const governing = why.bounds.filter((b) => b.governs);
  const others = why.bounds.filter((b) => !b.governs);
  const holds = why.holds.slice(0, more ? 200 : 5);
  return (
    <Section title={`Why ${finishText(parseInstant(why.finish) as number)}?`}>
      <ol className="stations" id="why" data-activity={a.id} ref={list} tabIndex={-1} onKeyDown={arrows}>
        {governing.map((b, n) => (
          <Station key={`g${n}`} bound={b} governs perDay={perDay} onGo={onGo} />
        ))}
        <li className="station governs">
          <b>{why.start === why.finish ? stationText(why.finish) : `${stationText(why.start)} to ${stationText(why.finish)}`}</b>
          {why.stops.map((s) => (
            <div key={s.from} className="muted">
              no work {stationText(s.from)} to {stationText(s.to)}: {s.text}
            </div>
          ))}
          <div className="muted">{view.state[i] === 2 ? 'as it happened' : `${durationText(view.length[i]!, perDay)} of work${view.state[i] === 1 ? ' remain' : ''}`}</div>
        </li>
        {others.slice(0, more ? 200 : 4).map((b, n) => (
          <Station key={`o${n}`} bound={b} governs={false} perDay={perDay} onGo={onGo} />
        ))}
      </ol>
      {why.dropped > 0 && <p className="muted">{why.dropped} more carried through finished work ask for less; they are not listed.</p>}
      {why.earlier.length > 0 && (
        <>
          <h4>What would pull it in</h4>
          <ul className="plain-list">
            {why.earlier.map((t) => (
              <li key={t}>{t}</li>
            ))}
          </ul>
        </>
      )}
      {why.holds.length > 0 && (
        <>
          <h4>What it holds up</h4>
          <ul className="plain-list" ref={ahead} onKeyDown={arrows}>
            {holds.map((h) => (
              <li key={`${h.activityId} ${h.linkId ?? 'carried'}`}>
                <button type="button" className="link-button" onClick={() => onGo(h.activityId, 'ahead')}>
                  {h.text}
                </button>{' '}
                <span className={h.driving ? 'critical-text' : 'muted'}>
                  {h.driving ? 'drives it' : `${floatText(h.slackMinutes, view.minutesPerDay[placeOf(view, h.activityId) ?? i]!)} of slack`}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      {(others.length > 4 || why.holds.length > 5) && (
        <button type="button" className="link-button" onClick={() => setMore(!more)}>
          {more ? 'Show less' : 'Show all'}
        </button>
      )}
    </Section>
  );
}

/** Up and down between what can be followed; Enter follows it. */
function arrows(e: React.KeyboardEvent): void {
  if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return;
  const box = (e.currentTarget as HTMLElement).closest('section, .section') ?? e.currentTarget;
  const all = [...box.querySelectorAll<HTMLElement>('.stations .link-button, .plain-list .link-button')];
  const next = all[all.indexOf(document.activeElement as HTMLElement) + (e.key === 'ArrowUp' ? -1 : 1)];
  if (!next) return;
  e.preventDefault();
  next.focus();
}

function Station({ bound: b, governs, perDay, onGo }: { bound: Bound; governs: boolean; perDay: number; onGo: (id: string) => void }) {
  return (
    <li className={`station${governs ? ' governs' : ''}`}>
      {b.activityId ? (
        <button type="button" className="link-button" onClick={() => onGo(b.activityId as string)}>
          {b.text}
        </button>
      ) : (
        <b>{b.text}</b>
      )}
      <div className="muted">
        {b.end === 'finish' ? 'finish ' : ''}
        {b.kind === 'actual' ? stationText(b.asks) : governs || b.moved ? `asks for ${stationText(b.asks)}` : `would allow ${stationText(b.becomes)}`}
        {!governs && b.slack !== 0 ? `: ${floatText(b.slack, perDay)} of slack` : ''}
      </div>
      {b.moved && <div className="muted">{`${b.moved}; next work ${stationText(b.becomes)}`}</div>}
    </li>
  );
}
