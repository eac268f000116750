/** Between what the window shows and what a saved view holds. */
import { closedBelow, turnedFor } from '@yellowhammer/core/outline/depth';
import { type Document, ordered } from '@yellowhammer/core/model/document';
import { type Seen, seenKeys, type ViewSettings, viewSettingsSchema } from '@yellowhammer/core/model/view-schema';
import type { ScheduleView } from '@yellowhammer/core/schedule/view';
import { MINUTES_PER_DAY } from '@yellowhammer/core/time/instant';
import { fitting, type NamedView, suppliedViews } from '@yellowhammer/core/view/supplied';
import type { PlanUi } from '../../app/store';
import { statusInstant } from '@yellowhammer/core/model/status-day';

/** What the window shows, as a saved view keeps it. Time and widths of the window are taken as they are now. */
export const settingsNow = (ui: PlanUi): ViewSettings => ({
  ...(Object.fromEntries(seenKeys.map((k) => [k, ui[k]])) as unknown as Seen),
  depth: null,
  range: ui.from === null ? null : { kind: 'fixed', from: ui.from, pixelsPerDay: ui.pixelsPerDay },
  sheetWidth: ui.sheetWidth,
});

export function isChanged(doc: Document, ui: PlanUi, view: NamedView | undefined): boolean {
  if (!view) return false;
  const now = settingsNow(ui);
  const kept = fitting(doc, view.settings);
  return seenKeys.some((k) => JSON.stringify(now[k]) !== JSON.stringify(kept[k]));
}

/** What the window shows in a view. `width`: of the timeline in pixels. */
export function shownIn(
  doc: Document,
  view: NamedView,
  ui: Pick<PlanUi, 'sheetWidth'>,
  width: number,
  dates: Pick<ScheduleView, 'projectStart' | 'projectFinish'> | null,
): Partial<PlanUi> {
  const s = fitting(doc, view.settings);
  const out: Partial<PlanUi> = { view: view.id, trace: null, headFilters: null, search: null, focus: s.focus };
  for (const k of seenKeys) (out as Record<string, unknown>)[k] = s[k];
  out.sheetWidth = s.sheetWidth > 0 ? s.sheetWidth : ui.sheetWidth;
  if (s.depth !== null) out.collapsed = turnedFor(doc, closedBelow(doc, s.depth));
  const { range } = s;
  if (range?.kind === 'fixed') Object.assign(out, { from: range.from, pixelsPerDay: range.pixelsPerDay });
  if (range?.kind === 'whole' && dates) {
    // Room for the names beside the last bars.
    const pixelsPerDay = Math.max(0.05, Math.min(40, (Math.max(60, width - 120) / Math.max(20 * MINUTES_PER_DAY, dates.projectFinish - dates.projectStart)) * MINUTES_PER_DAY));
    Object.assign(out, { pixelsPerDay, from: dates.projectStart - (14 / pixelsPerDay) * MINUTES_PER_DAY });
  }
  if (range?.kind === 'around') {
    const at = statusInstant(doc);
    Object.assign(out, { from: at - range.before * MINUTES_PER_DAY, pixelsPerDay: Math.max(0.05, width / (range.before + range.after)) });
  }
  return out;
}

const KEY = 'yellowhammer.views';

/** Views of this browser alone. */
export function personalViews(): NamedView[] {
  try {
    const list = JSON.parse(localStorage.getItem(KEY) ?? '[]') as Partial<NamedView>[];
    return list.flatMap((v) => {
      const settings = viewSettingsSchema.safeParse(v.settings);
      return typeof v.id === 'string' && typeof v.name === 'string' && settings.success ? [{ id: v.id, name: v.name, about: '', settings: settings.data }] : [];
    });
  } catch {
    return [];
  }
}
export const keepPersonal = (views: readonly NamedView[]): void => localStorage.setItem(KEY, JSON.stringify(views));

/** All views that can be chosen, in the order of the menu. */
export const allViews = (doc: Document): NamedView[] => [...suppliedViews, ...ordered(doc, 'savedViews'), ...personalViews()];
