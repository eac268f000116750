/** Small random plans for comparing the two implementations: every rule turns up often, and fights with others. */
import { seeded } from '@yellowhammer/demo/generate';

export interface PlanCalendar {
  id: string;
  week: [number, number][][];
  exceptions: { from: string; to: string; yearly: boolean; work: [number, number][] }[];
}
export interface PlanActivity {
  type: 'task' | 'startMilestone' | 'finishMilestone' | 'levelOfEffort' | 'margin';
  calendar: number;
  duration: number;
  constraints: { kind: string; date: string | null }[];
  actualStart: string | null;
  actualFinish: string | null;
  remaining: number | null;
  resume: string | null;
  /** Null: none; 0 counts as one. */
  delay: number | null;
}
export interface PlanLink {
  from: number;
  to: number;
  type: 'FS' | 'SS' | 'FF' | 'SF';
  lag: number;
  lagCalendar: string | null;
}
export interface PlanResource {
  kind: 'labour' | 'equipment' | 'material';
  /** -1: the project's. */
  calendar: number;
  daysOff: PlanCalendar['exceptions'];
  availability: { from: string; units: number }[];
  role: number;
  group: number;
}
export interface PlanAssignment {
  activity: number;
  resource: number;
  role: number;
  units: number;
  work: number;
  quantity: number;
  delay: number;
  spread: 'even' | 'early' | 'late' | 'middle' | 'own';
  ownSpread: number[];
  drives: boolean;
  actualWork: number | null;
  remainingWork: number | null;
}
/** Who does the work of a small plan. */
export interface People {
  resources: PlanResource[];
  /** Availability of each role; empty: that of its resources. */
  roles: { from: string; units: number }[][];
  assignments: PlanAssignment[];
  /** By activity. */
  basis: ('fixedDuration' | 'fixedWork' | 'productionRate')[];
  keepsDays: boolean[];
  suspend: (string | null)[];
}
export interface SmallPlan {
  people?: People;
  calendars: PlanCalendar[];
  plannedStart: string;
  dataDate: string | null;
  requiredFinish: string | null;
  floatTo: 'projectFinish' | 'requiredFinish';
  override: boolean;
  lagCalendar: string;
  activities: PlanActivity[];
  links: PlanLink[];
}

const five: [number, number][] = [
  [480, 720],
  [780, 1020],
];
const weeks: [number, number][][][] = [
  [five, five, five, five, five, [], []],
  [
    [
      [420, 720],
      [750, 1050],
    ],
    [
      [420, 720],
      [750, 1050],
    ],
    [
      [420, 720],
      [750, 1050],
    ],
    [
      [420, 720],
      [750, 1050],
    ],
    [
      [420, 720],
      [750, 1050],
    ],
    [[420, 720]],
    [],
  ],
  Array.from({ length: 7 }, () => [[0, 1440]]),
  [[[1200, 1680]], [[1200, 1680]], [[1200, 1680]], [[1200, 1680]], [[1200, 1680]], [], []],
  [[], [[540, 900]], [], [], [[540, 900]], [], []],
  [
    [
      [360, 840],
      [840, 1320],
    ],
    [
      [360, 840],
      [840, 1320],
    ],
    [
      [360, 840],
      [840, 1320],
    ],
    [],
    [[360, 600]],
    [],
    [[1320, 1800]],
  ],
];

const START = Date.UTC(2025, 2, 3);
const stamp = (minutes: number): string => new Date(START + minutes * 60000).toISOString().slice(0, 16);

