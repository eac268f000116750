/** What an assignment says in the columns of its activity, on the screen and on paper. */
import { amountText } from '../fields/amounts.ts';
import { showInstant } from '../time/typed-date.ts';
import type { AssignmentLine } from './lines.ts';
import { hoursText, unitsText } from './words.ts';

const amount = (l: AssignmentLine, work: number): string => (l.unit === null ? `${hoursText(work)} h` : `${unitsText(work)} ${l.unit}`.trim());
const money = (hundredths: number): string => (hundredths === 0 ? '' : amountText(hundredths / 100));

/** What an assignment says in a column of the sheet; empty where the column is about the activity. */
export function lineText(l: AssignmentLine, key: string, clock: boolean): string {
  if (key === 'name') return l.unit === null && l.units !== 1 ? `${l.who} ${unitsText(l.units * 1000)}` : l.who;
  if (key === 'assignments') return l.unit === null ? unitsText(l.units * 1000) : amount(l, l.actual + l.remaining);
  if (key === 'start') return l.start === null ? '' : showInstant(l.start, 'start', clock);
  if (key === 'finish') return l.finish === null ? '' : showInstant(l.finish, 'finish', clock);
  if (key === 'work') return l.unit === null ? amount(l, l.actual + l.remaining) : '';
  if (key === 'actualWork') return l.unit === null ? amount(l, l.actual) : '';
  if (key === 'remainingWork') return l.unit === null ? amount(l, l.remaining) : '';
  if (key === 'cost') return money(l.actualCost + l.remainingCost);
  if (key === 'actualCost') return money(l.actualCost);
  if (key === 'remainingCost') return money(l.remainingCost);
  return '';
}
