/** How the plan is seen, as one sentence above it: which view, which rows, under which headings, in which colours. Each part opens. */
import { IconX } from '@tabler/icons-react';
import { memo, type RefObject, useEffect, useState } from 'react';
import { fieldOf, fieldsOf } from '@yellowhammer/core/fields/list';
import { type Document, ordered } from '@yellowhammer/core/model/document';
import type { Snapshot } from '@yellowhammer/core/model/schema';
import { showTypedDate } from '@yellowhammer/core/time/typed-date';
import { copyOfView, type Quick, quickNames } from '@yellowhammer/core/model/view-schema';
import { stampable } from '@yellowhammer/core/plan/stamp';
import { colouring } from '@yellowhammer/core/view/looks';
import { quickWords } from '@yellowhammer/core/view/organise';
import { filterWords } from '@yellowhammer/core/view/words';
import { setCells } from '@yellowhammer/core/commands/cells';
import { planActions, useAppDispatch, usePlan, usePlanView, type PlanUi } from '../../app/store';
import { newId, useDoc, useDocText, useSession, useTopic } from '../../project/hooks';
import type { PlanRow } from '../rows';
import { filterOf } from '../rows';
import { FilterBuilder } from '../../see/FilterBuilder';
import { GroupBuilder, groupWords } from '../../see/GroupBuilder';
import { Piece } from './Piece';
import { SavedViews } from './SavedViews';
import { SearchBox } from './SearchBox';
import { offerStrip, type Part } from './strip-part';

interface Props {
  shown: number;
  all: number;
  /** The rows as they are when somebody asks: the sentence is not drawn anew with each of them. */
  now: RowsNow;
  /** They, while a text is looked for in them. */
  searched: readonly PlanRow[] | null;
  /** Of the timeline in pixels. */
  width: number;
  onGo: (row: string, column: string) => void;
  onDone: () => void;
}

type RowsNow = RefObject<{ rows: readonly PlanRow[] }>;

export const ViewStrip = memo(function ViewStrip({ shown, all, now, searched, width, onGo, onDone }: Props) {
  const session = useSession();
  const { doc } = session;
  const ui = usePlanView();
  const dispatch = useAppDispatch();
  const [open, setOpen] = useState<Part | null>(null);
  const set = (s: Partial<PlanUi>): void => void dispatch(planActions.set(s));
  useEffect(() => {
    offerStrip(setOpen);
    return () => offerStrip(null);
  }, []);
  const filtering = filterOf(doc, ui) !== null || ui.quick.length > 0;
  const words = useDocText((d) => [...ui.quick.map((q) => quickWords[q]), ...[filterOf(d, ui)].flatMap((f) => (f ? [filterWords(d, f)] : []))].join('; '));
  const grouped = useDocText((d) => groupWords(d, ui.groups));
  const drawn = useDocText((d) => drawnAs(d, ui));
  const piece = { open, setOpen, onDone };
  return (
    <div className="view-strip" role="toolbar" aria-label="How the plan is seen">
      <span className="muted">Seen as</span>
      <SavedViews {...piece} width={width} />
      <span className="muted">showing</span>
      <Piece {...piece} part="filter" label="Rows shown" on={filtering} text={filtering ? `${shown} of ${all}${words ? `: ${words}` : ''}` : `all ${all} activities`}>
        <QuickChoices />
        <FilterBuilder key={String(open === 'filter')} doc={doc} filter={ui.filter} onChange={(filter) => set({ filter })} />
        <div className="strip-actions">
          <button type="button" className="chip" aria-pressed={ui.headFilters !== null} onClick={() => set({ headFilters: ui.headFilters === null ? {} : null })}>
            {ui.headFilters === null ? 'Also filter under the heads' : 'No filters under the heads'}
          </button>
          {filtering && (
            <button type="button" className="chip" onClick={() => (set({ filter: null, quick: [], headFilters: ui.headFilters && {} }), setOpen(null))}>
              Show all
            </button>
          )}
        </div>
        <GiveAll now={now} />
      </Piece>
      {filtering && (
        <button
          type="button"
          className="plain-button"
          aria-label="Show all rows"
          title="Show all rows (A)"
          onClick={() => set({ filter: null, quick: [], headFilters: ui.headFilters && {} })}
        >
          <IconX size={13} stroke={1.8} />
        </button>
      )}
      <Piece {...piece} part="groups" label="Groups" on={ui.groups.length > 0} text={ui.groups.length ? `grouped by ${grouped}` : 'in the WBS'}>
        <GroupBuilder doc={doc} groups={ui.groups} onChange={(groups) => set({ groups })} />
      </Piece>
      <Piece {...piece} part="colours" label="Colours" on={ui.look !== null || ui.colourBy !== null || ui.baseline !== 'compared'} text={drawn}>
        <Colours />
      </Piece>
      <span className="strip-room" />
      <SearchBox rows={searched} onGo={onGo} onDone={onDone} />
      <ModeSwitch mode={ui.mode} onMode={(mode) => set({ mode })} />
    </div>
  );
});

/** How bars are drawn. */
function drawnAs(doc: Document, ui: Pick<PlanUi, 'look' | 'colourBy' | 'baseline'>): string {
  const look = doc.looks.get(ui.look ?? '');
  const by = ui.colourBy === null ? undefined : fieldOf(doc, ui.colourBy);
  return `${look ? `drawn as ${look.name}` : by ? `coloured by ${by.title}` : 'drawn as usual'}${against(doc, ui.baseline)}`;
}

