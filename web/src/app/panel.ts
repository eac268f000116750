/** A panel: a room of the rail, a section of the inspector or a drawer of the dock. Each stands once in its list. */
import type { Icon } from '@tabler/icons-react';
import type { ComponentType } from 'react';
import type { Activity, WbsNode } from '@yellowhammer/core/model/schema';
import type { ProjectSession } from '../project/session';

/** A workspace: rooms.tsx. */
export interface Room {
  id: string;
  title: string;
  about: string;
  /** Other words by which a planner looks for it. */
  words: string;
  icon: Icon;
  /** Its address; rooms of a project get the id of the one that is open. */
  path: (projectId: string) => string;
  /** Pattern of the address for the router. */
  route: string;
  ofProject: boolean;
  load: () => Promise<{ default: ComponentType }>;
  /** What in it a command leads to. */
  places?: readonly Place[];
}

/** A part of a room: the room hears of it by `usePlaceWanted`. */
export interface Place {
  id: string;
  /** Title of the command. */
  title: string;
  about: string;
  words: string;
}

/** What is selected, for panels that show it. */
export interface Chosen {
  activities: readonly Activity[];
  node: WbsNode | undefined;
  onGo: (id: string) => void;
}

/** A section of the inspector: plan/panels.tsx. Without a title it does not fold. */
export interface InspectorSection {
  id: string;
  title: string | null;
  /** Other words by which a planner looks for it. */
  words?: string;
  for: (c: Chosen, session: ProjectSession) => boolean;
  /** A figure behind the title; 0 shows none. */
  count?: (c: Chosen, session: ProjectSession) => number;
  show: ComponentType<Chosen>;
}

/** What opens above a chip of the dock: plan/panels.tsx. The chip is there while it has a text. */
export interface Drawer {
  id: string;
  /** Title of the command that opens it, and what it is found by. */
  title: string;
  about: string;
  words: string;
  /** Why there is nothing to open. */
  none: string;
  chip: (session: ProjectSession) => { text: string; bad: boolean } | null;
  show: ComponentType<{ onGo: (id: string) => void }>;
}
