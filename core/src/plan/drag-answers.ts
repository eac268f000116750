/**
 * What may be meant when a linked bar is moved in time: a date of its own, a lag on the link that drives it, or that link
 * broken. Which of them is asked once, in place; nothing is guessed.
 */
import { Draft } from '../change/change.ts';
import { lagCalendarId } from '../commands/bulk-links.ts';
import { done, type Outcome } from '../commands/result.ts';
import { type Document, labelOf } from '../model/document.ts';
import type { Activity, Link } from '../model/schema.ts';
import { percentOf, remainingAt } from '../progress/percent.ts';
import { calendarFor, calendarsOf, elapsedCalendar } from '../schedule/calendars.ts';
import { State } from '../schedule/network.ts';
import { linkState, placeOf, type ScheduleView } from '../schedule/view.ts';
import { formatDuration } from '../time/duration.ts';
import type { Instant } from '../time/instant.ts';
import { setActivities } from '../commands/cells.ts';
import { type DragContext, type DragResult, moveBar } from './drag.ts';
import { dateText, earliestByLogic, holderOf, withLower } from './wishes.ts';
import { MINUTES_PER_DAY } from '../time/instant.ts';

export type DragAnswer = 'notBefore' | 'lag' | 'break';

export interface Answer {
  id: DragAnswer;
  title: string;
  /** What it does, beside the dates that the computation gives. */
  about: string;
  outcome: Outcome;
}

/** The link that drives an activity; of several the first in the order of links. */
export const drivingLink = (view: ScheduleView, into: readonly Link[]): Link | undefined => into.find((l) => linkState(view, l.id)?.driving === true);

/**
 * The answers to a bar that is moved to start on the day of an instant; none where nothing is to be asked: it is not
 * driven by a link, holds a date by itself already, or would not move.
 */
export function dragAnswers(context: DragContext, a: Activity, wish: Instant): Answer[] {
  const { doc, view, into } = context;
  const i = placeOf(view, a.id);
  const link = drivingLink(view, into);
  const c = calendarFor(doc, a);
  if (i === undefined || !c || !link || holderOf(a) || view.state[i] !== State.unstarted) return [];
  const other = doc.activities.get(link.from);
  const moved = moveBar(context, a, wish);
  const earliest = earliestByLogic(doc, view, a, into);
  if (!other || !moved || earliest === undefined) return [];
  const day = Math.floor(wish / MINUTES_PER_DAY);
  // The start that was asked for, also where logic holds it later.
  const start = a.type === 'finishMilestone' ? c.endOf(day) : c.startInstant(c.position(c.beginningOf(day)));
  if (start === view.start[i]) return [];
  const name = labelOf(other);
  const answers: Answer[] = [];
  if (start > earliest) answers.push({ id: 'notBefore', title: 'Not before that date', about: 'a constraint; its links stay', outcome: moved.outcome });
  const lag = lagFor(doc, view, link, a, start);
  if (lag !== undefined && lag !== link.lag && other.type !== 'margin') {
    const draft = new Draft(doc);
    draft.patch('links', link.id, { lag });
    // A lower bound of its own would hold it where it is.
    draft.patch('activities', a.id, { constraints: withLower(a, null) });
    const days = formatDuration(Math.abs(lag), calendarFor(doc, other) ?? c);
    answers.push({
      id: 'lag',
      title: lag === 0 ? `No lag on the link with ${name}` : `${lag < 0 ? 'A lead' : 'A lag'} of ${days} on the link with ${name}`,
      about: 'it goes on following that activity',
      outcome: done(`Move ${labelOf(a)} by a lag`, draft.changes),
    });
  }
  const rest = earliestByLogic(
    doc,
    view,
    a,
    into.filter((l) => l.id !== link.id),
  );
  const draft = new Draft(doc);
  draft.set('links', link.id, null);
  const point = a.type === 'finishMilestone';
  const kind = point ? 'finishNotBefore' : 'startNotBefore';
  const bound = rest !== undefined && start > rest ? ({ kind, date: dateText(c, start, point ? 'finish' : 'start') } as const) : null;
  draft.patch('activities', a.id, { constraints: withLower(a, bound) });
  answers.push({
    id: 'break',
    title: `Break the link with ${name}`,
    about: bound ? 'and not before that date' : 'its other links hold it',
    outcome: done(`Break the link of ${other.code} to ${a.code}`, draft.changes),
  });
  return answers;
}

/** The lag with which a link would put an activity on a start, in working minutes of its lag calendar. */
function lagFor(doc: Document, view: ScheduleView, l: Link, a: Activity, start: Instant): number | undefined {
  const [p, s] = [placeOf(view, l.from), placeOf(view, a.id)];
  const c = calendarFor(doc, a);
  const id = lagCalendarId(doc, l);
  const lagCalendar = id === 'elapsed' ? elapsedCalendar() : calendarsOf(doc).usable.get(id);
  if (p === undefined || s === undefined || !c || !lagCalendar) return undefined;
  const finish = a.duration === 0 ? start : c.finishInstant(c.position(start) + a.duration);
  const from = l.type[0] === 'F' ? view.finish[p]! : view.start[p]!;
  return lagCalendar.position(l.type[1] === 'F' ? finish : start) - lagCalendar.position(from);
}

/** Progress that is dragged inside the bar of started work: the percent at an instant of it, in steps of five. */
export function dragProgress({ doc, view }: DragContext, a: Activity, at: Instant): DragResult | undefined {
  const i = placeOf(view, a.id);
  const c = calendarFor(doc, a);
  if (i === undefined || !c || a.type !== 'task' || view.state[i] !== State.started || a.duration === 0) return undefined;
  const [start, finish] = [view.start[i]!, view.finish[i]!];
  const whole = c.position(finish) - c.position(start);
  const share = whole === 0 ? 0 : (c.position(Math.min(Math.max(at, start), finish)) - c.position(start)) / whole;
  const percent = Math.min(95, Math.max(0, Math.round(share * 20) * 5));
  const remaining = remainingAt(a.duration, percent);
  // What remains lies ahead of the data date.
  const end = c.finishInstant(c.position(view.aheadFrom[i]!) + remaining);
  return {
    start,
    finish: end,
    tip: [`${percent}% done (was ${percentOf(a)}%)`, `${formatDuration(remaining, c)} remain`],
    outcome: setActivities(doc, [a.id], { remaining }),
  };
}
