import { useState } from 'react';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import type { Chosen } from '../app/panel';
import { useSession } from '../project/hooks';
import { LinkList } from './LinkList';
import { ManyLinks } from './ManyLinks';

/** The links of one activity, on both sides; of several, all of them in one list. */
export function LogicSection({ activities, onGo }: Chosen) {
  const { doc } = useSession();
  // A long list is drawn when somebody asks for it: it would slow down every edit of many rows.
  const [listed, setListed] = useState(false);
  const [a, ...more] = activities;
  if (!a) return null;
  const index = indexOf(doc);
  if (more.length > 0)
    return listed ? (
      <ManyLinks activities={activities} onGo={onGo} />
    ) : (
      <button type="button" className="light-button" onClick={() => setListed(true)}>
        List and change their links
      </button>
    );
  return (
    <>
      <LinkList a={a} side="predecessors" links={index.linksInto(a.id)} onGo={onGo} />
      <LinkList a={a} side="successors" links={index.linksOutOf(a.id)} onGo={onGo} />
    </>
  );
}
