/** What is free of a resource, in parts, against a plain list of minutes. */
import fc from 'fast-check';
import { Free } from '@yellowhammer/core/level/free';

/** Minutes 0 to 999 with what is free in each; outside nothing is. */
const END = 1000;
const first = (free: readonly number[], from: number, to: number, units: number): { from: number; until: number } | undefined => {
  for (let t = from; t < to; t++)
    if ((free[t] ?? 0) < units) {
      let until = t;
      while (until < END && (free[until] ?? 0) < units) until++;
      return { from: t, until: until < END ? until : Infinity };
    }
  return undefined;
};
const last = (free: readonly number[], from: number, to: number, units: number): number | undefined => {
  for (let t = to - 1; t >= from; t--)
    if ((free[t] ?? 0) < units) {
      while (t > 0 && (free[t - 1] ?? 0) < units) t--;
      return t;
    }
  return undefined;
};

test('parts agree with minutes, after any takes, forwards and backwards, also where a part is parted', () => {
  const span = fc.tuple(fc.nat(END - 1), fc.integer({ min: 1, max: 60 })).map(([from, n]) => [from, Math.min(from + n, END)] as const);
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 0, max: 4 })), { minLength: 200, maxLength: 300 }),
      fc.array(fc.tuple(span, fc.integer({ min: 1, max: 2 })), { maxLength: 80 }),
      fc.array(fc.tuple(span, fc.integer({ min: 1, max: 4 })), { minLength: 5, maxLength: 20 }),
      (lengths, takes, asks) => {
        const minutes: number[] = [];
        const at: number[] = [];
        const value: number[] = [];
        for (const [length, v] of lengths) {
          if (minutes.length >= END) break;
          at.push(minutes.length);
          value.push(v);
          for (let n = 0; n < length && minutes.length < END; n++) minutes.push(v);
        }
        const there = minutes.length;
        at.push(there);
        value.push(0);
        while (minutes.length < END) minutes.push(0);
        const whole = new Free({ at, value });
        const before = minutes.slice();
        const free = whole.copy();
        for (const [[from, to], units] of takes) {
          free.take(from, to, units);
          for (let t = from; t < to; t++) minutes[t]! -= units;
        }
        for (const [[from, to], units] of asks) {
          expect([from, to, units, free.blockedUntil(from, to, units)]).toEqual([from, to, units, first(minutes, from, to, units)]);
          expect([from, to, units, free.blockedSince(from, to, units)]).toEqual([from, to, units, last(minutes, from, to, units)]);
          // The one that it was copied from is as it was.
          expect(whole.blockedUntil(from, to, units)).toEqual(first(before, from, to, units));
        }
      },
    ),
  );
});

test('before its beginning nothing is free, and nothing is asked for', () => {
  const free = new Free({ at: [100, 200], value: [2, 0] });
  expect(free.blockedUntil(50, 120, 1)).toEqual({ from: 50, until: 100 });
  expect(free.blockedUntil(50, 60, 0)).toBeUndefined();
  expect(free.blockedUntil(150, 260, 2)).toEqual({ from: 200, until: Infinity });
  expect(free.blockedSince(150, 260, 2)).toBe(200);
  expect(free.blockedSince(110, 200, 2)).toBeUndefined();
});
