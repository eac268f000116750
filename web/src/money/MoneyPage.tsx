import '../load/load.css';
import './money.css';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { madeFields } from '@yellowhammer/core/fields/list';
import type { MoneyTable } from '@yellowhammer/core/cost/table';
import { bucketKinds, type BucketKind, bucketName } from '@yellowhammer/core/load/buckets';
import { type Document, projectOf } from '@yellowhammer/core/model/document';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { downloadCsv } from '../app/csv';
import { usePlaceWanted } from '../app/usePlaceWanted';
import { downloadSheet } from '../app/spreadsheet';
import { bucketTitles, type Place } from '../load/grid';
import { useDoc, useSession, useTopic } from '../project/hooks';
import { ExpenseGrid } from './ExpenseGrid';
import { inFull, type Measure, measureKeys, measures } from './measures';
import type { Graph } from './MoneyGraph';
import { MoneyGrid, shownCells } from './MoneyGrid';
import { type Parts, useMoney, useParts } from './useMoney';

/** Ways to part money, as they are chosen: what it is booked to, where it arises, who costs it, and by values of activities. */
function groupings(doc: Document): { value: string; title: string }[] {
  return [
    { value: 'account', title: 'Account' },
    { value: 'wbs', title: 'WBS' },
    { value: 'who', title: 'Resource' },
    { value: 'activity', title: 'Activity' },
    ...madeFields(doc)
      .filter((f) => ['text', 'choice', 'yesNo'].includes(f.kind))
      .map((f) => ({ value: f.key, title: f.title })),
    { value: 'responsible', title: 'Responsible' },
    { value: 'calendar', title: 'Calendar' },
  ];
}

/** Money: what it costs and brings in, and when the money must be there. */
export function MoneyPage() {
  const { doc } = useDoc();
  const project = projectOf(doc);
  const [list, setList] = useState(false);
  usePlaceWanted(() => setList(true));
  const [kind, setKind] = useState<BucketKind>('month');
  const [by, setBy] = useState('account');
  const [measure, setMeasure] = useState<Measure>('cost');
  const [cumulative, setCumulative] = useState(false);
  const [graph, setGraph] = useState<Graph>('flow');
  const [chosen, setChosen] = useState<Place | null>(null);
  const told = useMoney(kind, by);
  const table = typeof told === 'string' ? null : told;
  const dataDate = project.dataDate === null ? null : (parseInstant(project.dataDate) ?? null);
  const line = chosen && table ? table.lines[chosen.row - 1] : undefined;
  const [from, to] = [table?.edges[chosen?.column ?? -1], table?.edges[(chosen?.column ?? -1) + 1]];
  const parts = useParts(by, chosen && from !== undefined && to !== undefined ? { key: line?.key ?? null, from, to } : null);
  const currency = project.currency || 'the project’s currency';
  const sheet = (): [string, string[], (string | number)[][]] => [
    `${project.code} ${measures[measure].title.toLowerCase()}${cumulative ? ' running' : ''} by ${kind}`,
    [by === 'account' ? 'Account' : (groupings(doc).find((g) => g.value === by)?.title ?? by), ...(table?.edges.slice(0, -1).map((t) => bucketName(kind, t)) ?? []), 'In all'],
    table ? [...table.lines, { name: 'All', depth: 0, cells: table.cells }].map((l) => rowOf(l, measure, cumulative)) : [],
  ];
  return (
    <div className="load money">
      <header className="load-top">
        <h2>Money</h2>
        <div className="load-choice" role="group" aria-label="What is shown">
          <button type="button" aria-pressed={!list} onClick={() => setList(false)}>
            Over time
          </button>
          <button type="button" aria-pressed={list} onClick={() => setList(true)}>
            Expenses and income
          </button>
        </div>
        {!list && (
          <>
            <div className="load-choice" role="group" aria-label="Bucket">
              {bucketKinds
                .filter((k) => k !== 'hour' && k !== 'shift')
                .map((k) => (
                  <button key={k} type="button" aria-pressed={k === kind} onClick={() => (setKind(k), setChosen(null))}>
                    {bucketTitles[k]}
                  </button>
                ))}
            </div>
            <label className="load-by">
              <span>by</span>
              <select aria-label="Lines of the table" value={by} onChange={(e) => (setBy(e.target.value), setChosen(null))}>
                {groupings(doc).map((g) => (
                  <option key={g.value} value={g.value}>
                    {g.title}
                  </option>
                ))}
              </select>
            </label>
            <select aria-label="What a cell shows" value={measure} onChange={(e) => setMeasure(e.target.value as Measure)}>
              {measureKeys.map((m) => (
                <option key={m} value={m}>
                  {measures[m].title}
                </option>
              ))}
            </select>
            <label className="load-by">
              <input type="checkbox" checked={cumulative} onChange={(e) => setCumulative(e.target.checked)} /> running
            </label>
            <div className="load-choice" role="group" aria-label="Graph">
              {(['flow', 'curve'] as const).map((g) => (
                <button key={g} type="button" aria-pressed={g === graph} onClick={() => setGraph(g)}>
                  {g === 'flow' ? 'In and out' : 'Curve'}
                </button>
              ))}
            </div>
          </>
        )}
      </header>
      {list ? (
        <ExpenseGrid />
      ) : (
        <>
          <div className="load-body">
            <div className="load-left">
              {table && (table.lines.length > 0 || table.baseline) ? (
                <MoneyGrid table={table} kind={kind} measure={measure} cumulative={cumulative} graph={graph} chosen={chosen} dataDate={dataDate} onChoose={setChosen} />
              ) : (
                <p className="muted load-wait">
                  {typeof told === 'string'
                    ? told
                    : table
                      ? 'Nothing costs or brings in anything yet. Type costs into Plan, give resources a rate in the Library, or add expenses and income here.'
                      : 'Computing'}
                </p>
              )}
            </div>
            <aside className="load-side" aria-label="What is chosen">
              {table && chosen && from !== undefined ? (
                <AboutCell title={`${line?.name ?? 'All'}, ${bucketName(kind, from)}`} table={table} line={line} column={chosen.column} parts={parts} currency={currency} />
              ) : (
                table && <AboutAll table={table} kind={kind} currency={currency} />
              )}
            </aside>
          </div>
          <footer className="dock">
            <button type="button" className="chip" disabled={!table} onClick={() => downloadCsv(...sheet())}>
              CSV
            </button>
            <button type="button" className="chip" disabled={!table} onClick={() => void downloadSheet(...sheet())}>
              Spreadsheet
            </button>
            <span className="muted">
              {measures[measure].title}: {measures[measure].about}
              {cumulative ? ', up to the end of each column' : ''} · in {currency}
            </span>
          </footer>
        </>
      )}
    </div>
  );
}

