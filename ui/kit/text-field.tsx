'use client';

import { useState, type FocusEvent, type KeyboardEvent } from 'react';
import { LimitHint } from './limit';

interface Props {
  label: string;
  value: string;
  /** Characters. */
  limit: number;
  placeholder?: string;
  className?: string;
  autoFocus?: boolean;
  /** Told when the field is left or Enter is pressed, and only what is new; without spaces around. */
  onValue(value: string): void;
  /** Left without a new value. */
  onLeave?(): void;
}

/** Words that hold when the field is left; Escape gives back what stood there. */
export function TextField({ label, value, limit, placeholder, className = '', autoFocus, onValue, onLeave }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? value;
  const commit = () => {
    const next = text.trim();
    setTyped(null);
    if (next !== value) onValue(next);
    else onLeave?.();
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter') commit();
    if (event.key === 'Escape') {
      setTyped(null);
      onLeave?.();
    }
  };
  return (
    <>
      <input
        autoFocus={autoFocus}
        aria-label={label}
        className={`field w-full ${className}`}
        placeholder={placeholder}
        maxLength={limit}
        value={text}
        onFocus={(event: FocusEvent<HTMLInputElement>) => autoFocus && event.target.select()}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => (typed !== null || autoFocus) && commit()}
        onKeyDown={onKeyDown}
      />
      <LimitHint text={text} limit={limit} />
    </>
  );
}
