import { type RefObject, useEffect, useState } from 'react';

/** Width of an element in pixels, as it changes. */
export function useWidth(of: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const element = of.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, [of]);
  return width;
}
