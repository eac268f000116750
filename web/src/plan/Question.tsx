/** A question asked in place: its answers are walked through with the arrows, Escape gives it up. */
import { type ReactNode, useEffect, useRef } from 'react';

interface Props {
  label: string;
  /** Where it is asked, in pixels of the window. */
  x: number;
  y: number;
  onDone: () => void;
  children: ReactNode;
}

const WIDTH = 340;
const HEIGHT = 280;

export function Question({ label, x, y, onDone, children }: Props) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => box.current?.querySelector<HTMLElement>('input, button')?.focus(), []);
  const step = (by: number): void => {
    const all = [...(box.current?.querySelectorAll<HTMLElement>('button') ?? [])];
    const at = all.indexOf(document.activeElement as HTMLElement);
    all[(at + by + all.length) % all.length]?.focus();
  };
  return (
    <div
      ref={box}
      className="drag-question"
      role="dialog"
      aria-label={label}
      style={{ left: Math.max(8, Math.min(x, innerWidth - WIDTH - 8)), top: Math.max(8, Math.min(y + 10, innerHeight - HEIGHT - 8)), width: WIDTH }}
      onKeyDown={(e) => {
        if (e.key === 'Escape') onDone();
        else if (e.key === 'ArrowDown') step(1);
        else if (e.key === 'ArrowUp') step(-1);
        else return;
        e.preventDefault();
        e.stopPropagation();
      }}
      onBlur={(e) => e.relatedTarget !== null && !e.currentTarget.contains(e.relatedTarget) && onDone()}
    >
      {children}
    </div>
  );
}
