/** Rows that are put under another heading of groups get what makes the difference, as one change. */
import { setCell } from '../commands/cells.ts';
import { count, done, type NewId, type Outcome, refused } from '../commands/result.ts';
import { foldChanges, trying } from '../change/trial.ts';
import { fieldOf } from '../fields/list.ts';
import type { FieldContext } from '../fields/field.ts';
import { type Document, labelOf } from '../model/document.ts';
import type { Level } from '../model/view-schema.ts';
import type { GroupFacts } from '../outline/outline.ts';
import type { ScheduleView } from '../schedule/view.ts';
import { pathsOf } from './groups.ts';

/** What rows get where they are put. */
export interface Target {
  levels: readonly Level[];
  heading: GroupFacts;
}

/**
 * Gives activities what a heading stands for, level by level, where they differ. A level whose field is computed, or that
 * spans several values, refuses rows that do not stand there already, with the reason.
 */
export function putInGroup(doc: Document, ids: readonly string[], { levels, heading }: Target, newId: NewId, view: ScheduleView | null): Outcome {
  const context: FieldContext = { doc, view, baseline: null, clock: false };
  const paths = pathsOf(levels, context);
  return trying(doc, (put) => {
    const all = [];
    for (const id of ids) {
      const a = doc.activities.get(id);
      if (!a) continue;
      const now = paths(a);
      for (const [level, path] of heading.path) {
        const key = levels[level]?.key ?? '';
        if (now.get(level) === path) continue;
        const f = fieldOf(doc, key);
        const gives = heading.gives.get(level);
        if (gives === undefined || !f?.read)
          return refused(
            'WRONG_VALUE',
            `${labelOf(a)} cannot be put there: ${f?.title ?? key} ${f?.read ? 'may have many values under that heading. Type the one that is meant' : 'is computed. It goes there by itself when what it follows from has changed'}.`,
            {
              table: 'activities',
              id,
              label: labelOf(a),
              field: key,
            },
          );
        const outcome = setCell(doc, id, key, gives ?? '', newId, view);
        if (!outcome.ok) return outcome;
        put(outcome.changes);
        all.push(...outcome.changes);
      }
    }
    const changes = foldChanges(all);
    const titles = [...heading.path.keys()].map((level) => fieldOf(doc, levels[level]?.key ?? '')?.title ?? '').filter(Boolean);
    return changes.length ? done(`Set ${titles.join(' and ')} of ${count(ids.length, 'activity')} by group`, changes) : refused('NOTHING_CHANGED', 'It stands there already.');
  });
}

/** An act that makes rows, with what their place among groups gives them. Where that cannot be given, the act stands as it is. */
export function withGroup(doc: Document, outcome: Outcome, target: Target | null, newId: NewId, view: ScheduleView | null): Outcome {
  if (!outcome.ok || !target || !outcome.made?.length) return outcome;
  const { made } = outcome;
  return trying(doc, (put) => {
    put(outcome.changes);
    const ids = made.filter((id) => doc.activities.has(id));
    const more = ids.length ? putInGroup(doc, ids, target, newId, view) : null;
    return more?.ok ? { ...outcome, changes: foldChanges([...outcome.changes, ...more.changes]) } : outcome;
  });
}
