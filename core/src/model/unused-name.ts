/**
 * The wished name, or with the first number from 2 behind it that makes it one which is not there, whatever the case; never
 * longer than `most` characters: the wish gives way, since the number must be seen.
 */
export function unusedName(wish: string, there: Iterable<string>, most: number, between = ' '): string {
  const taken = new Set([...there].map((t) => t.toLowerCase()));
  let name = wish.slice(0, most);
  for (let n = 2; taken.has(name.toLowerCase()); n++) {
    const end = `${between}${n}`;
    name = wish.slice(0, most - end.length) + end;
  }
  return name;
}
