'use client';

import { useCallback } from 'react';
import type { Change } from '@/core/marking/change';
import type { Problem } from '@/ui/kit/problem';
import type { OpenedPart } from '@/ui/part/use-part';

const NOT_HERE: Problem = {
  place: null,
  what: 'This part is shown at another pitch than its file has, so that a wrong pitch cannot be corrected here.',
  remedy: 'Correct it in the file and bring that in as another edition; everything else can be marked.',
};

/** Writes marks: the one door for whatever changes them on the Desk. */
export function useChange({ own, view, setProblem }: OpenedPart, closeChoices: () => void) {
  const put = own.change;
  const isMoved = view.moved.concert || view.moved.octaves !== 0;
  return useCallback(
    (reason: string, changes: readonly Change[]) => {
      closeChoices();
      // A pitch would be written into the file as it is shown here, and not as the file has it.
      if (isMoved && changes.some(({ kind }) => kind === 'pitch' || kind === 'bar')) return setProblem(NOT_HERE);
      put(reason, changes);
    },
    [closeChoices, put, isMoved, setProblem],
  );
}
