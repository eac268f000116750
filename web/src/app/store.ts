/** What is not the project's data: selection, view settings. Rows and results never live here. */
import { configureStore, createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import type { SortKey } from '@yellowhammer/core/fields/sort';

/** The key of a field. */
export type ColumnKey = string;

/** Where the cursor stands when it is on the bar of its row: there nothing can be typed. */
export const BAR = '#bar';

export interface PlanUi {
  /** Selected row ids in the order in which they were selected. */
  selected: string[];
  /** The cell with the cursor. */
  active: { row: string; column: ColumnKey } | null;
  collapsed: Record<string, true>;
  columns: ColumnKey[];
  widths: Partial<Record<ColumnKey, number>>;
  sheetWidth: number;
  inspector: boolean;
  dense: boolean;
  /** Left edge of the timeline in minutes, and its zoom. */
  from: number | null;
  pixelsPerDay: number;
  showLinks: 'all' | 'driving' | 'none';
  showFloat: boolean;
  /** Filter of the plan: everything, critical, or a trace from an activity. */
  trace: { id: string; mode: 'driving' | 'all'; steps: number } | null;
  onlyCritical: boolean;
  /** A calendar picked to be stamped on rows; null in it: the project's. */
  stamp: { calendarId: string | null } | null;
  clock: boolean;
  /** The path ribbon has a scale of its own. */
  ribbonOwn: boolean;
  /** Non-working time is drawn by each row's own calendar, not by the project's. */
  ownStops: boolean;
  /** The whole project has a row of its own, above all. */
  projectRow: boolean;
  /** The small map of the whole plan is shown. */
  map: boolean;
  /** Fields that stand before, on and after a bar; null: none. */
  texts: BarTexts;
  /** Fields by which rows are sorted within their nodes, the first first. */
  sort: SortKey[];
  /** The link that is selected. */
  link: string | null;
  /** What is drawn in a lane follows what ends before it there. */
  linkDrawn: boolean;
  /** What is meant when a linked bar is dragged; null: it is asked. */
  dragAnswer: 'notBefore' | 'lag' | 'break' | null;
  /** Rows that are cut and wait to be pasted. */
  cut: string[];
  /** Only these rows with all in them are shown; null: all. */
  focus: string[] | null;
  /** What is being prepared in the panel beside the sheet, and the rows (in order of selecting) it began with. */
  task: { id: string; rows: string[] } | null;
}

export interface BarTexts {
  before: ColumnKey | null;
  on: ColumnKey | null;
  after: ColumnKey | null;
}

export const defaultColumns: ColumnKey[] = [
  'code',
  'name',
  'duration',
  'start',
  'finish',
  'float',
  'predecessors',
  'percent',
  'baselineFinish',
  'finishVariance',
  'calendar',
  'constraint',
  'successors',
  'wbs',
];

const KEY = 'yellowhammer.view';
/** A wide window begins with more of the sheet, a narrow one without the inspector. */
const windowWidth = typeof innerWidth === 'number' ? innerWidth : 1280;
const initial: PlanUi = {
  selected: [],
  active: null,
  collapsed: {},
  columns: defaultColumns,
  widths: {},
  sheetWidth: windowWidth >= 1600 ? 733 : 479,
  inspector: windowWidth > 900,
  dense: false,
  from: null,
  pixelsPerDay: 2,
  showLinks: 'all',
  showFloat: true,
  trace: null,
  onlyCritical: false,
  stamp: null,
  clock: false,
  ribbonOwn: true,
  ownStops: false,
  map: false,
  projectRow: false,
  texts: { before: null, on: 'name', after: 'name' },
  sort: [],
  link: null,
  linkDrawn: true,
  dragAnswer: null,
  cut: [],
  focus: null,
  task: null,
};

/** What belongs to the project that is open and to this moment: it is not kept, and another project begins without it. */
const passing = { selected: [], active: null, trace: null, onlyCritical: false, stamp: null, cut: [], focus: null, task: null, link: null } satisfies Partial<PlanUi>;

/** What is kept in this browser. */
const keptKeys = [
  'columns',
  'widths',
  'sheetWidth',
  'inspector',
  'dense',
  'showLinks',
  'showFloat',
  'clock',
  'linkDrawn',
  'ribbonOwn',
  'ownStops',
  'map',
  'texts',
  'projectRow',
  'sort',
] as const satisfies readonly (keyof PlanUi)[];

function remembered(): PlanUi {
  try {
    return { ...initial, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<PlanUi>), ...passing };
  } catch {
    return initial;
  }
}

const plan = createSlice({
  name: 'plan',
  initialState: remembered(),
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
    /** Another project: nothing of the last one stays selected. */
    reset: (state) => ({ ...state, ...passing, collapsed: {}, from: null }),
  },
});

export const planActions = plan.actions;
export const store = configureStore({ reducer: { plan: plan.reducer } });
export type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
const useAppSelector = useSelector.withTypes<RootState>();
export const usePlan = (): PlanUi => useAppSelector((s) => s.plan);

/** What of the view does not follow the cursor: for parts that are not drawn anew when it moves. */
export type PlanView = Omit<PlanUi, 'selected' | 'active' | 'cut' | 'from' | 'pixelsPerDay' | 'collapsed'>;
const sameView = (a: PlanView, b: PlanView): boolean => viewKeys.every((k) => a[k] === b[k]);
const viewKeys = [...keptKeys, 'trace', 'onlyCritical', 'stamp', 'link', 'dragAnswer', 'focus', 'task'] as const satisfies readonly (keyof PlanView)[];
export const usePlanView = (): PlanView => useAppSelector((s): PlanView => s.plan, sameView);

let saved = '';
store.subscribe(() => {
  const ui = store.getState().plan;
  const text = JSON.stringify(Object.fromEntries(keptKeys.map((k) => [k, ui[k]])));
  if (text !== saved) localStorage.setItem(KEY, (saved = text));
});

/** The one selected row; null where none or several are. */
export const useOneSelected = (): string | null => useAppSelector((s) => (s.plan.selected.length === 1 ? s.plan.selected[0]! : null));
