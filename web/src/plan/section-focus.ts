/** Going to a place of the inspector as soon as it is there: it follows the cursor. */

const EVERY_MS = 25;
const LONGEST_MS = 1500;

/** Calls `go` with an element once it is found; gives up after a while. */
function whenThere(find: () => HTMLElement | null, go: (el: HTMLElement) => void, waited = 0): void {
  const el = find();
  if (el) go(el);
  else if (waited < LONGEST_MS) setTimeout(() => whenThere(find, go, waited + EVERY_MS), EVERY_MS);
}

/** Brings the explanation of the selected activity into view, once it is there. */
export const showWhy = (): void => void setTimeout(() => document.getElementById('why')?.scrollIntoView({ block: 'nearest' }), 60);

/** Puts the focus on the first bound of an activity's explanation, as soon as it is there: it is computed. */
export const focusWhy = (activity: string): void =>
  whenThere(
    () => document.querySelector<HTMLElement>(`#why[data-activity="${CSS.escape(activity)}"]`),
    (why) => {
      why.scrollIntoView({ block: 'nearest' });
      why.querySelector<HTMLElement>('.link-button')?.focus();
    },
  );

/** Puts the focus on the first field of a section of the inspector, opened where it is folded. */
export const focusSection = (id: string): void =>
  whenThere(
    () => document.querySelector<HTMLElement>(`.inspector [data-section="${CSS.escape(id)}"]`),
    (section) => {
      const title = section.querySelector<HTMLElement>('.section-title');
      if (title?.getAttribute('aria-expanded') === 'false') title.click();
      section.scrollIntoView({ block: 'start' });
      // What was folded can take the focus when it is drawn.
      setTimeout(() => {
        const fields = [...section.querySelectorAll<HTMLElement>('input, textarea, select, button:not(.section-title)')];
        (fields.find((f) => f.offsetParent !== null) ?? title)?.focus({ preventScroll: true });
      }, EVERY_MS);
    },
  );
