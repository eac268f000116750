/** Copy, cut and paste: rows and branches with their logic, blocks of cells, and text to and from a spreadsheet. */
import Papa from 'papaparse';
import type { Places } from '@yellowhammer/core/model/places';
import { type Clip, CLIP_FORMAT, copyRows, incomingLinks, pasteRows, readClip } from '@yellowhammer/core/commands/copy-rows';
import type { RowRef } from '@yellowhammer/core/commands/outline';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { changesInWords, pasteCells, rowsByNumber } from '@yellowhammer/core/commands/paste';
import { type ColumnKey, planActions, useAppDispatch, usePlan } from '../app/store';
import { newId } from '../project/hooks';
import type { ProjectSession } from '../project/session';
import { canType, type CellContext, columnOf, editText, meansRows, showText } from './columns';
import type { Pasting } from './PasteQuestion';
import { type PlanRow, refOf, targetAt } from './rows';
import { withGroup } from '@yellowhammer/core/view/put-in-group';

const TYPE = `application/x-${CLIP_FORMAT}`;

const WEB = `web ${TYPE}`;
const blob = (type: string, text: string): Blob => new Blob([text], { type });

async function writeClipboard(what: { rows?: string; text: string }): Promise<void> {
  const plain = blob('text/plain', what.text);
  await navigator.clipboard.write([new ClipboardItem({ 'text/plain': plain, ...(what.rows ? { [WEB]: blob(TYPE, what.rows) } : {}) })]);
}

async function readClipboard(): Promise<{ rows: string; text: string }> {
  const out = { rows: '', text: '' };
  for (const item of await navigator.clipboard.read()) {
    if (item.types.includes(WEB)) out.rows = await (await item.getType(WEB)).text();
    if (item.types.includes('text/plain')) out.text = await (await item.getType('text/plain')).text();
  }
  return out;
}

/** What the hands of the sheet work on. */
export interface SheetHands {
  session: ProjectSession;
  rows: PlanRow[];
  place: Places;
  context: CellContext;
  editing: boolean;
}

interface Args extends SheetHands {
  inOrder: () => RowRef[];
  below: () => RowRef | null;
  /** Clears the cells of the selected rows in the column of the cursor. */
  clear: () => void;
  /** What is pasted has links from outside: whether they come along is asked. */
  onPasting: (pasting: Pasting) => void;
}

