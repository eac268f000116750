import { useState } from 'react';

/** State that belongs to a key: another key begins with the initial value again. For entries that go when they are taken over, and stay when that is called off. */
export function useStateFor<T>(key: unknown, initial: T): [T, (value: T) => void] {
  const [state, setState] = useState({ key, value: initial });
  return [state.key === key ? state.value : initial, (value) => setState({ key, value })];
}
