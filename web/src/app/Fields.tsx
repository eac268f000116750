import type { FormEvent, ReactNode } from 'react';

const stay = (e: FormEvent): void => e.preventDefault();

/**
 * Around fields that are taken over one by one. A browser looks through the fields of a page for an address or a card that
 * it could fill in, anew whenever one of them comes, goes or is typed in: for the inspector that took 50 ms of a core after
 * each edit, and the worksheet of an update has four for each row. It passes over what belongs to a search, which it knows
 * by the address that would be asked; nothing ever is.
 */
export const Fields = ({ children }: { children: ReactNode }) => (
  <form className="fields" action="/search" onSubmit={stay}>
    {children}
  </form>
);
