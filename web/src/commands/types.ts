/** Commands as the interface has them: those of core's list, and those that only concern the view. */
import type { CommandFacts, Selection } from '@yellowhammer/core/commands/command';
import type { ActivityType } from '@yellowhammer/core/model/schema';
import type { PlanUi, useAppDispatch } from '../app/store';
import type { ProjectSession } from '../project/session';

/** What Plan can do, while it is open. */
export interface PlanHands {
  selection: () => Selection;
  /** `inside`: in the node of the cursor, one level down. `type`: of the activity; without it a task. */
  startDraft: (makes: 'activity' | 'wbs', inside?: boolean, type?: ActivityType) => void;
  startEdit: () => void;
  /** Shows the column of a field, and begins to type in it where something can be typed in the row of the cursor. */
  editField: (key: string) => void;
  zoom: (factor: number) => void;
  fit: () => void;
  /** Fits the time of the selected rows. */
  fitSelected: () => void;
  /** Moves to an instant, with the same zoom. */
  goDate: (at: number) => void;
  go: (activity: string) => void;
  stampSelected: () => void;
  csv: () => void;
  /** Of the timeline, in pixels. */
  width: number;
  outlineDepth: (depth: number) => void;
  selectAll: () => void;
  afterDelete: (gone: ReadonlySet<string>) => void;
  /** Selects rows that a command has made; `rename`: begins to type the name of the first. */
  afterMade: (ids: readonly string[], rename: boolean) => void;
  linkWithChoices: () => void;
  clipboard: (what: 'copy' | 'cut' | 'paste') => void;
}

/** Parts of the project's settings that commands lead to. */
export type SettingsPart = 'baselines' | 'computation';

/** What commands work on. */
export interface Hands {
  session: ProjectSession;
  ui: PlanUi;
  dispatch: ReturnType<typeof useAppDispatch>;
  /** Null where another room is open. */
  plan: PlanHands | null;
  /** A link or a column that was pointed at. */
  link: string | null;
  column: string | null;
  go: (path: string, state?: object) => void;
  /** Opens the settings of the project, at a part of them. */
  settings: (at?: SettingsPart) => void;
  help: () => void;
  find: () => void;
  dark: boolean;
  setDark: (dark: boolean) => void;
}

export interface AppCommand extends CommandFacts {
  able: (h: Hands) => true | string;
  run: (h: Hands) => void;
  /** Whether it is on, where it is a choice. */
  on?: (h: Hands) => boolean;
  /** Its keys act in every room, not in Plan alone. */
  everywhere?: true;
}
