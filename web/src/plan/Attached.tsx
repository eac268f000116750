/** Dated notes and files of what is selected; of the project where nothing is. */
import { addNote, attachFiles, changeNote, removeFile } from '@yellowhammer/core/commands/attached';
import { indexOf, type OutlineRef } from '@yellowhammer/core/model/doc-index';
import { type DatedNote, MAX_FILE } from '@yellowhammer/core/model/schema';
import { showTypedDate } from '@yellowhammer/core/time/typed-date';
import { IconPaperclip, IconTrash } from '@tabler/icons-react';
import { useRef, useState } from 'react';
import type { Chosen } from '../app/panel';
import { keepContent, personName } from '../project/api';
import { newId, useSession } from '../project/hooks';
import { useFileDrop } from '../app/useFileDrop';

/** The one row that is selected; null: none, and the project is meant. */
export const ownerOf = (c: Pick<Chosen, 'activities' | 'node'>): OutlineRef | null =>
  c.node?.id ? { kind: 'wbs', id: c.node.id } : c.activities[0] ? { kind: 'activity', id: c.activities[0].id } : null;

const by = (): { who: string; at: string } => ({ who: personName(), at: new Date().toISOString() });
/** Notes that were begun, by project and row. */
const drafts = new Map<string, string>();
const keyOf = (row: OutlineRef | null): string => (row ? `${row.kind} ${row.id}` : '');

export const DatedNotes = (c: Chosen) => <NotesOf key={keyOf(ownerOf(c))} row={ownerOf(c)} />;

function NotesOf({ row }: { row: OutlineRef | null }) {
  const session = useSession();
  const [text, setText] = useState(() => drafts.get(`${session.id} ${keyOf(row)}`) ?? '');
  // Kept where another row is selected meanwhile: what was typed waits there.
  const type = (next: string): void => {
    setText(next);
    drafts.set(`${session.id} ${keyOf(row)}`, next);
  };
  const notes = [...indexOf(session.doc).attachedTo('datedNotes', row)].reverse();
  const add = (): void => {
    if (text.trim() && session.run(addNote(session.doc, row, text, by(), newId))) type('');
  };
  return (
    <div className="attached">
      <textarea
        className="notes"
        aria-label="New dated note"
        placeholder={`New note, signed ${personName()} and today`}
        rows={2}
        value={text}
        onChange={(e) => type(e.target.value)}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' || !e.ctrlKey) return;
          e.preventDefault();
          e.stopPropagation();
          add();
        }}
      />
      {text.trim() && (
        <button type="button" className="chip" title="Ctrl+Enter" onClick={add}>
          Add note
        </button>
      )}
      {notes.map((n) => (
        <OneNote key={n.id} note={n} />
      ))}
    </div>
  );
}

function OneNote({ note }: { note: DatedNote }) {
  const session = useSession();
  const [text, setText] = useState<string | null>(null);
  return (
    <article className="dated-note" aria-label={`Note of ${showTypedDate(note.at.slice(0, 10))}`}>
      <header>
        <b>{showTypedDate(note.at.slice(0, 10))}</b> <span className="muted">{note.who}</span>
        <button type="button" className="plain-button quiet" aria-label="Delete the note" onClick={() => session.run(changeNote(session.doc, note.id, ''))}>
          <IconTrash size={13} stroke={1.6} />
        </button>
      </header>
      {text === null ? (
        <button type="button" className="plain-button dated-text" title="Change the note" onClick={() => setText(note.text)}>
          {note.text}
        </button>
      ) : (
        <textarea
          className="notes"
          aria-label="Change the note"
          autoFocus
          rows={3}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && setText(null)}
          onBlur={() => {
            if (text.trim() !== note.text) session.run(changeNote(session.doc, note.id, text));
            setText(null);
          }}
        />
      )}
    </article>
  );
}

const sizeText = (bytes: number): string => (bytes < 1024 ? `${bytes} B` : bytes < 1024 * 1024 ? `${Math.round(bytes / 1024)} kB` : `${Math.round(bytes / 1024 / 102.4) / 10} MB`);

export const Files = (c: Chosen) => <FilesOf key={keyOf(ownerOf(c))} row={ownerOf(c)} />;

function FilesOf({ row }: { row: OutlineRef | null }) {
  const session = useSession();
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const files = indexOf(session.doc).attachedTo('files', row);
  const attach = async (list: readonly File[]): Promise<void> => {
    if (list.length === 0) return;
    // Asked before anything is sent: what is too large or too much is refused by its size alone.
    const trial = attachFiles(
      session.doc,
      row,
      list.map((f) => ({ name: f.name, size: f.size, hash: '0'.repeat(64) })),
      by(),
      newId,
    );
    if (!trial.ok) return void session.run(trial);
    setBusy(true);
    const kept = [];
    for (const f of list) {
      const reply = await keepContent(f);
      if (!reply.ok) {
        setBusy(false);
        session.onNotice({
          tone: 'problem',
          title: `${f.name} was not attached`,
          text: reply.status === 0 ? 'The server cannot be reached. Try again when it is back.' : reply.problems[0]!.message,
        });
        return;
      }
      kept.push({ name: f.name, ...reply.value });
    }
    setBusy(false);
    session.run(attachFiles(session.doc, row, kept, by(), newId));
  };
  const { over, drop } = useFileDrop((files) => void attach(files));
  return (
    <div className={`attached files${over ? ' over' : ''}`} {...drop}>
      {files.map((f) => (
        <div key={f.id} className="attached-file">
          <a
            className="link-button"
            href={`/api/projects/${session.id}/files/${f.id}`}
            download={f.name}
            title={`${f.name}, attached ${showTypedDate(f.at.slice(0, 10))} by ${f.who}`}
          >
            {f.name}
          </a>
          <span className="muted">{sizeText(f.size)}</span>
          <button type="button" className="plain-button quiet" aria-label={`Remove ${f.name}`} onClick={() => session.run(removeFile(session.doc, f.id))}>
            <IconTrash size={13} stroke={1.6} />
          </button>
        </div>
      ))}
      <input ref={input} type="file" multiple hidden aria-label="Files to attach" onChange={(e) => void attach([...(e.target.files ?? [])]).then(() => (e.target.value = ''))} />
      <button type="button" className="chip" disabled={busy} onClick={() => input.current?.click()}>
        <IconPaperclip size={13} stroke={1.6} /> {busy ? 'Attaching' : 'Attach files'}
      </button>
      <span className="muted">or drop them here, up to {MAX_FILE / 1024 / 1024} MB each</span>
    </div>
  );
}
