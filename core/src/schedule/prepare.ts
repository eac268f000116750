/** From the project document to the network that the passes run on. What is wrong is set aside and listed. */
import { type Document, labelOf, ordered, projectOf } from '../model/document.ts';
import { type Problem, problem } from '../model/problem.ts';
import type { ProblemCode } from '../model/problem-codes.ts';
import type { Activity, Link } from '../model/schema.ts';
import { indexOf } from '../model/doc-index.ts';
import type { CompiledCalendar } from '../time/calendar.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import { formatInstant, parseInstant } from '../time/instant.ts';
import { calendarsOf, elapsedCalendar } from './calendars.ts';
import { holdingConstraints, instantOf } from './constraints.ts';
import { NetworkMemory } from './memory.ts';
import { loopClosers, topologicalOrder } from './loops.ts';
import { settleMargins } from './margins.ts';
import { LinkKind, type Network, NONE, settleLinks, State, Type } from './network.ts';
import { progressOf } from './progress.ts';
import { workingOn } from './working.ts';
import { isMilestone, isSpanning } from '../model/activity-kinds.ts';

export interface Prepared {
  /** Undefined where the project has no usable calendar: then nothing is computed. */
  network?: Network;
  problems: Problem[];
}

/**
 * Builds the network of a document. Linear in activities and links, apart from sorting rows out of order. With a memory
 * of the last time, an edit of values fills only the nodes that changed, and other edits look up only what is new; the
 * network of the last time is then changed in place and no longer valid by itself.
 */
