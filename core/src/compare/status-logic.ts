/** The two ways of treating out-of-sequence progress side by side (scheduling rules, section 4). */
import { copyDocument, type Document, projectOf } from '../model/document.ts';
import type { Options, Project } from '../model/schema.ts';
import { explain } from '../schedule/explain.ts';
import { State } from '../schedule/network.ts';
import { schedule } from '../schedule/schedule.ts';
import { placeOf, type ScheduleView, viewOf } from '../schedule/view.ts';
import type { Instant } from '../time/instant.ts';

export interface OneWay {
  /** Where the work ahead begins; as `NONE` for finished activities. */
  ahead: Instant;
  finish: Instant;
  /** Working minutes of the activity's calendar. */
  totalFloat: number;
}

export interface StatusLogicRow {
  id: string;
  retained: OneWay;
  override: OneWay;
  minutesPerDay: number;
  /** True where it is out of sequence itself, false where it only follows one that is. */
  direct: boolean;
  /** What holds it in retained logic, in words; empty where it only follows. */
  heldBy: string[];
}

export interface StatusLogicComparison {
  retainedFinish: Instant;
  overrideFinish: Instant;
  /** In file order; those out of sequence themselves first. */
  rows: StatusLogicRow[];
}

const ways: Options['statusLogic'][] = ['retainedLogic', 'progressOverride'];

/** Computes a document both ways. Undefined where it cannot be computed. */
export function compareStatusLogic(doc: Document): StatusLogicComparison | undefined {
  const both = ways.map((statusLogic) => {
    const work = copyDocument(doc);
    const project: Project = projectOf(doc);
    work.project.set('project', Object.freeze({ ...project, options: { ...project.options, statusLogic } }));
    const s = schedule(work);
    return s.computed && { work, computed: s.computed, view: viewOf(work, s.computed, s.problems, undefined) };
  });
  const [retained, override] = both;
  if (!retained || !override) return undefined;
  const net = retained.computed.network;
  const carriedTo = new Set(retained.computed.slack.carried.map((c) => net.ids[net.fileIndex[c.to]!]));
  // Progress override ignores every link into started work: what differs there is held by its own links, also by the lag behind finished work.
  const begun = (id: string, i: number): boolean => retained.view.state[i] === State.started && doc.activities.get(id)?.type !== 'levelOfEffort';
  const oneWay = (v: ScheduleView, i: number): OneWay => ({ ahead: v.aheadFrom[i]!, finish: v.finish[i]!, totalFloat: v.totalFloat[i]! });
  const rows = retained.view.ids.flatMap((id, i): StatusLogicRow[] => {
    const j = placeOf(override.view, id);
    if (j === undefined) return [];
    const [a, b] = [oneWay(retained.view, i), oneWay(override.view, j)];
    if (a.ahead === b.ahead && a.finish === b.finish && a.totalFloat === b.totalFloat) return [];
    const direct = (carriedTo.has(id) || begun(id, i)) && (a.ahead !== b.ahead || a.finish !== b.finish);
    const heldBy = direct ? (explain(retained.work, retained.computed, id)?.bounds ?? []).filter((x) => x.governs && x.activityId).map((x) => x.text) : [];
    return [{ id, retained: a, override: b, minutesPerDay: retained.view.minutesPerDay[i]!, direct, heldBy }];
  });
  return { retainedFinish: retained.view.projectFinish, overrideFinish: override.view.projectFinish, rows: [...rows.filter((r) => r.direct), ...rows.filter((r) => !r.direct)] };
}
