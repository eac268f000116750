/** A row of filters under the heads: what is typed there narrows the rows down, column by column. */
import { fieldOf } from '@yellowhammer/core/fields/list';
import type { Document } from '@yellowhammer/core/model/document';
import { readShort } from '@yellowhammer/core/view/words';
import { planActions, useAppDispatch, usePlanView } from '../../app/store';
import { widthOf } from '../sheet-columns';

export function HeadFilters({ doc, sheetX, onDone }: { doc: Document; sheetX: number; onDone: () => void }) {
  const ui = usePlanView();
  const dispatch = useAppDispatch();
  const typed = ui.headFilters ?? {};
  return (
    <div className="head-filters" style={{ transform: `translateX(${-sheetX}px)` }}>
      {ui.columns.map((key, i) => {
        const f = fieldOf(doc, key);
        const text = typed[key] ?? '';
        const read = f && text.trim() ? readShort(doc, f, text) : null;
        const wrong = read && 'error' in read ? read.error : undefined;
        return (
          <input
            key={key}
            className={wrong ? 'wrong' : undefined}
            style={{ width: widthOf(doc, key, ui.widths, ui.clock), transform: i < ui.frozen ? `translateX(${sheetX}px)` : undefined }}
            aria-label={`Filter ${f?.title ?? key}`}
            aria-invalid={wrong !== undefined}
            list={f?.choices && !f.open ? `choices-${key}` : undefined}
            title={wrong ?? 'A part of a text, =exactly, >5, 2..10, !without, empty, not empty'}
            value={text}
            onChange={(e) => dispatch(planActions.set({ headFilters: { ...typed, [key]: e.target.value } }))}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === 'Escape') {
                if (text) dispatch(planActions.set({ headFilters: { ...typed, [key]: '' } }));
                else onDone();
              }
              if (e.key === 'Enter' || e.key === 'ArrowDown') onDone();
            }}
          />
        );
      })}
    </div>
  );
}
