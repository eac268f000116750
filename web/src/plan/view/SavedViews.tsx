/** The saved views: those that come with every project, those of the project, and those of this browser alone. */
import { IconTrash } from '@tabler/icons-react';
import { useState } from 'react';
import { deleteView, editView, keepView } from '@yellowhammer/core/commands/views';
import { missingIn, type NamedView, suppliedViews } from '@yellowhammer/core/view/supplied';
import { ordered } from '@yellowhammer/core/model/document';
import { planActions, store, useAppDispatch, usePlanView } from '../../app/store';
import { newId, useDocText, useSession } from '../../project/hooks';
import { allViews, isChanged, keepPersonal, personalViews, settingsNow, shownIn } from './settings';
import { Piece } from './Piece';
import type { Part } from './strip-part';

interface Props {
  open: Part | null;
  setOpen: (part: Part | null) => void;
  onDone: () => void;
  width: number;
}

export function SavedViews({ open, setOpen, onDone, width }: Props) {
  const session = useSession();
  const { doc } = session;
  usePlanView();
  const [personal, setPersonal] = useState(personalViews);
  // What stands in the sentence and in the list: it is not drawn anew with each edit of a row.
  useDocText((d) => {
    const now = store.getState().plan;
    const v = allViews(d).find((x) => x.id === now.view);
    return JSON.stringify([v?.name, isChanged(d, now, v), ordered(d, 'savedViews').map((x) => x.name)]);
  });
  const ui = store.getState().plan;
  const dispatch = useAppDispatch();
  const [name, setName] = useState('');
  const [mine, setMine] = useState(false);
  const view = allViews(doc).find((v) => v.id === ui.view);
  const changed = isChanged(doc, ui, view);
  const own = view && (doc.savedViews.has(view.id) || personal.some((v) => v.id === view.id));
  const putPersonal = (list: NamedView[]): void => {
    keepPersonal(list);
    setPersonal(list);
  };
  const show = (v: NamedView): void => {
    dispatch(planActions.set(shownIn(doc, v, ui, width, session.view)));
    const missing = missingIn(doc, v.settings);
    if (missing.length)
      session.onNotice({ tone: 'problem', title: `${v.name} is not whole here`, text: `It asks for ${missing.join(', ')}, which this project does not have. The rest is shown.` });
    setOpen(null);
    onDone();
  };
  const keep = (): void => {
    if (!view) return;
    const settings = settingsNow(ui);
    if (doc.savedViews.has(view.id)) session.run(editView(doc, view.id, { settings }));
    else putPersonal(personal.map((v) => (v.id === view.id ? { ...v, settings } : v)));
  };
  const keepAs = (): void => {
    const settings = settingsNow(ui);
    if (mine) {
      const id = `mine:${newId()}`;
      putPersonal([...personal, { id, name: name.trim() || 'My view', about: '', settings }]);
      dispatch(planActions.set({ view: id }));
    } else {
      const outcome = keepView(doc, name, settings, newId);
      if (!session.run(outcome) || !outcome.ok) return;
      dispatch(planActions.set({ view: outcome.made?.[0] ?? ui.view }));
    }
    setName('');
  };
  const list = (title: string, views: readonly NamedView[], remove?: (v: NamedView) => void) =>
    views.length > 0 && (
      <section aria-label={title}>
        <h3>{title}</h3>
        {views.map((v) => (
          <div key={v.id} className="view-item">
            <button
              type="button"
              className={`library-item${v.id === ui.view ? ' on' : ''}`}
              data-autofocus={v.id === ui.view || undefined}
              aria-current={v.id === ui.view}
              title={v.about}
              onClick={() => show(v)}
            >
              {v.name}
            </button>
            {remove && (
              <button type="button" className="plain-button" aria-label={`Delete the view ${v.name}`} onClick={() => remove(v)}>
                <IconTrash size={13} stroke={1.6} />
              </button>
            )}
          </div>
        ))}
      </section>
    );
  return (
    <>
      <Piece part="views" open={open} setOpen={setOpen} onDone={onDone} label={changed ? 'View, changed' : 'View'} strong text={view?.name ?? 'another view'}>
        <div className="view-menu">
          {list('With every project', suppliedViews)}
          {list('Of this project', ordered(doc, 'savedViews'), (v) => session.run(deleteView(doc, v.id)))}
          {list('Mine, in this browser', personal, (v) => putPersonal(personal.filter((x) => x.id !== v.id)))}
          <form
            className="view-keep"
            onSubmit={(e) => {
              e.preventDefault();
              keepAs();
            }}
          >
            <input aria-label="Name of a new view" placeholder="Keep what is shown as …" value={name} onChange={(e) => setName(e.target.value)} />
            <label>
              <input type="checkbox" checked={mine} onChange={(e) => setMine(e.target.checked)} /> only for me
            </label>
            <button type="submit" className="chip">
              Keep
            </button>
          </form>
        </div>
      </Piece>
      {changed && view && (
        <span className="view-changed">
          changed
          {own && (
            <button type="button" className="link-button" onClick={keep}>
              keep
            </button>
          )}
          <button type="button" className="link-button" onClick={() => show(view)}>
            put back
          </button>
        </span>
      )}
    </>
  );
}
