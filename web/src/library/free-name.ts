/** A name that none has yet. */
export function freeName(others: readonly { name: string }[], wish: string): string {
  let name = wish;
  for (let n = 2; others.some((o) => o.name.toLowerCase() === name.toLowerCase()); n++) name = `${wish} ${n}`;
  return name;
}
