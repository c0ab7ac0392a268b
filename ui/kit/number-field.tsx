'use client';

import { useState } from 'react';

interface Range {
  least: number;
  most: number;
  /** Steps that are kept; .1 where tenths matter. */
  step?: number;
}

interface Props {
  label: string;
  title?: string;
  value: number | null;
  range: Range;
  /** What holds where nothing is typed; without it something must be. */
  placeholder?: string;
  className?: string;
  /** Told when the field is left or Enter is pressed, and only what is valid and new. */
  onValue(value: number | null): void;
}

const rangeSaid = ({ least, most }: Range): string => `${least} to ${most}`;

/** The number that was typed: null for none, undefined where it is out of range or no number. */
export function typedNumber(text: string, { least, most, step = 1 }: Range): number | null | undefined {
  const said = text.trim().replace(',', '.');
  if (said === '') return null;
  const value = Number(said);
  return Number.isFinite(value) && value >= least && value <= most ? Number((Math.round(value / step) * step).toFixed(6)) : undefined;
}

/** A number that is typed, minded before it holds, and given back where it makes no sense. */
export function NumberField({ label, title, value, range, placeholder, className = '', onValue }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const number = typed === null ? value : typedNumber(typed, range);
  const valid = number !== undefined && (number !== null || placeholder !== undefined);
  const commit = () => {
    if (typed === null || !valid) return;
    setTyped(null);
    if (number !== value) onValue(number);
  };
  return (
    <>
      <input
        aria-label={label}
        title={title}
        inputMode="decimal"
        className={`field text-right ${valid ? '' : 'text-plum'} ${className}`}
        aria-invalid={!valid}
        placeholder={placeholder}
        value={typed ?? value ?? ''}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === 'Enter') commit();
          if (event.key === 'Escape') setTyped(null);
        }}
      />
      {!valid && (
        <span role="alert" className="text-xs text-plum">
          {rangeSaid(range)}
        </span>
      )}
    </>
  );
}
