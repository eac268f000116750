/** The one rounding of figures that are told with one decimal: days, percent. Never minus nothing. */
export const tenth = (n: number): number => Math.round(n * 10) / 10 || 0;

/** A share from 0 to 1 as a percentage with one decimal. Rounded once, from the share itself. */
export const percentTenth = (share: number): number => Math.round(share * 1000) / 10 || 0;
