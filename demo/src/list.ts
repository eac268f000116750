/** Builds a project from a list of rows, through the same commands that a planner's typing ends in. */
import { applyChanges } from '@yellowhammer/core/change/change';
import { setActivities } from '@yellowhammer/core/commands/cells';
import { setTypedLinks } from '@yellowhammer/core/commands/links';
import { addActivity, addWbs, type RowRef } from '@yellowhammer/core/commands/outline';
import { setLanes } from '@yellowhammer/core/commands/reshape';
import type { Outcome } from '@yellowhammer/core/commands/result';
import type { Document } from '@yellowhammer/core/model/document';
import type { Activity, ActivityType } from '@yellowhammer/core/model/schema';
import { parseDuration } from '@yellowhammer/core/time/duration';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';
import { namedColours } from '@yellowhammer/core/fields/extras';
import { parseConstraints } from '@yellowhammer/core/fields/typed';
import { indexOf } from '@yellowhammer/core/model/doc-index';

/** Carries a command out on a document; a refusal is a mistake in the list, so it stops with its sentence. */
export function must(doc: Document, outcome: Outcome): string[] {
  if (!outcome.ok) throw new Error(outcome.problems.map((p) => p.message).join(' '));
  applyChanges(doc, outcome.changes);
  return outcome.made ?? [];
}

/** Ids in sequence, so that the same list gives the same file. */
export function counter(prefix: string): () => string {
  let n = 0;
  return () => `${prefix}${++n}`;
}

const shapes: Record<string, ActivityType> = { start: 'startMilestone', finish: 'finishMilestone', effort: 'levelOfEffort' };

/** Adds the rows of a list. `calendars` maps the letters of the list to calendar ids. */
export function buildList(doc: Document, text: string, calendars: Record<string, string>, newId: () => string): void {
  const nodes: string[] = [];
  const links: { id: string; text: string }[] = [];
  let below: RowRef | null = null;
  for (const line of text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)) {
    const heading = /^(#+) (.*)$/.exec(line);
    if (heading) {
      const depth = heading[1]!.length;
      const parent: RowRef | null = depth > 1 ? { kind: 'wbs', id: nodes[depth - 2]! } : nodes[0] ? { kind: 'wbs', id: nodes[0] } : null;
      const lane = heading[2]!.startsWith('lane ');
      nodes[depth - 1] = must(doc, addWbs(doc, parent, heading[2]!.replace(/^lane /, ''), newId, depth > 1))[0]!;
      if (lane) must(doc, setLanes(doc, [nodes[depth - 1]!]));
      nodes.length = depth;
      below = { kind: 'wbs', id: nodes[depth - 1]! };
      continue;
    }
    const [code = '', name = '', size = '', letter = '', predecessors = '', more = ''] = line.split('|').map((p) => p.trim());
    const margin = size.startsWith('margin');
    const type: ActivityType = margin ? 'margin' : (shapes[size] ?? 'task');
    const calendarId = calendars[letter] ?? null;
    const duration = type === 'task' || margin ? (parseDuration(size.replace('margin', ''), dayLengths(doc, { calendarId })) ?? 0) : 0;
    const fields: Partial<Activity> = {};
    for (const part of more
      .split(';')
      .map((p) => p.trim())
      .filter(Boolean)) {
      if (part.startsWith('cost=')) fields.cost = Number(part.slice(5));
      else if (part.startsWith('address=')) fields.address = part.slice(8);
      else if (part.startsWith('colour=')) fields.colour = namedColours[part.slice(7)] ?? null;
      else if (part.startsWith('deadline=')) fields.deadline = part.slice(9);
      else {
        const parsed = parseConstraints(doc, part);
        if ('error' in parsed) throw new Error(`${code}: ${parsed.error}`);
        fields.constraints = parsed.constraints;
      }
    }
    const id: string = must(doc, addActivity(doc, below, { code, name, type, duration, calendarId, fields }, newId))[0]!;
    below = { kind: 'activity', id };
    if (predecessors) links.push({ id, text: predecessors });
  }
  for (const l of links)
    must(
      doc,
      setTypedLinks(doc, l.id, 'predecessors', l.text, (a) => dayLengths(doc, a), newId),
    );
}

/** Sets fields of one activity by its number. */
export function setByCode(doc: Document, code: string, fields: Partial<Activity>): void {
  const a = indexOf(doc).byCode(code);
  if (!a) throw new Error(`no activity ${code}`);
  must(doc, setActivities(doc, [a.id], fields));
}
