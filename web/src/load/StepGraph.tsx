/** A stretch of a resource, role or group as steps: who asks for it, stacked, against the line of what is there. */
import { useId } from 'react';
import { workOf } from '@yellowhammer/core/load/hours';
import type { Stretch } from '@yellowhammer/core/load/table';
import { sumsBetween } from '@yellowhammer/core/load/steps';
import { hoursText, unitsText } from '@yellowhammer/core/load/words';
import { MINUTES_PER_DAY } from '@yellowhammer/core/time/instant';
import { OverHatch } from '../app/OverHatch';
import { showDay } from '@yellowhammer/core/time/typed-date';

export type Measure = 'units' | 'hours' | 'cumulative';
interface Props {
  stretch: Stretch;
  width: number;
  height: number;
  measure: Measure;
}

/** Shades of one hue, told apart in grey as well. */
export const shadeOf = (n: number): string => `color-mix(in srgb, var(--slate) ${[100, 70, 45, 28][n % 4]}%, var(--paper))`;

export function StepGraph({ stretch: s, width, height, measure }: Props) {
  const hatch = useId();
  const { from, to } = s;
  const [left, bottom, top] = [34, 18, 16];
  const x = (t: number): number => left + ((t - from) / (to - from)) * (width - left - 8);
  const cumulative = measure === 'cumulative';
  const sums = cumulative ? cumulate(s) : null;
  const bars = measure === 'hours' ? hourBars(s) : null;
  const most = bars
    ? Math.max(...bars.demand, ...bars.there, workOf(1))
    : sums
      ? Math.max(sums.demand.at(-1) ?? 0, sums.there.at(-1) ?? 0, 1)
      : Math.max(...s.demand, ...s.there, 1000);
  const y = (v: number): number => height - bottom - (v / most) * (height - bottom - top);
  const days: number[] = [];
  const every = Math.max(1, Math.ceil((to - from) / MINUTES_PER_DAY / 14));
  for (let day = Math.ceil(from / MINUTES_PER_DAY); day * MINUTES_PER_DAY < to; day += every) days.push(day);
  const steps = (at: readonly number[], low: (n: number) => number, high: (n: number) => number): string => {
    let d = '';
    for (let n = 0; n + 1 < at.length; n++) {
      if (high(n) <= low(n)) continue;
      d += `M${x(at[n]!)} ${y(low(n))}V${y(high(n))}H${x(at[n + 1]!)}V${y(low(n))}Z`;
    }
    return d;
  };
  const line = (at: readonly number[], v: readonly number[]): string => at.map((t, n) => `${n === 0 ? 'M' : 'L'}${x(t)} ${y(v[n]!)}`).join('');
  const level = (at: readonly number[], v: readonly number[]): string => {
    let d = '';
    for (let n = 0; n + 1 < at.length; n++) d += `${n === 0 || v[n - 1] === 0 ? 'M' : 'L'}${x(at[n]!)} ${y(v[n]!)}H${x(at[n + 1]!)}`;
    return d;
  };
  const stacked = cumulative || bars ? [] : stack(s);
  return (
    <svg className="step-graph" width={width} height={height} role="img" aria-label={`${s.name}: demand against what is there`}>
      <OverHatch id={hatch} />
      {days.map((day) => (
        <g key={day}>
          <line className="step-day" x1={x(day * MINUTES_PER_DAY)} x2={x(day * MINUTES_PER_DAY)} y1={top - 6} y2={height - bottom} />
          <text className="step-label" x={x(day * MINUTES_PER_DAY) + 3} y={height - 5}>
            {showDay(day).replace(/ \d+$/, '')}
          </text>
        </g>
      ))}
      {bars ? (
        <>
          {bars.demand.map((v, n) => {
            const [a, b] = [x(bars.edges[n]!), x(bars.edges[n + 1]!)];
            const limit = s.limited ? bars.there[n]! : Infinity;
            return (
              <g key={bars.edges[n]}>
                {v > 0 && <rect x={a + 1} y={y(v)} width={Math.max(1, b - a - 2)} height={y(0) - y(v)} fill="var(--slate-light)" />}
                {v > limit + 0.5 && <rect x={a + 1} y={y(v)} width={Math.max(1, b - a - 2)} height={y(limit) - y(v)} fill={`url(#${hatch})`} />}
                {s.limited && limit > 0 && <path d={`M${a} ${y(limit)}H${b}`} stroke="var(--ink)" strokeWidth="1.5" />}
                {v > 0 && b - a > 26 && (
                  <text className="step-label" x={(a + b) / 2} y={y(v) - 3} textAnchor="middle">
                    {hoursText(v)}
                  </text>
                )}
              </g>
            );
          })}
          <text className="step-label" x={4} y={top + 2}>
            {hoursText(most)} h
          </text>
        </>
      ) : sums ? (
        <>
          <path d={line(sums.at, sums.there)} fill="none" stroke="var(--ink)" strokeDasharray="4 3" />
          <path d={line(sums.at, sums.demand)} fill="none" stroke="var(--slate)" strokeWidth="2" />
          <text className="step-label" x={4} y={top + 2}>
            {hoursText(most)} h
          </text>
        </>
      ) : (
        <>
          {stacked.map(({ at, low, high }, n) => (
            <path
              key={n}
              d={steps(
                at,
                (i) => low[i]!,
                (i) => high[i]!,
              )}
              fill={n < s.asks.length ? shadeOf(n) : 'var(--texture)'}
            />
          ))}
          {s.limited && (
            <path
              d={steps(
                s.at,
                (n) => s.there[n]!,
                (n) => (s.demand[n]! > s.there[n]! + 0.001 ? s.demand[n]! : 0),
              )}
              fill={`url(#${hatch})`}
            />
          )}
          {s.limited && <path d={level(s.at, s.there)} fill="none" stroke="var(--ink)" strokeWidth="1.5" />}
          {ticks(most).map((v) => (
            <text key={v} className="step-label" x={4} y={y(v) + 4}>
              {unitsText(v)}
            </text>
          ))}
        </>
      )}
    </svg>
  );
}

