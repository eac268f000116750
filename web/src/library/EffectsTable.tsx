import type { ProjectEffect, ThingEffect } from '@yellowhammer/core/commands/shared-views';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { hoursText } from '@yellowhammer/core/load/words';
import { amountText } from '@yellowhammer/core/fields/amounts';
import { finishText, signedDays } from '../app/format';
import { useSession } from '../project/hooks';

/** How often somebody is asked for more than is there, and how much that is in all. */
const overText = ({ over, overWork }: ThingEffect['standing']['before']): string => (over === 0 ? 'none' : `${over}, ${hoursText(overWork)} h`);
const change = (before: string, after: string): string => (before === after ? after : `${before} → ${after}`);

/** What a change for all would do to each project: its finish, and where they are told, overloads, cost and values lost. */
export function EffectsTable({ effects }: { effects: readonly (ProjectEffect & Partial<Pick<ThingEffect, 'standing' | 'lost'>>)[] }) {
  const session = useSession();
  const figures = effects.some((e) => e.standing);
  const lost = effects.some((e) => e.lost);
  return (
    <table className="table">
      <thead>
        <tr>
          <th>Project</th>
          <th className="right">Finish now</th>
          <th className="right">Then</th>
          <th className="right">Working days</th>
          <th className="right">Activities that move</th>
          {figures && <th className="right">Overloads</th>}
          {figures && <th className="right">Cost</th>}
          {lost && <th className="right">Lose a value</th>}
        </tr>
      </thead>
      <tbody>
        {effects.map((e) => (
          <tr key={e.projectId} className={e.projectId === session.id ? 'selected' : ''}>
            <td>
              <b>{e.code}</b> {e.name}
            </td>
            <td className="right">{finishText(parseInstant(e.before) ?? 0)}</td>
            <td className="right">{finishText(parseInstant(e.after) ?? 0)}</td>
            <td className={`right${e.finishDays > 0 ? ' critical-text' : ''}`}>{e.finishDays === 0 ? 'holds' : signedDays(e.finishDays)}</td>
            <td className="right">{e.moved}</td>
            {e.standing && (
              <td className={`right${e.standing.after.overWork > e.standing.before.overWork ? ' critical-text' : ''}`}>
                {change(overText(e.standing.before), overText(e.standing.after))}
              </td>
            )}
            {e.standing && <td className="right">{change(amountText(e.standing.before.cost), amountText(e.standing.after.cost))}</td>}
            {lost && <td className={`right${e.lost ? ' critical-text' : ''}`}>{e.lost}</td>}
          </tr>
        ))}
        {effects.length === 0 && (
          <tr>
            <td colSpan={7} className="muted">
              No project in work would change.
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
