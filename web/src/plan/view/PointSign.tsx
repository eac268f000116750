/** What stands before the name of a milestone where there is no axis to draw it on: its picture, or the usual sign. */
import type { Document } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { pictureAddress } from '../../project/api';

export function PointSign({ doc, a }: { doc: Document; a: Activity }) {
  const picture = doc.pictures.get(a.pictureId ?? '');
  return picture ? <img className="point-sign" src={pictureAddress(picture.hash)} alt="" /> : <>◆ </>;
}
