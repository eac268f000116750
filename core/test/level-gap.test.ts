/** The search that the bench measures levelling by, against trying every order; and levelling against it. */
import { type Instance, instanceOf, lowerBound, shortest } from '../../bench/exact';
import { levelledDays } from '../../bench/levelling';

/** The least days over all orders, each activity in turn as early as it fits. */
function byEveryOrder(p: Instance): number {
  let best = Infinity;
  const fits = (i: number, from: number, starts: readonly number[]): boolean => {
    for (let day = from; day < from + p.days[i]!; day++)
      for (let r = 0; r < p.there.length; r++) {
        let asked = p.asks[i]![r]!;
        starts.forEach((s, j) => (asked += s >= 0 && s <= day && day < s + p.days[j]! ? p.asks[j]![r]! : 0));
        if (asked > p.there[r]!) return false;
      }
    return true;
  };
  const next = (starts: readonly number[], left: readonly number[]): void => {
    if (left.length === 0) best = Math.min(best, Math.max(...starts.map((s, i) => s + p.days[i]!)));
    for (const i of left) {
      if (p.preds[i]!.some((k) => starts[k]! < 0)) continue;
      let at = Math.max(0, ...p.preds[i]!.map((k) => starts[k]! + p.days[k]!));
      while (!fits(i, at, starts)) at++;
      next(
        starts.map((s, j) => (j === i ? at : s)),
        left.filter((x) => x !== i),
      );
    }
  };
  next(
    p.days.map(() => -1),
    p.days.map((_, i) => i),
  );
  return best;
}

test('the shortest schedule is the shortest of all orders; a proposal is never shorter, and seldom longer', () => {
  let longer = 0;
  for (let seed = 1; seed <= 20; seed++) {
    const whole = instanceOf(seed, 6);
    const p = { ...whole, preds: whole.preds.map((list, i) => (i % 3 === 0 ? [] : list)) };
    const best = shortest(p, 1000, 100_000);
    expect([seed, best.proven, best.days]).toEqual([seed, true, byEveryOrder(p)]);
    const days = levelledDays(p, 40);
    expect(days).toBeGreaterThanOrEqual(best.days);
    expect(best.days).toBeGreaterThanOrEqual(lowerBound(p));
    if (days > best.days) longer++;
  }
  expect(longer).toBeLessThan(5);
});
