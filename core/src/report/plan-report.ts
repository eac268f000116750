/** Pages of the plan on paper: title, logo, the table with its bars, legend, data date, page x of y. */
import { projectOf } from '../model/document.ts';
import type { OutlineRow } from '../outline/outline.ts';
import type { Activity, Picture } from '../model/schema.ts';
import { packLane, stackMiddle } from '../outline/lane.ts';
import { barOf } from '../schedule/bars.ts';
import { NONE } from '../schedule/network.ts';
import { placeOf } from '../schedule/view.ts';
import { civilOf, dayOf, type Instant, MINUTES_PER_DAY, parseInstant } from '../time/instant.ts';
import { monthNames, showDay, showInstant } from '../time/typed-date.ts';
import { lineText } from '../load/line-text.ts';
import type { AssignmentLine } from '../load/lines.ts';
import { lineShapes, type PaperRow, stripShapes, withLines } from './paper-lines.ts';
import type { Rollup } from '../rollup/rollup.ts';
import { legendOf, type Paint, painter } from '../view/looks.ts';
import { cell, chosenRows, columnsOf, columnTitle, fitColumns, isRightColumn, summed, type TableInput, timeOf } from './plan-table.ts';
import { drawGraph, GRAPH_HEIGHT, type PaperGraph } from './paper-graph.ts';
import { type Face, fitText, hatch, type Ink, lighter, type Measure, type Page, papers, type Shape } from './scene.ts';
import { isMilestone } from '../model/activity-kinds.ts';

const MARGIN = 34;
const HEAD = 52;
const RULER = 24;
const FOOT = 34;
const FOOT_LINE = 12;
const ROW = 14.5;
/** Most room of a logo, and the side of a picture on a milestone. */
const LOGO_WIDTH = 110;
const LOGO_HEIGHT = 30;
const SIGN = 11;

interface Input extends TableInput {
  measure: Measure;
  /** Printed in the foot: date of printing. */
  printed: string;
  /** The graph under the plan, on each page. */
  graph?: PaperGraph | null;
  /** Lines of the assignments of some activities, where the view shows them. */
  linesOf?: (ids: readonly string[]) => AssignmentLine[];
}

/** The plan laid out on pages, which are drawn one by one as they are asked for. */
export class PlanPages {
  readonly count: number;
  /** Rows that are printed. */
  readonly rows: number;
  /** Titles of chosen columns that the paper has no room for. */
  readonly leftOut: string[];
  private readonly input: Input;
  private readonly list: PaperRow[];
  private readonly perPage: number;
  private readonly columns: [string, number][];
  private readonly width: number;
  private readonly height: number;
  private readonly look: Drawn;

  constructor(given: Input) {
    // A view without a baseline has none on paper, either.
    const settings = given.settings.view?.baseline === 'none' ? { ...given.settings, baseline: false } : given.settings;
    const input = { ...given, settings };
    const [short, long] = papers[settings.paper];
    this.width = settings.landscape ? long : short;
    this.height = settings.landscape ? short : long;
    const chosen = chosenRows(input);
    this.input = summed(input, chosen);
    this.list = withLines(input.doc, chosen, (input.linesOf && settings.view?.assignments) ?? 'hidden');
    this.rows = this.list.length;
    const paint = painter({ doc: input.doc, view: input.view, baseline: input.baseline, clock: false }, settings.view ?? { look: null, colourBy: null });
    this.look = { paint, painted: settings.view ? legendOf(input.doc, drawnIn(chosen), paint).slice(0, 24) : [] };
    const fitted = fitColumns(input.doc, columnsOf(input), this.width - 2 * MARGIN);
    this.columns = fitted.columns;
    this.leftOut = fitted.leftOut.map((c) => columnTitle(input.doc, c));
    const probe = new PageDrawing(this.input, this.look, { width: this.width, height: this.height, shapes: [] }, this.columns);
    const foot = FOOT + FOOT_LINE * (probe.footLines() - 1);
    this.perPage = Math.max(1, Math.floor((this.height - 2 * MARGIN - HEAD - RULER - foot - (input.graph ? GRAPH_HEIGHT + 10 : 0)) / ROW));
    this.count = Math.max(1, Math.ceil(this.list.length / this.perPage));
  }

