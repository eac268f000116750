/** Levelling: what to level, how far it is, and the proposal, of which all, some or none is taken. */
import { Modal, MultiSelect, Select } from '@mantine/core';
import { proxy } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { clearDelays, takeDelays } from '@yellowhammer/core/commands/level';
import { fieldsOf } from '@yellowhammer/core/fields/list';
import type { SortKey } from '@yellowhammer/core/fields/sort';
import type { LevelPicture, LevelSide } from '@yellowhammer/core/level/picture';
import { type Levelled, stepsFor } from '@yellowhammer/core/level/level';
import { type Document, labelOf, ordered } from '@yellowhammer/core/model/document';
import { formatDuration } from '@yellowhammer/core/time/duration';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';
import { finishText, longFinish, startText } from '../app/format';
import { usePlan } from '../app/store';
import { hoursText } from '@yellowhammer/core/load/words';
import { useDoc, useSession } from '../project/hooks';
import { LevelGraph } from './LevelGraph';
import { useWidth } from './useWidth';

export function LevelDialog({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const { doc } = useDoc();
  const people = ordered(doc, 'resources').filter((r) => r.kind !== 'material');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(() => new Set(people.map((r) => r.id)));
  const [withinFloat, setWithinFloat] = useState(true);
  const [progress, setProgress] = useState<number | null>(null);
  const [found, setFound] = useState<Levelled | null>(null);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const { selected } = usePlan();
  const [scope, setScope] = useState('all');
  const [served, setServed] = useState<string[]>([]);
  const orders = ordersIn(doc);
  useEffect(() => () => void session.worker.stopLevelling(), [session]);
  const run = async (): Promise<void> => {
    setFound(null);
    setLeft(new Set());
    setProgress(0);
    const options = { resources: [...chosen], scope: scopeOf(doc, scope, selected), withinFloat, steps: stepsFor(doc.activities.size) };
    const result = await session.worker.level(
      options,
      served.flatMap((value) => orders.find((o) => o.value === value)?.sort ?? []),
      proxy((done: number, of: number) => setProgress(done / of)),
    );
    setProgress(null);
    setFound(result);
  };
  const held = found?.moves.filter((m) => m.delay > 0) ?? [];
  const take = (): void => {
    if (!found) return;
    // What is left out keeps what it has.
    const delays = new Map([...found.delays].filter(([id]) => !left.has(id)));
    if (session.run(takeDelays(doc, delays))) onClose();
  };
  const nameOf = (id: string): string => nameIn(doc, id);
  const cleared = [...doc.activities.values()].some((a) => (a.levellingDelay ?? 0) > 0);
  return (
    <Modal opened onClose={onClose} title="Level" size="xl">
      <p className="muted">Holds work back that has not begun, until everybody who is asked for is there. Nothing else is changed, and it can be undone.</p>
      <fieldset className="level-who">
        <legend>Who and what</legend>
        {people.map((r) => (
          <label key={r.id}>
            <input
              type="checkbox"
              checked={chosen.has(r.id)}
              onChange={(e) => {
                const next = new Set(chosen);
                if (e.target.checked) next.add(r.id);
                else next.delete(r.id);
                setChosen(next);
              }}
            />{' '}
            {r.name}
          </label>
        ))}
      </fieldset>
      <div className="level-how">
        <Select
          size="xs"
          label="What may move"
          allowDeselect={false}
          searchable
          value={scope}
          data={[
            { value: 'all', label: 'all work that has not begun' },
            ...(selected.length ? [{ value: 'selected', label: `what is selected in Plan (${selected.length})` }] : []),
            ...ordered(doc, 'wbs').map((w) => ({ value: w.id, label: `in ${w.name}` })),
          ]}
          onChange={(v) => v && setScope(v)}
        />
        <MultiSelect
          size="xs"
          label="Served first, in this order"
          description={served.length ? 'Kept as it is said: no better order is looked for' : undefined}
          placeholder={served.length ? '' : 'what ends the project soonest'}
          searchable
          value={served}
          data={orders.map(({ value, label }) => ({ value, label }))}
          onChange={setServed}
        />
      </div>
      <div className="load-choice" role="group" aria-label="How far">
        {[true, false].map((w) => (
          <button key={String(w)} type="button" aria-pressed={w === withinFloat} onClick={() => setWithinFloat(w)}>
            {w ? 'Within float' : 'Beyond it, if need be'}
          </button>
        ))}
      </div>{' '}
      {progress === null ? (
        <button type="button" className="dark-button" disabled={chosen.size === 0} onClick={() => void run()}>
          {found ? 'Propose again' : 'Propose'}
        </button>
      ) : (
        <>
          <progress max={1} value={progress} aria-label="Levelling" />{' '}
          <button type="button" className="light-button" onClick={() => void session.worker.stopLevelling()}>
            Stop
          </button>
        </>
      )}{' '}
      {cleared && (
        <button type="button" className="light-button" onClick={() => session.run(clearDelays(doc)) && onClose()}>
          Clear all delays
        </button>
      )}
      {found && (
        <section aria-label="Proposal">
          <p>
            Finish{' '}
            {found.finish.after === found.finish.before
              ? `stays ${longFinish(found.finish.after)}`
              : `goes from ${longFinish(found.finish.before)} to ${longFinish(found.finish.after)}`}
            . {held.length} {held.length === 1 ? 'activity is' : 'activities are'} held back, {found.moves.length - held.length} follow. {found.tried} schedules were tried.
          </p>
          {found.leftOver.length > 0 && (
            <p className="critical-text">
              Not solved within float: {found.leftOver.slice(0, 6).map(nameOf).join(', ')}
              {found.leftOver.length > 6 ? ` and ${found.leftOver.length - 6} more` : ''}.
            </p>
          )}
          {found.cantFit.length > 0 && (
            <p className="critical-text">
              Cannot fit at any time:{' '}
              {found.cantFit
                .slice(0, 6)
                .map((x) => `${nameOf(x.id)} (${doc.resources.get(x.resourceId)?.name ?? ''})`)
                .join(', ')}
              .
            </p>
          )}
          {found.stillOver.length > 0 && <p className="muted">Still over by work that cannot move: {found.stillOver.map((id) => doc.resources.get(id)?.name ?? '').join(', ')}.</p>}
          {held.length > 0 && <BeforeAndAfter found={found} left={left} people={people.filter((r) => chosen.has(r.id))} />}
          <div className="level-list">
            <table className="table">
              <thead>
                <tr>
                  <th aria-label="Take" />
                  <th>Activity</th>
                  <th className="right">Held back</th>
                  <th className="right">Before</th>
                  <th className="right">After</th>
                  <th>Why</th>
                </tr>
              </thead>
              <tbody>
                {held.map((m) => {
                  const a = doc.activities.get(m.id);
                  return (
                    <tr key={m.id}>
                      <td>
                        <input
                          type="checkbox"
                          aria-label={`Take ${nameOf(m.id)}`}
                          checked={!left.has(m.id)}
                          onChange={(e) => {
                            const next = new Set(left);
                            if (e.target.checked) next.delete(m.id);
                            else next.add(m.id);
                            setLeft(next);
                          }}
                        />
                      </td>
                      <td>{nameOf(m.id)}</td>
                      <td className="right">{a ? formatDuration(m.delay, dayLengths(doc, a)) : ''}</td>
                      <td className="right">
                        {startText(m.before.start)} to {finishText(m.before.finish)}
                      </td>
                      <td className="right">
                        {startText(m.after.start)} to {finishText(m.after.finish)}
                      </td>
                      <td>
                        {m.reason &&
                          `${doc.resources.get(m.reason.resourceId)?.name ?? ''} until ${finishText(m.reason.until, true)}${m.reason.first.length ? `, first: ${m.reason.first.map((id) => doc.activities.get(id)?.code ?? '').join(', ')}` : ''}`}
                      </td>
                    </tr>
                  );
                })}
                {held.length === 0 && (
                  <tr>
                    <td colSpan={6} className="muted">
                      Nothing needs to be held back.
                    </td>
                  </tr>
                )}
              </tbody>
            </table>
          </div>
          <div className="update-actions">
            <button type="button" className="dark-button" disabled={held.length === 0} onClick={take}>
              Take {left.size ? `${held.length - held.filter((m) => left.has(m.id)).length} of ${held.length}` : 'it over'}
            </button>
            <button type="button" className="light-button" onClick={onClose}>
              Leave the plan as it is
            </button>
          </div>
        </section>
      )}
    </Modal>
  );
}

interface Order {
  value: string;
  label: string;
  sort: SortKey;
}

/** What work can be served by: priority, float, dates and duration, codes and own fields. */
function ordersIn(doc: Document): Order[] {
  const one = (key: string, descending: boolean, label: string): Order => ({ value: `${key} ${descending}`, label, sort: { key, descending } });
  const own = [...fieldsOf(doc).values()].filter((f) => f.key.startsWith('code:') || f.key.startsWith('own:'));
  return [
    one('priority', true, 'highest priority'),
    one('float', false, 'least float'),
    one('start', false, 'earliest start'),
    one('lateFinish', false, 'earliest late finish'),
    one('duration', false, 'shortest'),
    one('duration', true, 'longest'),
    ...own.map((f) => one(f.key, false, f.title)),
  ];
}

/** Activities that may move; null: all. */
function scopeOf(doc: Document, scope: string, selected: readonly string[]): Set<string> | null {
  if (scope === 'all') return null;
  const wanted = scope === 'selected' ? selected : [scope];
  const nodes = new Set(wanted.filter((id) => doc.wbs.has(id)));
  for (let size = -1; size < nodes.size;) {
    size = nodes.size;
    for (const w of doc.wbs.values()) if (w.parentId !== null && nodes.has(w.parentId)) nodes.add(w.id);
  }
  return new Set([...doc.activities.values()].flatMap((a) => (wanted.includes(a.id) || (a.wbsId !== null && nodes.has(a.wbsId)) ? [a.id] : [])));
}

/** Demand of one of those who are levelled, before above and after below on one axis, with what is taken of the proposal. */
function BeforeAndAfter({ found, left, people }: { found: Levelled; left: ReadonlySet<string>; people: readonly { id: string; name: string }[] }) {
  const session = useSession();
  const first = found.moves.find((m) => m.reason)?.reason?.resourceId ?? people[0]?.id ?? '';
  const [who, setWho] = useState(first);
  const [picture, setPicture] = useState<LevelPicture | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  useEffect(() => {
    let gone = false;
    void session.worker.levelPicture(who, new Map([...found.delays].filter(([id]) => !left.has(id)))).then((p) => {
      if (!gone) setPicture(p);
    });
    return () => {
      gone = true;
    };
  }, [session, who, found, left]);
  return (
    <div className="level-picture" ref={box}>
      <label>
        Demand of{' '}
        <select value={who} onChange={(e) => setWho(e.target.value)}>
          {people.map((r) => (
            <option key={r.id} value={r.id}>
              {r.name}
            </option>
          ))}
        </select>{' '}
        before, and after what is ticked below
      </label>
      {picture && width > 0 && (
        <>
          <LevelGraph picture={picture} width={width} />
          <p className="muted">
            Before (dashed): {overText(picture.before)}. After (filled): {overText(picture.after)}. The line is what is there.
          </p>
        </>
      )}
    </div>
  );
}

const overText = ({ over, runs }: LevelSide): string => (runs === 0 ? 'never over the limit' : `${hoursText(over)} h over, ${runs === 1 ? 'once' : `${runs} times`}`);

function nameIn(doc: Document, id: string): string {
  const a = doc.activities.get(id);
  return a ? labelOf(a) : id;
}
