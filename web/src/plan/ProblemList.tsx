import { useSession, useTopic } from '../project/hooks';

const MOST = 200;

/** The plan check: what was set aside, and what looks odd, each with the way there. */
export function ProblemList({ onGo }: { onGo: (id: string) => void }) {
  const session = useSession();
  useTopic('check');
  const n = session.problems.length;
  return (
    <>
      <ul className="problem-list">
        {session.problems.slice(0, MOST).map((p, i) => (
          <li key={i}>
            {p.message}{' '}
            {p.where.table === 'activities' && p.where.id && (
              <button type="button" className="link-button" onClick={() => onGo(p.where.id as string)}>
                Go there
              </button>
            )}
          </li>
        ))}
      </ul>
      {n > MOST && <p>and {n - MOST} more</p>}
    </>
  );
}
