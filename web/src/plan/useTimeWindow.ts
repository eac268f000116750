/** Which time the timeline shows: fitting, zooming, going to a date, and what a plan opens at. */
import { useCallback, useEffect } from 'react';
import { NONE } from '@yellowhammer/core/schedule/network';
import { placeOf, type ScheduleView } from '@yellowhammer/core/schedule/view';
import { MINUTES_PER_DAY, parseInstant } from '@yellowhammer/core/time/instant';
import { planActions, store, useAppDispatch, usePlan } from '../app/store';
import type { ProjectSession } from '../project/session';

/** Minutes up to which a plan opens as a whole. */
const OPENS_WHOLE = 400 * MINUTES_PER_DAY;

export function useTimeWindow(session: ProjectSession, view: ScheduleView | null, timelineWidth: number) {
  const ui = usePlan();
  const dispatch = useAppDispatch();
  const fitted = ui.from !== null;
  const fitTo = useCallback(
    (start: number, finish: number, least: number) => {
      if (timelineWidth < 50) return;
      const pixelsPerDay = Math.min(least < 20 ? 400 : 40, Math.max(0.05, ((timelineWidth - 96) / Math.max(finish - start, least * MINUTES_PER_DAY)) * MINUTES_PER_DAY));
      dispatch(planActions.set({ pixelsPerDay, from: start - (14 / pixelsPerDay) * MINUTES_PER_DAY }));
    },
    [timelineWidth, dispatch],
  );
  const fit = useCallback(() => {
    if (session.view) fitTo(session.view.projectStart, session.view.projectFinish, 20);
  }, [session, fitTo]);
  const fitSelected = useCallback(() => {
    const v = session.view;
    if (!v) return;
    const spans = store.getState().plan.selected.flatMap((id): [number, number][] => {
      const r = v.rollups.get(id);
      const i = placeOf(v, id);
      return i !== undefined ? [[v.start[i]!, v.finish[i]!]] : r && r.start !== NONE ? [[r.start, r.finish]] : [];
    });
    if (spans.length)
      fitTo(
        spans.reduce((t, [a]) => Math.min(t, a), Infinity),
        spans.reduce((t, [, b]) => Math.max(t, b), -Infinity),
        3,
      );
  }, [session, fitTo]);
  const goDate = useCallback(
    (at: number) => dispatch(planActions.set({ from: at - ((timelineWidth * 0.3) / store.getState().plan.pixelsPerDay) * MINUTES_PER_DAY })),
    [timelineWidth, dispatch],
  );
  useEffect(() => {
    if (fitted || !view || timelineWidth <= 50) return;
    // A long plan opens at the time around its data date; a short one as a whole.
    const at = view.summary.dataDate === null ? undefined : parseInstant(view.summary.dataDate);
    const whole = view.projectFinish - view.projectStart;
    if (at !== undefined && whole > OPENS_WHOLE && at > view.projectStart && at < view.projectFinish)
      fitTo(
        Math.max(view.projectStart, Math.min(at - OPENS_WHOLE * 0.3, view.projectFinish - OPENS_WHOLE)),
        Math.min(view.projectFinish, Math.max(at + OPENS_WHOLE * 0.7, view.projectStart + OPENS_WHOLE)),
        20,
      );
    else fit();
  }, [fitted, view, timelineWidth, fit, fitTo]);

  const zoom = useCallback(
    (factor: number, atX?: number) => {
      if (ui.from === null) return;
      // Keys zoom about what is selected, where it is in view.
      const v = session.view;
      const i = v && ui.selected.length ? placeOf(v, ui.selected[ui.selected.length - 1]!) : undefined;
      const chosenX = v && i !== undefined ? (((v.start[i]! + v.finish[i]!) / 2 - ui.from) / MINUTES_PER_DAY) * ui.pixelsPerDay : -1;
      const x = atX ?? (chosenX >= 0 && chosenX <= timelineWidth ? chosenX : timelineWidth / 2);
      const pixelsPerDay = Math.min(2400, Math.max(0.03, ui.pixelsPerDay * factor));
      const t = ui.from + (x / ui.pixelsPerDay) * MINUTES_PER_DAY;
      dispatch(planActions.set({ pixelsPerDay, from: t - (x / pixelsPerDay) * MINUTES_PER_DAY }));
    },
    [ui.from, ui.pixelsPerDay, ui.selected, timelineWidth, dispatch, session],
  );

  return { fit, fitSelected, goDate, zoom };
}