  /** One page, from 0. */
  page(n: number): Page {
    const page: Page = { width: this.width, height: this.height, shapes: [] };
    const draw = new PageDrawing(this.input, this.look, page, this.columns);
    draw.head(projectOf(this.input.doc).name);
    const rows = this.list.slice(n * this.perPage, (n + 1) * this.perPage);
    draw.body(rows);
    if (this.input.graph) draw.graph(this.input.graph, rows.length);
    draw.foot(n + 1, this.count);
    return page;
  }
}

/** A picture in the place of a milestone's sign, as large as the row allows; critical ones keep their edge. */
function pictureOn(p: Picture, x: number, y: number, critical: boolean): Shape[] {
  const k = SIGN / Math.max(p.width, p.height);
  const [w, h] = [p.width * k, p.height * k];
  const shape: Shape = { kind: 'picture', x: x - w / 2, y: y - h / 2, w, h, hash: p.hash };
  return critical ? [shape, { kind: 'rect', x: x - w / 2 - 0.6, y: y - h / 2 - 0.6, w: w + 1.2, h: h + 1.2, stroke: 'chestnut', line: 0.8 }] : [shape];
}

/** Activities that rows draw: their own, and those of closed headings. */
const drawnIn = (rows: readonly OutlineRow[]): string[] => rows.flatMap((r) => (r.kind === 'activity' ? [r.id] : []));

/** How each activity is drawn, and what the legend says of it. */
interface Drawn {
  paint: (a: Activity) => Paint;
  painted: readonly Paint[];
}

class PageDrawing {
  private readonly input: Input;
  private readonly page: Page;
  private readonly columns: [string, number][];
  private readonly left: number;
  private readonly right: number;
  private readonly from: Instant;
  private readonly perMinute: number;
  private readonly top = MARGIN + HEAD;

  private readonly paint: Drawn['paint'];
  private readonly painted: Drawn['painted'];

  constructor(input: Input, look: Drawn, page: Page, columns: [string, number][]) {
    this.input = input;
    this.paint = look.paint;
    this.painted = look.painted;
    this.page = page;
    this.columns = columns;
    this.left = MARGIN + columns.reduce((n, [, w]) => n + w, 0) + 6;
    this.right = page.width - MARGIN;
    const { view, baseline } = input;
    const window = timeOf(input, input.settings.view);
    const span = window ? window.to - window.from : Math.max(view.projectFinish, baseline?.projectFinish ?? 0) - view.projectStart || MINUTES_PER_DAY;
    // Room for names beside the last bars.
    this.perMinute = Math.max(this.right - this.left - (window ? 8 : 96), 60) / span;
    this.from = window?.from ?? view.projectStart;
  }

  private x(t: Instant): number {
    // A view that shows a stretch of time cuts what lies outside of it.
    return Math.max(this.left + 1, Math.min(this.left + 4 + (t - this.from) * this.perMinute, this.right));
  }

  /** True where two instants lie beside the time that is shown. */
  private outside = (a: Instant, b: Instant): boolean => b < this.from || a > this.from + (this.right - this.left) / this.perMinute;

  private put(...shapes: Shape[]): void {
    this.page.shapes.push(...shapes);
  }

  private text(
    x: number,
    y: number,
    text: string,
    size = 8,
    face: Face = 'sans',
    fill: Extract<Shape, { kind: 'text' }>['fill'] = 'ink',
    align: 'left' | 'right' | 'centre' = 'left',
  ): void {
    if (text) this.put({ kind: 'text', x, y, text, size, face, fill, align });
  }

  private line(x1: number, y1: number, x2: number, y2: number, stroke: Extract<Shape, { kind: 'line' }>['stroke'] = 'hairline', line = 0.5, dash?: number[]): void {
    this.put({ kind: 'line', x1, y1, x2, y2, stroke, line, ...(dash ? { dash } : {}) });
  }

