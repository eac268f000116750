/** Contents of attached files and pictures: each kept once, by its SHA-256, whatever project and file it is of. */
import { createHash } from 'node:crypto';
import type { ProjectFile } from '@yellowhammer/core/model/file';
import { type Problem, problem } from '@yellowhammer/core/model/problem';
import { MAX_PICTURE, pictureTypes } from '@yellowhammer/core/model/schema';
import type { Db } from './database.ts';

type PictureType = (typeof pictureTypes)[number];
/** The bytes that each kind of picture begins with. */
const SIGNS: Record<PictureType, Buffer> = { 'image/png': Buffer.from('89504e470d0a1a0a', 'hex'), 'image/jpeg': Buffer.from('ffd8ff', 'hex') };

export interface Kept {
  /** SHA-256 in hexadecimal digits. */
  hash: string;
  /** Bytes. */
  size: number;
}

export class Contents {
  private readonly sql;
  constructor(db: Db) {
    this.sql = {
      put: db.prepare('INSERT INTO contents (hash, bytes) VALUES (?, ?) ON CONFLICT (hash) DO NOTHING'),
      get: db.prepare('SELECT bytes FROM contents WHERE hash = ?'),
    };
  }

  keep(bytes: Uint8Array): Kept {
    const hash = createHash('sha256').update(bytes).digest('hex');
    this.sql.put.run(hash, bytes);
    return { hash, size: bytes.byteLength };
  }

  get(hash: string): Buffer | undefined {
    return (this.sql.get.get(hash) as { bytes: Buffer } | undefined)?.bytes;
  }

  /** What a picture holds, and its kind by its first bytes; undefined where it is no PNG or JPEG, whatever somebody calls it. */
  picture(hash: string): { type: PictureType; bytes: Buffer } | undefined {
    const bytes = this.get(hash);
    if (!bytes || bytes.byteLength > MAX_PICTURE) return undefined;
    const type = pictureTypes.find((t) => bytes.subarray(0, SIGNS[t].length).equals(SIGNS[t]));
    return type && { type, bytes };
  }

  /** What the files and pictures of a project and of its copies hold, as the project file has it: in base64, by hash. */
  ofProject({ document, copies }: ProjectFile): Map<string, string> {
    const hashes = new Set([document, ...copies.values()].flatMap((d) => [...d.files.values(), ...d.pictures.values()].map((f) => f.hash)));
    return new Map(
      [...hashes].sort().flatMap((h) => {
        const bytes = this.get(h);
        return bytes ? [[h, bytes.toString('base64')] as const] : [];
      }),
    );
  }

  /** Keeps what a project file brings; what is not what it says is told and left out. */
  bring(contents: ReadonlyMap<string, string> | undefined): Problem[] {
    const problems: Problem[] = [];
    for (const [hash, text] of contents ?? []) {
      const bytes = Buffer.from(text, 'base64');
      if (createHash('sha256').update(bytes).digest('hex') === hash) this.sql.put.run(hash, bytes);
      else
        problems.push(
          problem('FILE_WITHOUT_CONTENT', `The content ${hash.slice(0, 12)}… of an attached file is not what it should be; it was set aside, and the file cannot be opened.`, {
            table: 'files',
          }),
        );
    }
    return problems;
  }
}
