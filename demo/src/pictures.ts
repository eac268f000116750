/** Pictures of the demo: the emblem of the trust as logo, and signs on two milestones. Made for it. */
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { addPicture } from '@yellowhammer/core/commands/pictures';
import { setProject } from '@yellowhammer/core/commands/project';
import type { Document } from '@yellowhammer/core/model/document';
import { must, setByCode } from './list.ts';

const pictures = [
  { file: 'trust', name: 'Skerry trust', width: 320, height: 180 },
  { file: 'star', name: 'First light', width: 96, height: 96 },
  { file: 'stamp', name: 'Consent', width: 96, height: 96 },
] as const;

/** Adds the pictures, and what they hold to the contents of the project file. */
export function skyPictures(doc: Document, contents: Map<string, string>, newId: () => string): void {
  const ids = pictures.map(({ file, name, width, height }) => {
    const bytes = readFileSync(new URL(`../pictures/${file}.png`, import.meta.url));
    const hash = createHash('sha256').update(bytes).digest('hex');
    contents.set(hash, bytes.toString('base64'));
    return must(doc, addPicture(doc, name, { hash, size: bytes.byteLength, type: 'image/png', width, height }, newId))[0]!;
  });
  must(doc, setProject(doc, { logoId: ids[0]! }));
  setByCode(doc, '905', { pictureId: ids[1]! });
  setByCode(doc, '70', { pictureId: ids[2]! });
}