  /** The project's logo, or the product's mark; the room that it takes, in points. */
  private mark(): number {
    const [x, y] = [MARGIN, MARGIN];
    const logo = this.input.doc.pictures.get(projectOf(this.input.doc).logoId ?? '');
    if (logo) {
      const k = Math.min(LOGO_WIDTH / logo.width, LOGO_HEIGHT / logo.height);
      const [w, h] = [logo.width * k, logo.height * k];
      this.put({ kind: 'picture', x, y: y + (LOGO_HEIGHT - h) / 2, w, h, hash: logo.hash });
      return w + 10;
    }
    // A small bird on a twig, drawn rather than placed, so that it prints sharp.
    this.put({ kind: 'polygon', points: [x, y + 15, x + 8, y + 12, x + 13, y + 5, x + 20, y + 5, x + 24, y + 9, x + 20, y + 10, x + 17, y + 17, x + 9, y + 20], fill: 'yellow' });
    this.put({ kind: 'polygon', points: [x + 8, y + 15, x + 17, y + 13, x + 15, y + 18, x + 10, y + 19], fill: 'chestnut' });
    return 34;
  }

  head(projectName: string): void {
    const { settings, view, measure } = this.input;
    const titleAt = MARGIN + this.mark();
    const figures: [string, string][] = [[showInstant(view.projectFinish, 'finish'), 'forecast finish']];
    const s = view.summary;
    if (s.againstBaseline !== null && settings.baseline) figures.push([`${s.againstBaseline > 0 ? '+' : ''}${s.againstBaseline} d`, `against ${s.baselineName ?? 'baseline'}`]);
    if (s.toRequired !== null) figures.push([`${s.toRequired > 0 ? '+' : ''}${s.toRequired} d`, 'to required finish']);
    if (s.dataDate) figures.push([showDay(Math.floor((parseInstant(s.dataDate) as number) / MINUTES_PER_DAY)), 'data date']);
    let at = this.right;
    for (const [value, caption] of figures.reverse()) {
      const w = Math.max(measure(value, 11, 'serif'), measure(caption, 7.5, 'sans')) + 14;
      this.text(at, MARGIN + 13, value, 11, 'serif', 'ink', 'right');
      this.text(at, MARGIN + 24, caption, 7.5, 'sans', 'muted', 'right');
      at -= w;
    }
    // The title has what the figures leave, in a smaller size where that is little.
    const room = Math.max(at - titleAt - 8, 60);
    const title = settings.title || projectName;
    const size = measure(title, 17, 'serif') <= room ? 17 : 13;
    this.text(titleAt, MARGIN + 14, fitText(measure, title, room, size, 'serif'), size, 'serif');
    this.text(titleAt, MARGIN + 28, fitText(measure, settings.subtitle || projectName, room, 8.5, 'sans'), 8.5, 'sans', 'muted');
    this.line(MARGIN, this.top - 6, this.right, this.top - 6, 'ink', 0.8);
  }

  private ruler(bottom: number): void {
    const { view } = this.input;
    const end = this.from + (this.right - this.left) / this.perMinute;
    const monthWidth = 30 * MINUTES_PER_DAY * this.perMinute;
    const step = [1, 3, 12, 24, 60, 120, 240].find((months) => monthWidth * months >= 22) ?? 480;
    const c = civilOf(Math.floor(this.from / MINUTES_PER_DAY));
    for (let m = c.year * 12 + c.month - 1; ; m++) {
      const [year, month] = [Math.floor(m / 12), (m % 12) + 1];
      const t = dayOf(year, month, 1) * MINUTES_PER_DAY;
      if (t > end) break;
      if (t < this.from || m % step !== 0) continue;
      const label = month === 1 ? String(year) : monthNames[month - 1]!;
      this.line(this.x(t), this.top + 6, this.x(t), bottom, 'hairline', 0.4);
      if (this.x(t) + 22 < this.right) this.text(this.x(t) + 2, this.top + RULER - 8, label, 8, 'serif');
    }
    if (view.summary.dataDate) {
      const x = this.x(parseInstant(view.summary.dataDate) as number);
      this.line(x, this.top + 2, x, bottom, 'yellow', 1.4);
    }
  }

