/** Pages of shapes as a PDF. */
import PDFDocument from 'pdfkit';
import { inkOf, type Page } from '@yellowhammer/core/report/scene';
import { measure, runsOf } from './fonts.ts';

/** Pages that are drawn when they are asked for. */
interface Pages {
  count: number;
  page(n: number): Page;
}

/** Draws the pages, telling after each how far it is. The text stays text, so that it can be searched and copied. */
export async function writePdf(pages: Pages, title: string, progress: (done: number, of: number) => void = () => undefined): Promise<Uint8Array> {
  const pdf = new PDFDocument({ autoFirstPage: false, margin: 0, info: { Title: title, Creator: 'Yellowhammer' } });
  const chunks: Buffer[] = [];
  const done = new Promise<Buffer>((resolve, reject) => {
    pdf.on('data', (c: Buffer) => chunks.push(c));
    pdf.on('end', () => resolve(Buffer.concat(chunks)));
    pdf.on('error', reject);
  });
  const known = new Set<string>();
  for (let n = 0; n < pages.count; n++) {
    drawPage(pdf, pages.page(n), known);
    progress(n + 1, pages.count);
    // A breath, so that the finished pages are taken off.
    if (n % 20 === 19) await new Promise((r) => setImmediate(r));
  }
  pdf.end();
  return done;
}

function drawPage(pdf: PDFKit.PDFDocument, page: Page, known: Set<string>): void {
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
