/** The inspector's section of who does the work: assignments with units, work, delay and spread; and whom else to take. */
import { IconTrash } from '@tabler/icons-react';
import { useEffect, useState } from 'react';
import { assign, assignCrew, setAssignment, unassign } from '@yellowhammer/core/commands/assign';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { readAmount } from '@yellowhammer/core/fields/amounts';
import { basisNames } from '@yellowhammer/core/fields/work';
import { hoursOf, workOf } from '@yellowhammer/core/load/hours';
import { type Candidate, takeCandidate } from '@yellowhammer/core/load/candidates';
import { assignedTo, assigneeOf, isMaterial, takesAssignments } from '@yellowhammer/core/model/assigned';
import { ordered } from '@yellowhammer/core/model/document';
import { type Assignment, type Spread, spreads } from '@yellowhammer/core/model/resource-schema';
import type { Activity } from '@yellowhammer/core/model/schema';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';
import { formatDuration, parseDuration } from '@yellowhammer/core/time/duration';
import { AccountChoice } from '../app/AccountChoice';
import { CommitField } from '../app/CommitField';
import { OwnValues } from '../app/OwnValues';
import type { Chosen } from '../app/panel';
import { finishText, tenths } from '../app/format';
import { newId, useSession } from '../project/hooks';
import { typedNumber } from '@yellowhammer/core/model/number-text';

const taken = (run: (o: Outcome) => boolean, o: Outcome): string | null => (o.ok ? (run(o), null) : o.problems[0]!.message);
const number = (text: string): number | null => {
  const n = typedNumber(text.replace(/\s*h$/, ''));
  return n !== undefined && n >= 0 ? n : null;
};

/** What an edit makes of the activity's duration, where it changes it: `8d become 4d`. */
function followsText(a: Activity, outcome: Outcome, lengths: ReturnType<typeof dayLengths>): string {
  if (!outcome.ok) return '';
  const after = outcome.changes.find((c) => c.table === 'activities' && c.id === a.id)?.after as Activity | undefined;
  return after && after.duration !== a.duration ? `${formatDuration(a.duration, lengths)} become ${formatDuration(after.duration, lengths)}` : '';
}

export function Loading({ activities }: Chosen) {
  const session = useSession();
  const [only] = activities;
  const { doc } = session;
  const able = activities.filter(takesAssignments);
  if (!only || able.length === 0) return <p className="muted">Milestones and margins take nobody.</p>;
  const a = doc.activities.get(only.id) ?? only;
  return (
    <div className="loading-section">
      {activities.length === 1 && assignedTo(doc, a).map((x) => <Line key={x.id} a={a} x={x} />)}
      {activities.length === 1 && a.type === 'task' && (
        <p className="muted">
          {basisNames[a.basis]}
          {a.basis === 'fixedWork'
            ? ': another who drives it takes a part of the work.'
            : a.basis === 'productionRate'
              ? ': quantity, rate and crews make the duration.'
              : ': who comes brings work of their own.'}
        </p>
      )}
      <Adding activities={able} />
    </div>
  );
}

