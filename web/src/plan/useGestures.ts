/** Zooming and panning with the wheel, a touch pad and two fingers; the page itself is never zoomed by them. */
import { type RefObject, useEffect, useRef } from 'react';

interface Args {
  /** The picture with the sheet at its left. */
  frame: RefObject<HTMLElement | null>;
  sheetWidth: number;
  /** By a factor, at a place of the timeline in pixels. */
  zoom: (factor: number, x: number) => void;
  pan: (pixels: number) => void;
  panSheet: (pixels: number) => void;
}

export function useGestures(args: Args): void {
  const now = useRef(args);
  now.current = args;
  const { frame } = args;
  useEffect(() => {
    const el = frame.current;
    if (!el) return;
    // What comes between two frames is done once.
    let pending = { factor: 1, x: 0, pan: 0, sheet: 0 };
    let asked = 0;
    const later = (): void => {
      if (asked) return;
      asked = requestAnimationFrame(() => {
        asked = 0;
        const p = pending;
        pending = { factor: 1, x: 0, pan: 0, sheet: 0 };
        if (p.factor !== 1) now.current.zoom(p.factor, p.x);
        if (p.pan) now.current.pan(p.pan);
        if (p.sheet) now.current.panSheet(p.sheet);
      });
    };
    const placeOf = (clientX: number): number => clientX - el.getBoundingClientRect().left - now.current.sheetWidth;
    const onWheel = (e: WheelEvent): void => {
      const x = placeOf(e.clientX);
      if (e.ctrlKey) {
        // The browser would zoom the page.
        e.preventDefault();
        if (x <= 0) return;
        pending.factor *= Math.exp(-e.deltaY / 300);
        pending.x = x;
        return later();
      }
      const dx = e.deltaX || (e.shiftKey ? e.deltaY : 0);
      if (!dx) return;
      e.preventDefault();
      if (x > 0) pending.pan += dx;
      else pending.sheet += dx;
      later();
    };
    let fingers: { apart: number; middle: number } | null = null;
    const measure = (t: TouchList): { apart: number; middle: number } => {
      const [a, b] = [t[0]!, t[1]!];
      return { apart: Math.max(20, Math.hypot(a.clientX - b.clientX, a.clientY - b.clientY)), middle: (a.clientX + b.clientX) / 2 };
    };
    const onTouch = (e: TouchEvent): void => {
      if (e.touches.length !== 2 || placeOf(measure(e.touches).middle) <= 0) {
        fingers = null;
        return;
      }
      e.preventDefault();
      const next = measure(e.touches);
      if (fingers && e.type === 'touchmove') {
        pending.factor *= next.apart / fingers.apart;
        pending.x = placeOf(next.middle);
        pending.pan += fingers.middle - next.middle;
        later();
      }
      fingers = next;
    };
    el.addEventListener('wheel', onWheel, { passive: false });
    for (const type of ['touchstart', 'touchmove', 'touchend', 'touchcancel'] as const) el.addEventListener(type, onTouch, { passive: false });
    return () => {
      cancelAnimationFrame(asked);
      el.removeEventListener('wheel', onWheel);
      for (const type of ['touchstart', 'touchmove', 'touchend', 'touchcancel'] as const) el.removeEventListener(type, onTouch);
    };
  }, [frame]);
}