function ticks(most: number): number[] {
  const units = most / 1000;
  const step = units <= 6 ? 1 : Math.ceil(units / 5);
  return Array.from({ length: Math.floor(units / step) + 1 }, (_, n) => n * step * 1000);
}

/** Each who asks on top of those before, on common instants; at the end what is asked for by the rest. */
function stack(s: Stretch): { at: number[]; low: number[]; high: number[] }[] {
  const at = [...new Set([...s.at, ...s.asks.flatMap((a) => a.at)])].filter((t) => t >= s.from && t <= s.to).sort((a, b) => a - b);
  const value = (list: readonly number[], v: readonly number[]): ((t: number) => number) => {
    let n = -1;
    return (t) => {
      while (n + 1 < list.length && list[n + 1]! <= t) n++;
      return n < 0 ? 0 : v[n]!;
    };
  };
  let low = at.map(() => 0);
  const out = s.asks.map((a) => {
    const of = value(a.at, a.value);
    const base = low;
    low = at.map((t, n) => base[n]! + of(t));
    return { at, low: base, high: low };
  });
  const all = value(s.at, s.demand);
  return [...out, { at, low, high: at.map((t) => all(t)) }];
}

/** Hours of each day, or of each hour where the stretch is of a day or two. */
function hourBars(s: Stretch): { edges: number[]; demand: number[]; there: number[] } {
  const step = s.to - s.from <= 2 * MINUTES_PER_DAY ? 60 : MINUTES_PER_DAY;
  const edges: number[] = [s.from];
  for (let t = Math.floor(s.from / step + 1) * step; t < s.to; t += step) edges.push(t);
  edges.push(s.to);
  return { edges, demand: sumsBetween({ at: s.at, value: s.demand }, edges), there: sumsBetween({ at: s.at, value: s.there }, edges) };
}

function cumulate(s: Stretch): { at: number[]; demand: number[]; there: number[] } {
  const [demand, there] = [[0], [0]];
  for (let n = 1; n < s.at.length; n++) {
    const long = s.at[n]! - s.at[n - 1]!;
    demand.push(demand[n - 1]! + s.demand[n - 1]! * long);
    there.push(there[n - 1]! + s.there[n - 1]! * long);
  }
  return { at: s.at, demand, there };
}
