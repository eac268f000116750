/** Order of children under one parent, and of rows in a file. */
export const byRank = (a: { rank: number; id: string }, b: { rank: number; id: string }): number => a.rank - b.rank || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);
