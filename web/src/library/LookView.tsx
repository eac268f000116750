/** A bar look: rules from the first to the last, each with what it asks and how it draws. The first that fits a row wins. */
import { IconArrowUp, IconTrash } from '@tabler/icons-react';
import { useState } from 'react';
import { namedColours } from '@yellowhammer/core/fields/extras';
import { activityCell, fieldsOf } from '@yellowhammer/core/fields/list';
import { deleteLook, editLook, withLook } from '@yellowhammer/core/commands/views';
import type { Look } from '@yellowhammer/core/model/schema';
import { hatchings, type Hatching, type LookRule } from '@yellowhammer/core/model/view-schema';
import { filterTest } from '@yellowhammer/core/view/filter';
import { colouring, plain } from '@yellowhammer/core/view/looks';
import { filterWords } from '@yellowhammer/core/view/words';
import { CommitField } from '../app/CommitField';
import { useDoc, useSession } from '../project/hooks';
import { FilterBuilder } from '../see/FilterBuilder';
import { Hatchings, LegendLine } from '../see/Legend';
import { taken } from './CodeSetView';

const hatchWords: Record<Hatching, string> = {
  none: 'plain',
  rising: 'rising lines',
  falling: 'falling lines',
  crossed: 'crossed lines',
  dotted: 'dots',
  upright: 'upright lines',
};
const fresh: LookRule = { name: 'New rule', filter: { match: 'all', of: [] }, colour: namedColours['sea'] ?? null, colourBy: null, hatching: 'none', height: 'usual', texts: null };

export function LookView({ look }: { look: Look }) {
  const session = useSession();
  const { doc } = useDoc();
  const [opened, setOpened] = useState<number | null>(look.rules.length === 1 ? 0 : null);
  const put = (rules: LookRule[]): void => void session.run(editLook(doc, look.id, { rules }));
  const set = (i: number, fields: Partial<LookRule>): void => put(look.rules.map((r, k) => (k === i ? { ...r, ...fields } : r)));
  const context = { doc, view: session.view, baseline: session.baseline, clock: false };
  const own = withLook(doc, look.id).length;
  // How many rows each rule takes, those that an earlier one took left out.
  const counts = look.rules.map(() => 0);
  const tests = look.rules.map((r) => filterTest(r.filter, context));
  for (const a of doc.activities.values()) {
    const i = tests.findIndex((t) => t(activityCell(context, a)));
    if (i >= 0) counts[i] = (counts[i] ?? 0) + 1;
  }
  return (
    <main className="library-main" aria-label={`Bar look ${look.name}`}>
      <svg width="0" height="0" aria-hidden="true" style={{ position: 'absolute' }}>
        <Hatchings />
      </svg>
      <div className="library-title">
        <CommitField of={look.id} aria-label="Name of the look" value={look.name} onCommit={(name) => taken((o) => session.run(o), editLook(doc, look.id, { name }))} />
        <button type="button" className="chip" onClick={() => session.run(deleteLook(doc, look.id))}>
          Delete the look
        </button>
      </div>
      {own > 0 && <p className="muted">{own === 1 ? 'One activity has' : `${own} activities have`} it of their own, whatever the view shows.</p>}
      <p className="muted">The first rule that fits a row says how its bar is drawn. Critical work keeps its edge, and a colour given by hand goes before all.</p>
      <ol className="look-rules">
        {look.rules.map((r, i) => (
          <li key={i}>
            <div className="look-rule">
              <ul className="legend-one">
                <LegendLine paint={{ ...plain, ...r, texts: null }} />
              </ul>
              <span className="muted">
                {filterWords(doc, r.filter)} · {counts[i]} {counts[i] === 1 ? 'row' : 'rows'}
              </span>
              <button type="button" className="link-button" aria-expanded={opened === i} onClick={() => setOpened(opened === i ? null : i)}>
                {opened === i ? 'Close' : 'Change'}
              </button>
              {i > 0 && (
                <button
                  type="button"
                  className="plain-button"
                  aria-label={`${r.name} one up`}
                  onClick={() => {
                    const rules = [...look.rules];
                    rules.splice(i - 1, 2, r, look.rules[i - 1]!);
                    put(rules);
                  }}
                >
                  <IconArrowUp size={14} stroke={1.6} />
                </button>
              )}
              <button type="button" className="plain-button" aria-label={`Delete ${r.name}`} onClick={() => put(look.rules.filter((_, k) => k !== i))}>
                <IconTrash size={14} stroke={1.6} />
              </button>
            </div>
            {opened === i && (
              <div className="look-edit strip-drop">
                <div className="own-grid">
                  <CommitField of={`${look.id} ${i}`} size="xs" label="In the legend" value={r.name} onCommit={(name) => (set(i, { name: name.trim().slice(0, 100) }), null)} />
                  <label>
                    <span>Colour</span>
                    <select
                      value={r.colourBy ?? r.colour ?? ''}
                      onChange={(e) =>
                        set(
                          i,
                          e.target.value.startsWith('#') || e.target.value === '' ? { colour: e.target.value || null, colourBy: null } : { colour: null, colourBy: e.target.value },
                        )
                      }
                    >
                      <option value="">as usual</option>
                      {Object.entries(namedColours).map(([name, c]) => (
                        <option key={c} value={c}>
                          {name}
                        </option>
                      ))}
                      {r.colour !== null && !Object.values(namedColours).includes(r.colour) && <option value={r.colour}>{r.colour}</option>}
                      <optgroup label="By the values of">
                        {[...fieldsOf(doc).values()].filter(colouring).map((f) => (
                          <option key={f.key} value={f.key}>
                            {f.title}
                          </option>
                        ))}
                      </optgroup>
                    </select>
                  </label>
                  <label>
                    <span>Hatching</span>
                    <select value={r.hatching} onChange={(e) => set(i, { hatching: e.target.value as Hatching })}>
                      {hatchings.map((h) => (
                        <option key={h} value={h}>
                          {hatchWords[h]}
                        </option>
                      ))}
                    </select>
                  </label>
                  <label>
                    <span>Height</span>
                    <select value={r.height} onChange={(e) => set(i, { height: e.target.value as LookRule['height'] })}>
                      {['thin', 'usual', 'tall'].map((h) => (
                        <option key={h}>{h}</option>
                      ))}
                    </select>
                  </label>
                  {(['before', 'on', 'after'] as const).map((side) => (
                    <label key={side}>
                      <span>Text {side} the bar</span>
                      <select
                        value={r.texts === null ? '(view)' : (r.texts[side] ?? '')}
                        onChange={(e) => {
                          const base = r.texts ?? { before: null, on: 'name', after: 'name' };
                          set(i, { texts: e.target.value === '(view)' ? null : { ...base, [side]: e.target.value || null } });
                        }}
                      >
                        <option value="(view)">as the view has it</option>
                        <option value="">nothing</option>
                        {[...fieldsOf(doc).values()].map((f) => (
                          <option key={f.key} value={f.key}>
                            {f.title}
                          </option>
                        ))}
                      </select>
                    </label>
                  ))}
                </div>
                <FilterBuilder
                  lead="Draws activities for which"
                  doc={doc}
                  filter={r.filter.of.length ? r.filter : null}
                  onChange={(filter) => set(i, { filter: filter ?? { match: 'all', of: [] } })}
                />
              </div>
            )}
          </li>
        ))}
      </ol>
      <div className="library-actions">
        <button
          type="button"
          className="chip"
          onClick={() => {
            put([...look.rules, fresh]);
            setOpened(look.rules.length);
          }}
        >
          Add a rule
        </button>
      </div>
    </main>
  );
}
