import { unusedName } from '@yellowhammer/core/model/unused-name';

/** A name that none has yet. */
export function freeName(others: readonly { name: string }[], wish: string): string {
  return unusedName(
    wish,
    others.map((o) => o.name),
    100,
  );
}