  /** What lies on the axis of the bars under the last row. */
  graph(g: PaperGraph, rows: number): void {
    const top = this.top + RULER + rows * ROW + 8;
    const bottom = top + GRAPH_HEIGHT;
    this.line(MARGIN, top, this.right, top, 'hairline', 0.6);
    this.put(...drawGraph(g, (t) => this.x(t), this.left, this.right, top, bottom));
    const { dataDate } = this.input.view.summary;
    const now = dataDate === null ? undefined : parseInstant(dataDate);
    if (now !== undefined && !this.outside(now, now)) this.line(this.x(now), top, this.x(now), bottom, 'yellow', 1.4);
    const { measure } = this.input;
    const room = this.left - MARGIN - 10;
    this.text(MARGIN + 2, top + 14, fitText(measure, g.title, room, 9.5, 'serif'), 9.5, 'serif');
    let line = 0;
    for (const part of g.note.split('; ')) this.text(MARGIN + 2, top + 27 + 10 * line++, fitText(measure, part, room, 7.5, 'sans'), 7.5, 'sans', 'muted');
    this.text(this.left - 4, top + 19, g.most, 7.5, 'sans', 'muted', 'right');
  }

  /** One assignment under its activity. */
  private assigned(line: AssignmentLine, depth: number, y: number): void {
    const { measure, doc } = this.input;
    let left = MARGIN;
    for (const [c, w] of this.columns) {
      const indent = c === 'name' ? Math.max(0, depth) * 7 + 9 : 0;
      const text = fitText(measure, lineText(line, c, false), w - 6 - indent, 7.5, 'sans');
      const right = isRightColumn(doc, c);
      if (c === 'name') this.put({ kind: 'rect', x: left + indent - 4, y: y + 6, w: 3, h: 3, fill: (line.colour as Ink | null) ?? 'slate' });
      this.text(right ? left + w - 4 : left + 2 + indent, y + 10, text, 7.5, 'sans', 'muted', right ? 'right' : 'left');
      left += w;
    }
    this.put(...lineShapes(this.seen(line), (t) => this.x(t), y + ROW / 2 - 2, 4));
  }

  /** A line without what lies beside the time that is shown. */
  private seen = (line: AssignmentLine): AssignmentLine => ({ ...line, parts: line.parts.filter((p) => !this.outside(p.from, p.to)) });

  body(rows: readonly PaperRow[]): void {
    const { measure, doc, settings } = this.input;
    const how = settings.view?.assignments ?? 'hidden';
    const lines = new Map<string, AssignmentLine[]>();
    for (const l of how === 'hidden' ? [] : (this.input.linesOf?.([...new Set(rows.flatMap((r) => (r.kind === 'wbs' ? [] : [r.id])))]) ?? []))
      lines.set(l.activityId, [...(lines.get(l.activityId) ?? []), l]);
    const bottom = this.top + RULER + rows.length * ROW;
    this.ruler(bottom);
    let x = MARGIN;
    for (const [c, w] of this.columns) {
      const right = isRightColumn(doc, c);
      this.text(right ? x + w - 4 : x + 2, this.top + RULER - 8, columnTitle(doc, c), 7.5, 'sans', 'muted', right ? 'right' : 'left');
      x += w;
    }
    this.line(MARGIN, this.top + RULER - 3, this.right, this.top + RULER - 3, 'hairline', 0.6);
    rows.forEach((row, n) => {
      const y = this.top + RULER + n * ROW;
      if (row.kind === 'line') {
        const line = lines.get(row.id)?.[row.n];
        if (line) this.assigned(line, row.depth, y);
        this.line(MARGIN, y + ROW - 0.5, this.right, y + ROW - 0.5, 'hairline', 0.35);
        return;
      }
      let left = MARGIN;
      const wbs = row.kind === 'wbs';
      const i = row.kind === 'activity' ? placeOf(this.input.view, row.id) : undefined;
      const critical = i !== undefined && this.input.view.critical[i] === 1;
      for (const [c, w] of this.columns) {
        const indent = c === 'name' ? Math.max(0, row.depth) * 7 : 0;
        const face: Face = wbs && c === 'name' ? 'serif' : critical && c === 'float' ? 'sansBold' : 'sans';
        const size = wbs && c === 'name' && row.depth <= 0 ? 9.5 : 8;
        const text = fitText(measure, cell(this.input, row, c), w - 6 - indent, size, face);
        const right = isRightColumn(doc, c);
        this.text(
          right ? left + w - 4 : left + 2 + indent,
          y + 10,
          text,
          size,
          face,
          c === 'code' ? 'muted' : critical && c === 'float' ? 'chestnut' : 'ink',
          right ? 'right' : 'left',
        );
        left += w;
      }
      this.line(MARGIN, y + ROW - 0.5, this.right, y + ROW - 0.5, 'hairline', 0.35);
      if (row.kind === 'activity') {
        if (!row.activity.hidden) this.bar(row.activity, y + ROW / 2);
        if (how === 'strips') this.put(...stripShapes((lines.get(row.id) ?? []).map(this.seen), (t) => this.x(t), y + ROW));
      } else if (row.lane) this.lane(row.id, y);
      else this.spine(row.group ? row.rollup : this.input.view.rollups.get(row.id), y + ROW / 2);
    });
    this.line(this.left, this.top + 2, this.left, bottom, 'hairline', 0.6);
    if (rows.length === 0)
      this.text(MARGIN, this.top + RULER + 16, doc.activities.size ? 'No activity meets the choice of rows.' : 'The plan has no activities yet.', 9, 'sans', 'muted');
  }

