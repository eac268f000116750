import { isMilestone } from '@yellowhammer/core/model/activity-kinds';
import { useMemo } from 'react';
import { entryQuestions } from '@yellowhammer/core/progress/questions';
import { daysBetween } from '@yellowhammer/core/rollup/summary';
import { placeOf, type ScheduleView } from '@yellowhammer/core/schedule/view';
import { finishText, longFinish, signedDays } from '../app/format';
import type { LinksOf } from '../plan/rows';
import { useDoc } from '../project/hooks';
import type { DraftUpdate } from './draft';
import type { DueGroup } from '@yellowhammer/core/progress/due';
import { calendarFor } from '@yellowhammer/core/schedule/calendars';
import { tenth } from '@yellowhammer/core/time/tenths';

/** What entries do to the finish, the milestones and the margins. */
export function Effect({ before, after }: { before: ScheduleView | null; after: ScheduleView }) {
  const { doc } = useDoc();
  const c = calendarFor(doc, { calendarId: null });
  const days = (x: number, y: number): number => (c ? daysBetween(c, x, y) : 0);
  const milestones = after.ids.flatMap((id, i) => {
    const a = doc.activities.get(id);
    const j = before ? placeOf(before, id) : undefined;
    if (!a || !before || j === undefined || (!isMilestone(a) && a.type !== 'margin') || (after.state[i] === 2 && before.state[j] === 2)) return [];
    return [
      {
        a,
        i,
        moved: days(before.finish[j]!, after.finish[i]!),
        left: a.type === 'margin' ? tenth((after.length[i]! - before.length[j]!) / after.minutesPerDay[i]!) : null,
      },
    ];
  });
  milestones.sort((x, y) => after.finish[x.i]! - after.finish[y.i]!);
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
                  ? finishText(after.finish[i]!)
                  : `${tenth(after.length[i]! / after.minutesPerDay[i]!)} of ${Math.round(after.planned[i]! / after.minutesPerDay[i]!)} d`}
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
export function Questions({ rows, draft, view, links }: { rows: { id: string; group: DueGroup | 'extra' }[]; draft: DraftUpdate; view: ScheduleView; links: LinksOf }) {
  const { doc } = useDoc();
  const odd = useMemo(
    () =>
      entryQuestions(
        doc,
        view,
        rows.map((r) => ({ id: r.id, due: r.group === 'start' || r.group === 'finish' })),
        new Map(Object.entries(draft.entries)),
        (id) => links.into.get(id) ?? [],
      ),
    [doc, view, rows, draft.entries, links],
  );
  // What was entered and looks odd comes before what is merely missing.
  const sorted = [...odd.filter((q) => draft.entries[q.id]), ...odd.filter((q) => !draft.entries[q.id])];
  if (sorted.length === 0) return null;
  return (
    <div className="inspector-section">
      <h3>To look at</h3>
      {sorted.slice(0, 8).map(({ id, label, text }) => (
        <div key={`${id} ${text}`} className="question">
          <b>{label}</b>
          <div>{text}</div>
        </div>
      ))}
      {sorted.length > 8 && <p className="muted">and {sorted.length - 8} more</p>}
    </div>
  );
}
