'use client';

import type { ReactNode } from 'react';
import type { PanelProps } from '../panel';

export interface CardProps extends Pick<PanelProps, 'choices' | 'onTake'> {
  index: number;
  title: string;
  /** What stands in place of the button where there is nothing to take: all of it is marked, or planned, already. */
  taken: false | 'as marked' | 'now';
  children: ReactNode;
}

/** One choice; pointing at it shows it in the tracks. */
export function Card({ index, choices, onTake, title, taken, children }: CardProps) {
  const highlighted = choices.highlighted === index;
  return (
    <article
      aria-label={title}
      data-highlighted={highlighted}
      className={`rounded-xl border-2 px-3 py-2 ${highlighted ? 'border-spruce bg-paper' : 'border-line bg-sheet'}`}
      onMouseEnter={() => choices.highlight(index)}
      onFocus={() => choices.highlight(index)}
    >
      <div className="flex items-center justify-between gap-2">
        <h3 className="font-sans text-sm font-bold">{title}</h3>
        {taken ? (
          <span className="text-xs font-semibold text-spruce">{taken}</span>
        ) : (
          <button type="button" className="button min-h-7" onClick={() => onTake(index)}>
            Take
          </button>
        )}
      </div>
      {children}
    </article>
  );
}

export function Numbers({ rows }: { rows: ReadonlyArray<readonly [string, string, string]> }) {
  return (
    <dl className="mt-1 text-[13px]">
      {rows.map(([name, value, more]) => (
        <div key={name} className="flex justify-between gap-2">
          <dt className="whitespace-nowrap text-soft">{name}</dt>
          <dd className="text-right">
            <strong>{value}</strong> <span className="text-soft">{more}</span>
          </dd>
        </div>
      ))}
    </dl>
  );
}

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

export const sentence = (more: readonly string[], less: readonly string[]): string =>
  [more.length ? `Costs more: ${more.join(', ')}.` : '', less.length ? `Gains: ${less.join(', ')}.` : ''].filter(Boolean).join(' ');
