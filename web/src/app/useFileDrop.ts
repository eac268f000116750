/** Files dropped on a place, from outside of the window. */
import { type DragEventHandler, useState } from 'react';

/** Handlers for the place, and whether files are held over it now. Anything else that is dragged is left alone. */
export function useFileDrop(take: (files: readonly File[]) => void): { over: boolean; drop: Record<'onDragOver' | 'onDragLeave' | 'onDrop', DragEventHandler> } {
  const [over, setOver] = useState(false);
  return {
    over,
    drop: {
      onDragOver(e) {
        if (!e.dataTransfer.types.includes('Files')) return;
        e.preventDefault();
        setOver(true);
      },
      onDragLeave: () => setOver(false),
      onDrop(e) {
        setOver(false);
        if (!e.dataTransfer.types.includes('Files')) return;
        e.preventDefault();
        take([...e.dataTransfer.files]);
      },
    },
  };
}
