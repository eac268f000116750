/** Brings the explanation of the selected activity into view, once it is there. */
export const showWhy = (): void => void setTimeout(() => document.getElementById('why')?.scrollIntoView({ block: 'nearest' }), 60);

const EVERY_MS = 25;
const LONGEST_MS = 1500;

/** Puts the focus on the first bound of an activity's explanation, as soon as it is there: it is computed, and follows the cursor. */
export function focusWhy(activity: string, waited = 0): void {
  const why = document.getElementById('why');
  if (why?.dataset['activity'] === activity) {
    why.scrollIntoView({ block: 'nearest' });
    why.querySelector<HTMLElement>('.link-button')?.focus();
  } else if (waited < LONGEST_MS) setTimeout(() => focusWhy(activity, waited + EVERY_MS), EVERY_MS);
}
