/** What is asked over the plan: the menu at the pointer, what a paste, a link to nowhere or a dragged bar means, links with choices. One at a time. */
import { useCallback, useState } from 'react';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { CommandMenu, type MenuAt } from '../commands/CommandMenu';
import { type Asked, DragQuestion } from './DragQuestion';
import { LinkDialog } from './LinkDialog';
import { type LinkFrom, LinkTo } from './LinkTo';
import { PasteQuestion, type Pasting } from './PasteQuestion';

export interface Questions {
  menu: MenuAt | null;
  setMenu: React.Dispatch<React.SetStateAction<MenuAt | null>>;
  /** Activities that are linked with choices of type and lag. */
  linking: string[] | null;
  setLinking: (ids: string[] | null) => void;
  /** A linked bar that was dragged, and what may be meant. */
  asked: Asked | null;
  setAsked: (asked: Asked | null) => void;
  pasting: Pasting | null;
  setPasting: (pasting: Pasting | null) => void;
  linkFrom: LinkFrom | null;
  setLinkFrom: (from: LinkFrom | null) => void;
}

export function useQuestions(): Questions {
  const [menu, setMenu] = useState<MenuAt | null>(null);
  const [linking, setLinking] = useState<string[] | null>(null);
  const [asked, setAsked] = useState<Asked | null>(null);
  const [pasting, setPasting] = useState<Pasting | null>(null);
  const [linkFrom, setLinkFrom] = useState<LinkFrom | null>(null);
  return { menu, setMenu, linking, setLinking, asked, setAsked, pasting, setPasting, linkFrom, setLinkFrom };
}

/** `focus` gives the keyboard back to the plan. */
export function QuestionBoxes({ q, focus, onPasted }: { q: Questions; focus: () => void; onPasted: (outcome: Outcome) => void }) {
  // Menus and dialogs give the focus back by themselves first.
  const later = (): void => void setTimeout(focus);
  const { setLinking } = q;
  const closeLinking = useCallback(() => {
    setLinking(null);
    setTimeout(focus);
  }, [setLinking, focus]);
  const done = (close: () => void) => (): void => {
    close();
    focus();
  };
  return (
    <>
      <CommandMenu
        at={q.menu}
        onClose={() => {
          q.setMenu(null);
          later();
        }}
      />
      {q.pasting && (
        <PasteQuestion
          pasting={q.pasting}
          onTake={(outcome) => {
            q.setPasting(null);
            onPasted(outcome);
            focus();
          }}
          onDone={done(() => q.setPasting(null))}
        />
      )}
      {q.linkFrom && <LinkTo from={q.linkFrom} onDone={done(() => q.setLinkFrom(null))} />}
      {q.asked && <DragQuestion asked={q.asked} onDone={done(() => q.setAsked(null))} />}
      <LinkDialog key={String(q.linking)} ids={q.linking} onClose={closeLinking} />
    </>
  );
}
