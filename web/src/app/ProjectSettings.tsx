import { Checkbox, Drawer, Group, NumberInput, Select, TextInput } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import { useEffect, useRef, useState } from 'react';
import { baselinesOf, deleteSnapshot, keepBaseline, setOptions, setProject } from '@yellowhammer/core/commands/project';
import { stageNames } from '@yellowhammer/core/load/elsewhere';
import { stages } from '@yellowhammer/core/model/schema';
import { ordered, projectOf } from '@yellowhammer/core/model/document';
import { basisNames } from '@yellowhammer/core/fields/work';
import { bases, type Options, type Snapshot } from '@yellowhammer/core/model/schema';
import { weekdayNames } from '@yellowhammer/core/time/typed-date';
import { call } from '../project/api';
import type { SettingsPart } from '../commands/types';
import { afterFrame } from '../project/frames';
import { newId, useDoc, useSession } from '../project/hooks';
import { CommitField } from './CommitField';
import { OwnValues } from './OwnValues';
import { DateField } from './DateField';
import { longDate } from './format';
import { usePreview } from './Preview';
import { BothWays } from './StatusLogicDialog';

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
export function ProjectSettings({ opened, at, onClose }: { opened: boolean; at: SettingsPart | 'all'; onClose: () => void }) {
  const session = useSession();
  const { doc } = useDoc();
  const project = projectOf(doc);
  const set = (fields: Parameters<typeof setProject>[1]): void => void session.run(setProject(doc, fields));
  const preview = usePreview();
  const option = (fields: Partial<Options>): void => void preview.ask(setOptions(doc, fields));
  const number = (field: 'numberFrom' | 'numberStep', text: string): void => {
    const n = Math.round(Number(text.replace(/[^\d.]/g, '')));
    if (n >= 1 && n !== project.options[field]) session.run(setOptions(doc, { [field]: n }));
  };
  const form = useRef<HTMLDivElement>(null);
  // The focus goes there by itself, and does not scroll.
  useEffect(() => afterFrame(() => form.current?.querySelector('[data-autofocus]')?.scrollIntoView({ block: 'center' })), [at]);
  const [twin, setTwin] = useState<string | null>(null);
  useEffect(() => {
    if (!opened) return;
    void call<{ id: string; code: string; name: string; deletedAt: string | null }[]>('GET', '/projects').then((r) => {
      if (r.ok) setTwin(r.value.find((e) => e.id !== session.id && !e.deletedAt && e.code.toUpperCase() === project.code.toUpperCase())?.name ?? null);
    });
  }, [opened, project.code, session.id]);
  return (
    <Drawer opened={opened} onClose={onClose} title="Project settings" position="right" size={380}>
      <div className="form-stack" ref={form}>
        <TextField label="Name" value={project.name} onChange={(name) => set({ name })} />
        <TextField label="Short code" value={project.code} onChange={(code) => code.trim() && set({ code: code.trim().slice(0, 40) })} />
        {twin && (
          <p className="critical-text">
            {twin} has the code {project.code}, too. Another one keeps them apart.
          </p>
        )}
        <DateField label="Planned start" value={project.plannedStart} end="start" onChange={(v) => v && preview.ask(setProject(doc, { plannedStart: v }), true)} />
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
          onChange={(v) => v && v !== project.calendarId && preview.ask(setProject(doc, { calendarId: v }))}
        />
        <Select
          label="What it is"
          description="Only live projects count where resources are asked for over all projects"
          allowDeselect={false}
          data={stages.map((value) => ({ value, label: stageNames[value] }))}
          value={project.stage}
          onChange={(stage) => stage && set({ stage })}
        />
        <TextField label="Currency" value={project.currency} onChange={(currency) => set({ currency: currency.slice(0, 10) })} />
        {doc.pictures.size > 0 && (
          <Select
            label="Logo"
            description="Beside the name on screen, in the list of projects and on paper; pictures are in the Library"
            clearable
            data={ordered(doc, 'pictures').map((p) => ({ value: p.id, label: p.name }))}
            value={project.logoId}
            onChange={(logoId) => set({ logoId })}
          />
        )}
        <OwnValues of="project" row={project} size="sm" />
        <Baselines first={at === 'baselines'} />
        <h3>Numbers of new activities</h3>
        <Group grow>
          <NumberInput label="First number" size="sm" min={1} max={1_000_000} value={project.options.numberFrom} onBlur={(e) => number('numberFrom', e.currentTarget.value)} />
          <NumberInput label="Step" size="sm" min={1} max={1_000} value={project.options.numberStep} onBlur={(e) => number('numberStep', e.currentTarget.value)} />
        </Group>
        <p className="muted">New activities count on from the greatest number by this step.</p>
        <h3>Work and loads</h3>
        <Group grow>
          <Select
            label="Duration basis of new activities"
            data={bases.map((b) => ({ value: b, label: basisNames[b] }))}
            value={project.options.basis}
            onChange={(v) => v && session.run(setOptions(doc, { basis: v as Options['basis'] }))}
          />
          <Select
            label="Weeks of loads begin on"
            data={weekdayNames.map((label, n) => ({ value: String(n), label }))}
            value={String(project.options.weekStart)}
            onChange={(v) => v && session.run(setOptions(doc, { weekStart: Number(v) }))}
          />
        </Group>
        <h3>WBS codes</h3>
        <CommitField
          label="Prefixes by level"
          aria-label="Prefixes by level"
          placeholder="none"
          value={project.options.wbsPrefixes.join(', ')}
          description="Parted by commas: T, L makes T1 and T1.L2. A part of its own is typed in the column No. of a node."
          onCommit={(text) => {
            const outcome = setOptions(doc, { wbsPrefixes: text.trim() === '' ? [] : text.split(',').map((p) => p.trim()) });
            return outcome.ok ? (session.run(outcome), null) : outcome.problems[0]!.message;
          }}
        />
        <h3>How it is computed</h3>
        <p className="muted">What a change here would do is shown before it is taken over.</p>
        {preview.element}
        <Select
          label="Status logic"
          data-autofocus={at === 'computation' || undefined}
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
function Baselines({ first }: { first: boolean }) {
  const session = useSession();
  const { doc } = useDoc();
  const [name, setName] = useState('');
  const [description, setDescription] = useState('');
  const [compare, setCompare] = useState(false);
  const baselines = baselinesOf(doc);
  const project = projectOf(doc);
  const remove = (b: Snapshot): void => {
    const chosen = project.baselineId === b.id;
    if (!session.run(deleteSnapshot(doc, b.id))) return;
    const text = chosen ? 'It was the one compared with; now none is. Choose another above, or undo.' : 'Undo brings it back.';
    session.onNotice({ tone: 'done', title: `Baseline ${b.name} deleted`, text });
  };
  const keep = (): void => {
    if (session.run(keepBaseline(doc, { id: newId(), name, description, at: new Date().toISOString(), compare }))) {
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
          <button type="button" className="plain-button" aria-label={`Delete baseline ${b.name}`} onClick={() => remove(b)}>
            <IconTrash size={15} stroke={1.6} />
          </button>
        </div>
      ))}
      <Group align="flex-end" wrap="nowrap" gap="xs">
        <TextInput
          label="Keep the plan as it is now"
          placeholder="Name of the baseline"
          data-autofocus={first || undefined}
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
          style={{ flex: 1 }}
          onKeyDown={(e) => e.key === 'Enter' && keep()}
        />
        <button type="button" className="dark-button" onClick={keep}>
          Keep
        </button>
      </Group>
      {project.baselineId !== null && <Checkbox size="xs" label="Compare with it from now on" checked={compare} onChange={(e) => setCompare(e.currentTarget.checked)} />}
      <TextInput aria-label="Description of the baseline" placeholder="Why it is kept (optional)" value={description} onChange={(e) => setDescription(e.currentTarget.value)} />
    </section>
  );
}
