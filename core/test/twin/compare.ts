import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { scheduleJson } from '@yellowhammer/core/schedule/schedule-json';
import { planFile, type SmallPlan } from './plans';
import { slowSchedule, slowStamp } from './slow';

interface Json {
  projectFinish: string;
  activities: {
    earlyStart: string;
    earlyFinish: string;
    lateStart: string | null;
    lateFinish: string | null;
    totalFloat: { minutes: number } | null;
    freeFloat: { minutes: number } | null;
    length: number;
    onLongestPath: boolean;
    state: string;
  }[];
  links: { slack: { minutes: number } | null; driving: boolean }[];
  carriedLogic: { from: string; to: string; slack: { minutes: number }; driving: boolean }[];
}

/** Both results in one form, so that a difference reads as a difference of plain values. */
export function fast(plan: SmallPlan): unknown {
  const read = readProjectFile(JSON.parse(JSON.stringify(planFile(plan))));
  if (!read.file) throw new Error(JSON.stringify(read.problems));
  const { json } = scheduleJson(read.file.document, read.problems);
  const j = json as unknown as Json;
  return {
    projectFinish: j.projectFinish,
    activities: j.activities.map((a) => ({
      start: a.earlyStart,
      finish: a.earlyFinish,
      lateStart: a.lateStart,
      lateFinish: a.lateFinish,
      totalFloat: a.totalFloat?.minutes ?? null,
      freeFloat: a.freeFloat?.minutes ?? null,
      length: a.state === 'finished' ? 0 : a.length,
      longest: a.onLongestPath,
    })),
    links: j.links.map((l) => ({ slack: l.slack?.minutes ?? null, driving: l.driving })),
    carried: j.carriedLogic.map((c) => ({ from: Number(c.from.slice(1)), to: Number(c.to.slice(1)), slack: c.slack.minutes, driving: c.driving })),
  };
}

export function slow(plan: SmallPlan, s = slowSchedule(plan)): unknown {
  return {
    projectFinish: slowStamp(s.projectFinish),
    activities: s.activities.map((a, i) => ({
      start: slowStamp(a.start),
      finish: slowStamp(a.finish),
      lateStart: slowStamp(a.lateStart),
      lateFinish: slowStamp(a.lateFinish),
      totalFloat: a.totalFloat,
      freeFloat: a.freeFloat,
      length: a.length,
      longest: s.longest[i],
    })),
    links: s.slack.map((slack, i) => ({ slack, driving: s.driving[i] })),
    carried: s.carried.map(({ from, to, slack, driving }) => ({ from, to, slack, driving })),
  };
}