  private spine(n: Rollup | undefined, y: number): void {
    if (!n || n.start === NONE || this.outside(n.start, n.finish)) return;
    this.put({ kind: 'rect', x: this.x(n.start), y: y - 0.8, w: Math.max(this.x(n.finish) - this.x(n.start), 1), h: 1.6, fill: 'ink' });
    for (const x of [this.x(n.start), this.x(n.finish)]) this.put({ kind: 'polygon', points: [x - 1.6, y, x, y - 1.6, x + 1.6, y, x, y + 1.6], fill: 'ink' });
  }

  /** A lane: its activities side by side in one row, those that overlap in thinner bars. */
  private lane(id: string, top: number): void {
    const { doc, view } = this.input;
    const pack = packLane(doc, view, id);
    for (const [member, stack] of pack.stackOf) {
      const a = doc.activities.get(member);
      if (a) this.bar(a, top + (ROW - 1) * stackMiddle(stack, pack.stacks), Math.min(3, (ROW - 2) / pack.stacks / 2));
    }
  }

  /** `half`: half the height of the bar, in points; given in a lane, where names stand on bars that have room. */
  private bar(a: Activity, y: number, half?: number): void {
    const { view, baseline, settings, measure } = this.input;
    const i = placeOf(view, a.id);
    if (i === undefined || this.outside(view.start[i]!, view.finish[i]!)) return;
    const inLane = half !== undefined;
    const [x1, x2] = [this.x(view.start[i]!), this.x(view.finish[i]!)];
    const critical = view.critical[i] === 1;
    const b = settings.baseline && !inLane ? baseline?.dates.get(a.id) : undefined;
    if (b) {
      const [p, q] = [this.x(b.start), Math.max(this.x(b.finish), this.x(b.start) + 1)];
      this.line(p, y + 3.2, p, y + 5.2, 'muted', 0.5);
      this.line(p, y + 5.2, q, y + 5.2, 'muted', 0.5);
      this.line(q, y + 3.2, q, y + 5.2, 'muted', 0.5);
    }
    if (view.totalFloat[i] !== NONE && view.totalFloat[i]! > 0 && a.type !== 'margin' && !inLane)
      this.line(x2 + 1, y, Math.min(this.x(view.lateFinish[i]!), this.right), y, 'muted', 0.7, [0.8, 2]);
    let labelAt = x2 + 4;
    const picture = isMilestone(a) ? this.input.doc.pictures.get(a.pictureId ?? '') : undefined;
    if (picture) {
      this.put(...pictureOn(picture, x2, y, critical && view.state[i] !== 2));
      labelAt = x2 + SIGN / 2 + 3;
    } else if (isMilestone(a)) {
      this.put({
        kind: 'polygon',
        points: [x2 - 3.4, y, x2, y - 3.4, x2 + 3.4, y, x2, y + 3.4],
        fill: view.state[i] === 2 ? 'slate' : critical ? 'chestnut' : ((this.paint(a).colour as Ink | null) ?? 'slateLight'),
        stroke: critical && view.state[i] !== 2 ? 'chestnut' : 'slate',
        line: 0.5,
      });
      labelAt = x2 + 6;
    } else if (a.type === 'margin') {
      this.put({ kind: 'rect', x: x1, y: y - 3, w: Math.max(x2 - x1, 1.5), h: 6, fill: 'paper', stroke: 'yellow', line: 1.2 });
      this.put({ kind: 'rect', x: x1, y: y - 1.6, w: Math.max(x2 - x1, 0.5), h: 3.2, fill: 'yellow' });
    } else {
      this.work(a, y, critical, half);
    }
    if (inLane) {
      const text = fitText(measure, a.name, x2 - x1 - 3, 5.5, 'sans');
      if (half >= 2.4 && text.length > 2) this.text(x1 + 1.5, y + 1.9, text, 5.5, 'sans', view.state[i] === 2 ? 'paper' : 'ink');
      return;
    }
    const { before, after } = this.textsOf(a);
    if (before) {
      const text = fitText(measure, before, Math.max(0, x1 - this.left - 8), 7, 'sans');
      if (text.length > 1) this.text(x1 - 3 - (isMilestone(a) ? 3 : 0), y + 2.4, text, 7, 'sans', 'ink', 'right');
    }
    const name = fitText(measure, after, this.right - labelAt - 2, 7, 'sans');
    if (name.length <= 2) return;
    // Float runs behind the name, not through it.
    if (view.totalFloat[i]! > 0) this.put({ kind: 'rect', x: labelAt - 1.5, y: y - 4, w: measure(name, 7, 'sans') + 3, h: 8, fill: 'paper' });
    this.text(labelAt, y + 2.4, name, 7, 'sans');
  }

