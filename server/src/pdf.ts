/** Pages of shapes as a PDF. */
import PDFDocument from 'pdfkit';
import { inkOf, type Page } from '@yellowhammer/core/report/scene';
import { measure, runsOf } from './fonts.ts';

/** Pages that are drawn when they are asked for. */
interface Pages {
  count: number;
  page(n: number): Page;
}

/** Draws the pages, with pictures by the hash of their content (one that cannot be read is left out), telling after each how far it is. The text stays text, so that it can be searched and copied. */
export async function writePdf(
  pages: Pages,
  title: string,
  progress: (done: number, of: number) => void = () => undefined,
  pictureOf: (hash: string) => Buffer | undefined = () => undefined,
): Promise<Uint8Array> {
  const pdf = new PDFDocument({ autoFirstPage: false, margin: 0, info: { Title: title, Creator: 'Yellowhammer' } });
  const chunks: Buffer[] = [];
  const done = new Promise<Buffer>((resolve, reject) => {
    pdf.on('data', (c: Buffer) => chunks.push(c));
    pdf.on('end', () => resolve(Buffer.concat(chunks)));
    pdf.on('error', reject);
  });
  const known = new Set<string>();
  // Each picture is in the file once, however often it is drawn.
  const opened = new Map<string, Opened | null>();
  const picture = (hash: string): Opened | null => {
    let image = opened.get(hash);
    if (image === undefined) opened.set(hash, (image = open(pdf, pictureOf(hash))));
    return image;
  };
  for (let n = 0; n < pages.count; n++) {
    drawPage(pdf, pages.page(n), known, picture);
    progress(n + 1, pages.count);
    // A breath, so that the finished pages are taken off.
    if (n % 20 === 19) await new Promise((r) => setImmediate(r));
  }
  pdf.end();
  return done;
}

/** What the package makes of a picture. */
type Opened = Parameters<PDFKit.PDFDocument['image']>[0];

function open(pdf: PDFKit.PDFDocument, bytes: Buffer | undefined): Opened | null {
  try {
    return bytes ? (pdf as unknown as { openImage: (src: Buffer) => Opened }).openImage(bytes) : null;
  } catch {
    // Bytes that begin like a picture and are none.
    return null;
  }
}

function drawPage(pdf: PDFKit.PDFDocument, page: Page, known: Set<string>, picture: (hash: string) => Opened | null): void {
  pdf.addPage({ size: [page.width, page.height], margin: 0 });
  for (const s of page.shapes) {
    if (s.kind === 'text') {
      let x = s.x - (s.align === 'left' ? 0 : s.align === 'right' ? 1 : 0.5) * measure(s.text, s.size, s.face);
      for (const run of runsOf(s.text, s.face)) {
        if (!known.has(run.font.key)) {
          pdf.registerFont(run.font.key, run.font.data);
          known.add(run.font.key);
        }
        pdf.font(run.font.key).fontSize(s.size).fillColor(inkOf(s.fill)).text(run.text, x, s.y, { lineBreak: false, baseline: 'alphabetic' });
        x += measure(run.text, s.size, s.face);
      }
      continue;
    }
    if (s.kind === 'picture') {
      const image = picture(s.hash);
      if (image) pdf.image(image, s.x, s.y, { width: s.w, height: s.h });
      continue;
    }
    if (s.kind === 'line') {
      pdf.lineWidth(s.line).strokeColor(inkOf(s.stroke));
      if (s.dash) pdf.dash(s.dash[0]!, { space: s.dash[1] });
      pdf.moveTo(s.x1, s.y1).lineTo(s.x2, s.y2).stroke();
      if (s.dash) pdf.undash();
      continue;
    }
    if (s.kind === 'rect') pdf.rect(s.x, s.y, s.w, s.h);
    else {
      pdf.moveTo(s.points[0]!, s.points[1]!);
      for (let i = 2; i < s.points.length; i += 2) pdf.lineTo(s.points[i]!, s.points[i + 1]!);
      pdf.closePath();
    }
    pdf.lineWidth(s.line ?? 0.5);
    if (s.fill && s.stroke) pdf.fillAndStroke(inkOf(s.fill), inkOf(s.stroke));
    else if (s.fill) pdf.fill(inkOf(s.fill));
    else if (s.stroke) pdf.stroke(inkOf(s.stroke));
  }
}
