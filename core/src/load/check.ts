/** What is wrong with assignments as they stand: what is set aside, and figures that do not agree (resource rules, sections 2 to 4). */
import { assigneeOf, assignedTo, drives, isMaterial } from '../model/assigned.ts';
import { type Document, labelOf } from '../model/document.ts';
import { type Problem, problem, type Place, warning } from '../model/problem.ts';
import type { Assignment } from '../model/resource-schema.ts';
import type { Activity } from '../model/schema.ts';
import type { Computed } from '../schedule/compute.ts';
import { asideOf, durationByWork, lengthOf, thousandths } from './figures.ts';
import { standingAt } from './pieces.ts';
import { durationByRate } from './rate.ts';

const whereIs = (a: Activity, x?: Assignment): Place =>
  x ? { table: 'assignments', id: x.id, label: labelOf(a) } : { table: 'activities', id: a.id, label: labelOf(a), field: 'duration' };

/** Problems of all assignments of a plan, and of durations that should follow from them or from a production rate. */
export function assignmentProblems(doc: Document, r: Computed): Problem[] {
  const out: Problem[] = [];
  const net = r.network;
  for (let i = 0; i < net.size; i++) {
    const a = net.rows[i]!;
    if (a.basis === 'productionRate') rateProblem(r, a, i, out);
    if (doc.assignments.size > 0) problemsOf(doc, r, a, i, out);
  }
  return out;
}

/** Problems of what is assigned to one activity. A function of its own, since what hears of what is set aside would make a scope for each activity of a plan without any. */
function problemsOf(doc: Document, r: Computed, a: Activity, i: number, out: Problem[]): void {
  const list = assignedTo(doc, a, (x, why) => {
    const who = assigneeOf(doc, x)?.name ?? 'somebody unknown';
    out.push(problem('ASSIGNMENT_SET_ASIDE', `${labelOf(a)}: the assignment of ${who} was set aside; ${why}.`, whereIs(a, x)));
  });
  if (list.length === 0) return;
  const standing = standingAt(r, r.network.nodeOf[i]!);
  for (const x of list) {
    const aside = asideOf(a, x, standing.state);
    if (aside) out.push(warning('PROGRESS_SET_ASIDE', `${labelOf(a)}, ${assigneeOf(doc, x)?.name ?? ''}: ${aside}.`, whereIs(a, x)));
    if (!agrees(doc, a, x))
      out.push(
        warning(
          'WORK_DISAGREES',
          `${labelOf(a)}, ${assigneeOf(doc, x)?.name ?? ''}: units, work and duration do not agree; work and duration count as they are. Type one of them again.`,
          whereIs(a, x),
        ),
      );
  }
  if (a.type === 'task' && a.basis === 'fixedWork') {
    const d = durationByWork(doc, a);
    if (d !== undefined && d !== a.duration && list.every((x) => agrees(doc, a, x)) && !list.some((x) => drives(doc, x) && roundedDown(x, a.duration)))
      out.push(warning('WORK_DISAGREES', `${labelOf(a)}: its duration is not what its work takes; it counts as it is. Type the duration or the work again.`, whereIs(a)));
  }
}

function rateProblem(r: Computed, a: Activity, i: number, out: Problem[]): void {
  const c = r.network.calendars[r.network.own[r.network.nodeOf[i]!]!]!;
  const d = durationByRate(a, c.minutesPerDay);
  if (a.type === 'task' && d !== undefined && d !== a.duration)
    out.push(warning('WORK_DISAGREES', `${labelOf(a)}: its duration is not what its quantity and rate make; it counts as it is. Type one of them again.`, whereIs(a)));
}

/** Units that follow from work, rounded down, leave a rest that no length can take. */
const roundedDown = (x: Assignment, d: number): boolean => d - x.delay > 0 && Math.floor(x.work / (d - x.delay)) === thousandths(x.units);

/** True where work is units x length, or units follow from the work. */
function agrees(doc: Document, a: Activity, x: Assignment): boolean {
  if (isMaterial(doc, x) || a.type !== 'task') return true;
  if (a.basis === 'fixedWork' && drives(doc, x)) return x.work <= thousandths(x.units) * Math.max(0, a.duration - x.delay) || roundedDown(x, a.duration);
  const length = lengthOf(x, a.duration, false);
  return x.work === thousandths(x.units) * length || roundedDown(x, a.duration);
}