export function prepare(doc: Document, memory: NetworkMemory = new NetworkMemory()): Prepared {
  const project = projectOf(doc);
  const set = calendarsOf(doc);
  const problems: Problem[] = [...set.problems];
  if (!set.usable.has(project.calendarId)) {
    problems.push(
      problem('NO_PROJECT_CALENDAR', 'The project has no usable calendar, so nothing can be computed. Choose a calendar with working time.', {
        table: 'project',
        field: 'calendarId',
      }),
    );
    return { problems };
  }
  const plain: CompiledCalendar[] = [elapsedCalendar(), ...set.usable.values()];
  const calendarIndex = new Map<string, number>([...set.usable.keys()].map((id, i) => [id, i + 1]));
  const projectCalendar = calendarIndex.get(project.calendarId) as number;
  const places: Places = { doc, plain, calendarIndex, projectCalendar, cuts: memory.cuts };
  const loads = doc.assignments.size === 0 ? -1 : indexOf(doc).loadVersion;
  const activities = ordered(doc, 'activities');
  const rows = ordered(doc, 'links');
  const again = memory.sameShape(project, set, activities, rows);
  if (again) {
    again.changed.push(...newlyCut(again.net, places, activities, memory, loads));
    const { net } = again;
    net.rows = activities;
    const refill = (k: number, a: Activity): void => {
      const told: Problem[] = [];
      clearNode(net, k);
      fillNode(net, k, a, places, told);
      memory.keepNode(k, told);
    };
    for (const i of again.changed) refill(net.nodeOf[i]!, activities[i]!);
    // A margin may have been settled by what follows it: it is settled anew.
    for (const k of memory.margins) refill(k, activities[net.fileIndex[k]!]!);
    settleMargins(net);
    settleLinks(net);
    return { network: net, problems: memory.problems(problems) };
  }
  memory.cuts.clear();
  memory.loads = loads;
  const n = activities.length;
  const ends = memory.endsOf(activities, rows);
  const before: Problem[] = [];
  const links = soundLinks(rows, activities, ends, before);
  let { sound, from, to } = links;
  let order = topologicalOrder(n, from, to);
  if (order.length < n) {
    const { closers, loops } = loopClosers(n, from, to);
    const aside = new Uint8Array(sound.length);
    for (const c of closers) {
      aside[c] = 1;
      before.push(loopProblem(sound[c]!, loops.get(c), activities[from[c]!]!, activities[to[c]!]!, activities));
    }
    sound = sound.filter((_, i) => aside[i] === 0);
    from = from.filter((_, i) => aside[i] === 0);
    to = to.filter((_, i) => aside[i] === 0);
    order = topologicalOrder(n, from, to);
  }

  const nodeOf = new Int32Array(n);
  for (let k = 0; k < n; k++) nodeOf[order[k]!] = k;
  const m = sound.length;
  const inFirst = new Int32Array(n + 1);
  const outFirst = new Int32Array(n + 1);
  for (let l = 0; l < m; l++) {
    inFirst[nodeOf[to[l]!]! + 1]!++;
    outFirst[nodeOf[from[l]!]! + 1]!++;
  }
  for (let k = 0; k < n; k++) {
    inFirst[k + 1]! += inFirst[k]!;
    outFirst[k + 1]! += outFirst[k]!;
  }
  const dataDate = project.dataDate === null ? null : (parseInstant(project.dataDate) as number);
  const plannedStart = parseInstant(project.plannedStart) as number;
  const requiredFinish = project.requiredFinish === null ? null : (parseInstant(project.requiredFinish) as number);
  const projectFloor = Math.max(plannedStart, dataDate ?? plannedStart);
  const options = project.options;
  const net: Network = {
    size: n,
    rows: activities,
    ids: memory.idsOf(activities),
    nodeOf,
    fileIndex: order.slice(),
    calendars: [...plain],
    calendar: new Int32Array(n),
    own: new Int32Array(n),
    type: new Uint8Array(n),
    state: new Uint8Array(n),
    length: new Int32Array(n),
    duration: new Int32Array(n),
    actualStart: new Int32Array(n).fill(NONE),
    actualFinish: new Int32Array(n).fill(NONE),
    floor: new Int32Array(n).fill(projectFloor),
    resumed: new Uint8Array(n),
    startLow: new Int32Array(n).fill(NONE),
    finishLow: new Int32Array(n).fill(NONE),
    startHigh: new Int32Array(n).fill(NONE),
    finishHigh: new Int32Array(n).fill(NONE),
    pin: new Uint8Array(n),
    pinned: new Int32Array(n).fill(NONE),
    deadline: new Int32Array(n).fill(NONE),
    delay: new Int32Array(n),
    late: new Uint8Array(n),
    marginLimit: new Int32Array(n).fill(NONE),
    links: m,
    linkIds: new Array<string>(m),
    linkRank: new Int32Array(m),
    from: new Int32Array(m),
    to: new Int32Array(m),
    kind: new Uint8Array(m),
    lag: new Int32Array(m),
    lagCalendar: new Int32Array(m),
    use: new Uint16Array(m),
    inFirst,
    outFirst,
    outLinks: new Int32Array(m),
    projectFloor,
    plannedStart,
    dataDate,
    requiredEnd: options.floatTo === 'requiredFinish' && requiredFinish !== null ? requiredFinish : NONE,
    requiredFinish,
    override: options.statusLogic === 'progressOverride',
    criticalBy: options.criticalBy,
    criticalThreshold: options.criticalThreshold,
    nearCriticalThreshold: options.nearCriticalThreshold,
  };
  const after: Problem[] = [];
  memory.begin(net, project, set, before, after);
  let told: Problem[] = [];
  for (let k = 0; k < n; k++) {
    fillNode(net, k, activities[order[k]!]!, places, told);
    if (told.length === 0) continue;
    memory.keepNode(k, told);
    told = [];
  }
  memory.findMargins(net);
  fillLinks(net, sound, from, to, calendarIndex, projectCalendar, options.lagCalendar, after);
  settleMargins(net);
  settleLinks(net);
  return { network: net, problems: memory.problems(problems) };
}

/** Takes back what filling a node has set. */
function clearNode(net: Network, k: number): void {
  net.floor[k] = net.projectFloor;
  net.resumed[k] = net.late[k] = net.pin[k] = net.delay[k] = 0;
  net.pinned[k] = net.deadline[k] = net.marginLimit[k] = NONE;
  net.startLow[k] = net.finishLow[k] = net.startHigh[k] = net.finishHigh[k] = NONE;
}

const typeCode: Record<Activity['type'], number> = {
  task: Type.task,
  startMilestone: Type.startMilestone,
  finishMilestone: Type.finishMilestone,
  levelOfEffort: Type.levelOfEffort,
  margin: Type.margin,
};

const whereIs = (a: Activity, field: string): Problem['where'] => ({ table: 'activities', id: a.id, label: labelOf(a), field });

/** Where calendars are found: those of the project by id, and those that are cut. */
interface Places {
  doc: Document;
  plain: readonly CompiledCalendar[];
  calendarIndex: ReadonlyMap<string, number>;
  projectCalendar: number;
  cuts: Map<WorkCalendar, number>;
}

/** The place of a node's working calendar; a new one is added to those of the network. */
function placeOfWorking(net: Network, a: Activity, own: number, { doc, plain, cuts }: Places): number {
  const working = workingOn(doc, a, plain[own]!);
  if (working === plain[own]) return own;
  let place = cuts.get(working);
  if (place === undefined) {
    place = net.calendars.length;
    net.calendars.push(working);
    cuts.set(working, place);
  }
  return place;
}

