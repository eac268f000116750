/** What is not the project's data: selection, view settings. Rows and results never live here. */
import { configureStore, createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { z } from 'zod';
import { type Seen, seenKeys, usualColumns, usualSeen, viewSettingsSchema } from '@yellowhammer/core/model/view-schema';

/** The key of a field. */
export type ColumnKey = string;

/** Where the cursor stands when it is on the bar of its row: there nothing can be typed. */
export const BAR = '#bar';

/** What the window shows: what a saved view holds of it (`Seen`), and what belongs to the moment or to this browser. */
export interface PlanUi extends Seen {
  /** Selected row ids in the order in which they were selected. */
  selected: string[];
  /** The cell with the cursor. */
  active: { row: string; column: ColumnKey } | null;
  /** Nodes and headings that are turned over (`closedNodes`); kept in this browser for each project, too. */
  collapsed: Record<string, true>;
  sheetWidth: number;
  inspector: boolean;
  /** Left edge of the timeline in minutes, and its zoom. */
  from: number | null;
  pixelsPerDay: number;
  /** Only what an activity is linked with is shown. */
  trace: { id: string; mode: 'driving' | 'all'; steps: number } | null;
  /** What is typed under the heads of columns; null: nothing can be typed there. */
  headFilters: Record<ColumnKey, string> | null;
  /** The text that is looked for; null: the search is closed. */
  search: string | null;
  /** The saved view that was chosen last: its id. */
  view: string;
  /** A value picked to be stamped on rows: a field, and its text. */
  stamp: { key: ColumnKey; text: string } | null;
  clock: boolean;
  /** The path ribbon has a scale of its own. */
  ribbonOwn: boolean;
  /** Non-working time is drawn by each row's own calendar, not by the project's. */
  ownStops: boolean;
  /** The small map of the whole plan is shown. */
  map: boolean;
  /** The link that is selected. */
  link: string | null;
  /** What is drawn in a lane follows what ends before it there. */
  linkDrawn: boolean;
  /** What is meant when a linked bar is dragged; null: it is asked. */
  dragAnswer: 'notBefore' | 'lag' | 'break' | null;
  /** Rows that are cut and wait to be pasted. */
  cut: string[];
  /** What is being prepared in the panel beside the sheet, and the rows (in order of selecting) it began with. */
  task: { id: string; rows: string[] } | null;
  /** What is open above the dock. */
  drawer: string | null;
}

export const defaultColumns: ColumnKey[] = [...usualColumns];

const KEY = 'yellowhammer.view';
/** A wide window begins with more of the sheet, a narrow one without the inspector. */
const windowWidth = typeof innerWidth === 'number' ? innerWidth : 1280;
const initial: PlanUi = {
  ...usualSeen,
  selected: [],
  active: null,
  collapsed: {},
  sheetWidth: windowWidth >= 1600 ? 733 : 479,
  inspector: windowWidth > 900,
  from: null,
  pixelsPerDay: 2,
  trace: null,
  headFilters: null,
  search: null,
  view: 'supplied:plan',
  stamp: null,
  clock: false,
  ribbonOwn: true,
  ownStops: false,
  map: false,
  link: null,
  linkDrawn: true,
  dragAnswer: null,
  cut: [],
  task: null,
  drawer: null,
};

/** What belongs to the project that is open and to this moment: it is not kept, and another project begins without it. */
const passing = { selected: [], active: null, trace: null, stamp: null, cut: [], focus: null, task: null, drawer: null, link: null, search: null } satisfies Partial<PlanUi>;

/** What is kept in this browser for all projects. */
const keptKeys = ['inspector', 'clock', 'linkDrawn', 'ribbonOwn', 'ownStops', 'map'] as const satisfies readonly (keyof PlanUi)[];

/** What is kept in this browser for each project: the view that it is seen in. A project that is new here begins as the usual one. */
const viewKeysKept: readonly (keyof PlanView & keyof PlanUi)[] = [...seenKeys.filter((k) => k !== 'focus'), 'sheetWidth', 'headFilters', 'view'];

const read = (key: string): Partial<PlanUi> => {
  try {
    return JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<PlanUi>;
  } catch {
    return {};
  }
};
const only = (from: Partial<PlanUi>, keys: readonly (keyof PlanUi)[]): Partial<PlanUi> => Object.fromEntries(keys.flatMap((k) => (from[k] === undefined ? [] : [[k, from[k]]])));
/** What was kept, without what is no view: a browser keeps for long, and anybody can write there. */
function checked(from: Partial<PlanUi>): Partial<PlanUi> {
  const shape = viewSettingsSchema.shape as unknown as Record<string, { safeParse: (v: unknown) => { success: boolean } }>;
  return only(
    from,
    viewKeysKept.filter((k) => shape[k]?.safeParse(from[k]).success ?? true),
  );
}
const turnedKey = (id: string): string => `${KEY}.${id}.turned`;
const turnedShape = z.record(z.string(), z.literal(true));
const turnedIn = (id: string): Record<string, true> => turnedShape.safeParse(read(turnedKey(id))).data ?? {};
const inProject = (id: string): Partial<PlanUi> => ({ ...only(initial, viewKeysKept), ...checked(read(`${KEY}.${id}`)) });

const plan = createSlice({
  name: 'plan',
  initialState: { ...initial, ...only(read(KEY), keptKeys), project: null as string | null },
  reducers: {
    set: (state, { payload }: PayloadAction<Partial<PlanUi>>) => ({ ...state, ...payload }),
    select(state, { payload }: PayloadAction<{ ids: string[]; active?: PlanUi['active'] }>) {
      state.selected = payload.ids;
      state.link = null;
      if (payload.active !== undefined) state.active = payload.active;
    },
    toggle(state, { payload }: PayloadAction<string>) {
      const { [payload]: was, ...rest } = state.collapsed;
      state.collapsed = was ? rest : { ...rest, [payload]: true };
    },
    /** Another project: nothing of the last one stays selected, and it is seen as it was seen last. */
    reset: (state, { payload }: PayloadAction<string>) => ({ ...state, ...passing, ...inProject(payload), project: payload, collapsed: turnedIn(payload), from: null }),
  },
});

export const planActions = plan.actions;
export const store = configureStore({ reducer: { plan: plan.reducer } });
export type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
export const usePlan = (): PlanUi => useAppSelector((s) => s.plan);

/** What of the view does not follow the cursor: for parts that are not drawn anew when it moves. */
export type PlanView = Omit<PlanUi, 'selected' | 'active' | 'cut' | 'from' | 'pixelsPerDay' | 'collapsed'>;
const sameView = (a: PlanView, b: PlanView): boolean => viewKeys.every((k) => a[k] === b[k]);
const viewKeys: readonly (keyof PlanView)[] = [...keptKeys, ...viewKeysKept, 'trace', 'stamp', 'link', 'dragAnswer', 'focus', 'task', 'drawer', 'search'];
export const usePlanView = (): PlanView => useAppSelector((s): PlanView => s.plan, sameView);

const saved = new Map<string, string>();
let turned: PlanUi['collapsed'] | null = null;
function keep(key: string, what: unknown): void {
  const text = JSON.stringify(what);
  if (text === saved.get(key)) return;
  saved.set(key, text);
  try {
    localStorage.setItem(key, text);
  } catch {
    // Where a browser has no room left, or keeps nothing, the window is as it is until it is closed.
  }
}
store.subscribe(() => {
  const ui = store.getState().plan;
  keep(KEY, only(ui, keptKeys));
  if (ui.project === null) return;
  keep(`${KEY}.${ui.project}`, only(ui, viewKeysKept));
  // Thousands of nodes may be closed, and the store changes with each step of the cursor.
  if (ui.collapsed === turned) return;
  turned = ui.collapsed;
  keep(turnedKey(ui.project), turned);
});

/** The one selected row; null where none or several are. */
export const useOneSelected = (): string | null => useAppSelector((s) => (s.plan.selected.length === 1 ? s.plan.selected[0]! : null));
