import { TextInput, type TextInputProps } from '@mantine/core';
import { useState } from 'react';

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
  return (
    <TextInput
      {...rest}
      value={text ?? value}
      error={error}
      onChange={(e) => {
        setText(e.currentTarget.value);
        setError(null);
      }}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') commit();
        if (e.key === 'Escape') {
          setText(null);
          setError(null);
        }
      }}
    />
  );
}