/** Places of activities that are on another working calendar than before, since somebody came, went, or has other days off. */
function newlyCut(net: Network, places: Places, activities: readonly Activity[], memory: NetworkMemory, loads: number): number[] {
  if (memory.loads === loads) return [];
  memory.loads = loads;
  return activities.flatMap((a, i) => {
    const k = net.nodeOf[i]!;
    return placeOfWorking(net, a, net.own[k]!, places) === net.calendar[k] ? [] : [i];
  });
}

function fillNode(net: Network, k: number, a: Activity, places: Places, problems: Problem[]): void {
  let calendar = places.projectCalendar;
  if (a.calendarId !== null) {
    const own = places.calendarIndex.get(a.calendarId);
    if (own === undefined) {
      problems.push(problem('CALENDAR_NOT_USABLE', `${labelOf(a)}: its calendar cannot be used, so the project's is taken.`, whereIs(a, 'calendarId')));
    } else calendar = own;
  }
  const compiled = places.plain[calendar]!;
  net.own[k] = calendar;
  net.calendar[k] = placeOfWorking(net, a, calendar, places);
  net.type[k] = typeCode[a.type];
  const spanning = isSpanning(a);
  const duration = isMilestone(a) ? 0 : a.duration;
  net.duration[k] = duration;
  const p = progressOf(a, net.dataDate, problems);
  net.state[k] = p.state;
  net.actualStart[k] = p.actualStart;
  net.actualFinish[k] = p.actualFinish;
  const started = p.state === State.started;
  net.length[k] = started ? (a.remaining ?? duration) : duration;
  if (started) {
    const dataDate = net.dataDate as number;
    net.floor[k] = Math.max(dataDate, p.resume);
    net.resumed[k] = p.resume > dataDate ? 1 : 0;
  }
  if (a.deadline !== null) net.deadline[k] = instantOf(a.deadline, 'finish', compiled);
  if (spanning) {
    if (a.constraints.length > 0)
      problems.push(
        problem(
          'CONSTRAINT_SET_ASIDE',
          `${labelOf(a)}: a ${a.type === 'margin' ? 'margin' : 'level of effort'} takes no constraints; they were set aside.`,
          whereIs(a, 'constraints'),
        ),
      );
    if (a.levellingDelay !== null && a.levellingDelay > 0)
      problems.push(
        problem(
          'DELAY_SET_ASIDE',
          `${labelOf(a)}: a ${a.type === 'margin' ? 'margin' : 'level of effort'} takes no levelling delay; it was set aside.`,
          whereIs(a, 'levellingDelay'),
        ),
      );
    return;
  }
  if (a.constraints.length > 0) {
    // Those that clash are listed whatever the state; on finished work none acts.
    const h = holdingConstraints(a, compiled, started, net.length[k] === 0, problems);
    if (p.state === State.finished) return;
    net.startLow[k] = h.startLow;
    net.finishLow[k] = h.finishLow;
    net.startHigh[k] = h.startHigh;
    net.finishHigh[k] = h.finishHigh;
    net.pin[k] = h.pin;
    net.pinned[k] = h.pinned;
    net.late[k] = h.asLateAsPossible && a.levellingDelay === null ? 1 : 0;
    if (h.pin !== 0 && net.dataDate !== null && h.pinned < net.dataDate)
      problems.push(
        problem(
          'PIN_BEFORE_DATA_DATE',
          `${labelOf(a)} is pinned to ${formatInstant(h.pinned)}, before the data date. It is computed as given; move the pin or enter actuals.`,
          whereIs(a, 'constraints'),
          'warning',
        ),
      );
  }
  if (p.state === State.unstarted && net.pin[k] === 0) net.delay[k] = a.levellingDelay ?? 0;
}

