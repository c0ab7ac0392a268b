'use client';

import type { ReactNode } from 'react';
import type { Sounds } from '@/core/instruments/as-told';
import { ProblemNote, type Problem } from '@/ui/kit/problem';

interface Props {
  problems: ReadonlyArray<Problem | null>;
  own: Problem | null;
  onCloseOwn(): void;
  /** Asked where the part is for something else than a bowed string instrument. */
  playedOn: ReactNode;
  /** Asked where a bass is tuned for solo pieces; null where there is nothing to ask. */
  ask: ((sounds: Sounds) => void) | null;
  /** What was changed elsewhere too, and whose stands. */
  clash: ReactNode;
  passagesChanged: string | null;
  onUndoPassages(): void;
  onDismissPassages(): void;
}

/** What the coach must know, above the score. */
export function Notices({ problems, own, onCloseOwn, playedOn, ask, clash, passagesChanged, onUndoPassages, onDismissPassages }: Props) {
  return (
    <div className="grid gap-2 px-3 pt-2 empty:hidden">
      {problems.map((problem) => problem && <ProblemNote key={problem.what} problem={problem} />)}
      {own && <ProblemNote problem={own} onClose={onCloseOwn} />}
      {playedOn}
      {ask && (
        <div role="group" aria-label="Solo tuning" className="flex flex-wrap items-center gap-2 rounded-lg border border-line bg-sheet px-3 py-2">
          <p className="grow">This bass is tuned a tone higher. Is the part written for the fingers (it sounds a tone higher than usual) or for the ear?</p>
          <button type="button" className="button" onClick={() => ask('tone-higher')}>
            For the fingers
          </button>
          <button type="button" className="button" onClick={() => ask('octave-lower')}>
            For the ear
          </button>
        </div>
      )}
      {clash}
      {passagesChanged && (
        <p role="status" className="flex items-center gap-3 rounded-lg border border-line bg-sheet px-3 py-1">
          <span className="grow">{passagesChanged}.</span>
          <button type="button" className="button min-h-7" onClick={onUndoPassages}>
            Undo
          </button>
          <button type="button" className="button min-h-7" onClick={onDismissPassages}>
            Fine
          </button>
        </p>
      )}
    </div>
  );
}
