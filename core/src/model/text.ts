/** Text that can be stored and shown: whole characters only. */
const HALF = /\p{Surrogate}/u;
const HALVES = /\p{Surrogate}/gu;

/** False where a text holds half a character (a surrogate without its other half), which no database keeps. */
export const isWhole = (text: string): boolean => !HALF.test(text);
/** The text with every half character replaced by U+FFFD. */
export const mended = (text: string): string => text.replace(HALVES, '\ufffd');