  /** Texts beside the bar: of the rule that draws it, else of the view; the name after it where there is none. */
  private textsOf(a: Activity): { before: string; after: string } {
    const { view, settings } = this.input;
    const texts = this.paint(a).texts ?? settings.view?.texts;
    if (!texts || !view) return { before: '', after: a.name };
    const row: OutlineRow = { kind: 'activity', id: a.id, depth: 0, activity: a };
    const text = (key: string | null): string => (key === null ? '' : key === 'name' ? a.name : cell(this.input, row, key));
    // What stands on the bar on the screen has no room there on paper.
    const list = [...new Set([texts.on, texts.after].filter((k) => k !== null))].map(text).filter(Boolean);
    return { before: text(texts.before), after: list.join(', ') };
  }

  private work(a: Activity, y: number, critical: boolean, half = 3): void {
    const { doc, view } = this.input;
    const shape = barOf(doc, view, a);
    if (!shape) return;
    const paint = this.paint(a);
    if (a.type === 'levelOfEffort') {
      const done = view.summary.dataDate === null ? shape.start : Math.min(Math.max(parseInstant(view.summary.dataDate) as number, shape.start), shape.finish);
      this.put({ kind: 'rect', x: this.x(shape.start), y: y - 1.1, w: Math.max(this.x(done) - this.x(shape.start), 0), h: 2.2, fill: 'slate' });
      this.put({ kind: 'rect', x: this.x(done), y: y - 1.1, w: Math.max(this.x(shape.finish) - this.x(done), 0.5), h: 2.2, fill: 'slateLight' });
      return;
    }
    // Work that a long stop interrupts is broken, and joined by dots.
    if (shape.pieces.length > 1) this.line(this.x(shape.start), y, this.x(shape.finish), y, 'muted', 0.6, [0.8, 2]);
    for (const piece of shape.pieces.length ? shape.pieces : [{ from: shape.start, to: shape.finish, done: shape.state === 2 }]) {
      const x = this.x(piece.from);
      const w = Math.max(this.x(piece.to) - x, 0.8);
      this.put({
        kind: 'rect',
        x,
        y: y - half,
        w,
        h: half * 2,
        fill: paint.colour ? (piece.done ? (paint.colour as Ink) : lighter(paint.colour, 0.4)) : piece.done ? 'slate' : 'slateLight',
      });
      this.put(...hatch(paint.hatching, x, y - half, w, half * 2));
      if (critical && !piece.done) this.put({ kind: 'rect', x, y: y + half - Math.min(2, half), w, h: Math.min(2, half), fill: 'chestnut' });
    }
  }

