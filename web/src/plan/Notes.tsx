import { setCell } from '@yellowhammer/core/commands/cells';
import type { Activity } from '@yellowhammer/core/model/schema';
import { useState } from 'react';
import type { Chosen } from '../app/panel';
import { newId, useSession } from '../project/hooks';

export const Notes = ({ activities }: Chosen) => <NotesOf key={activities[0]!.id} a={activities[0]!} />;

function NotesOf({ a }: { a: Activity }) {
  const session = useSession();
  const { doc } = session;
  const [text, setText] = useState(a.notes);
  return (
    <textarea
      className="notes"
      aria-label="Notes"
      placeholder="Notes on this activity"
      rows={4}
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => text !== a.notes && session.run(setCell(doc, a.id, 'notes', text, newId))}
    />
  );
}
