'use client';

import type { Difference } from '@/core/editions/differences';
import { PlaceButton, TextButton } from '@/ui/kit/button';
import { pitchSigns } from '@/ui/kit/music';

interface CardProps {
  difference: Difference;
  focused: boolean;
  left: boolean;
  working: boolean;
  onFocus(): void;
  onTake(): void;
  onLeave(leave: boolean): void;
}

/** What differs at one place, and to take it over or leave it. */
export function DifferenceCard({ difference, focused, left, working, onFocus, onTake, onLeave }: CardProps) {
  const { at, kind, ours, theirs, take } = difference;
  const say = (text: string) => (kind === 'pitch' || kind === 'note' || kind === 'bar' ? text.split(' ').map(pitchSigns).join(' ') : text);
  return (
    <article
      aria-label={`${kind} at ${at}`}
      className={`rounded-xl border-2 px-3 py-2 text-[13px] ${focused ? 'border-spruce bg-paper' : 'border-line'} ${left ? 'border-dashed text-soft' : ''}`}
    >
      <div className="flex items-baseline justify-between gap-2">
        <PlaceButton onClick={onFocus}>{at}</PlaceButton>
        <span className="text-xs text-soft">{kind}</span>
      </div>
      <dl className="grid grid-cols-[auto_1fr] gap-x-2">
        <dt className="text-soft">yours</dt>
        <dd>{say(ours)}</dd>
        <dt className="text-soft">other</dt>
        <dd className="font-semibold">{say(theirs)}</dd>
      </dl>
      <div className="mt-1 flex gap-3 text-xs">
        {left ? (
          <TextButton onClick={() => onLeave(false)}>look at it again</TextButton>
        ) : (
          <>
            {take ? (
              <TextButton className="font-semibold text-spruce" disabled={working} onClick={onTake}>
                take over
              </TextButton>
            ) : (
              <span className="min-h-6 text-soft">comes only with the whole file</span>
            )}
            <TextButton onClick={() => onLeave(true)}>leave</TextButton>
          </>
        )}
      </div>
    </article>
  );
}