/** What bars are coloured by, and what they are compared with. */
function Colours() {
  const { doc } = useDoc();
  const ui = usePlanView();
  const dispatch = useAppDispatch();
  const set = (s: Partial<PlanUi>): void => void dispatch(planActions.set(s));
  return (
    <div className="group-builder">
      <label className="filter-line">
        <span className="muted group-word">Coloured by</span>
        <select data-autofocus value={ui.colourBy ?? ''} onChange={(e) => set({ colourBy: e.target.value || null })}>
          <option value="">nothing</option>
          {[...fieldsOf(doc).values()].filter(colouring).map((f) => (
            <option key={f.key} value={f.key}>
              {f.title}
            </option>
          ))}
        </select>
      </label>
      <label className="filter-line">
        <span className="muted group-word">Bar look</span>
        <select value={ui.look ?? ''} onChange={(e) => set({ look: e.target.value || null })}>
          <option value="">as usual</option>
          {ordered(doc, 'looks').map((l) => (
            <option key={l.id} value={l.id}>
              {l.name}
            </option>
          ))}
        </select>
      </label>
      <label className="filter-line">
        <span className="muted group-word">Compared with</span>
        <select value={ui.baseline} onChange={(e) => set({ baseline: e.target.value })}>
          <option value="compared">what the project compares with</option>
          <option value="none">nothing drawn</option>
          {ordered(doc, 'snapshots')
            .filter((s) => s.kind !== 'restorePoint')
            .map((s) => (
              <option key={s.id} value={`copy ${s.id}`}>
                {s.name || labelOfCopy(s)}
              </option>
            ))}
        </select>
      </label>
      <label className="filter-line">
        <input type="checkbox" checked={ui.legend} onChange={(e) => set({ legend: e.target.checked })} /> Legend on the picture
      </label>
      <p className="muted strip-note">Looks by rules are made in the Library. A colour given by hand goes before both; critical work keeps its edge.</p>
    </div>
  );
}

/** What a view is compared with, where that is not what the project compares with. */
function against(doc: Document, baseline: string): string {
  if (baseline === 'none') return ', no baseline';
  const copy = doc.snapshots.get(copyOfView({ baseline }) ?? '');
  return copy ? `, against ${copy.name || labelOfCopy(copy)}` : '';
}
const labelOfCopy = (s: Snapshot): string => `copy of ${showTypedDate(s.at.slice(0, 10))}`;

function ModeSwitch({ mode, onMode }: { mode: PlanUi['mode']; onMode: (mode: PlanUi['mode']) => void }) {
  return (
    <span className="mode-switch" role="group" aria-label="Picture">
      {(['timeline', 'network', 'month'] as const).map((m) => (
        <button key={m} type="button" className={`chip${m === mode ? ' on' : ''}`} aria-pressed={m === mode} onClick={() => onMode(m)}>
          {{ timeline: 'Timeline', network: 'Network', month: 'Month' }[m]}
        </button>
      ))}
    </span>
  );
}

/** Quick filters on top of any other. */
function QuickChoices() {
  const { quick } = usePlanView();
  const dispatch = useAppDispatch();
  const toggle = (q: Quick): void => void dispatch(planActions.set({ quick: quick.includes(q) ? quick.filter((x) => x !== q) : [...quick, q] }));
  return (
    <div className="quick" role="group" aria-label="Quick filters">
      {quickNames.map((q) => (
        <button key={q} type="button" className={`chip${quick.includes(q) ? ' on' : ''}`} aria-pressed={quick.includes(q)} onClick={() => toggle(q)}>
          {quickWords[q][0]!.toUpperCase() + quickWords[q].slice(1)}
        </button>
      ))}
    </div>
  );
}

/** Gives all activities that are shown one value: a rule is a filter and what is given to all that it lets through. */
function GiveAll({ now }: { now: RowsNow }) {
  const session = useSession();
  const { doc } = useDoc();
  useTopic('view');
  // Closing a node shows fewer rows.
  usePlan();
  const fields = stampable(doc);
  const [key, setKey] = useState('');
  const [text, setText] = useState('');
  const f = fields.find((x) => x.key === key);
  const shownNow = (): string[] => [...new Set(now.current.rows.flatMap((r) => (r.kind === 'activity' ? [r.id] : r.kind === 'wbs' && r.group ? r.group.members : [])))];
  const many = shownNow().length;
  return (
    <div className="filter-line give-all">
      <span className="muted">Give the {many} rows shown</span>
      <select aria-label="Field to give" value={key} onChange={(e) => (setKey(e.target.value), setText(''))}>
        <option value="">a value of …</option>
        {fields.map((x) => (
          <option key={x.key} value={x.key}>
            {x.title}
          </option>
        ))}
      </select>
      {f && (
        <select aria-label="Value to give" value={text} onChange={(e) => setText(e.target.value)}>
          <option value="">nothing</option>
          {(f.choices?.(doc) ?? []).filter(Boolean).map((c) => (
            <option key={c}>{c}</option>
          ))}
        </select>
      )}
      {f && (
        <button type="button" className="dark-button" disabled={many === 0} onClick={() => session.run(setCells(doc, shownNow(), key, text, newId, session.view))}>
          Give it
        </button>
      )}
    </div>
  );
}
