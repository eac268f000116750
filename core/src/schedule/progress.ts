/** What an activity's progress fields amount to (scheduling rules, section 4). */
import { labelOf } from '../model/document.ts';
import { type Problem, problem, warning } from '../model/problem.ts';
import type { ProblemCode } from '../model/problem-codes.ts';
import type { Activity } from '../model/schema.ts';
import { formatInstant, type Instant, parseInstant } from '../time/instant.ts';
import { NONE, State } from './network.ts';
import { isSpanning } from '../model/activity-kinds.ts';

export interface Progress {
  state: number;
  actualStart: Instant;
  actualFinish: Instant;
  resume: Instant;
}

const at = (text: string | null): Instant => (text === null ? NONE : (parseInstant(text) ?? NONE));

const none: Progress = { state: State.unstarted, actualStart: NONE, actualFinish: NONE, resume: NONE };

/** Judges the actuals of a task or milestone; refused ones are ignored and listed. */
export function progressOf(a: Activity, dataDate: Instant | null, problems: Problem[]): Progress {
  return a.actualStart === null && a.actualFinish === null ? none : judge(a, dataDate, problems);
}

/** Of one with actuals. Apart from the rest, since the function within would make a scope for each activity of a plan that has just begun. */
function judge(a: Activity, dataDate: Instant | null, problems: Problem[]): Progress {
  if (isSpanning(a)) {
    refuse(a, 'actualStart', 'ACTUAL_NOT_TAKEN', 'takes no actual dates', problems);
    return none;
  }
  const start = judged('actualStart');
  let finish = judged('actualFinish');
  if (a.type !== 'task') {
    // A milestone has one actual: either field sets both, and that of its own end counts.
    const [own, other] = a.type === 'startMilestone' ? ([start, finish] as const) : ([finish, start] as const);
    const t = own !== NONE ? own : other;
    return t === NONE ? none : { state: State.finished, actualStart: t, actualFinish: t, resume: NONE };
  }
  if (finish !== NONE && start === NONE) {
    refuse(a, 'actualFinish', 'ACTUAL_FINISH_WITHOUT_START', 'has an actual finish but no actual start; enter its actual start first', problems);
    finish = NONE;
  }
  if (finish !== NONE && finish < start) {
    refuse(a, 'actualFinish', 'ACTUAL_FINISH_BEFORE_START', `has an actual finish (${a.actualFinish}) before its actual start (${a.actualStart})`, problems);
    finish = NONE;
  }
  if (start === NONE) return none;
  if (finish !== NONE) return { state: State.finished, actualStart: start, actualFinish: finish, resume: NONE };
  const resume = at(a.resume);
  if (a.suspend !== null && resume === NONE)
    problems.push(
      warning('SUSPENDED', `${labelOf(a)} is suspended without a resume date; its remaining work is put at the data date. Enter when it resumes.`, {
        table: 'activities',
        id: a.id,
        label: labelOf(a),
        field: 'resume',
      }),
    );
  return { state: State.started, actualStart: start, actualFinish: NONE, resume };

  function judged(field: 'actualStart' | 'actualFinish'): Instant {
    const t = at(a[field]);
    if (t === NONE) return NONE;
    const word = field === 'actualStart' ? 'actual start' : 'actual finish';
    if (dataDate === null) refuse(a, field, 'ACTUAL_WITHOUT_DATA_DATE', `has an ${word}, but the project has no data date; set the data date first`, problems);
    else if (t > dataDate)
      refuse(a, field, 'ACTUAL_AFTER_DATA_DATE', `has an ${word} (${a[field]}) after the data date ${formatInstant(dataDate)}; correct it or move the data date`, problems);
    else return t;
    return NONE;
  }
}

function refuse(a: Activity, field: string, code: ProblemCode, text: string, problems: Problem[]): void {
  problems.push(problem(code, `${labelOf(a)} ${text}. It was ignored.`, { table: 'activities', id: a.id, label: labelOf(a), field }));
}
