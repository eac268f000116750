/** Figures with a sign (`+12 d`, `-3.5d`, `-4%`) are no formulas. */
const FIGURE = /^[+-]?\d[\d.,]*\s*[%a-z]{0,3}$/i;

/** A text for a cell of a CSV file that no spreadsheet takes for a formula, however many lines it has. */
export const harmless = (text: string): string => (/^[=+\-@\t\r]/.test(text) && !FIGURE.test(text) ? `'${text}` : text);
