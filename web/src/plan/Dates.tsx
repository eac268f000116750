import { progressAgainst } from '@yellowhammer/core/fields/progress';
import type { Activity } from '@yellowhammer/core/model/schema';
import { percentOf } from '@yellowhammer/core/progress/percent';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';
import { NONE } from '@yellowhammer/core/schedule/network';
import { placeOf } from '@yellowhammer/core/schedule/view';
import { durationText, finishText, floatText, signedDays, startText } from '../app/format';
import type { Chosen } from '../app/panel';
import { useSession } from '../project/hooks';

/** The dates of one activity beside those of the baseline; of several their number. */
export function Dates({ activities }: Chosen) {
  const a = activities[0]!;
  return activities.length === 1 ? <DatesOf a={a} /> : <h2>{activities.length} activities</h2>;
}

function DatesOf({ a }: { a: Activity }) {
  const session = useSession();
  const { doc, view } = session;
  const i = view ? placeOf(view, a.id) : undefined;
  const base = session.baseline?.dates.get(a.id);
  const calendar = doc.calendars.get(a.calendarId ?? doc.project.get('project')?.calendarId ?? '')?.name;
  const perDay = dayLengths(doc, a).minutesPerDay;
  const progress = progressAgainst({ doc, baseline: session.baseline }, a);
  return (
    <>
      <h2>{a.name || 'Unnamed activity'}</h2>
      <p className="muted inspector-context">{[a.code, a.wbsId ? doc.wbs.get(a.wbsId)?.name : '', calendar].filter(Boolean).join(' · ')}</p>
      {view && i !== undefined && (
        <table className="dates">
          <thead>
            <tr>
              <td />
              <th scope="col">forecast</th>
              <th scope="col">{session.baseline?.name ?? ''}</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <th scope="row">Start</th>
              <td>
                {startText(view.start[i]!)} {view.state[i]! > 0 && <sup>actual</sup>}
              </td>
              <td>{base && startText(base.start)}</td>
            </tr>
            <tr className={view.critical[i] ? 'late' : ''}>
              <th scope="row">Finish</th>
              <td>
                {finishText(view.finish[i]!)} {view.state[i] === 2 && <sup>actual</sup>}
              </td>
              <td>{base && finishText(base.finish)}</td>
            </tr>
            {view.state[i] === 1 && (
              <tr>
                <th scope="row">Remaining</th>
                <td>
                  {durationText(view.length[i]!, perDay)} of {durationText(a.duration, perDay)}
                </td>
                <td />
              </tr>
            )}
            {progress && a.type !== 'levelOfEffort' && (
              <tr className={progress.ahead < 0 ? 'late' : ''}>
                <th scope="row">Done</th>
                <td>
                  {percentOf(a)}% {progress.ahead !== 0 && `(${signedDays(progress.ahead)})`}
                </td>
                <td>{progress.planned}%</td>
              </tr>
            )}
            {a.type === 'margin' && (
              <tr>
                <th scope="row">Margin left</th>
                <td>
                  {durationText(view.length[i]!, perDay)} of {durationText(a.duration, perDay)}
                </td>
                <td />
              </tr>
            )}
            {view.lateFinish[i] !== NONE && (
              <tr>
                <th scope="row">Latest</th>
                <td>{finishText(view.lateFinish[i]!)}</td>
                <td />
              </tr>
            )}
            {view.totalFloat[i] !== NONE && (
              <>
                <tr className={view.critical[i] ? 'late' : ''}>
                  <th scope="row">Total float</th>
                  <td>{floatText(view.totalFloat[i]!, perDay)}</td>
                  <td />
                </tr>
                <tr>
                  <th scope="row">Free float</th>
                  <td>{floatText(view.freeFloat[i]!, perDay)}</td>
                  <td />
                </tr>
              </>
            )}
          </tbody>
        </table>
      )}
    </>
  );
}
