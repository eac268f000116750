/** The panel beside the sheet in which an act is prepared. The sheet stays usable, so that more rows can be selected. */
import { IconX } from '@tabler/icons-react';
import { type ComponentType, useEffect, useRef } from 'react';
import { planActions, type PlanUi, store, useAppDispatch } from '../../app/store';
import { commandOf } from '../../commands/list';
import { CopyLinksTask } from './CopyLinksTask';
import { EachTask } from './EachTask';
import { HistoryTask } from './HistoryTask';
import { RedundantTask } from './RedundantTask';
import { RenumberTask } from './RenumberTask';
import { ReplicateTask } from './ReplicateTask';
import { SplitTask } from './SplitTask';
import { TypeTask } from './TypeTask';
import { ValuesTask } from './ValuesTask';
import type { TaskProps } from './types';

const tasks: Record<string, ComponentType<TaskProps>> = {
  history: HistoryTask,
  linkEach: EachTask,
  copyLinks: CopyLinksTask,
  redundant: RedundantTask,
  renumber: RenumberTask,
  replicate: ReplicateTask,
  split: SplitTask,
  typePlan: TypeTask,
  values: ValuesTask,
};

export function TaskPanel({ task, onGo, onClose }: { task: NonNullable<PlanUi['task']>; onGo: (id: string) => void; onClose: () => void }) {
  const dispatch = useAppDispatch();
  const panel = useRef<HTMLElement>(null);
  const Task = tasks[task.id];
  const command = commandOf(task.id);
  useEffect(() => {
    panel.current?.querySelector<HTMLElement>('[data-autofocus]')?.focus();
  }, []);
  const close = (): void => {
    // The sheet has the keyboard again at once, before the panel goes.
    onClose();
    dispatch(planActions.set({ task: null }));
  };
  const done = (made: readonly string[]): void => {
    const first = made[0];
    // The cursor stays in its column, so that a letter means what it meant before.
    if (first !== undefined) dispatch(planActions.select({ ids: [...made], active: { row: first, column: store.getState().plan.active?.column ?? 'name' } }));
    close();
  };
  if (!Task || !command) return null;
  return (
    <aside
      ref={panel}
      className="inspector task"
      aria-label={command.title}
      onKeyDown={(e) => {
        if (e.key === 'Escape') {
          e.stopPropagation();
          close();
        }
        if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) {
          e.preventDefault();
          (document.getElementById('task-verdict') as HTMLFormElement | null)?.requestSubmit();
        }
      }}
    >
      <div className="task-head">
        <h2>{command.title}</h2>
        <button type="button" className="plain-button" aria-label="Close (Escape)" onClick={close}>
          <IconX size={16} stroke={1.6} />
        </button>
      </div>
      <p className="muted">{command.about}.</p>
      <Task rows={task.rows} onGo={onGo} onDone={done} />
    </aside>
  );
}
