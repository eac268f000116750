import { type DueGroup, withEntry } from '@yellowhammer/core/commands/update';
import { labelOf } from '@yellowhammer/core/model/document';
import { daysBetween } from '@yellowhammer/core/rollup/summary';
import { calendarFor } from '@yellowhammer/core/schedule/bars';
import { placeOf, type ScheduleView } from '@yellowhammer/core/schedule/view';
import { finishText, longFinish, signedDays, startText } from '../app/format';
import { useDoc, useView } from '../project/hooks';
import type { DraftUpdate } from './draft';

/** What entries do to the finish, the milestones and the margins. */
export function Effect({ before, after }: { before: ScheduleView | null; after: ScheduleView }) {
  const { doc } = useDoc();
  const c = calendarFor(doc, { calendarId: null });
  const days = (x: number, y: number): number => (c ? daysBetween(c, x, y) : 0);
  const milestones = after.ids.flatMap((id, i) => {
    const a = doc.activities.get(id);
    const j = before ? placeOf(before, id) : undefined;
    if (!a || !before || j === undefined || (a.type !== 'startMilestone' && a.type !== 'finishMilestone' && a.type !== 'margin') || (after.state[i] === 2 && before.state[j] === 2))
      return [];
    return [
      {
        a,
        i,
        moved: days(before.finish[j], after.finish[i]),
        left: a.type === 'margin' ? Math.round(((after.length[i] - before.length[j]) / after.minutesPerDay[i]) * 10) / 10 : null,
      },
    ];
  });
  milestones.sort((x, y) => after.finish[x.i] - after.finish[y.i]);
  const moved = before ? days(before.projectFinish, after.projectFinish) : 0;
  return (
    <>
      <p className="effect">
        <b className="serif">{longFinish(after.projectFinish)}</b> <span className={moved > 0 ? 'critical-text' : 'muted'}>{moved === 0 ? 'holds' : signedDays(moved)}</span>
      </p>
      {before && <p className="muted">was {longFinish(before.projectFinish)}</p>}
      {milestones.length > 0 && (
        <div className="inspector-section">
          <h3>Milestones</h3>
          {milestones.slice(0, 14).map(({ a, i, moved: m, left }) => (
            <div key={a.id} className="moved-row">
              <span className="cmp-name left" title={a.name}>
                {a.name}
              </span>
              <span>
                {left === null
                  ? finishText(after.finish[i])
                  : `${Math.round((after.length[i] / after.minutesPerDay[i]) * 10) / 10} of ${Math.round(after.planned[i] / after.minutesPerDay[i])} d`}
              </span>
              <span className={(left === null ? m > 0 : left < 0) ? 'critical-text' : 'muted'}>
                {left === null ? (m === 0 ? 'holds' : signedDays(m)) : left === 0 ? 'holds' : signedDays(left)}
              </span>
            </div>
          ))}
        </div>
      )}
    </>
  );
}

/** What looks odd, as a question. */
export function Questions({ rows, draft }: { rows: { id: string; group: DueGroup | 'extra' }[]; draft: DraftUpdate }) {
  const { doc } = useDoc();
  const view = useView();
  const odd = rows.flatMap((r) => {
    const a = doc.activities.get(r.id);
    const i = view ? placeOf(view, r.id) : undefined;
    if (!a || !view || i === undefined) return [];
    const e = draft.entries[r.id];
    const float = `${Math.round((view.totalFloat[i] / view.minutesPerDay[i]) * 10) / 10} d of float left`;
    if (!e) return r.group === 'extra' || a.actualStart !== null ? [] : [{ a, text: `was due ${startText(view.start[i])}, nothing entered. It has ${float}.` }];
    const next = withEntry(a, e);
    if (next.remaining !== null && next.actualFinish === null && next.remaining > a.duration) return [{ a, text: 'more remains than the whole duration. Is that meant?' }];
    if (next.remaining === 0 && next.actualFinish === null) return [{ a, text: 'nothing remains, but it has no finish. Is it finished?' }];
    return [];
  });
  if (odd.length === 0) return null;
  return (
    <div className="inspector-section">
      <h3>To look at</h3>
      {odd.slice(0, 6).map(({ a, text }) => (
        <div key={a.id} className="question">
          <b>{labelOf(a)}</b>
          <div>{text}</div>
        </div>
      ))}
      {odd.length > 6 && <p className="muted">and {odd.length - 6} more</p>}
    </div>
  );
}
