'use client';

import { useRef, useState, type FocusEvent, type KeyboardEvent } from 'react';
import { LimitHint } from './limit';

interface Props {
  label: string;
  value: string;
  /** Characters. */
  limit: number;
  placeholder?: string;
  className?: string;
  /** It was opened for one answer: it has the focus, and gives one. */
  autoFocus?: boolean;
  /** What is wrong with it, in words: then it does not hold. */
  problem?(text: string): string | null;
  /** Told when the field is left or Enter is pressed, and only what is new; without spaces around. */
  onValue(value: string): void;
  /** Left without a new value. */
  onLeave?(): void;
}

/** Words that hold when the field is left; Escape gives back what stood there. */
export function TextField({ label, value, limit, placeholder, className = '', autoFocus = false, problem, onValue, onLeave }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? value;
  const wrong = typed === null ? null : (problem?.(text.trim()) ?? null);
  /** A field that goes away with its answer is also left: that is no second one. */
  const answered = useRef(false);
  const leave = () => {
    if (autoFocus && answered.current) return;
    answered.current = true;
    setTyped(null);
    const next = text.trim();
    if (next !== value) onValue(next);
    else onLeave?.();
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter' && wrong === null) leave();
    if (event.key !== 'Escape') return;
    answered.current = true;
    setTyped(null);
    onLeave?.();
  };
  return (
    <>
      <input
        autoFocus={autoFocus}
        aria-label={label}
        aria-invalid={wrong !== null}
        className={`field w-full ${className}`}
        placeholder={placeholder}
        maxLength={limit}
        value={text}
        onFocus={(event: FocusEvent<HTMLInputElement>) => {
          answered.current = false;
          if (autoFocus) event.target.select();
        }}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => wrong === null && (typed !== null || autoFocus) && leave()}
        onKeyDown={onKeyDown}
      />
      <LimitHint text={text} limit={limit} />
      {wrong && (
        <span role="alert" className="block text-xs text-plum">
          {wrong}
        </span>
      )}
    </>
  );
}
