/** Before a change of something shared: what it would do to every project that has a copy; for all, or only here. */
import { Modal } from '@mantine/core';
import { useEffect, useState } from 'react';
import { applyChanges, sameValue } from '@yellowhammer/core/change/change';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { asOwn, type InsteadOf, wishedThing } from '@yellowhammer/core/commands/shared-rows';
import { sharedTouched, type SharedRow, thingKey, type SharedThing, thingName, thingState } from '@yellowhammer/core/commands/shared-things';
import type { SharedThingEntry, ThingEffect } from '@yellowhammer/core/commands/shared-views';
import { rowDifferences } from '@yellowhammer/core/fields/stored';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import type { Activity, CodeSet, CodeValue } from '@yellowhammer/core/model/schema';
import { codeKey } from '@yellowhammer/core/model/values';
import { call } from '../project/api';
import { useSession } from '../project/hooks';
import type { ProjectSession } from '../project/session';
import { EffectsTable } from './EffectsTable';

type Taken = Extract<Outcome, { ok: true }>;
interface Wish {
  outcome: Taken;
  things: (SharedThing & { revision: number })[];
  /** What others use, in words. */
  users: string[];
  instead: InsteadOf;
  /** Values of a code set that go, and the set as it is then. */
  going: CodeValue[];
  set: CodeSet | null;
  problem: string;
}

/** Values that a change gives activities in the place of those that go. */
function insteadIn(outcome: Taken, set: CodeSet, going: readonly CodeValue[]): Record<string, string | null> {
  const out: Record<string, string | null> = {};
  for (const c of outcome.changes) {
    if (c.table !== 'activities' || !c.before || !c.after) continue;
    const [before, after] = [(c.before as Activity).values[codeKey(set.id)], (c.after as Activity).values[codeKey(set.id)]];
    if (typeof before === 'string' && going.some((v) => v.id === before)) out[before] = typeof after === 'string' ? after : null;
  }
  return out;
}

/** What to ask; undefined where nothing of it is shared any more, or the copies differ already: then it is this project's affair. */
function wishOf(doc: Document, outcome: Taken, entries: readonly SharedThingEntry[]): Wish | undefined {
  const byKey = new Map(entries.map((e) => [thingKey(e.table, e.row.id), e]));
  const touched = sharedTouched(outcome.changes).filter((t) => thingState(doc, byKey, t.table, t.before) === 'same');
  if (touched.length === 0) return undefined;
  const after = copyDocument(doc);
  applyChanges(after, outcome.changes);
  const wish: Wish = { outcome, things: [], users: [], instead: {}, going: [], set: null, problem: '' };
  const users = new Set<string>();
  for (const t of touched) {
    const entry = byKey.get(thingKey(t.table, t.after.sharedId ?? '')) as SharedThingEntry;
    const wished = wishedThing(after, t.table, t.after, entry.row);
    if (typeof wished === 'string') wish.problem = wished;
    else wish.things.push({ ...wished, revision: entry.revision });
    for (const u of entry.usedBy) users.add(u.code);
    if (t.table === 'codeSets') {
      const [was, set] = [t.before as CodeSet, t.after as CodeSet];
      wish.going = was.values.filter((v) => !set.values.some((x) => x.id === v.id));
      wish.set = set;
      wish.instead = insteadIn(outcome, set, wish.going);
    }
  }
  wish.users = [...users].sort();
  return wish;
}

export function SharedQuestion() {
  const session = useSession();
  const [wish, setWish] = useState<Wish | null>(null);
  useEffect(() => {
    session.onShared = (outcome) => {
      void call<SharedThingEntry[]>('GET', '/shared').then((reply) => {
        const asked = reply.ok ? wishOf(session.doc, outcome, reply.value) : undefined;
        if (asked) setWish(asked);
        else if (reply.ok) session.runHere(outcome);
        else
          session.onNotice({
            tone: 'problem',
            title: 'Not done',
            text: `${outcome.label}: it is shared with other projects, and what that does to them cannot be told now. ${reply.problems.map((p) => p.message).join(' ')}`,
          });
      });
    };
    return () => {
      session.onShared = null;
    };
  }, [session]);
  return wish && <Asking key={wish.outcome.label} session={session} wish={wish} onClose={() => setWish(null)} />;
}