function Line({ a, x }: { a: Activity; x: Assignment }) {
  const session = useSession();
  const { doc } = session;
  const [open, setOpen] = useState(false);
  const lengths = dayLengths(doc, a);
  const who = assigneeOf(doc, x);
  const material = isMaterial(doc, x);
  const run = (o: Outcome): boolean => session.run(o);
  const name = who?.name ?? '';
  const edit = (fields: Parameters<typeof setAssignment>[2]): string | null => taken(run, setAssignment(doc, x.id, fields));
  const half = a.basis === 'fixedWork' && x.drives && !material ? followsText(a, setAssignment(doc, x.id, { units: x.units * 2 }), lengths) : '';
  return (
    <div className="loading-line" role="group" aria-label={`Assignment of ${name}`}>
      <div className="loading-main">
        <button type="button" className="plain-button loading-name" aria-expanded={open} title={open ? 'Less' : 'Delay, spread and what is done'} onClick={() => setOpen(!open)}>
          {name}
          {x.roleId !== null && <span className="muted"> role</span>}
        </button>
        {material ? (
          <CommitField
            of={x.id}
            size="xs"
            aria-label={`Quantity of ${name}`}
            value={String(x.quantityPer ?? x.quantity)}
            onCommit={(text) => {
              const n = number(text);
              return n === null ? `${text} is no quantity.` : edit(x.quantityPer === null ? { quantity: n } : { quantityPer: n });
            }}
          />
        ) : (
          <>
            <CommitField
              of={x.id}
              size="xs"
              aria-label={`Units of ${name}`}
              title={half ? `Twice as many: ${half}` : undefined}
              value={String(x.units)}
              onCommit={(text) => {
                const n = number(text);
                return n === null || n <= 0 ? `${text} is no number of units above 0.` : edit({ units: n });
              }}
            />
            <CommitField
              of={x.id}
              size="xs"
              aria-label={`Work of ${name}`}
              disabled={a.type === 'levelOfEffort'}
              value={a.type === 'levelOfEffort' ? 'spans' : `${tenths(hoursOf(x.work))} h`}
              onCommit={(text) => {
                const n = number(text);
                return n === null ? `${text} cannot be read as hours.` : edit({ work: workOf(n) });
              }}
            />
          </>
        )}
        <button type="button" className="plain-button" aria-label={`Take ${name} off`} onClick={() => run(unassign(doc, [x.id]))}>
          <IconTrash size={14} stroke={1.6} />
        </button>
      </div>
      {half && <p className="muted loading-hint">Twice as many: {half}.</p>}
      {open && (
        <div className="loading-more">
          <CommitField
            of={x.id}
            size="xs"
            label="Begins after"
            value={x.delay === 0 ? '' : formatDuration(x.delay, lengths)}
            placeholder="0d"
            onCommit={(text) => {
              const delay = text.trim() === '' ? 0 : parseDuration(text, lengths);
              return delay === undefined || delay < 0 ? `${text} cannot be read. Type it as 2d or 4h.` : edit({ delay });
            }}
          />
          <label>
            <span>Spread</span>
            <select
              value={x.spread}
              onChange={(e) => edit({ spread: e.target.value as Spread, ...(e.target.value === 'own' && x.ownSpread.length === 0 ? { ownSpread: [1, 2, 1] } : {}) })}
            >
              {spreads.map((s) => (
                <option key={s} value={s}>
                  {s}
                </option>
              ))}
            </select>
          </label>
          {x.spread === 'own' && (
            <CommitField
              of={x.id}
              size="xs"
              label="Weights"
              value={x.ownSpread.join(' ')}
              onCommit={(text) => {
                const weights = text
                  .trim()
                  .split(/[\s,]+/)
                  .map(Number);
                return weights.every((w) => Number.isInteger(w) && w >= 0) ? edit({ ownSpread: weights }) : 'Whole numbers are wanted, as 1 2 1.';
              }}
            />
          )}
          {!material && (
            <label className="loading-check">
              <input type="checkbox" checked={x.drives} onChange={(e) => edit({ drives: e.target.checked })} /> drives: the work waits while {name} is away
            </label>
          )}
          {!material && (
            <CommitField
              of={x.id}
              size="xs"
              label="Actual work"
              placeholder="follows"
              value={x.actualWork === null ? '' : `${tenths(hoursOf(x.actualWork))} h`}
              onCommit={(text) => {
                const n = text.trim() === '' ? null : number(text);
                return n === null && text.trim() !== '' ? `${text} cannot be read as hours.` : edit({ actualWork: n === null ? null : workOf(n) });
              }}
            />
          )}
          <CommitField
            of={x.id}
            size="xs"
            label="Actual cost"
            placeholder="follows"
            value={x.actualCost === null ? '' : String(x.actualCost)}
            onCommit={(text) => {
              const n = readAmount(text);
              return n === undefined ? `${text} cannot be read as an amount.` : edit({ actualCost: n });
            }}
          />
          {doc.accounts.size > 0 && (
            <label>
              <span>Account</span>
              <AccountChoice doc={doc} label={`Account of ${name}`} none="as of the resource" value={x.accountId} onChange={(accountId) => edit({ accountId })} />
            </label>
          )}
          <OwnValues of="assignments" row={x} />
        </div>
      )}
      {x.roleId !== null && <Fill a={a} x={x} roleId={x.roleId} />}
    </div>
  );
}

