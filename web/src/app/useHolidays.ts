/** Holidays of a country and a region, as the server's package has them. */
import { useEffect, useState } from 'react';
import type { Exception } from '@yellowhammer/core/model/schema';
import { call } from '../project/api';

export interface HolidayChoice {
  countries: { value: string; label: string }[];
  regions: { value: string; label: string }[];
  country: string | null;
  region: string | null;
  choose: (country: string | null) => void;
  setRegion: (region: string | null) => void;
  /** Null until a country is chosen and its holidays are there. */
  found: Exception[] | null;
  problem: string;
}

const options = (names: Record<string, string>): { value: string; label: string }[] =>
  Object.entries(names)
    .map(([value, label]) => ({ value, label }))
    .sort((a, b) => (a.label < b.label ? -1 : 1));

/** `years`: `2026,2027`; undefined while they cannot be read. */
export function useHolidays(years: string | undefined, active = true): HolidayChoice {
  const [countries, setCountries] = useState<Record<string, string>>({});
  const [regions, setRegions] = useState<Record<string, string>>({});
  const [country, setCountry] = useState<string | null>(null);
  const [region, setRegion] = useState<string | null>(null);
  const [found, setFound] = useState<Exception[] | null>(null);
  const [problem, setProblem] = useState('');
  useEffect(() => {
    if (!active) return;
    void call<{ countries: Record<string, string> }>('GET', '/holidays').then((r) =>
      r.ok ? setCountries(r.value.countries) : setProblem('The list of countries cannot be reached now.'),
    );
  }, [active]);
  useEffect(() => {
    if (!country || !years) return;
    let gone = false;
    void call<{ holidays: Exception[] }>('GET', `/holidays/${country}?years=${years}${region ? `&region=${encodeURIComponent(region)}` : ''}`).then((r) => {
      if (gone) return;
      setProblem(r.ok ? '' : r.problems.map((p) => p.message).join(' '));
      setFound(r.ok ? r.value.holidays : null);
    });
    return () => {
      gone = true;
    };
  }, [country, region, years]);
  const choose = (v: string | null): void => {
    setCountry(v);
    setRegion(null);
    setRegions({});
    setFound(null);
    if (v) void call<{ regions: Record<string, string> }>('GET', `/holidays/${v}/regions`).then((r) => r.ok && setRegions(r.value.regions));
  };
  return { countries: options(countries), regions: options(regions), country, region, choose, setRegion, found, problem };
}
