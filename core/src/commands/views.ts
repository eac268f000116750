/** Commands on what is kept of how the plan is seen: saved views and bar looks. */
import { Draft } from '../change/change.ts';
import { type Document, ordered } from '../model/document.ts';
import type { Look, SavedView } from '../model/schema.ts';
import type { Rows } from '../model/tables.ts';
import type { ViewSettings } from '../model/view-schema.ts';
import { nameObjection } from './codes.ts';
import { type NewId, type Outcome, refused, settled } from './result.ts';

/** What both have in common. */
interface Kind<T extends 'savedViews' | 'looks'> {
  table: T;
  word: string;
  gone: Outcome;
}
const views: Kind<'savedViews'> = { table: 'savedViews', word: 'saved view', gone: refused('UNKNOWN_VIEW', 'That saved view is not in the project any more.') };
const looks: Kind<'looks'> = { table: 'looks', word: 'bar look', gone: refused('UNKNOWN_LOOK', 'That bar look is not in the project any more.') };

function add<T extends 'savedViews' | 'looks'>(
  doc: Document,
  { table, word }: Kind<T>,
  name: string,
  rest: Omit<Rows[T], 'id' | 'rank' | 'name' | 'about'>,
  newId: NewId,
): Outcome {
  const id = newId();
  const no = nameObjection(doc[table].values(), id, name, word);
  if (no) return no;
  const rank = ordered(doc, table).reduce((n, r) => Math.max(n, r.rank), -1) + 1;
  const draft = new Draft(doc);
  draft.set(table, id, { id, rank, name: name.trim(), about: '', ...rest } as unknown as Rows[T]);
  return settled(doc, `Add ${word} ${name.trim()}`, draft.changes, [id]);
}

function edit<T extends 'savedViews' | 'looks'>(doc: Document, { table, word, gone }: Kind<T>, id: string, fields: Partial<Rows[T]>): Outcome {
  const old = doc[table].get(id);
  if (!old) return gone;
  const no = fields.name === undefined ? undefined : nameObjection(doc[table].values(), id, fields.name, word);
  if (no) return no;
  const draft = new Draft(doc);
  draft.set(table, id, { ...old, ...fields, ...(fields.name === undefined ? {} : { name: fields.name.trim() }) } as Rows[T]);
  return settled(doc, `Change ${word} ${fields.name?.trim() ?? old.name}`, draft.changes);
}

function remove(doc: Document, { table, word, gone }: Kind<'savedViews' | 'looks'>, id: string): Outcome {
  const old = doc[table].get(id);
  if (!old) return gone;
  const draft = new Draft(doc);
  draft.set(table, id, null);
  return settled(doc, `Delete ${word} ${old.name}`, draft.changes);
}

/** Keeps a way of seeing the plan under a name, for everybody. */
export const keepView = (doc: Document, name: string, settings: ViewSettings, newId: NewId): Outcome => add(doc, views, name, { settings }, newId);
export const editView = (doc: Document, id: string, fields: Partial<Pick<SavedView, 'name' | 'about' | 'settings'>>): Outcome => edit(doc, views, id, fields);
export const deleteView = (doc: Document, id: string): Outcome => remove(doc, views, id);

/** Adds a bar look; `rules`: those to begin with. */
export const addLook = (doc: Document, name: string, rules: Look['rules'], newId: NewId): Outcome => add(doc, looks, name, { rules }, newId);
export const editLook = (doc: Document, id: string, fields: Partial<Pick<Look, 'name' | 'about' | 'rules'>>): Outcome => edit(doc, looks, id, fields);

/** Deletes a bar look. Views that use it show bars as usual from then on, and so do activities that have it of their own. */
export function deleteLook(doc: Document, id: string): Outcome {
  const outcome = remove(doc, looks, id);
  if (!outcome.ok) return outcome;
  const draft = new Draft(doc);
  for (const a of withLook(doc, id)) draft.patch('activities', a, { lookId: null });
  return { ...outcome, changes: [...draft.changes, ...outcome.changes] };
}

/** The activities that have a look of their own, in no order. */
export const withLook = (doc: Document, id: string): string[] => [...doc.activities.values()].filter((a) => a.lookId === id).map((a) => a.id);

/** Puts looks that rows bring from another project into a draft, and gives for each the one that stands for it here: one of its name, or a copy. */
export function bringLooks(draft: Draft, theirs: readonly Look[], newId: NewId): (id: string | null) => string | null {
  const here = ordered(draft.doc, 'looks');
  const known = new Map<string, string>();
  for (const look of theirs) {
    const same = here.find((x) => x.name.toLowerCase() === look.name.toLowerCase());
    const id = same?.id ?? (draft.get('looks', look.id) ? newId() : look.id);
    if (!same) {
      const copy = { ...look, id, rank: here.reduce((n, x) => Math.max(n, x.rank), -1) + 1 };
      draft.set('looks', id, copy);
      here.push(copy);
    }
    known.set(look.id, id);
  }
  return (id) => (id === null ? null : (known.get(id) ?? null));
}
