/** What opens above the dock: columns, texts of bars, and the drawers of the list of panels. */
import { Popover } from '@mantine/core';
import { IconColumns3 } from '@tabler/icons-react';
import { memo, useState } from 'react';
import { type ColumnKey, defaultColumns, planActions, store, useAppDispatch, usePlanView } from '../app/store';
import type { Drawer } from '../app/panel';
import { useDoc, useSession, useTopic } from '../project/hooks';
import { allColumns } from './columns';

/** What opens above the dock, by its chip or by a command: one at a time. */
function useDrawer(id: string): { opened: boolean; onChange: (opened: boolean) => void; turn: () => void } {
  const { drawer } = usePlanView();
  const dispatch = useAppDispatch();
  const opened = drawer === id;
  const onChange = (open: boolean): void => {
    // Where another one was opened meanwhile, that stays.
    if (open || store.getState().plan.drawer === id) dispatch(planActions.set({ drawer: open ? id : null }));
  };
  return { opened, onChange, turn: () => onChange(!opened) };
}

/** Which fields stand before, on and after the bars. */
export function BarTextChoice() {
  const { opened, onChange, turn } = useDrawer('texts');
  return (
    <Popover position="top-start" shadow="md" trapFocus returnFocus opened={opened} onChange={onChange}>
      <Popover.Target>
        <button type="button" className="chip" title="What stands before, on and after the bars" onClick={turn}>
          Texts
        </button>
      </Popover.Target>
      <Popover.Dropdown className="bar-texts">
        <BarTextLines />
      </Popover.Dropdown>
    </Popover>
  );
}

function BarTextLines() {
  const { doc } = useDoc();
  const { texts } = usePlanView();
  const dispatch = useAppDispatch();
  return (['before', 'on', 'after'] as const).map((side) => (
    <label key={side}>
      <span className="muted">{{ before: 'Before the bar', on: 'On the bar', after: 'After the bar' }[side]}</span>
      <select value={texts[side] ?? ''} onKeyDown={(e) => e.stopPropagation()} onChange={(e) => dispatch(planActions.set({ texts: { ...texts, [side]: e.target.value || null } }))}>
        <option value="">nothing</option>
        {allColumns(doc).map((f) => (
          <option key={f.key} value={f.key}>
            {f.title}
          </option>
        ))}
      </select>
    </label>
  ));
}

/** Which fields are columns. */
export const ColumnMenu = memo(function ColumnMenu() {
  const { opened, onChange, turn } = useDrawer('columns');
  return (
    <Popover position="top-start" shadow="md" trapFocus returnFocus width={300} opened={opened} onChange={onChange}>
      <Popover.Target>
        <button type="button" className="chip" onClick={turn}>
          <IconColumns3 size={13} stroke={1.6} /> Columns
        </button>
      </Popover.Target>
      <Popover.Dropdown className="column-menu" onKeyDown={(e) => e.key !== 'Escape' && e.stopPropagation()}>
        <ColumnList />
      </Popover.Dropdown>
    </Popover>
  );
});

function ColumnList() {
  const { doc } = useDoc();
  const ui = usePlanView();
  const dispatch = useAppDispatch();
  const [text, setText] = useState('');
  const all = allColumns(doc);
  const toggle = (key: ColumnKey): void => void dispatch(planActions.set({ columns: ui.columns.includes(key) ? ui.columns.filter((k) => k !== key) : [...ui.columns, key] }));
  const low = text.trim().toLowerCase();
  const found = all.filter((f) => !f.naming && (low === '' || `${f.title} ${f.about}`.toLowerCase().includes(low)));
  const groups = [...new Set(found.map((f) => f.group))];
  return (
    <>
      <input aria-label="Find a column" placeholder="Find a column" data-autofocus value={text} onChange={(e) => setText(e.target.value)} />
      <div className="column-list">
        {groups.map((g) => (
          <fieldset key={g}>
            <legend>{g}</legend>
            {found
              .filter((f) => f.group === g)
              .map((f) => (
                <label key={f.key} title={f.about}>
                  <input type="checkbox" checked={ui.columns.includes(f.key)} onChange={() => toggle(f.key)} /> {f.title}
                </label>
              ))}
          </fieldset>
        ))}
        {found.length === 0 && <p className="muted">No column is called so.</p>}
      </div>
      <button type="button" className="chip" onClick={() => dispatch(planActions.set({ columns: defaultColumns, widths: {}, frozen: 0 }))}>
        The usual columns
      </button>
    </>
  );
}

/** A chip of the dock with what opens above it. */
export function DrawerChip({ drawer, onGo }: { drawer: Drawer; onGo: (id: string) => void }) {
  const session = useSession();
  useTopic('check');
  const { opened, onChange, turn } = useDrawer(drawer.id);
  const chip = drawer.chip(session);
  if (!chip) return null;
  return (
    <Popover width={420} position="top-start" shadow="md" trapFocus returnFocus opened={opened} onChange={onChange}>
      <Popover.Target>
        <button type="button" className={`chip${chip.bad ? ' bad' : ''}`} onClick={turn}>
          {chip.text}
        </button>
      </Popover.Target>
      <Popover.Dropdown>
        <drawer.show onGo={onGo} />
      </Popover.Dropdown>
    </Popover>
  );
}
