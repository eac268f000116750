/** The parts of the strip above the plan, and how a command opens one. */
export type Part = 'views' | 'filter' | 'groups' | 'colours';

let open: (part: Part) => void = () => undefined;
/** The strip that is on the screen says how its parts are opened; null: it has gone. */
export const offerStrip = (f: ((part: Part) => void) | null): void => void (open = f ?? (() => undefined));
/** Opens a part of the strip. */
export const openStrip = (part: Part): void => open(part);
