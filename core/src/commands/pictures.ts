/** Pictures of a project: its logo, and signs that stand on milestones. Their contents are kept already when they are added. */
import { Draft } from '../change/change.ts';
import { type Document, ordered, projectOf } from '../model/document.ts';
import { MAX_FILES, type Picture } from '../model/schema.ts';
import { unusedName } from '../model/unused-name.ts';
import { nameObjection } from './codes.ts';
import { type NewId, type Outcome, refused, settled } from './result.ts';

/** A picture as it is kept, without its place in a project. */
export type KeptPicture = Pick<Picture, 'hash' | 'size' | 'type' | 'width' | 'height'>;

/** What stands against a name; `none` is what a milestone without a picture says. */
const nameNo = (doc: Document, id: string, name: string): Outcome | undefined =>
  name.trim().toLowerCase() === 'none'
    ? refused('NAME_TAKEN', 'None is what a milestone without a picture says. Choose another name.', { field: 'name' })
    : nameObjection(doc.pictures.values(), id, name, 'picture');

const gone = refused('UNKNOWN_PICTURE', 'That picture is not in the project any more.');

/** Adds a picture under a name that is still free; one with the same content is there already and is taken instead. */
export function addPicture(doc: Document, name: string, kept: KeptPicture, newId: NewId): Outcome {
  const same = [...doc.pictures.values()].find((p) => p.hash === kept.hash);
  if (same) return refused('NOTHING_CHANGED', `That picture is there already, as ${same.name}.`);
  const total = [...doc.files.values(), ...doc.pictures.values()].reduce((n, f) => n + f.size, kept.size);
  if (total > MAX_FILES)
    return refused('TOO_LARGE', `With that the files and pictures of the project would have more than ${MAX_FILES / 1024 / 1024} MB together. Delete some first.`);
  const id = newId();
  const no = nameNo(doc, id, name);
  if (no) return no;
  const rank = (ordered(doc, 'pictures').at(-1)?.rank ?? -1) + 1;
  const draft = new Draft(doc);
  draft.set('pictures', id, { id, rank, name: name.trim(), ...kept });
  return settled(doc, `Add picture ${name.trim()}`, draft.changes, [id]);
}

/** Gives a picture another name. */
export function renamePicture(doc: Document, id: string, name: string): Outcome {
  const old = doc.pictures.get(id);
  if (!old) return gone;
  const no = nameNo(doc, id, name);
  if (no) return no;
  const draft = new Draft(doc);
  draft.patch('pictures', id, { name: name.trim() });
  return settled(doc, `Name picture ${name.trim()}`, draft.changes);
}

/** The activities that a picture stands on, in no order. */
export const withPicture = (doc: Document, id: string): string[] => [...doc.activities.values()].filter((a) => a.pictureId === id).map((a) => a.id);

/** Deletes a picture. Milestones that have it get the usual sign again, and the project has no logo where it was that. */
export function deletePicture(doc: Document, id: string): Outcome {
  const old = doc.pictures.get(id);
  if (!old) return gone;
  const draft = new Draft(doc);
  for (const a of withPicture(doc, id)) draft.patch('activities', a, { pictureId: null });
  if (projectOf(doc).logoId === id) draft.patch('project', 'project', { logoId: null });
  draft.set('pictures', id, null);
  return settled(doc, `Delete picture ${old.name}`, draft.changes);
}

/**
 * Puts pictures that rows bring from another project into a draft, and gives for each the one that stands for it here: one
 * with the same content, whatever its name, or a copy under a free name.
 */
export function bringPictures(draft: Draft, pictures: readonly Picture[], newId: NewId): (id: string | null) => string | null {
  const here = [...draft.doc.pictures.values()];
  const known = new Map<string, string>();
  for (const p of pictures) {
    const same = here.find((x) => x.hash === p.hash);
    if (same) {
      known.set(p.id, same.id);
      continue;
    }
    const id = draft.get('pictures', p.id) ? newId() : p.id;
    const name = unusedName(
      p.name,
      here.map((x) => x.name),
      100,
    );
    const copy = { ...p, id, name, rank: here.reduce((n, x) => Math.max(n, x.rank), -1) + 1 };
    draft.set('pictures', id, copy);
    here.push(copy);
    known.set(p.id, id);
  }
  return (id) => (id === null ? null : (known.get(id) ?? null));
}
