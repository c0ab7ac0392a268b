'use client';

import { barChanges, barMark, type BarCorrection } from '@/core/marking/bar-correction';
import { written } from '@/core/marking/change';
import { placeTarget } from '@/core/marking/target';
import { sayBar } from '@/core/score/address';
import type { Part } from '@/core/score/score';
import type { Problem } from '@/ui/kit/problem';
import { useDesk } from '../model/desk';

const NOT_READ: Problem = { place: null, what: 'The bar could not be corrected.', remedy: 'Nothing was changed; try again, or correct it in its file.' };

/** Corrects the notes of a bar: what the marks of its notes become is known when it has been read anew. */
export function useCorrecting(): (barIndex: number, text: string, why: string) => Promise<void> {
  const { analyst, marking, view, change, setProblem, pick, focus } = useDesk();
  return async (barIndex, text, why) => {
    const { file, print } = view;
    if (!analyst || !file || !print) return;
    const correction: BarCorrection = { file, print, marking, barIndex, text, why: why.trim() };
    const to = barMark(correction);
    try {
      const after = await analyst.corrected(written(marking, [{ target: placeTarget(barIndex, 0), kind: 'bar', from: null, to }]));
      change(`Notes of bar ${sayBar(print.bars, barIndex)}${to === null ? ' as printed' : ''}`, barChanges(correction, after));
      const next = focus && stillThere(after, focus.barIndex, focus.tick);
      if (next) pick(next, false);
    } catch {
      setProblem(NOT_READ);
    }
  };
}

/** The note that is there now, or begins next. */
const stillThere = (part: Part, barIndex: number, tick: number): string | undefined =>
  (part.notes.find((note) => note.barIndex === barIndex && note.tick >= tick && !note.tiedFrom) ?? part.notes.findLast((note) => note.barIndex === barIndex))
    ?.id;