/** Links that can be computed: both ends known, only FS at a margin, and no second one of a type between two activities. */
function soundLinks(
  all: readonly Link[],
  activities: readonly Activity[],
  ends: { from: Int32Array; to: Int32Array },
  problems: Problem[],
): { sound: Link[]; from: Int32Array; to: Int32Array } {
  const sound: Link[] = [];
  const from = new Int32Array(all.length);
  const to = new Int32Array(all.length);
  // Links out of each activity as a chain, to find a second one of a type.
  const head = new Int32Array(activities.length).fill(-1);
  const next = new Int32Array(all.length);
  for (let n = 0; n < all.length; n++) {
    const l = all[n]!;
    const a = ends.from[n]!;
    const b = ends.to[n]!;
    if (a < 0 || b < 0) {
      problems.push(problem('UNKNOWN_ACTIVITY', `Link ${l.id} names an activity that is not there; it was set aside.`, { table: 'links', id: l.id }));
      continue;
    }
    if (l.type !== 'FS' && (activities[a]!.type === 'margin' || activities[b]!.type === 'margin')) {
      problems.push(refusedLink(l, activities[a]!, activities[b]!, 'MARGIN_LINK', ': into and out of a margin only finish-to-start counts. It was set aside.', 'type'));
      continue;
    }
    let twin = head[a]!;
    while (twin !== -1 && !(to[twin] === b && sound[twin]!.type === l.type)) twin = next[twin]!;
    if (twin !== -1) {
      problems.push(refusedLink(l, activities[a]!, activities[b]!, 'DUPLICATE_LINK', ' is there twice; the second was set aside. Delete one.'));
      continue;
    }
    const at = sound.length;
    from[at] = a;
    to[at] = b;
    next[at] = head[a]!;
    head[a] = at;
    sound.push(l);
  }
  return { sound, from: from.subarray(0, sound.length), to: to.subarray(0, sound.length) };
}

function refusedLink(l: Link, from: Activity, to: Activity, code: ProblemCode, text: string, field?: string): Problem {
  const label = `${from.code} to ${to.code}`;
  return problem(code, `Link ${label} (${l.type})${text}`, { table: 'links', id: l.id, label, ...(field ? { field } : {}) });
}

/** Activities of a loop that are named. */
const MOST_OF_LOOP = 20;

/** Says which link closes a loop, and through which activities. */
function loopProblem(l: Link, loop: readonly number[] | undefined, from: Activity, to: Activity, activities: readonly Activity[]): Problem {
  const label = `${from.code} to ${to.code}`;
  const codes = (loop ?? []).map((i) => activities[i]!.code);
  const shown = codes.length > MOST_OF_LOOP ? [...codes.slice(0, MOST_OF_LOOP - 1), `${codes.length - MOST_OF_LOOP} more`, codes[codes.length - 1]] : codes;
  const round = shown.length ? `: ${shown.join(' > ')} > ${shown[0]}` : '';
  return problem('LOOP', `Link ${label} closes a loop${round}. It was set aside; delete one link of the loop.`, { table: 'links', id: l.id, label });
}

/** The calendar that a link names for its lag; its predecessor's where that cannot be used. */
function lagCalendarOf(row: Link, calendarIndex: Map<string, number>, problems: Problem[], predecessors: number): number {
  const own = calendarIndex.get((row.lagCalendar ?? '').slice(9));
  if (own !== undefined) return own;
  problems.push(
    problem('CALENDAR_NOT_USABLE', `Link ${row.id}: the calendar of its lag cannot be used, so the predecessor's is taken.`, { table: 'links', id: row.id, field: 'lagCalendar' }),
  );
  return predecessors;
}

function fillLinks(
  net: Network,
  sound: Link[],
  from: Int32Array,
  to: Int32Array,
  calendarIndex: Map<string, number>,
  projectCalendar: number,
  option: string,
  problems: Problem[],
): void {
  const nextIn = net.inFirst.slice(0, net.size);
  const nextOut = net.outFirst.slice(0, net.size);
  const place = new Int32Array(sound.length);
  for (let l = 0; l < sound.length; l++) {
    const p = net.nodeOf[from[l]!]!;
    const s = net.nodeOf[to[l]!]!;
    const at = nextIn[s]!++;
    place[l] = at;
    const row = sound[l]!;
    net.linkIds[at] = row.id;
    net.linkRank[at] = l;
    net.from[at] = p;
    net.to[at] = s;
    net.kind[at] = LinkKind[row.type];
    net.lag[at] = row.lag;
    const choice = row.lagCalendar ?? option;
    const calendar =
      choice === 'predecessor'
        ? net.own[p]!
        : choice === 'successor'
          ? net.own[s]!
          : choice === 'project'
            ? projectCalendar
            : choice === 'elapsed'
              ? 0
              : lagCalendarOf(row, calendarIndex, problems, net.own[p]!);
    net.lagCalendar[at] = calendar;
  }
  for (let l = 0; l < sound.length; l++) net.outLinks[nextOut[net.nodeOf[from[l]!]!]!++] = place[l]!;
}