/** Who could fill a role: those with room first, and what taking each would do. */
function Fill({ a, x, roleId }: { a: Activity; x: Assignment; roleId: string }) {
  const session = useSession();
  const [list, setList] = useState<Candidate[] | null>(null);
  return list === null ? (
    <button type="button" className="chip" onClick={() => void session.worker.candidates({ activityId: a.id, roleId, units: x.units, assignmentId: x.id }).then(setList)}>
      Who could fill it?
    </button>
  ) : (
    <Candidates
      list={list}
      none="No resource has this role. Give it to one in the Library."
      onTake={(id) => session.run(takeCandidate(session.doc, { activityId: a.id, roleId, units: x.units, assignmentId: x.id }, id, newId)) && setList(null)}
    />
  );
}

function Candidates({ list, none, onTake }: { list: readonly Candidate[]; none: string; onTake: (resourceId: string) => void }) {
  const session = useSession();
  const finish = session.view?.projectFinish;
  if (list.length === 0) return <p className="muted">{none}</p>;
  return (
    <ul className="candidates" aria-label="Who has room">
      {list.map((c) => (
        <li key={c.resourceId}>
          <button type="button" className="link-button" onClick={() => onTake(c.resourceId)}>
            {c.name}
          </button>
          <span className={c.over ? 'critical-text' : 'muted'}>
            {c.there === 0 ? 'away' : c.over ? 'over the limit with it' : `${tenths(hoursOf(c.room))} of ${tenths(hoursOf(c.there))} h free`}
          </span>
          <span className="muted">
            {finishText(c.finish)}
            {finish !== undefined && c.projectFinish !== finish && `, project ${finishText(c.projectFinish)}`}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** Assigning to all that are selected: somebody, a role, a crew. */
function Adding({ activities }: { activities: readonly Activity[] }) {
  const session = useSession();
  const { doc } = session;
  const [who, setWho] = useState('');
  const [units, setUnits] = useState('1');
  const [list, setList] = useState<Candidate[] | null>(null);
  const ids = activities.map((a) => a.id);
  const only = ids.length === 1 ? ids[0] : undefined;
  useEffect(() => setList(null), [only]);
  if (doc.resources.size + doc.roles.size === 0) return <p className="muted">Nobody can be assigned yet. Add resources in the Library first.</p>;
  const [kind, id] = who.split(' ') as [string, string | undefined];
  const n = number(units);
  const put = (): void => {
    if (!id || n === null || n <= 0) return;
    const outcome =
      kind === 'crew'
        ? assignCrew(doc, ids, id, n, newId)
        : assign(doc, ids, [{ resourceId: kind === 'resource' ? id : null, roleId: kind === 'role' ? id : null, units: n }], newId);
    if (session.run(outcome)) setWho('');
  };
  const material = kind === 'resource' && doc.resources.get(id ?? '')?.kind === 'material';
  return (
    <div className="loading-add">
      <select aria-label="Whom to assign" value={who} onChange={(e) => setWho(e.target.value)}>
        <option value="">Assign</option>
        {(
          [
            ['resource', 'Resources', ordered(doc, 'resources')],
            ['role', 'Roles', ordered(doc, 'roles')],
            ['crew', 'Crews', ordered(doc, 'crews')],
          ] as const
        ).map(
          ([word, title, rows]) =>
            rows.length > 0 && (
              <optgroup key={word} label={title}>
                {rows.map((r) => (
                  <option key={r.id} value={`${word} ${r.id}`}>
                    {r.name}
                  </option>
                ))}
              </optgroup>
            ),
        )}
      </select>
      <input
        aria-label={kind === 'crew' ? 'How many crews' : 'Units'}
        value={units}
        disabled={material}
        onChange={(e) => setUnits(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && put()}
      />
      <button type="button" className="chip" disabled={!id || n === null || n <= 0} onClick={put}>
        Assign{ids.length > 1 ? ` to ${ids.length}` : ''}
      </button>
      {only !== undefined && (
        <button
          type="button"
          className="chip"
          onClick={() => void session.worker.candidates({ activityId: only, roleId: kind === 'role' ? (id ?? null) : null, units: n ?? 1 }).then(setList)}
        >
          Who has room?
        </button>
      )}
      {list && only !== undefined && (
        <Candidates
          list={list.slice(0, 10)}
          none="Nobody can do it."
          onTake={(resourceId) => session.run(takeCandidate(doc, { activityId: only, roleId: null, units: n ?? 1 }, resourceId, newId)) && setList(null)}
        />
      )}
    </div>
  );
}
