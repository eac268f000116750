/** What the server tells about shared calendars: shapes that it and the interface have in common. */
import type { Calendar } from '../model/schema.ts';
import type { Standing } from '../compare/effect.ts';
import type { SharedThing } from './shared-things.ts';
import type { DayDifference } from '../time/calendar-days.ts';
import type { ImportChoice } from './shared.ts';

/** A shared calendar, and who uses it. */
export interface SharedEntry {
  calendar: Calendar;
  /** What it was before its last change; null where it was never changed. */
  previous: Calendar | null;
  revision: number;
  changedAt: string;
  changedBy: string;
  usedBy: SharedUser[];
}

/** Who has a copy of something shared. `same`: the copy says what the shared one says. */
export interface SharedUser {
  projectId: string;
  code: string;
  name: string;
  state: 'active' | 'archived';
  same: boolean;
}

/** A shared account, code set, role, resource or crew, and who uses it. */
export interface SharedThingEntry extends SharedThing {
  /** What it was before its last change; null where it was never changed. */
  previous: SharedThing['row'] | null;
  revision: number;
  changedAt: string;
  changedBy: string;
  usedBy: SharedUser[];
}

/** What changes of shared rows do to one project. */
export interface ThingEffect extends ProjectEffect {
  standing: { before: Standing; after: Standing };
  /** Activities that lose a value of a code set. */
  lost: number;
}

/** What a change of a shared calendar does to one project. */
export interface ProjectEffect {
  projectId: string;
  code: string;
  name: string;
  /** Finish before and after, `YYYY-MM-DDTHH:MM`. */
  before: string;
  after: string;
  finishDays: number;
  moved: number;
}

/** A calendar of an imported file that meets a shared one of its name with other content. */
export interface MeetingView {
  calendarId: string;
  name: string;
  ours: string;
  theirs: string;
  /** Days on which the hours differ, from the data date to a little after the finish; `more` of them are left out. */
  days: DayDifference[];
  more: number;
  /** Project finish under each choice, the others being as chosen so far. */
  finish: Record<ImportChoice, string | null>;
  /** What taking theirs would do to the projects here that use the shared calendar. */
  others: ProjectEffect[];
}
