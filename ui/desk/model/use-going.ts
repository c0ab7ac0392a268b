'use client';

import { useCallback, type RefObject } from 'react';
import { noteById } from '@/core/score/find';
import type { Passage } from '@/core/score/passages';
import type { Note, Part } from '@/core/score/score';

interface Asked {
  part: Part | null;
  passages: readonly Passage[];
  passage: Passage;
  /** Notes in the order in which they are walked through. */
  order: readonly Note[];
  score: RefObject<HTMLDivElement | null>;
  setCurrent(index: number): void;
  pick(noteId: string, extend: boolean): void;
  clear(): void;
  closeChoices(): void;
}

/** Ways to get somewhere: to a note, a bar, a passage; the score has the keys afterwards. */
export function useGoing({ part, passages, passage, order, score, setCurrent, pick, clear, closeChoices }: Asked) {
  const focusScore = () => score.current?.focus({ preventScroll: true });

  function openPassage(index: number): void {
    if (index < 0 || index >= passages.length) return;
    setCurrent(index);
    closeChoices();
    clear();
    focusScore();
    score.current?.scrollTo({ top: 0 });
  }

  const go = useCallback(
    (noteId: string, extend = false) => {
      const note = part && noteById(part, noteId);
      if (!note) return;
      if (note.barIndex < passage.fromBar || note.barIndex > passage.toBar) {
        const found = passages.findIndex((each) => note.barIndex >= each.fromBar && note.barIndex <= each.toBar);
        if (found >= 0) setCurrent(found);
        closeChoices();
      }
      pick(noteId, extend);
      score.current?.focus({ preventScroll: true });
    },
    [part, passages, passage.fromBar, passage.toBar, pick, setCurrent, closeChoices, score],
  );

  function goToBar(barIndex: number): void {
    const note = order.find((each) => each.barIndex >= barIndex);
    if (note && note.barIndex === barIndex) go(note.id);
    else openPassage(passages.findIndex((each) => barIndex >= each.fromBar && barIndex <= each.toBar));
  }

  return { focusScore, openPassage, go, goToBar };
}
