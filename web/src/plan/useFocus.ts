/** Keeps the focus in the plan: where what had it is gone (a dialog closed, a button with its row), the grid has it again. */
import { type RefObject, useEffect } from 'react';

export function useFocusKeeper(grid: RefObject<HTMLDivElement | null>): void {
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = (): void => {
      clearTimeout(timer);
      timer = setTimeout(() => {
        const open = [...document.querySelectorAll('[role="dialog"], [role="menu"], [role="listbox"]')].some((e) => e.getClientRects().length > 0);
        if (document.activeElement === document.body && !open) grid.current?.focus({ preventScroll: true });
      }, 120);
    };
    look();
    const events = ['keyup', 'click', 'focusout'] as const;
    for (const e of events) document.addEventListener(e, look, true);
    return () => {
      clearTimeout(timer);
      for (const e of events) document.removeEventListener(e, look, true);
    };
  }, [grid]);
}
