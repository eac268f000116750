import { Loader } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { Suspense, useEffect, useState } from 'react';
import { Link, NavLink, Outlet, useLocation } from 'react-router';
import type { Problem } from '@yellowhammer/core/model/problem';
import { SessionContext } from '../project/hooks';
import { deliver } from '../project/courier';
import { ProjectSession } from '../project/session';
import { ClashDialog } from './ClashDialog';
import { Header } from './Header';
import { HealthNotice } from './HealthNotice';
import { rooms } from './rooms';
import { SharedQuestion } from '../library/SharedQuestion';
import { planActions, useAppDispatch } from './store';
import { useAlone } from './useAlone';

const stroke = { size: 20, stroke: 1.6 } as const;

type Opening = { id: string; session?: ProjectSession; problems?: Problem[] };

/** The project of the address, opened once and kept while one moves between its workspaces. */
function useOpenProject(id: string | undefined): Opening | null {
  const [opening, setOpening] = useState<Opening | null>(null);
  const dispatch = useAppDispatch();
  useEffect(() => {
    if (!id) return;
    let session: ProjectSession | undefined;
    let gone = false;
    setOpening({ id });
    dispatch(planActions.reset(id));
    void ProjectSession.open(id).then((result) => {
      if (result instanceof ProjectSession) {
        if (gone) return result.close();
        session = result;
        session.onNotice = (n) =>
          notifications.show({
            title: n.title,
            message: <span className="notice-text">{n.text}</span>,
            color: n.tone === 'problem' ? 'red.8' : 'green.8',
            autoClose: n.tone === 'problem' ? 9000 : 4000,
            withBorder: true,
          });
        setOpening({ id, session });
      } else if (!gone) setOpening({ id, problems: result });
    });
    return () => {
      gone = true;
      session?.close();
    };
  }, [id, dispatch]);
  return id ? opening : null;
}

export function Shell() {
  const { pathname } = useLocation();
  // Rail and header are not shown then; their keys act.
  const alone = useAlone();
  const id = /^\/p\/([^/]+)/.exec(pathname)?.[1];
  const last = id ?? sessionStorage.getItem('yellowhammer.last') ?? undefined;
  useEffect(() => {
    if (id) sessionStorage.setItem('yellowhammer.last', id);
  }, [id]);
  const opening = useOpenProject(id);
  const session = opening?.session;
  useEffect(() => {
    const ask = (e: BeforeUnloadEvent): void => {
      session?.flush();
      if (session && session.sync.pending > 0) e.preventDefault();
    };
    // Not every browser asks: a phone only says that the page goes.
    const leave = (): void => session?.flush();
    window.addEventListener('beforeunload', ask);
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('beforeunload', ask);
      window.removeEventListener('pagehide', leave);
    };
  }, [session]);
  useEffect(() => {
    // What closed windows left for other projects.
    const send = (): void => void deliver(id).catch(() => undefined);
    send();
    const timer = setInterval(send, 5000);
    return () => clearInterval(timer);
  }, [id]);
  return (
    <div className={`shell${alone ? ' alone' : ''}`}>
      <HealthNotice />
      <nav className="rail" aria-label="Workspaces">
        <Link to="/projects" className="rail-mark" aria-label="Yellowhammer: all projects">
          <img src="/bird.svg" alt="" width={36} height={36} />
        </Link>
        {rooms.map((r) =>
          r.ofProject && !last ? null : (
            <NavLink key={r.id} to={r.path(last ?? '')} className="rail-item">
              <r.icon {...stroke} />
              <span>{r.title}</span>
            </NavLink>
          ),
        )}
      </nav>
      {!id ? (
        <main className="main">
          <Suspense fallback={<Loader color="yellow" size="sm" aria-label="Opening" />}>
            <Outlet />
          </Suspense>
        </main>
      ) : opening?.session && opening.id === id ? (
        <SessionContext.Provider value={opening.session}>
          <div className="main">
            <Header />
            <main className="room">
              <Suspense fallback={<Loader color="yellow" size="sm" aria-label="Opening" />}>
                <Outlet />
              </Suspense>
            </main>
            <ClashDialog />
            <SharedQuestion />
          </div>
        </SessionContext.Provider>
      ) : opening?.problems ? (
        <main className="main page-empty" role="alert">
          <h1>This project could not be opened</h1>
          {opening.problems.map((p) => (
            <p key={p.code}>{p.message}</p>
          ))}
          <p>
            <Link to="/projects" onClick={() => sessionStorage.removeItem('yellowhammer.last')}>
              Go to the projects
            </Link>
          </p>
        </main>
      ) : (
        <main className="main page-empty">
          <Loader color="yellow" size="sm" aria-label="Opening the project" />
        </main>
      )}
    </div>
  );
}
