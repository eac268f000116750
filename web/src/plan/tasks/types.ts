/** What every task is given by the panel. */
export interface TaskProps {
  /** Rows that were selected when it began, in the order of selecting. */
  rows: readonly string[];
  onGo: (id: string) => void;
  /** Closes the panel, with rows selected that were made. */
  onDone: (made: readonly string[]) => void;
}
