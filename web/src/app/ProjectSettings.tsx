import { Button, Drawer, Group, NumberInput, Select, TextInput } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import { useState } from 'react';
import { baselinesOf, deleteSnapshot, keepBaseline, setOptions, setProject } from '@yellowhammer/core/commands/project';
import { showTypedDate, typedInstant } from '@yellowhammer/core/commands/cells';
import { ordered, projectOf } from '@yellowhammer/core/model/document';
import type { Options } from '@yellowhammer/core/model/schema';
import { newId, useDoc, useSession } from '../project/hooks';
import { CommitField } from './CommitField';
import { longDate } from './format';
import { usePreview } from './Preview';
import { BothWays } from './StatusLogicDialog';

/** A date field: typed in any form. */
export function DateField(props: {
  label: string;
  value: string | null;
  end: 'start' | 'finish';
  clearable?: boolean;
  onChange: (value: string | null) => void;
  description?: string;
}) {
  const { doc } = useDoc();
  return (
    <CommitField
      label={props.label}
      description={props.description}
      placeholder="12 mar 2027"
      value={props.value === null ? '' : showTypedDate(props.value)}
      onCommit={(text) => {
        const empty = !text.trim() && props.clearable;
        const t = empty ? null : typedInstant(doc, { calendarId: null }, text, props.end);
        if (t === undefined) return `${text || 'An empty date'} cannot be read. Type it as 12 mar 2027.`;
        props.onChange(t);
        return null;
      }}
    />
  );
}

/** A text that is taken over as it stands. */
export function TextField(props: { label: string; value: string; onChange: (value: string) => void }) {
  return (
    <CommitField
      label={props.label}
      value={props.value}
      onCommit={(text) => {
        props.onChange(text);
        return null;
      }}
    />
  );
}

/** Settings of the project in a side panel: nothing is lost by closing it, each entry is taken over at once. */
export function ProjectSettings({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  const session = useSession();
  const { doc } = useDoc();
  const project = projectOf(doc);
  const set = (fields: Parameters<typeof setProject>[1]): void => void session.run(setProject(doc, fields));
  const preview = usePreview();
  const option = (fields: Partial<Options>): void => void preview.ask(setOptions(doc, fields));
  return (
    <Drawer opened={opened} onClose={onClose} title="Project settings" position="right" size={380}>
      <div className="form-stack">
        <TextField label="Name" value={project.name} onChange={(name) => set({ name })} />
        <TextField label="Short code" value={project.code} onChange={(code) => code.trim() && set({ code: code.trim() })} />
        <DateField label="Planned start" value={project.plannedStart} end="start" onChange={(v) => v && set({ plannedStart: v })} />
        <DateField
          label="Required finish"
          value={project.requiredFinish}
          end="finish"
          clearable
          onChange={(v) => set({ requiredFinish: v })}
          description="The project's own deadline; empty for none"
        />
        <Select
          label="Project's calendar"
          data={ordered(doc, 'calendars').map((c) => ({ value: c.id, label: c.name }))}
          value={project.calendarId}
          onChange={(v) => v && preview.ask(setProject(doc, { calendarId: v }), true)}
        />
        <TextField label="Currency" value={project.currency} onChange={(currency) => set({ currency: currency.slice(0, 10) })} />
        <Baselines />
        <h3>How it is computed</h3>
        <p className="muted">What a change here would do is shown before it is taken over.</p>
        {preview.element}
        <Select
          label="Status logic"
          description="What holds work that started out of sequence"
          data={[
            { value: 'retainedLogic', label: 'Retained logic' },
            { value: 'progressOverride', label: 'Progress override' },
          ]}
          value={project.options.statusLogic}
          onChange={(v) => v && option({ statusLogic: v as Options['statusLogic'] })}
        />
        <BothWays className="link-button" />
        <Select
          label="Lags are counted in"
          data={[
            { value: 'predecessor', label: "the predecessor's calendar" },
            { value: 'successor', label: "the successor's calendar" },
            { value: 'project', label: "the project's calendar" },
            { value: 'elapsed', label: 'elapsed time' },
          ]}
          value={project.options.lagCalendar}
          onChange={(v) => v && option({ lagCalendar: v as Options['lagCalendar'] })}
        />
        <Select
          label="Critical by"
          data={[
            { value: 'float', label: 'total float' },
            { value: 'longestPath', label: 'the longest path' },
          ]}
          value={project.options.criticalBy}
          onChange={(v) => v && option({ criticalBy: v as Options['criticalBy'] })}
        />
        <Group grow>
          <NumberInput
            label="Critical up to (days)"
            size="sm"
            value={project.options.criticalThreshold}
            onBlur={(e) => option({ criticalThreshold: Number(e.currentTarget.value) || 0 })}
          />
          <NumberInput
            label="Near-critical up to"
            size="sm"
            value={project.options.nearCriticalThreshold}
            onBlur={(e) => option({ nearCriticalThreshold: Number(e.currentTarget.value) || 0 })}
          />
        </Group>
        <Select
          label="Float is measured to"
          data={[
            { value: 'projectFinish', label: 'the computed finish' },
            { value: 'requiredFinish', label: 'the required finish' },
          ]}
          value={project.options.floatTo}
          onChange={(v) => v && option({ floatTo: v as Options['floatTo'] })}
        />
        <Select
          label="Percent complete is weighted by"
          data={[
            { value: 'duration', label: 'duration' },
            { value: 'cost', label: 'cost' },
          ]}
          value={project.options.percentWeight}
          onChange={(v) => v && option({ percentWeight: v as Options['percentWeight'] })}
        />
      </div>
    </Drawer>
  );
}

/** Keeping a baseline, choosing which one to compare with, deleting one. */
function Baselines() {
  const session = useSession();
  const { doc } = useDoc();
  const [name, setName] = useState('');
  const [description, setDescription] = useState('');
  const baselines = baselinesOf(doc);
  const project = projectOf(doc);
  const keep = (): void => {
    if (session.run(keepBaseline(doc, { id: newId(), name, description, at: new Date().toISOString() }))) {
      setName('');
      setDescription('');
    }
  };
  return (
    <section aria-label="Baselines" className="form-stack">
      <h3>Baselines</h3>
      <Select
        label="Compare with"
        data={[{ value: '', label: 'no baseline' }, ...baselines.map((b) => ({ value: b.id, label: b.name }))]}
        value={project.baselineId ?? ''}
        onChange={(v) => session.run(setProject(doc, { baselineId: v || null }))}
      />
      {baselines.map((b) => (
        <div key={b.id} className="baseline-row">
          <div>
            <b>{b.name}</b> <span className="muted">{b.dataDate ? `data date ${longDate(b.dataDate)}` : `kept ${b.at.slice(0, 10)}`}</span>
            {b.description && <div className="muted">{b.description}</div>}
          </div>
          <button type="button" className="plain-button" aria-label={`Delete baseline ${b.name}`} onClick={() => session.run(deleteSnapshot(doc, b.id))}>
            <IconTrash size={15} stroke={1.6} />
          </button>
        </div>
      ))}
      <Group align="flex-end" wrap="nowrap" gap="xs">
        <TextInput
          label="Keep the plan as it is now"
          placeholder="Name of the baseline"
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
          style={{ flex: 1 }}
          onKeyDown={(e) => e.key === 'Enter' && keep()}
        />
        <Button onClick={keep}>Keep</Button>
      </Group>
      <TextInput aria-label="Description of the baseline" placeholder="Why it is kept (optional)" value={description} onChange={(e) => setDescription(e.currentTarget.value)} />
    </section>
  );
}
