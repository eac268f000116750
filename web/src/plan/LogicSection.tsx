import type { Chosen } from '../app/panel';
import { useSession } from '../project/hooks';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { LinkList } from './LinkList';

/** The links of one activity, on both sides. */
export function LogicSection({ activities, onGo }: Chosen) {
  const { doc } = useSession();
  const a = activities[0]!;
  const index = indexOf(doc);
  return (
    <>
      <LinkList a={a} side="predecessors" links={index.linksInto(a.id)} onGo={onGo} />
      <LinkList a={a} side="successors" links={index.linksOutOf(a.id)} onGo={onGo} />
    </>
  );
}
