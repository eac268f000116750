/** Numbers of activities: they count on plainly, and never look like the outline numbers of WBS nodes. */
import { type Document, projectOf } from '../model/document.ts';

export interface Numbers {
  /** The next free number: the greatest that is there and a step more; the project's first where none is. */
  next(): string;
  /** Takes a number as it is; false where another activity has it, or it looks like a WBS code. */
  take(code: string): boolean;
}

/** Numbers for a command that makes activities. One look through the plan, however many it makes. */
export function numbersOf(doc: Document): Numbers {
  const { numberFrom, numberStep } = projectOf(doc).options;
  const used = new Set<string>();
  let last = 0;
  const see = (code: string): void => {
    used.add(code.toLowerCase());
    if (/^\d{1,9}$/.test(code)) last = Math.max(last, Number(code));
  };
  for (const a of doc.activities.values()) see(a.code);
  // Outline numbers on the top level are 1, 2, 3 ...; a number that could be one of them is passed over.
  let nodes = 0;
  for (const w of doc.wbs.values()) if (w.parentId === null) nodes++;
  return {
    next() {
      let n = last === 0 ? numberFrom : last + numberStep;
      while (n <= nodes || used.has(String(n))) n += numberStep;
      see(String(n));
      return String(n);
    },
    take(code) {
      const likeNode = /^\d+(\.\d+)*$/.test(code) && (code.includes('.') || Number(code) <= nodes);
      if (likeNode || used.has(code.toLowerCase())) return false;
      see(code);
      return true;
    },
  };
}