function rowOf(l: { name: string; depth: number; cells: MoneyTable['cells'] }, measure: Measure, cumulative: boolean): (string | number)[] {
  const values = shownCells(l.cells, measure, cumulative);
  const all = cumulative ? (values[values.length - 1] ?? 0) : values.reduce((n, v) => n + v, 0);
  return [`${'  '.repeat(l.depth)}${l.name}`, ...values.map((v) => v / 100), all / 100];
}

const Fact = ({ name, value, bad }: { name: string; value: string; bad?: boolean }) => (
  <div className="money-fact">
    <span>{name}</span>
    <b className={bad ? 'critical-text' : ''}>{value}</b>
  </div>
);

/** The whole of it in a few figures. */
function AboutAll({ table, kind, currency }: { table: MoneyTable; kind: BucketKind; currency: string }) {
  const { total, need } = table;
  const base = table.baseline?.reduce((n, b) => n + b.cost, 0);
  return (
    <>
      <h2>All of it, in {currency}</h2>
      <Fact name="Cost at completion" value={inFull(total.cost)} />
      <Fact name="Budget" value={inFull(total.budget)} />
      <Fact name="Budget less cost" value={inFull(total.budget - total.cost)} bad={total.budget < total.cost} />
      {base !== undefined && <Fact name="Baseline" value={inFull(base)} />}
      <Fact name="Actual" value={inFull(total.actual)} />
      <Fact name="Still to be spent" value={inFull(total.cost - total.actual)} />
      <Fact name="Income" value={inFull(total.income)} />
      <Fact name="Income received" value={inFull(total.incomeActual)} />
      <Fact name="Income less cost" value={inFull(total.income - total.cost)} bad={total.income > 0 && total.income < total.cost} />
      {need && (total.income > 0 || total.incomeBudget > 0) && (
        <p className="money-need">
          The greatest need is at the end of {bucketName(kind, need.from)}: <b>{inFull(need.amount)}</b> more is spent by then than has come in.
        </p>
      )}
      {total.lateCost !== total.cost && (
        <p className="muted">
          With late dates it costs {inFull(total.lateCost)}: rates change in the meantime, so that the late curve ends {total.lateCost > total.cost ? 'higher' : 'lower'}.
        </p>
      )}
      <p className="muted">Choose a cell to see what makes it. The arrows walk from cell to cell.</p>
    </>
  );
}

/** What makes a cell, each a way to its activity. */
function AboutCell({
  title,
  table,
  line,
  column,
  parts,
  currency,
}: {
  title: string;
  table: MoneyTable;
  line: MoneyTable['lines'][number] | undefined;
  column: number;
  parts: Parts | null;
  currency: string;
}) {
  const session = useSession();
  const navigate = useNavigate();
  useTopic('view');
  const f = (line?.cells ?? table.cells)[column];
  if (!f) return null;
  return (
    <>
      <h2>{title}</h2>
      <Fact name={`Cost, ${currency}`} value={inFull(f.cost)} />
      {f.actual !== 0 && <Fact name="of it spent" value={inFull(f.actual)} />}
      {f.budget !== f.cost && <Fact name="Budget" value={inFull(f.budget)} />}
      {f.lateCost !== f.cost && <Fact name="With late dates" value={inFull(f.lateCost)} />}
      {(f.income !== 0 || f.incomeBudget !== 0) && <Fact name="Income" value={inFull(f.income)} />}
      {parts && parts.parts.length > 0 && (
        <>
          <h3>What makes it</h3>
          <ul className="money-parts">
            {parts.parts.map((p) => (
              <li key={`${p.activityId} ${p.what} ${p.account} ${String(p.income)}`}>
                <span>
                  <button type="button" className="link-button" onClick={() => void navigate(`/p/${session.id}/plan`, { state: { reveal: p.activityId } })}>
                    {p.activity}
                  </button>{' '}
                  <span className="muted">
                    {p.what}
                    {p.account ? ` · ${p.account}` : ''}
                    {p.actual !== 0 && p.remaining !== 0 ? ` · ${inFull(p.actual)} of it spent` : p.actual !== 0 ? (p.income ? ' · received' : ' · spent') : ''}
                  </span>
                </span>
                <b className={p.income ? 'money-in' : ''}>
                  {p.income ? '+' : ''}
                  {inFull(p.actual + p.remaining)}
                </b>
              </li>
            ))}
          </ul>
          {parts.more > 0 && <p className="muted">and {parts.more} more</p>}
        </>
      )}
      {parts?.parts.length === 0 && <p className="muted">Nothing lies here.</p>}
    </>
  );
}
