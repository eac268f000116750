import { memo, useDeferredValue, useState } from 'react';
import { usePlan } from '../app/store';
import { Fields } from '../app/Fields';
import { useAfterFrame, useSelectionWithDates, useSession, useTopic, useWithDates } from '../project/hooks';
import { chosenOf } from './chosen';
import { sections } from './panels';
import { Section } from './Section';

/**
 * What is selected: the sections of the list that fit it, on one page that scrolls. It follows the sheet a moment later,
 * so that the cursor, the cell and the bars never wait for it, and waits for dates that are on their way itself, unless
 * somebody types or points in it. Sections are drawn when this is; they need not listen.
 */
export function Inspector({ onGo }: { onGo: (id: string) => void }) {
  const { selected } = usePlan();
  const versions = `${useTopic('doc')} ${useTopic('view')} ${useTopic('links')}`;
  const [pointed, setPointed] = useState(false);
  const away = !pointed && !document.activeElement?.closest('.inspector');
  const chosen = useSelectionWithDates(selected, away);
  const [soon, rested] = [useDeferredValue(chosen), useAfterFrame(chosen, away)];
  // Many rows where they rest: each step of a key that is held down would begin this anew. One row at once: what is typed here is about it.
  return <Shown selected={chosen.length > 1 ? rested : soon} versions={useDeferredValue(useWithDates(versions, away))} onGo={onGo} onPoint={setPointed} />;
}

const Shown = memo(function Shown({ selected, onGo, onPoint }: { selected: string[]; versions: string; onGo: (id: string) => void; onPoint: (inside: boolean) => void }) {
  const session = useSession();
  const { doc } = session;
  const chosen = chosenOf(doc, selected, onGo);
  const { activities } = chosen;
  const shown = sections.filter((s) => s.for(chosen, session));
  return (
    <aside className="inspector" aria-label="Inspector" onPointerEnter={() => onPoint(true)} onPointerLeave={() => onPoint(false)}>
      <Fields>
        {activities.length === 0 && !chosen.node && (
          <>
            <h2>Nothing selected</h2>
            <p className="muted">Select an activity to see its dates and why they are what they are. Press ? for the list of keys. What is below belongs to the project.</p>
          </>
        )}
        {shown.map((s) =>
          s.title === null ? (
            <s.show key={s.id} {...chosen} />
          ) : (
            <Section key={s.id} id={s.id} title={s.title} count={s.count?.(chosen, session)}>
              <s.show {...chosen} />
            </Section>
          ),
        )}
      </Fields>
    </aside>
  );
});
