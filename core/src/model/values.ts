/** Where values of code sets and own fields lie in a row: by key, in its store of values. */
import type { StoredValue, StoredValues } from './schema.ts';

/** Under which key the values of a code set, or of an own field, lie: also the key of its column. */
export const codeKey = (setId: string): string => `code:${setId}`;
export const ownKey = (fieldId: string): string => `own:${fieldId}`;

/** The stored values of a row with one of them set; null takes it out. */
export function withValue(row: { values: StoredValues }, key: string, value: StoredValue | null): { values: StoredValues } {
  const { [key]: _, ...rest } = row.values;
  return { values: value === null ? rest : { ...rest, [key]: value } };
}
