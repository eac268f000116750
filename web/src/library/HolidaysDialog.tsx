import { Checkbox, Modal, Select, TextInput } from '@mantine/core';
import { useEffect, useState } from 'react';
import type { Calendar, Exception } from '@yellowhammer/core/model/schema';
import { resolveCalendar } from '@yellowhammer/core/schedule/calendars';
import { exceptionCovers } from '@yellowhammer/core/time/calendar';
import { parseDay, weekdayOf } from '@yellowhammer/core/time/instant';
import { showDay, weekdayNames } from '@yellowhammer/core/time/typed-date';
import { useHolidays } from '../app/useHolidays';
import { useDoc } from '../project/hooks';

interface Props {
  row: Calendar;
  /** Years of the project, to begin with. */
  years: string;
  onClose: () => void;
  onTake: (list: Exception[]) => void;
}

/** Reads `2026, 2027` or `2026-2028`; undefined where it cannot be read. */
function yearsOf(text: string): number[] | undefined {
  const years = new Set<number>();
  for (const part of text.split(/[,;\s]+/).filter(Boolean)) {
    const m = /^(\d{4})(?:[-–](\d{4}))?$/.exec(part);
    if (!m) return undefined;
    for (let y = Number(m[1]); y <= Number(m[2] ?? m[1]) && years.size <= 20; y++) years.add(y);
  }
  return years.size > 0 && years.size <= 20 && [...years].every((y) => y >= 1990 && y <= 2199) ? [...years] : undefined;
}

/** Public holidays of a country and region, shown before they are taken. */
export function HolidaysDialog({ row, years, onClose, onTake }: Props) {
  const { doc } = useDoc();
  const [typed, setTyped] = useState(years);
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const known = resolveCalendar(doc.calendars, row.id)?.exceptions ?? [];
  const list = yearsOf(typed);
  const { countries, regions, country, region, choose, setRegion, found, problem } = useHolidays(list?.join(','));
  useEffect(() => setLeft(new Set()), [found]);
  /** Already free by an exception: taking it again would change nothing. */
  const there = (h: Exception): boolean => known.some((e) => e.work.length === 0 && exceptionCovers(e, parseDay(h.from) ?? 0) && exceptionCovers(e, parseDay(h.to) ?? 0));
  const taken = (found ?? []).filter((h, i) => !left.has(i) && !there(h));
  return (
    <Modal opened onClose={onClose} title={`Holidays for ${row.name}`} size="lg">
      <div className="holiday-form">
        <Select label="Country" searchable data={countries} value={country} onChange={choose} placeholder="Choose a country" data-autofocus />
        <Select
          label="Region"
          searchable
          clearable
          data={regions}
          value={region}
          onChange={setRegion}
          disabled={regions.length === 0}
          placeholder={country && regions.length === 0 ? 'none known' : 'the whole country'}
        />
        <TextInput
          label="Years"
          value={typed}
          error={list ? undefined : 'Type years as 2026, 2027 or 2026-2028, at most twenty.'}
          onChange={(e) => setTyped(e.currentTarget.value)}
        />
      </div>
      {problem && <p className="critical-text">{problem}</p>}
      {!country && (
        <p className="muted">Public and bank holidays are shown here first. They come from a package that ships with the application; check them against your contract.</p>
      )}
      {found && (
        <div className="holiday-list">
          <table className="table">
            <tbody>
              {found.map((h, i) => (
                <tr key={`${h.from} ${h.name}`}>
                  <td>
                    <Checkbox
                      size="xs"
                      label={h.name}
                      checked={!left.has(i) && !there(h)}
                      disabled={there(h)}
                      onChange={(e) => {
                        const next = new Set(left);
                        if (e.currentTarget.checked) next.delete(i);
                        else next.add(i);
                        setLeft(next);
                      }}
                    />
                  </td>
                  <td>
                    {weekdayNames[weekdayOf(parseDay(h.from) ?? 0)]} {showDay(parseDay(h.from) ?? 0)}
                    {h.to !== h.from && ` to ${showDay(parseDay(h.to) ?? 0)}`}
                  </td>
                  <td className="muted">{there(h) ? 'free already' : ''}</td>
                </tr>
              ))}
              {found.length === 0 && (
                <tr>
                  <td className="muted">No public holidays are known for these years.</td>
                </tr>
              )}
            </tbody>
          </table>
        </div>
      )}
      <div className="update-actions">
        <button
          type="button"
          className="dark-button"
          disabled={taken.length === 0}
          onClick={() => {
            onTake(taken);
            onClose();
          }}
        >
          {taken.length === 1 ? 'Take one holiday' : `Take ${taken.length} holidays`}
        </button>
        <button type="button" className="light-button" onClick={onClose}>
          Cancel
        </button>
      </div>
    </Modal>
  );
}
