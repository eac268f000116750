import { Modal } from '@mantine/core';
import { useEffect, useState } from 'react';
import type { Change } from '@yellowhammer/core/change/change';
import type { OneWay, StatusLogicComparison } from '@yellowhammer/core/compare/status-logic';
import { labelOf, projectOf } from '@yellowhammer/core/model/document';
import type { Options } from '@yellowhammer/core/model/schema';
import { NONE } from '@yellowhammer/core/schedule/network';
import { useSession, useTopic } from '../project/hooks';
import { setOptions } from '@yellowhammer/core/commands/project';
import { usePreview } from './Preview';
import { finishText, floatText, longFinish, startText } from './format';

const names: Record<Options['statusLogic'], string> = { retainedLogic: 'Retained logic', progressOverride: 'Progress override' };

/** Retained logic and progress override, for the activities on which they differ. */
function StatusLogicDialog({ onClose, onChoose, changes }: { onClose: () => void; onChoose: (way: Options['statusLogic']) => void; changes: readonly Change[] }) {
  const session = useSession();
  const version = useTopic('view');
  const [c, setC] = useState<StatusLogicComparison | null | undefined>(undefined);
  useEffect(() => {
    let gone = false;
    void session.worker.statusLogic(changes).then((r) => !gone && setC(r));
    return () => {
      gone = true;
    };
  }, [session, version, changes]);
  const now = projectOf(session.doc).options.statusLogic;
  const other: Options['statusLogic'] = now === 'retainedLogic' ? 'progressOverride' : 'retainedLogic';
  const cells = (w: OneWay, perDay: number, differs: boolean) => (
    <>
      <td className="right way">{w.ahead === NONE ? 'done' : startText(w.ahead)}</td>
      <td className={`right${differs ? ' strong' : ''}`}>{finishText(w.finish)}</td>
      <td className="right">{w.totalFloat === NONE ? '' : floatText(w.totalFloat, perDay)}</td>
    </>
  );
  return (
    <Modal opened onClose={onClose} title="Out-of-sequence progress, both ways" size="75rem">
      {changes.length > 0 && <p className="muted">With the entries as they stand, which are not taken over yet.</p>}
      {c === undefined && <p className="muted">Computing both</p>}
      {c === null && <p>The plan cannot be computed as it is; look at the list of problems in the plan first.</p>}
      {c && c.rows.length === 0 && <p>No activity differs: all progress is in sequence, or none of it is held by what comes before.</p>}
      {c && c.rows.length > 0 && (
        <>
          <div className="both-list">
            <table className="table">
              <thead>
                <tr>
                  <th />
                  {(['retainedLogic', 'progressOverride'] as const).map((way) => (
                    <th key={way} colSpan={3} className="way both-head">
                      <b className="serif">{names[way]}</b>
                      {way === now && ' (as it is)'}
                      <br />
                      finish <b className="serif">{longFinish(way === 'retainedLogic' ? c.retainedFinish : c.overrideFinish)}</b>
                    </th>
                  ))}
                  <th />
                </tr>
                <tr>
                  <th>Activity</th>
                  <th className="right way">Goes on from</th>
                  <th className="right">Finish</th>
                  <th className="right">Float</th>
                  <th className="right way">Goes on from</th>
                  <th className="right">Finish</th>
                  <th className="right">Float</th>
                  <th>Held in retained logic by</th>
                </tr>
              </thead>
              <tbody>
                {c.rows.slice(0, 300).map((r) => {
                  const a = session.doc.activities.get(r.id);
                  const differs = r.retained.finish !== r.override.finish;
                  return (
                    <tr key={r.id} className={r.direct ? 'selected' : ''}>
                      <td>{a ? labelOf(a) : r.id}</td>
                      {cells(r.retained, r.minutesPerDay, differs)}
                      {cells(r.override, r.minutesPerDay, differs)}
                      <td>
                        {r.direct ? (
                          r.heldBy.join('; ') || 'an unfinished predecessor'
                        ) : (
                          <span className="muted">{differs || r.retained.ahead !== r.override.ahead ? 'follows' : 'only its float'}</span>
                        )}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
          {c.rows.length > 300 && <p className="muted">and {c.rows.length - 300} more</p>}
          <p className="muted">
            Marked: out of sequence, or held through finished work. In retained logic what was to come before still holds it; in progress override links into started work are
            ignored.
          </p>
        </>
      )}
      <div className="update-actions">
        {c && (
          <button type="button" className="dark-button" onClick={() => onChoose(other)}>
            Change to {names[other].toLowerCase()}
          </button>
        )}
        <button type="button" className="light-button" onClick={onClose}>
          Close
        </button>
      </div>
    </Modal>
  );
}

/** Opens both ways side by side; a change to the other one is previewed like any option. */
const nothing: readonly Change[] = [];

/** Opens both ways side by side; `changes` are what is entered and not taken over yet. */
export function BothWays({ className, changes = nothing }: { className: string; changes?: readonly Change[] }) {
  const session = useSession();
  const preview = usePreview();
  const [open, setOpen] = useState(false);
  return (
    <>
      {preview.element}
      <button type="button" className={className} onClick={() => setOpen(true)}>
        See both ways side by side
      </button>
      {open && (
        <StatusLogicDialog
          changes={changes}
          onClose={() => setOpen(false)}
          onChoose={(statusLogic) => {
            setOpen(false);
            preview.ask(setOptions(session.doc, { statusLogic }));
          }}
        />
      )}
    </>
  );
}
