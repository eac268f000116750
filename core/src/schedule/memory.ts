/**
 * What is remembered of the last network, so that the next one costs what has changed: topology apart from values.
 * Places of activities are found once for each; a network whose shape holds is filled where rows are other ones.
 */
import type { Problem } from '../model/problem.ts';
import type { Activity, Link, Project } from '../model/schema.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import type { CalendarSet } from './calendars.ts';
import { type Network, Type } from './network.ts';

/** The place of an activity in file order, found by those that refer to it. */
interface Slot {
  id: string;
  place: number;
  /** The time at which the place was given: an older one is no place any more. */
  time: number;
}

export class NetworkMemory {
  private time = 0;
  private readonly slots = new Map<string, Slot>();
  private activities: readonly Activity[] = [];
  private slotOf: Slot[] = [];
  private links: readonly Link[] = [];
  private fromOf: (Slot | undefined)[] = [];
  private toOf: (Slot | undefined)[] = [];
  private project: Project | undefined;
  private calendars: CalendarSet | undefined;
  private net: Network | undefined;
  private before: readonly Problem[] = [];
  private after: readonly Problem[] = [];
  private readonly byNode = new Map<number, readonly Problem[]>();
  /** Places of cut calendars in the network, and the version of assignments and resources that they are of; -1 for none. */
  readonly cuts = new Map<WorkCalendar, number>();
  loads = -1;
  /** Nodes of margins. */
  margins: number[] = [];

  /**
   * The network of the last time, where only values of activities have changed since: with the places of those rows.
   * Everything that decides what is linked, and on which calendar, must be as it was.
   */
  sameShape(project: Project, calendars: CalendarSet, activities: readonly Activity[], links: readonly Link[]): { net: Network; changed: number[] } | undefined {
    const { net } = this;
    if (
      !net ||
      this.cuts.size > activities.length + MOST_STALE ||
      project !== this.project ||
      calendars !== this.calendars ||
      activities.length !== this.activities.length ||
      links.length !== this.links.length
    )
      return undefined;
    for (let l = 0; l < links.length; l++) if (links[l] !== this.links[l]) return undefined;
    const changed: number[] = [];
    for (let i = 0; i < activities.length; i++) {
      const [a, b] = [activities[i]!, this.activities[i]!];
      if (a === b) continue;
      // Numbers and names stand in what is said of links.
      const told = this.before.length + this.after.length > 0 && (a.code !== b.code || a.name !== b.name);
      if (a.id !== b.id || a.type !== b.type || a.calendarId !== b.calendarId || told) return undefined;
      changed.push(i);
    }
    this.activities = activities;
    return { net, changed };
  }

  /** Ids in file order: the list of the last time where they are the same, so that nobody takes it for another. */
  idsOf(activities: readonly Activity[]): string[] {
    const last = this.net?.ids;
    if (last && last.length === activities.length && activities.every((a, i) => a.id === last[i])) return last;
    return activities.map((a) => a.id);
  }

  /** Places of the two ends of every link, -1 where an activity is not there. Only what is new is looked up. */
  endsOf(activities: readonly Activity[], links: readonly Link[]): { from: Int32Array; to: Int32Array } {
    const time = ++this.time;
    const slotOf = new Array<Slot>(activities.length);
    // What was taken out or put in shifts the rest: both lists are walked together.
    for (let i = 0, j = 0; i < activities.length; i++) {
      const { id } = activities[i]!;
      let slot: Slot | undefined;
      for (let ahead = 0; ahead < LOOK && j + ahead < this.slotOf.length; ahead++)
        if (this.slotOf[j + ahead]!.id === id) {
          slot = this.slotOf[j + ahead]!;
          j += ahead + 1;
          break;
        }
      if (!slot) {
        slot = this.slots.get(id);
        if (!slot) this.slots.set(id, (slot = { id, place: i, time }));
      }
      slot.place = i;
      slot.time = time;
      slotOf[i] = slot;
    }
    const fromOf = new Array<Slot | undefined>(links.length);
    const toOf = new Array<Slot | undefined>(links.length);
    const from = new Int32Array(links.length);
    const to = new Int32Array(links.length);
    for (let l = 0, j = 0; l < links.length; l++) {
      const row = links[l]!;
      let known = -1;
      for (let ahead = 0; ahead < LOOK && j + ahead < this.links.length; ahead++)
        if (this.links[j + ahead] === row) {
          known = j + ahead;
          j = known + 1;
          break;
        }
      // An end that was not there may have come since.
      const a = (known >= 0 ? this.fromOf[known] : undefined) ?? this.slots.get(row.from);
      const b = (known >= 0 ? this.toOf[known] : undefined) ?? this.slots.get(row.to);
      fromOf[l] = a;
      toOf[l] = b;
      from[l] = a && a.time === time ? a.place : -1;
      to[l] = b && b.time === time ? b.place : -1;
    }
    // Places of activities that went long ago are let go.
    if (this.slots.size > 2 * activities.length + 1000) {
      this.slots.clear();
      for (const s of slotOf) this.slots.set(s.id, s);
    }
    Object.assign(this, { slotOf, fromOf, toOf, activities, links });
    return { from, to };
  }

  /** A network is begun anew; its lists of problems go on being filled. */
  begin(net: Network, project: Project, calendars: CalendarSet, before: readonly Problem[], after: readonly Problem[]): void {
    Object.assign(this, { net, project, calendars, before, after });
    this.byNode.clear();
    this.margins = [];
  }

  /** What is wrong with the activity of a node. */
  keepNode(k: number, problems: readonly Problem[]): void {
    if (problems.length) this.byNode.set(k, problems);
    else this.byNode.delete(k);
  }

  /** Once all nodes are filled: which ones are margins. */
  findMargins(net: Network): void {
    this.margins = [];
    for (let k = 0; k < net.size; k++) if (net.type[k] === Type.margin) this.margins.push(k);
  }

  /** The next time begins from nothing. */
  forget(): void {
    this.net = undefined;
  }

  /** All problems in their order: of calendars, of links, of activities, of lags. */
  problems(first: readonly Problem[]): Problem[] {
    const nodes = [...this.byNode.keys()].sort((a, b) => a - b);
    return [...first, ...this.before, ...nodes.flatMap((k) => this.byNode.get(k) ?? []), ...this.after];
  }
}

/** Cut calendars that nobody uses any more, before all is made anew. */
const MOST_STALE = 1_000;

/** How far ahead a row is looked for where rows before it were taken out. */
const LOOK = 3;
