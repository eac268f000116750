/** Work is kept in thousandths of unit-minutes; people read and type it in hours. */

/** Thousandths of unit-minutes in an hour of one unit. */
const HOUR = 60_000;

/** Hours of work, with one decimal. */
export const hoursOf = (work: number): number => Math.round(work / (HOUR / 10)) / 10;

/** Hours of work, with two decimals: for tables that are added up elsewhere. */
export const exactHoursOf = (work: number): number => Math.round(work / (HOUR / 100)) / 100;

/** Work of hours as they are typed. */
export const workOf = (hours: number): number => Math.round(hours * HOUR);
