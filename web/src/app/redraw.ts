/**
 * Pictures made safe: whatever somebody brings is drawn anew here as plain pixels, and only those are sent and kept. Nothing
 * of an SVG but what it looks like is left, no script, address or text; of a photograph no place where it was taken.
 */
import { MAX_PICTURE, type pictureTypes } from '@yellowhammer/core/model/schema';

export interface Redrawn {
  content: Blob;
  type: (typeof pictureTypes)[number];
  /** Pixels. */
  width: number;
  height: number;
}

/** Longest side in pixels: a logo of 87 mm at 300 to the inch. */
const SIDE = 1024;
/** Bytes that are read at most. */
const MOST = 20 * 1024 * 1024;
/** Parts of an SVG that are no shapes, or bring something else along. */
const FOREIGN = 'script, foreignObject, iframe, animate, animateTransform, animateMotion, set, audio, video';

/** Draws a picture file anew; a sentence where that cannot be done. */
export async function redraw(file: File): Promise<Redrawn | { problem: string }> {
  const no = (why: string): { problem: string } => ({ problem: `${file.name} ${why}` });
  const svg = file.type === 'image/svg+xml' || /\.svg$/i.test(file.name);
  if (!svg && file.type !== 'image/png' && file.type !== 'image/jpeg') return no('is no picture of a kind that is taken. Bring PNG, JPEG or SVG.');
  if (file.size > MOST) return no(`has more than ${MOST / 1024 / 1024} MB. Make it smaller first.`);
  const source = svg ? plainSvg(await file.text()) : file;
  if (!source) return no('is no SVG that can be read. Save it again, or bring it as PNG.');
  const address = URL.createObjectURL(source);
  try {
    const image = new Image();
    image.src = address;
    await image.decode();
    const [w, h] = [image.naturalWidth, image.naturalHeight];
    if (!w || !h) return no('has no size. Save it again with a width and a height.');
    const k = svg ? SIDE / Math.max(w, h) : Math.min(1, SIDE / Math.max(w, h));
    const canvas = document.createElement('canvas');
    canvas.width = Math.max(1, Math.round(w * k));
    canvas.height = Math.max(1, Math.round(h * k));
    canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
    const type = file.type === 'image/jpeg' ? 'image/jpeg' : 'image/png';
    const content = await new Promise<Blob | null>((done) => canvas.toBlob(done, type, 0.9));
    if (content && content.size > MAX_PICTURE) return no(`has more than ${MAX_PICTURE / 1024 / 1024} MB even when it is drawn anew. Make it smaller, or bring it as JPEG.`);
    return content ? { content, type, width: canvas.width, height: canvas.height } : no('cannot be drawn.');
  } catch {
    return no('cannot be read as a picture. Open it elsewhere, and save it again as PNG.');
  } finally {
    URL.revokeObjectURL(address);
  }
}

/** An SVG with a size of its own and without all that is no shape; undefined where it is none. */
function plainSvg(text: string): Blob | undefined {
  const parsed = new DOMParser().parseFromString(text, 'image/svg+xml');
  const root = parsed.documentElement;
  if (root.nodeName.toLowerCase() !== 'svg' || parsed.querySelector('parsererror')) return undefined;
  for (const e of parsed.querySelectorAll(FOREIGN)) e.remove();
  // What lies elsewhere is not fetched; without it no sign of something broken is drawn.
  for (const e of parsed.querySelectorAll('image, use')) {
    const to = e.getAttribute('href') ?? e.getAttributeNS('http://www.w3.org/1999/xlink', 'href') ?? '';
    if (!/^(#|data:image\/(png|jpeg);)/.test(to)) e.remove();
  }
  const [, , w, h] = (root.getAttribute('viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const said = (name: string): boolean => /^\s*\d*\.?\d+\s*(px|mm|cm|in|pt|pc)?\s*$/.test(root.getAttribute(name) ?? '');
  if (!said('width') || !said('height')) {
    if (!(w && w > 0 && h && h > 0)) return undefined;
    root.setAttribute('width', String(w));
    root.setAttribute('height', String(h));
  }
  return new Blob([new XMLSerializer().serializeToString(parsed)], { type: 'image/svg+xml' });
}
