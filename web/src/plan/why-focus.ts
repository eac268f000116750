/** Brings the explanation of the selected activity into view, once it is there. */
export const showWhy = (): void => void setTimeout(() => document.getElementById('why')?.scrollIntoView({ block: 'nearest' }), 60);

/** Puts the focus on the first bound of the explanation; false where it is not there (yet). */
export function focusWhy(): boolean {
  const why = document.getElementById('why');
  why?.scrollIntoView({ block: 'nearest' });
  why?.querySelector<HTMLElement>('.link-button')?.focus();
  return why !== null;
}