/** A random plan of up to `most` activities. The same seed gives the same plan. */
export function smallPlan(seed: number, most = 9): SmallPlan {
  const r = seeded(seed);
  const int = (a: number, b: number): number => a + Math.floor(r() * (b - a + 1));
  const pick = <T>(list: readonly T[]): T => list[int(0, list.length - 1)]!;
  const chance = (p: number): boolean => r() < p;
  // Instants that often meet the edges of working time, sometimes its middle, sometimes nothing.
  const instant = (from: number, to: number): string => stamp(int(from, to) * 1440 + pick([0, 420, 480, 720, 780, 1020, 1050, 1200, int(0, 1439)]));
  const calendars: PlanCalendar[] = Array.from({ length: int(1, 3) }, (_, i) => ({
    id: `c${i}`,
    week: pick(weeks),
    exceptions: Array.from({ length: chance(0.5) ? int(1, 3) : 0 }, () => {
      const from = int(-5, 30);
      return {
        from: stamp(from * 1440).slice(0, 10),
        to: stamp((from + (chance(0.2) ? int(5, 20) : int(0, 3))) * 1440).slice(0, 10),
        yearly: chance(0.3),
        work: pick<[number, number][]>([[], [], [[480, 720]], [[540, 1080]], [[1320, 1560]]]),
      };
    }),
  }));
  const progressed = chance(0.6);
  const dataDay = int(0, 12);
  const dataDate = progressed ? instant(dataDay, dataDay) : null;
  const override = chance(0.3);
  const n = int(2, most);
  const kinds = ['startNotBefore', 'finishNotBefore', 'startNotAfter', 'finishNotAfter', 'startOn', 'finishOn', 'pinnedStart', 'pinnedFinish', 'asLateAsPossible'];
  const activities: PlanActivity[] = Array.from({ length: n }, () => {
    const type = chance(0.55) ? 'task' : pick(['task', 'startMilestone', 'finishMilestone', 'margin', 'levelOfEffort'] as const);
    const duration = chance(0.15) ? 0 : pick([60, 120, 240, 300, 480, 960, int(1, 1500)]);
    const a: PlanActivity = {
      type,
      calendar: int(0, calendars.length - 1),
      duration,
      constraints: [],
      actualStart: null,
      actualFinish: null,
      remaining: null,
      resume: null,
      delay: null,
    };
    if (type === 'levelOfEffort' || type === 'margin') return a;
    if (progressed && chance(0.45)) {
      const s = instant(dataDay - 8, dataDay - 1);
      a.actualStart = s;
      if (chance(0.55)) a.actualFinish = [instant(dataDay - 4, dataDay - 1), s, dataDate as string].sort()[1]!;
      else if (chance(0.7)) a.remaining = chance(0.2) ? 0 : int(1, 900);
      if (a.actualFinish === null && chance(0.2)) a.resume = instant(dataDay - 1, dataDay + 5);
      if (a.actualStart > (dataDate as string)) a.actualStart = dataDate;
      if (a.actualFinish !== null && a.actualFinish < (a.actualStart as string)) a.actualFinish = a.actualStart;
    }
    if (chance(0.3)) {
      const kind = pick(kinds);
      const date = kind === 'asLateAsPossible' ? null : chance(0.4) ? instant(0, 20).slice(0, 10) : instant(0, 20);
      a.constraints.push({ kind, date });
      if (chance(0.2) && kind !== 'asLateAsPossible' && !kind.startsWith('pinned')) a.constraints.push({ kind: 'asLateAsPossible', date: null });
      if (kind === 'pinnedStart' && chance(0.3)) a.constraints.push({ kind: 'pinnedFinish', date: instant(5, 20) });
      if (kind.endsWith('NotBefore') && chance(0.3)) a.constraints.push({ kind: pick(['startNotAfter', 'finishNotAfter']), date: instant(0, 20) });
    }
    if (chance(0.15)) a.delay = pick([0, 30, 240, 480, int(1, 700)]);
    return a;
  });
  const links: PlanLink[] = [];
  // Links run along a hidden order that is not the order of the rows.
  const hidden = activities.map((_, i) => i).sort(() => r() - 0.5);
  const wanted = Math.round(n * 1.7);
  for (let t = 0; t < wanted * 3 && links.length < wanted; t++) {
    const [x = 0, y = 0] = [int(0, n - 1), int(0, n - 1)].sort((a, b) => a - b);
    if (x === y) continue;
    const [from, to] = [hidden[x]!, hidden[y]!];
    const margin = activities[from]!.type === 'margin' || activities[to]!.type === 'margin';
    const type = margin || chance(0.55) ? 'FS' : pick(['FS', 'SS', 'FF', 'SF'] as const);
    if (links.some((l) => l.from === from && l.to === to && l.type === type)) continue;
    const lag = chance(0.6) ? 0 : pick([60, 480, -240, -480, int(-700, 900)]);
    const lagCalendar = chance(0.7) ? null : pick(['predecessor', 'successor', 'project', 'elapsed', `calendar:${int(0, calendars.length - 1)}`]);
    links.push({ from, to, type, lag, lagCalendar });
  }
  const plannedStart = stamp(pick([480, 0, 300, int(0, 1439)]));
  return {
    calendars,
    plannedStart,
    dataDate,
    requiredFinish: chance(0.4) ? instant(5, 40) : null,
    floatTo: chance(0.5) ? 'requiredFinish' : 'projectFinish',
    override,
    lagCalendar: pick(['predecessor', 'successor', 'project', 'elapsed']),
    activities,
    links,
  };
}

