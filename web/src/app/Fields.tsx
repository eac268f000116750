import type { FormEvent, ReactNode } from 'react';

const stay = (e: FormEvent): void => e.preventDefault();

/**
 * Around fields that are taken over one by one. A browser looks through the fields of a page for an address or a card that
 * it could fill in, anew whenever one comes, goes or gets the focus: for those of the inspector 50 ms of a core after each
 * edit. It passes over what belongs to a search, which it knows by the address that would be asked. Nothing ever is.
 */
export const Fields = ({ children }: { children: ReactNode }) => (
  <form className="fields" action="/search" onSubmit={stay}>
    {children}
  </form>
);