  /** What the legend explains: a name, and its sign from x on at height y. */
  private legend(): [string, (x: number, y: number) => void][] {
    const { settings, baseline } = this.input;
    if (!settings.legend) return [];
    const bar = (x: number, y: number, fill: 'slate' | 'slateLight'): Shape => ({ kind: 'rect', x, y: y - 3, w: 18, h: 6, fill });
    return [
      ['done', (x, y) => this.put(bar(x, y, 'slate'))],
      ['ahead', (x, y) => this.put(bar(x, y, 'slateLight'))],
      ['critical', (x, y) => this.put(bar(x, y, 'slateLight'), { kind: 'rect', x, y: y + 1, w: 18, h: 2, fill: 'chestnut' })],
      ['float', (x, y) => this.line(x, y, x + 18, y, 'muted', 0.7, [0.8, 2])],
      ['margin', (x, y) => this.put({ kind: 'rect', x, y: y - 3, w: 18, h: 6, fill: 'paper', stroke: 'yellow', line: 1.2 })],
      ...(settings.baseline && baseline
        ? [
            [fitText(this.input.measure, `baseline: ${baseline.name}`, 200, 7.5, 'sans'), (x: number, y: number) => this.line(x, y + 2, x + 18, y + 2, 'muted', 0.5)] as [
              string,
              (x: number, y: number) => void,
            ],
          ]
        : []),
      ['data date', (x, y) => this.line(x + 9, y - 5, x + 9, y + 5, 'yellow', 1.4)],
      ...this.painted.map((p): [string, (x: number, y: number) => void] => [
        fitText(this.input.measure, p.name ?? '', 150, 7.5, 'sans'),
        (x, y) => this.put({ kind: 'rect', x, y: y - 3, w: 18, h: 6, fill: p.colour ? lighter(p.colour, 0.4) : 'slateLight' }, ...hatch(p.hatching, x, y - 3, 18, 6)),
      ]),
    ];
  }

  private stamp = (page: number, of: number): string => `printed ${this.input.printed} · page ${page} of ${of}`;

  /** Places of the legend's items, line by line; the last line leaves room for what stands at the right. */
  private footPlaces(): { x: number; line: number }[] {
    const { measure } = this.input;
    const right = this.page.width - MARGIN;
    const stamp = measure(this.stamp(9999, 9999), 7.5, 'sans') + 14;
    let x = MARGIN;
    let line = 0;
    return this.legend().map(([name]) => {
      const w = 22 + measure(name, 7.5, 'sans') + 14;
      // Every line is kept clear of the stamp, so that it stands beside the last one whichever that is.
      if (x > MARGIN && x + w > right - stamp) {
        line++;
        x = MARGIN;
      }
      const at = { x, line };
      x += w;
      return at;
    });
  }

  footLines(): number {
    return (this.footPlaces().pop()?.line ?? 0) + 1;
  }

  foot(page: number, of: number): void {
    const lines = this.footLines();
    const top = this.page.height - MARGIN - 10 - (lines - 1) * FOOT_LINE;
    this.line(MARGIN, top - 12, this.right, top - 12, 'hairline', 0.6);
    const places = this.footPlaces();
    this.legend().forEach(([name, draw], i) => {
      const { x, line } = places[i]!;
      const y = top + line * FOOT_LINE;
      draw(x, y);
      this.text(x + 22, y + 2.4, name, 7.5, 'sans', 'muted');
    });
    this.text(this.right, top + (lines - 1) * FOOT_LINE + 2.4, this.stamp(page, of), 7.5, 'sans', 'muted', 'right');
  }
}