/** The plan with people, plant and material in it, at random. Assignments that would be set aside are not made. */
export function withPeople(plan: SmallPlan, seed: number): SmallPlan {
  const r = seeded(seed * 7 + 3);
  const int = (a: number, b: number): number => a + Math.floor(r() * (b - a + 1));
  const pick = <T>(list: readonly T[]): T => list[int(0, list.length - 1)]!;
  const chance = (p: number): boolean => r() < p;
  const date = (from: number, to: number): string => stamp(int(from, to) * 1440).slice(0, 10);
  const available = (): { from: string; units: number }[] =>
    Array.from({ length: chance(0.5) ? 0 : int(1, 3) }, () => ({ from: date(-3, 20), units: pick([0, 1, 2, 3, 0.5, 1.25]) }));
  const roles = Array.from({ length: int(1, 2) }, () => (chance(0.3) ? [{ from: date(-3, 3), units: pick([1, 2]) }] : []));
  const resources = Array.from({ length: int(1, 4) }, (): PlanResource => ({
    kind: pick(['labour', 'labour', 'equipment', 'material'] as const),
    calendar: int(-1, plan.calendars.length - 1),
    daysOff: Array.from({ length: chance(0.5) ? int(1, 3) : 0 }, () => {
      const from = int(-3, 25);
      const work = pick<[number, number][]>([[], [], [], [[480, 720]], [[1320, 1560]]]);
      return { from: stamp(from * 1440).slice(0, 10), to: stamp((from + int(0, 4)) * 1440).slice(0, 10), yearly: chance(0.2), work };
    }),
    availability: available(),
    role: int(-1, roles.length - 1),
    group: int(-1, 1),
  }));
  const basis = plan.activities.map(() => pick(['fixedDuration', 'fixedWork', 'productionRate'] as const));
  const assignments: PlanAssignment[] = [];
  plan.activities.forEach((a, activity) => {
    if (a.type !== 'task' && a.type !== 'levelOfEffort') return;
    const taken = new Set<string>();
    for (let n = int(0, 3); n > 0; n--) {
      const resource = chance(0.8) ? int(0, resources.length - 1) : -1;
      const role = resource < 0 ? int(0, roles.length - 1) : -1;
      const delay = chance(0.7) ? 0 : int(1, 600);
      if (taken.has(`${resource} ${role} ${delay}`)) continue;
      taken.add(`${resource} ${role} ${delay}`);
      const units = pick([1, 2, 0.5, 1.5, 0.333]);
      const room = Math.max(0, a.duration - delay);
      const work = a.type === 'levelOfEffort' ? 0 : chance(0.8) ? Math.round(units * 1000) * room : int(0, 900_000);
      assignments.push({
        activity,
        resource,
        role,
        units,
        work,
        quantity: int(0, 90_000) / 1000,
        delay,
        spread: pick(['even', 'even', 'early', 'late', 'middle', 'own'] as const),
        ownSpread: Array.from({ length: int(2, 6) }, (_, i) => (i === 0 ? 1 : int(0, 5))),
        drives: chance(0.6) && !(resource >= 0 && resources[resource]!.kind === 'material'),
        actualWork: a.actualStart !== null && chance(0.2) ? int(0, 500_000) : null,
        remainingWork: a.actualFinish === null && a.type === 'task' && chance(0.2) ? int(0, 500_000) : null,
      });
    }
  });
  const suspend = plan.activities.map((a) => (a.type === 'task' && a.actualStart !== null && a.actualFinish === null && chance(0.3) ? a.actualStart : null));
  return { ...plan, people: { resources, roles, assignments, basis, keepsDays: plan.activities.map(() => chance(0.25)), suspend } };
}

