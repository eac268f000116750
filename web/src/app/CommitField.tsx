import { TextInput, type TextInputProps } from '@mantine/core';
import { type ChangeEvent, type KeyboardEvent, memo, useRef, useState } from 'react';

interface Props extends Omit<TextInputProps, 'value' | 'onChange' | 'onBlur' | 'onKeyDown' | 'error'> {
  value: string;
  /** Takes what was typed over; gives the reason back where it cannot. */
  onCommit: (text: string) => string | null;
  /** What it belongs to: where that changes, what was typed and not taken over is given up. */
  of?: string;
}

/** A field that is taken over on leaving it or with Enter. A wrong entry says why and keeps what was typed; Escape gives it up. */
export function CommitField({ value, onCommit, of, ...rest }: Props) {
  const [text, setText] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [owner, setOwner] = useState(of);
  if (owner !== of) {
    setOwner(of);
    setText(null);
    setError(null);
  }
  const commit = (): void => {
    if (text === null || text === value) return setText(null);
    const wrong = onCommit(text);
    setError(wrong);
    if (wrong === null) setText(null);
  };
  const now = useRef(commit);
  now.current = commit;
  // The same functions for all time: a field that shows what it showed is not drawn anew.
  const [hands] = useState(() => {
    const typed = (next: string | null): void => {
      setText(next);
      setError(null);
    };
    return {
      onChange: (e: ChangeEvent<HTMLInputElement>) => typed(e.currentTarget.value),
      onBlur: () => now.current(),
      onKeyDown: (e: KeyboardEvent) => {
        if (e.key === 'Enter') now.current();
        if (e.key === 'Escape') typed(null);
      },
    };
  });
  return <Shown {...rest} value={text ?? value} error={error} {...hands} />;
}

/** A dozen of these are most of what going to another row draws, and few of them say something else there. */
const Shown = memo(function Shown(props: TextInputProps) {
  return <TextInput {...props} />;
});
