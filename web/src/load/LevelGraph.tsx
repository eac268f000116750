/** Most units at once before and after a proposal of levelling, against what is there. */
import { useId } from 'react';
import type { LevelPicture } from '@yellowhammer/core/level/picture';
import { unitsText } from '@yellowhammer/core/load/words';
import { MINUTES_PER_DAY } from '@yellowhammer/core/time/instant';
import { OverHatch } from '../app/OverHatch';
import { showDay } from '@yellowhammer/core/time/typed-date';

const HEIGHT = 140;

export function LevelGraph({ picture: p, width }: { picture: LevelPicture; width: number }) {
  const hatch = useId();
  const [left, bottom, top] = [30, 18, 8];
  const count = p.there.length;
  const most = Math.max(1000, ...p.before.peak, ...p.after.peak, ...p.there);
  const x = (n: number): number => left + (n / count) * (width - left - 4);
  const y = (v: number): number => HEIGHT - bottom - (v / most) * (HEIGHT - bottom - top);
  /** Steps without falls to nothing over nights off: a part without anybody is left out of the line. */
  const line = (values: readonly number[]): string => values.map((v, n) => (v > 0 ? `${n > 0 && values[n - 1]! > 0 ? 'L' : 'M'}${x(n)} ${y(v)}H${x(n + 1)}` : '')).join('');
  const every = Math.max(1, Math.ceil(count / 9));
  const step = Math.max(1, Math.ceil(most / 1000 / 5));
  return (
    <svg className="step-graph" width={width} height={HEIGHT} role="img" aria-label="Most units at once before and after">
      <OverHatch id={hatch} />
      {p.edges.map((t, n) =>
        n % every === 0 && n < count ? (
          <text key={t} className="step-label" x={x(n)} y={HEIGHT - 4}>
            {showDay(Math.floor(t / MINUTES_PER_DAY)).replace(/ \d+$/, '')}
          </text>
        ) : null,
      )}
      {Array.from({ length: Math.floor(most / 1000 / step) + 1 }, (_, n) => n * step * 1000).map((v) => (
        <text key={v} className="step-label" x={4} y={y(v) + 4}>
          {unitsText(v)}
        </text>
      ))}
      {p.after.peak.map((v, n) => (
        <g key={n}>
          {v > 0 && <rect x={x(n)} y={y(v)} width={Math.max(1, x(n + 1) - x(n) - 0.5)} height={y(0) - y(v)} fill="var(--slate-light)" />}
          {v > p.there[n]! && <rect x={x(n)} y={y(v)} width={Math.max(1, x(n + 1) - x(n) - 0.5)} height={y(p.there[n]!) - y(v)} fill={`url(#${hatch})`} />}
        </g>
      ))}
      <path d={line(p.there)} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      <path d={line(p.before.peak)} fill="none" stroke="var(--chestnut)" strokeWidth="1.5" strokeDasharray="3 2" />
    </svg>
  );
}