export function useClipboard(p: Args) {
  const ui = usePlan();
  const dispatch = useAppDispatch();
  const { session, rows, place } = p;

  const text = (keys: readonly ColumnKey[]): string => {
    const list = p.inOrder().flatMap((r) => rows[place.get(r.id) ?? -1] ?? []);
    return Papa.unparse(
      list.map((r) => keys.map((k) => (canType(r, k, p.context) ? editText(r, k, p.context) || showText(r, k, p.context) : showText(r, k, p.context)))),
      { delimiter: '\t', newline: '\n' },
    );
  };
  const mine = (e: React.ClipboardEvent): boolean => !p.editing && !['INPUT', 'TEXTAREA', 'SELECT'].includes((e.target as HTMLElement).tagName);

  /** What is copied: rows of ours with their text beside them, or the text of cells. Marks or clears what is cut. */
  const taken = (cut: boolean): { rows?: string; text: string } | undefined => {
    const column = ui.active?.column;
    if (!meansRows(session.doc, column)) {
      const plain = text([column as ColumnKey]);
      if (cut) p.clear();
      return { text: plain };
    }
    const clip = copyRows(session.doc, session.id, p.inOrder(), cut);
    if (!clip) return undefined;
    // Nothing leaves the plan before it is pasted: what is cut is only marked.
    dispatch(planActions.set({ cut: cut ? p.inOrder().map((r) => r.id) : [] }));
    return { rows: JSON.stringify(clip), text: text(ui.columns) };
  };
  const put = (e: React.ClipboardEvent, cut: boolean): void => {
    const what = taken(cut);
    if (!what) return;
    if (what.rows) e.clipboardData.setData(TYPE, what.rows);
    e.clipboardData.setData('text/plain', what.text);
    e.preventDefault();
  };
  const onCopy = (e: React.ClipboardEvent): void => {
    if (mine(e) && ui.selected.length > 0) put(e, false);
  };
  const onCut = (e: React.ClipboardEvent): void => {
    if (mine(e) && ui.selected.length > 0) put(e, true);
  };

  const pasteText = (raw: string): void => {
    const block = Papa.parse<string[]>(raw.replace(/\r\n/g, '\n').replace(/\n$/, ''), { delimiter: '\t' }).data;
    if (block.length === 0) return;
    const wide = block.some((line) => line.length >= ui.columns.length);
    const from = wide ? 0 : Math.max(0, ui.columns.indexOf(ui.active?.column ?? 'name'));
    const keys = ui.columns
      .slice(from, from + Math.max(...block.map((l) => l.length)))
      .map((k) => (columnOf(session.doc, k)?.read || columnOf(session.doc, k)?.readNode ? k : null));
    const at = place.get(ui.active?.row ?? '') ?? rows.length;
    const chosen = p.inOrder().filter((r) => keys.some((k) => k !== null && columnOf(session.doc, k)?.[r.kind === 'wbs' ? 'readNode' : 'read']));
    const intoRows = !wide && rows.length > 0 && ui.active !== null;
    // One line on several selected rows is meant for each of them.
    const fill = intoRows && block.length === 1 && chosen.length > 1;
    const lines = fill ? chosen.map(() => block[0]!) : block;
    // Whole rows are added below; a narrower block is written over what stands at the cursor.
    const targets: (RowRef | null)[] = fill ? chosen : block.map((_, i) => (intoRows ? refOf(rows[at + i]) : null));
    const outcome = pasteCells(session.doc, targets, keys, lines, newId, wide ? p.below() : null, session.view);
    const there = wide ? rowsByNumber(session.doc, keys, lines) : null;
    if (there?.known) {
      const over = pasteCells(session.doc, there.rows, keys, there.texts, newId, p.below(), session.view);
      p.onPasting({
        of: 'numbers',
        known: there.known,
        others: there.rows.length - there.known,
        changed: over.ok ? changesInWords(session.doc, over.changes) : '',
        over,
        add: outcome,
        ...askedAt(),
      });
    } else if (session.run(outcome) && outcome.ok && outcome.made?.length) dispatch(planActions.select({ ids: outcome.made.filter((id) => session.doc.activities.has(id)) }));
  };
  /** Right below the cursor, in pixels of the window. */
  const askedAt = (): { x: number; y: number } => {
    const cell = document.getElementById(`cell-${ui.active?.row}-${ui.active?.column}`)?.getBoundingClientRect();
    return { x: cell?.left ?? innerWidth / 3, y: cell?.bottom ?? innerHeight / 3 };
  };

  const onPaste = (e: React.ClipboardEvent): void => {
    if (!mine(e)) return;
    e.preventDefault();
    pasteWhat(e.clipboardData.getData(TYPE), e.clipboardData.getData('text/plain'));
  };
  const pasteWhat = (ours: string, raw: string): void => {
    const clip = readClip(ours);
    if (!clip || !meansRows(session.doc, ui.active?.column)) {
      if (raw) pasteText(raw);
      return;
    }
    // Among groups what is pasted gets what its place stands for.
    const target = ui.groups.length ? targetAt(rows, place.get(ui.active?.row ?? '') ?? -1, ui.groups) : null;
    const paste = (incoming: boolean): Outcome => withGroup(session.doc, pasteRows(session.doc, session.id, clip, p.below(), newId, incoming), target, newId, session.view);
    const n = incomingLinks(session.doc, session.id, clip).length;
    if (n === 0) return done(paste(false), clip);
    p.onPasting({ of: 'links', incoming: n, without: paste(false), with: paste(true), ...askedAt() });
  };
  const done = (outcome: Outcome, clip?: Clip): void => {
    if (!session.run(outcome) || !outcome.ok) return;
    dispatch(planActions.set({ cut: [] }));
    const first = outcome.made?.[0];
    if (first !== undefined) dispatch(planActions.select({ ids: outcome.made ?? [], active: { row: first, column: ui.active?.column ?? 'name' } }));
    if (clip?.cut && clip.projectId !== session.id)
      session.onNotice({ tone: 'done', title: 'Pasted as a copy', text: 'The rows were cut in another project. They are still there; delete them there if they are to go.' });
  };

  /** From a menu or the palette: by the browser's clipboard, where it may be used; rows of ours travel as a web format. */
  const byCommand = (what: 'copy' | 'cut' | 'paste'): void => {
    const sorry = (): void =>
      session.onNotice({ tone: 'problem', title: 'The clipboard cannot be reached', text: 'The browser keeps it from menus. Use Ctrl+C, Ctrl+X and Ctrl+V.' });
    if (what === 'paste')
      return void readClipboard()
        .then((got) => pasteWhat(got.rows, got.text))
        .catch(sorry);
    if (ui.selected.length === 0) return;
    const got = taken(what === 'cut');
    if (got) void writeClipboard(got).catch(sorry);
  };

  return { onCopy, onCut, onPaste, byCommand, pasted: done };
}