function Asking({ session, wish, onClose }: { session: ProjectSession; wish: Wish; onClose: () => void }) {
  const [effects, setEffects] = useState<ThingEffect[] | null>(null);
  const [problem, setProblem] = useState(wish.problem);
  const [instead, setInstead] = useState(wish.instead);
  const { outcome, things } = wish;
  useEffect(() => {
    if (wish.problem) return;
    let gone = false;
    void call<{ effects: ThingEffect[] }>('POST', '/shared/effects', { things, instead }).then((r) => {
      if (gone) return;
      if (r.ok) setEffects(r.value.effects);
      else setProblem(r.problems.map((p) => p.message).join(' '));
    });
    return () => {
      gone = true;
    };
  }, [wish, things, instead]);
  const touched = sharedTouched(outcome.changes).filter((t) => things.some((x) => x.table === t.table && x.row.id === t.after.sharedId));
  const take = async (): Promise<void> => {
    const reply = await call('PUT', '/shared', { things, instead });
    if (!reply.ok) return setProblem(reply.problems.map((p) => p.message).join(' '));
    // What the change does besides, in this project.
    const rest = outcome.changes.filter((c) => {
      if (touched.some((t) => t.table === c.table && t.after.id === c.id)) return false;
      if (c.table === 'activities' && wish.set) return false;
      const now = session.doc[c.table].get(c.id) ?? null;
      return sameValue(now, c.before) && !sameValue(now, c.after);
    });
    if (rest.length) session.runHere({ ...outcome, changes: rest });
    onClose();
  };
  const here = (): void => {
    const all = sharedTouched(outcome.changes);
    session.runHere(asOwn(outcome, all));
    onClose();
  };
  const [first] = touched;
  const title = touched.length === 1 && first ? `${thingName({ table: first.table, row: first.before })} is shared` : `${touched.length || 'Some'} rows of it are shared`;
  return (
    <Modal opened onClose={onClose} title={title} size="xl">
      <p>
        {outcome.label}. {wish.users.length > 1 ? `Used in ${wish.users.join(', ')}.` : 'No other project uses it yet.'} For all, every one of them gets the change:
      </p>
      <ul className="shared-changes">
        {touched
          .flatMap((t) => rowDifferences(session.doc, t.table, t.before, t.after).map((d) => ({ key: `${t.after.id} ${d.field}`, d, row: t.before as SharedRow })))
          .slice(0, 8)
          .map(({ key, d, row }) => (
            <li key={key}>
              {touched.length > 1 && `${row.name}: `}
              <b>{d.title}</b> <span className="muted">{d.theirs || 'nothing'}</span> → {d.mine || 'nothing'}
            </li>
          ))}
      </ul>
      {effects === null && !problem && <p className="muted">Computing every project that uses it</p>}
      {effects && <EffectsTable effects={effects} />}
      {wish.going.map((v) => (
        <label key={v.id} className="account-instead">
          <span>Activities of other projects that have {v.short} get</span>
          <select aria-label={`In the place of ${v.short}`} value={instead[v.id] ?? ''} onChange={(e) => setInstead({ ...instead, [v.id]: e.target.value || null })}>
            <option value="">no value</option>
            {wish.set?.values.map((x) => (
              <option key={x.id} value={x.id}>
                {x.short}
              </option>
            ))}
          </select>
        </label>
      ))}
      {problem && (
        <p className="critical-text" role="alert">
          {problem}
        </p>
      )}
      <div className="update-actions">
        <button type="button" className="dark-button" disabled={!effects || problem !== ''} onClick={() => void take()} data-autofocus>
          Take over for all
        </button>
        <button type="button" className="light-button" onClick={here}>
          Only here: make it the project’s own
        </button>
        <button type="button" className="light-button" onClick={onClose}>
          Cancel
        </button>
      </div>
    </Modal>
  );
}
