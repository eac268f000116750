import { Collapse } from '@mantine/core';
import { type ReactNode, useState } from 'react';

/** A section of the inspector that folds. */
export function Section({ id, title, children, count }: { id?: string; title: string; children: ReactNode; count?: number }) {
  const [open, setOpen] = useState(true);
  return (
    <section className="inspector-section" data-section={id}>
      <button type="button" className="plain-button section-title" aria-expanded={open} onClick={() => setOpen(!open)}>
        {title} {count ? <span className="muted">{count}</span> : null}
      </button>
      <Collapse expanded={open}>{children}</Collapse>
    </section>
  );
}
