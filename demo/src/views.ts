/** Views and looks of SKY, and the computed field that says in words how a row stands against the plan. */
import { addOwnField, editOwnField } from '@yellowhammer/core/commands/own-fields';
import { addLook, keepView } from '@yellowhammer/core/commands/views';
import { namedColours } from '@yellowhammer/core/fields/extras';
import type { Document } from '@yellowhammer/core/model/document';
import { type LookRule, usualSettings } from '@yellowhammer/core/model/view-schema';
import { must, setByCode } from './list.ts';

const setNamed = (doc: Document, name: string): string => `code:${[...doc.codeSets.values()].find((s) => s.name === name)?.id ?? ''}`;
const fieldNamed = (doc: Document, name: string): string => `own:${[...doc.ownFields.values()].find((f) => f.name === name)?.id ?? ''}`;

export function skyViews(doc: Document, newId: () => string): void {
  const words = must(doc, addOwnField(doc, 'Against the plan', 'computed', newId))[0]!;
  must(
    doc,
    editOwnField(doc, words, {
      about: 'How the finish stands against the baseline, in words.',
      expression: 'if(finishVariance > 15, "much later", if(finishVariance > 0, "later", if(finishVariance < 0, "earlier", if(isEmpty(finishVariance), "", "as planned"))))',
    }),
  );
  const key = `own:${words}`;
  const rule = (name: string, colour: string, hatching: LookRule['hatching'], height: LookRule['height'] = 'usual'): LookRule => ({
    name: name[0]!.toUpperCase() + name.slice(1),
    filter: { match: 'all', of: [{ field: key, is: 'is', values: [name] }] },
    colour: namedColours[colour] ?? null,
    colourBy: null,
    hatching,
    height,
    texts: name === 'as planned' ? null : { before: null, on: 'name', after: 'finishVariance' },
  });
  const look = must(
    doc,
    addLook(
      doc,
      'Against the plan',
      [rule('much later', 'plum', 'crossed', 'tall'), rule('later', 'clay', 'rising'), rule('earlier', 'sea', 'none'), rule('as planned', 'moss', 'none')],
      newId,
    ),
  )[0]!;
  must(
    doc,
    keepView(
      doc,
      'By area and trade',
      {
        ...usualSettings,
        columns: ['code', 'name', 'start', 'finish', 'duration', 'percent'],
        groups: [{ key: setNamed(doc, 'Area') }, { key: setNamed(doc, 'Trade') }],
        colourBy: setNamed(doc, 'Trade'),
        legend: true,
        showLinks: 'none',
        showFloat: false,
        range: { kind: 'whole' },
      },
      newId,
    ),
  );
  must(
    doc,
    keepView(
      doc,
      'What slipped',
      {
        ...usualSettings,
        columns: ['code', 'name', key, 'finish', 'baselineFinish', 'finishVariance', 'float'],
        filter: { match: 'all', of: [{ field: 'finishVariance', is: 'more', values: [0] }] },
        sort: [{ key: 'finishVariance', descending: true }],
        look,
        legend: true,
        showLinks: 'none',
        range: { kind: 'around', before: 60, after: 330 },
      },
      newId,
    ),
  );
  // A look by hand: what can be carried in a calm sea alone.
  const calm: LookRule = { ...rule('only in a calm sea', 'sea', 'dotted', 'tall'), filter: { match: 'all', of: [] }, texts: null };
  const sea = must(doc, addLook(doc, 'Calm sea', [calm], newId))[0]!;
  for (const code of ['715', '735']) setByCode(doc, code, { lookId: sea });
  const grant = [...doc.snapshots.values()].find((x) => x.name === 'Grant plan');
  must(
    doc,
    keepView(
      doc,
      'For the trust: since the grant',
      {
        ...usualSettings,
        columns: ['code', 'name', 'baselineFinish', 'finish', 'finishVariance'],
        filter: { match: 'all', of: [{ field: 'type', is: 'oneOf', values: ['Start milestone', 'Finish milestone'] }] },
        baseline: grant ? `copy ${grant.id}` : 'compared',
        texts: { before: null, on: null, after: 'finishVariance' },
        showLinks: 'none',
        showFloat: false,
        range: { kind: 'whole' },
      },
      newId,
    ),
  );
  must(
    doc,
    keepView(
      doc,
      'Permits of the next months',
      {
        ...usualSettings,
        columns: ['code', 'name', 'start', 'finish', fieldNamed(doc, 'Permit needed'), 'notes'],
        filter: {
          match: 'all',
          of: [
            { field: fieldNamed(doc, 'Permit needed'), is: 'is', values: [true] },
            { field: 'start', is: 'atLeast', values: [{ from: 'dataDate', shift: 0, unit: 'd' }] },
            { field: 'start', is: 'less', values: [{ from: 'dataDate', shift: 6, unit: 'm' }] },
          ],
        },
        groups: [{ key: 'start', span: 'month' }],
        showLinks: 'none',
      },
      newId,
    ),
  );
}