/** The tables of people as they stand in a project file. */
function peopleFile(people: People): Record<string, unknown> {
  const id = (kind: string, n: number): string | null => (n < 0 ? null : `${kind}${n}`);
  return {
    resourceGroups: [
      { id: 'g0', name: 'G0' },
      { id: 'g1', name: 'G1', parentId: 'g0' },
    ],
    roles: people.roles.map((availability, n) => ({ id: `o${n}`, name: `O${n}`, availability })),
    resources: people.resources.map((x, n) => ({
      id: `r${n}`,
      name: `R${n}`,
      kind: x.kind,
      calendarId: id('c', x.calendar),
      daysOff: x.daysOff.map((e) => ({ ...e, name: 'off', work: intervals(e.work) })),
      availability: x.availability,
      roleId: id('o', x.role),
      groupId: id('g', x.group),
    })),
    assignments: people.assignments.map(({ activity, resource, role, ...x }, n) => ({
      ...x,
      id: `x${n}`,
      activityId: `a${activity}`,
      resourceId: id('r', resource),
      roleId: id('o', role),
    })),
  };
}

const clock = (m: number): string => `${String(Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`;
const intervals = (list: [number, number][]): string[][] => list.map((i) => i.map(clock));

/** The plan as a project file, for the fast implementation. */
export function planFile(plan: SmallPlan): unknown {
  return {
    format: 'yellowhammer-project',
    version: 1,
    project: {
      id: 'project',
      code: 'P',
      name: 'Random',
      plannedStart: plan.plannedStart,
      dataDate: plan.dataDate,
      requiredFinish: plan.requiredFinish,
      calendarId: 'c0',
      options: { floatTo: plan.floatTo, statusLogic: plan.override ? 'progressOverride' : 'retainedLogic', lagCalendar: plan.lagCalendar },
    },
    calendars: plan.calendars.map((c) => ({
      id: c.id,
      name: c.id,
      week: c.week.map(intervals),
      exceptions: c.exceptions.map((e) => ({ ...e, name: 'x', work: intervals(e.work) })),
    })),
    activities: plan.activities.map((a, i) => ({
      ...a,
      calendar: undefined,
      delay: undefined,
      id: `a${i}`,
      code: String(i),
      name: `A${i}`,
      calendarId: `c${a.calendar}`,
      levellingDelay: a.delay,
      ...(plan.people ? { basis: plan.people.basis[i], keepsDays: plan.people.keepsDays[i], suspend: plan.people.suspend[i] } : {}),
    })),
    ...(plan.people ? peopleFile(plan.people) : {}),
    links: plan.links.map((l, i) => ({
      ...l,
      id: `l${i}`,
      from: `a${l.from}`,
      to: `a${l.to}`,
      lagCalendar: l.lagCalendar?.startsWith('calendar:') ? `calendar:c${l.lagCalendar.slice(9)}` : l.lagCalendar,
    })),
  };
}
