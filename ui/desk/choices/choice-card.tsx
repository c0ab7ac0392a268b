'use client';

import type { ReactNode } from 'react';
import { Button } from '@/ui/kit/button';
import { deskDeeds } from '../model/deeds';
import { useDesk } from '../model/desk';

interface CardProps {
  index: number;
  title: string;
  /** What stands in place of the button where there is nothing to take: all of it is marked, or planned, already. */
  taken: false | 'as marked' | 'now';
  /** It is what is planned, and can still be written down. */
  onKeep?: (() => void) | false;
  children: ReactNode;
}

/** One choice; pointing at it shows it in the tracks. */
export function Card({ index, title, taken, onKeep, children }: CardProps) {
  const desk = useDesk();
  const { highlighted, highlight } = desk.choices;
  const isPointed = highlighted === index;
  return (
    <article
      aria-label={title}
      data-highlighted={isPointed}
      className={`rounded-xl border-2 px-3 py-2 ${isPointed ? 'border-spruce bg-paper' : 'border-line bg-sheet'}`}
      onMouseEnter={() => highlight(index)}
      onFocus={() => highlight(index)}
    >
      <div className="flex items-center justify-between gap-2">
        <h3 className="font-sans text-sm font-bold">{title}</h3>
        {taken ? (
          <span className="flex items-center gap-2 text-xs font-semibold text-spruce">
            {taken}
            {onKeep && (
              <Button small onClick={onKeep}>
                Mark it
              </Button>
            )}
          </span>
        ) : (
          <Button small onClick={() => deskDeeds(desk).take(index)}>
            Take
          </Button>
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
