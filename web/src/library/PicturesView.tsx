/** The pictures of a project: added, named, made its logo; and on which milestones they stand. */
import { useRef, useState } from 'react';
import { addPicture, deletePicture, renamePicture, withPicture } from '@yellowhammer/core/commands/pictures';
import { setProject } from '@yellowhammer/core/commands/project';
import { labelOf, ordered, projectOf } from '@yellowhammer/core/model/document';
import { CommitField } from '../app/CommitField';
import { redraw } from '../app/redraw';
import { keepContent, pictureAddress } from '../project/api';
import { newId, useDoc, useSession } from '../project/hooks';
import { taken } from './CodeSetView';
import { freeName } from './free-name';
import { useFileDrop } from '../app/useFileDrop';

export function PicturesView() {
  const session = useSession();
  const { doc } = useDoc();
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const pictures = ordered(doc, 'pictures');
  const logo = projectOf(doc).logoId;
  const add = async (files: readonly File[]): Promise<void> => {
    if (files.length === 0 || busy) return;
    setBusy(true);
    const problems: string[] = [];
    for (const file of files) {
      const drawn = await redraw(file);
      if ('problem' in drawn) {
        problems.push(drawn.problem);
        continue;
      }
      const reply = await keepContent(drawn.content);
      if (!reply.ok) {
        problems.push(`${file.name} was not kept. ${reply.status === 0 ? 'The server cannot be reached. Try again when it is back.' : reply.problems[0]!.message}`);
        continue;
      }
      const { content: _content, ...rest } = drawn;
      const name = freeName(
        [...session.doc.pictures.values()],
        file.name
          .replace(/\.\w+$/, '')
          .slice(0, 90)
          .trim() || 'Picture',
      );
      const outcome = addPicture(session.doc, name, { ...reply.value, ...rest }, newId);
      if (outcome.ok) session.run(outcome);
      else problems.push(outcome.problems[0]!.message);
    }
    setBusy(false);
    if (problems.length) session.onNotice({ tone: 'problem', title: 'Not all pictures were taken', text: problems.join('\n') });
  };
  const { over, drop } = useFileDrop((files) => void add(files));
  return (
    <main
      className={`library-main${over ? ' over' : ''}`}
      aria-label="Pictures"
      {...drop}
      onPaste={(e) => {
        const files = [...e.clipboardData.files];
        if (files.length) e.preventDefault();
        void add(files);
      }}
    >
      <h2>Pictures</h2>
      <p className="muted">
        PNG, JPEG or SVG, dropped or pasted here. Each is drawn anew as plain pixels, at most 1,024 a side, and only those are kept. One may be the logo of the project; any may
        stand on milestones instead of the usual sign: choose it in the inspector, type it in the column Picture, or stamp it.
      </p>
      <div className="library-actions">
        <input
          ref={input}
          type="file"
          multiple
          hidden
          accept="image/png,image/jpeg,image/svg+xml,.svg"
          aria-label="Pictures to add"
          onChange={(e) => void add([...(e.target.files ?? [])]).then(() => (e.target.value = ''))}
        />
        <button type="button" className="dark-button" disabled={busy} onClick={() => input.current?.click()}>
          {busy ? 'Adding' : 'Add pictures'}
        </button>
      </div>
      <ul className="pictures">
        {pictures.map((p) => {
          const on = withPicture(doc, p.id).flatMap((id) => doc.activities.get(id) ?? []);
          return (
            <li key={p.id} className="picture">
              <div className="picture-frame">
                <img src={pictureAddress(p.hash)} alt={p.name} />
              </div>
              <CommitField of={p.id} aria-label={`Name of ${p.name}`} value={p.name} onCommit={(name) => taken((o) => session.run(o), renamePicture(doc, p.id, name))} />
              <p className="muted" title={on.slice(0, 20).map(labelOf).join('\n')}>
                {p.width} × {p.height}, {Math.max(1, Math.round(p.size / 1024))} kB
                {on.length > 0 && ` · on ${on.length === 1 ? labelOf(on[0]!) : `${on.length} milestones`}`}
              </p>
              <div className="library-actions">
                <button type="button" className="chip" aria-pressed={logo === p.id} onClick={() => session.run(setProject(doc, { logoId: logo === p.id ? null : p.id }))}>
                  {logo === p.id ? 'Logo of the project' : 'Make it the logo'}
                </button>
                <button type="button" className="chip" aria-label={`Delete ${p.name}`} onClick={() => session.run(deletePicture(doc, p.id))}>
                  Delete
                </button>
              </div>
            </li>
          );
        })}
      </ul>
    </main>
  );
}
