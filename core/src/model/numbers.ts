/** Numbers of activities: they count on plainly, and never look like the outline numbers of WBS nodes. */
import { indexOf } from './doc-index.ts';
import { nodeWithCode } from '../outline/outline.ts';
import { type Document, projectOf } from './document.ts';

export interface Numbers {
  /** The next free number: the greatest that is there and a step more; the project's first where none is. */
  next(): string;
  /** Takes a number as it is; false where another activity has it, or it looks like a WBS code. */
  take(code: string): boolean;
}

/** Numbers for a command that makes activities. */
export function numbersOf(doc: Document): Numbers {
  const { numberFrom, numberStep } = projectOf(doc).options;
  const index = indexOf(doc);
  // Numbers given by this command, which are not in the plan yet.
  const given = new Set<string>();
  let last = index.greatestNumber();
  const see = (code: string): void => {
    given.add(code.toLowerCase());
    if (/^\d{1,9}$/.test(code)) last = Math.max(last, Number(code));
  };
  // Codes of nodes given by hand may look like numbers, too.
  const used = (code: string): boolean => given.has(code.toLowerCase()) || index.byCode(code) !== undefined || nodeWithCode(doc, code) !== undefined;
  // Outline numbers on the top level are 1, 2, 3 ...; a number that could be one of them is passed over.
  const nodes = index.nodesIn(null).length;
  return {
    next() {
      let n = last === 0 ? numberFrom : last + numberStep;
      while (n <= nodes || used(String(n))) n += numberStep;
      see(String(n));
      return String(n);
    },
    take(code) {
      const likeNode = /^\d+(\.\d+)*$/.test(code) && (code.includes('.') || Number(code) <= nodes);
      if (likeNode || used(code)) return false;
      see(code);
      return true;
    },
  };
}
