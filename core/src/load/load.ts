/** Demand against capacity of every resource, role and group: exact step functions, and what they add up to (resource rules, section 6). */
import type { Document } from '../model/document.ts';
import { ordered } from '../model/document.ts';
import type { Crew, Resource, ResourceGroup, Role } from '../model/resource-schema.ts';
import type { Computed } from '../schedule/compute.ts';
import { calendarFor } from '../schedule/calendars.ts';
import { resourceTime } from '../schedule/working.ts';
import type { Instant } from '../time/instant.ts';
import { plainTime } from '../time/patched.ts';
import { Capacity } from './capacity.ts';
import { Curve } from './curve.ts';
import { demandOf } from './demand.ts';
import { asksByRow, type Elsewhere, type ElsewhereAsk, nothingElsewhere, type OtherProject, withElsewhere } from './elsewhere.ts';
import { type Loaded, loadedOf } from './pieces.ts';
import { noSteps, type Steps, sumOfAll } from './steps.ts';

export type SubjectKind = 'resource' | 'role' | 'group' | 'crew';

/** Whose load is told: a resource, a role, a group of resources, or who belongs to a crew. */
export interface Subject {
  kind: SubjectKind;
  id: string;
  name: string;
  /** What it is measured in, where it is a material; undefined: units of labour and equipment. */
  unit?: string;
  /** What asks for it. */
  asks: readonly Loaded[];
  /** What other projects ask of it; none where they do not count. */
  elsewhere: readonly ElsewhereAsk[];
  curve: Curve;
}

/** The loads of a plan. */
export interface Loads {
  subjects: Subject[];
  loaded: readonly Loaded[];
  /** Other projects that count. */
  projects: readonly OtherProject[];
  /** First and last instant of any work; undefined where there is none. */
  span: { from: Instant; to: Instant } | undefined;
}

/** What is known of each member before subjects are made of them. */
interface Member {
  asks: Loaded[];
  elsewhere: readonly ElsewhereAsk[];
  steps: Steps;
  jumps: { at: Instant; work: number }[];
  capacity: readonly Capacity[] | null;
}

/** All loads of a plan whose dates are computed. `late`: with late dates; `elsewhere`: with what other projects ask of shared rows. Linear in assignments and their pieces, plus sorting. */
export function loadsOf(doc: Document, r: Computed, late = false, elsewhere: Elsewhere = nothingElsewhere): Loads {
  const loaded = loadedOf(doc, r, late);
  const byResource = new Map<string, Loaded[]>();
  const byRole = new Map<string, Loaded[]>();
  for (const l of loaded) {
    const { resourceId, roleId } = l.assignment;
    const [map, id] = resourceId !== null ? ([byResource, resourceId] as const) : ([byRole, roleId ?? ''] as const);
    const list = map.get(id);
    if (list) list.push(l);
    else map.set(id, [l]);
  }
  const others = asksByRow(doc, elsewhere);
  const member = (asks: Loaded[], key: string, capacity: readonly Capacity[] | null): Member => {
    const theirs = others.get(key) ?? [];
    return { asks, elsewhere: theirs, ...withElsewhere(demandOf(asks), theirs), capacity };
  };
  const members = new Map<string, Member>();
  const resources = ordered(doc, 'resources');
  for (const res of resources) {
    members.set(res.id, member(byResource.get(res.id) ?? [], `resources ${res.id}`, capacityOf(doc, res)));
  }
  const ofRole = new Map<string, Member[]>();
  const subjects: Subject[] = resources.map((res) => subjectOf('resource', res, [members.get(res.id) as Member], res.kind === 'material' ? res.unit : undefined));
  for (const role of ordered(doc, 'roles')) {
    const own = member(byRole.get(role.id) ?? [], `roles ${role.id}`, null);
    const fill = resources.filter((res) => res.roleId === role.id && res.kind !== 'material').map((res) => members.get(res.id) as Member);
    ofRole.set(role.id, [own, ...fill]);
    subjects.push(subjectOf('role', role, [own, ...fill], undefined, statedBy(doc, role)));
  }
  const groups = ordered(doc, 'resourceGroups');
  for (const group of groups) {
    const within = groupsWithin(groups, group.id);
    const list = resources.filter((res) => res.groupId !== null && within.has(res.groupId) && res.kind !== 'material').map((res) => members.get(res.id) as Member);
    subjects.push(subjectOf('group', group, list));
  }
  // Everybody of a crew once, whoever names them: all that is asked of them, against all that they have.
  for (const crew of ordered(doc, 'crews')) {
    const of = new Set(
      crew.lines.flatMap(({ resourceId, roleId }): Member | readonly Member[] =>
        resourceId === null ? (ofRole.get(roleId ?? '') ?? []) : doc.resources.get(resourceId)?.kind === 'material' ? [] : (members.get(resourceId) ?? []),
      ),
    );
    subjects.push(subjectOf('crew', crew, [...of]));
  }
  return { subjects, loaded, projects: elsewhere.projects, span: spanOfAll(subjects) };
}

/** A group with all that lie in it, at any depth. */
export function groupsWithin(groups: readonly ResourceGroup[], id: string): Set<string> {
  const within = new Set([id]);
  for (let size = 0; size < within.size;) {
    size = within.size;
    for (const g of groups) if (g.parentId !== null && within.has(g.parentId)) within.add(g.id);
  }
  return within;
}

/** Capacity of labour and equipment; null: a material, which has no limit. */
function capacityOf(doc: Document, res: Resource): Capacity[] | null {
  const time = res.kind === 'material' ? undefined : resourceTime(doc, res);
  return time ? [new Capacity(time, res.availability)] : null;
}

/** The availability that a role states itself, on the project's calendar. */
function statedBy(doc: Document, role: Role): Capacity[] | undefined {
  const calendar = role.availability.length ? calendarFor(doc, { calendarId: null }) : undefined;
  return calendar && [new Capacity(plainTime(calendar), role.availability)];
}

function subjectOf(kind: SubjectKind, row: Resource | Role | ResourceGroup | Crew, members: readonly Member[], unit?: string, stated?: Capacity[]): Subject {
  const demand = sumOfAll(members.map((m) => m.steps));
  const jumps = members.length === 1 ? members[0]!.jumps : members.flatMap((m) => m.jumps).sort((a, b) => a.at - b.at);
  const capacity = stated ?? (unit !== undefined ? null : members.flatMap((m) => m.capacity ?? []));
  let there = noSteps;
  const [first, last] = [demand.at[0], demand.at[demand.at.length - 1]];
  if (capacity && first !== undefined && last !== undefined) there = capacity.length === 1 ? capacity[0]!.steps(first, last) : sumOfAll(capacity.map((c) => c.steps(first, last)));
  return {
    kind,
    id: row.id,
    name: row.name,
    ...(unit === undefined ? {} : { unit }),
    asks: members.length === 1 ? members[0]!.asks : members.flatMap((m) => m.asks),
    elsewhere: members.length === 1 ? members[0]!.elsewhere : members.flatMap((m) => m.elsewhere),
    curve: new Curve(demand, there, jumps, capacity),
  };
}

function spanOfAll(subjects: readonly Subject[]): Loads['span'] {
  let [from, to] = [Infinity, -Infinity];
  for (const { kind, curve } of subjects) {
    if (kind === 'group' || kind === 'crew' || !curve.span) continue;
    from = Math.min(from, curve.span.from);
    to = Math.max(to, curve.span.to);
  }
  return from <= to ? { from, to } : undefined;
}
