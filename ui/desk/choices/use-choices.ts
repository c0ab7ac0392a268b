'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { BowChoice } from '@/core/bow-arm/choices';
import type { NoteChoice } from '@/core/left-hand/choices';
import type { BarRange } from '@/core/score/bars';
import type { Problem } from '@/ui/kit/problem';
import type { BowingChoice, Conditions, FingeringChoice } from '@/workers/analyst';
import type { RemoteAnalyst } from '@/ui/part/use-analyst';

export type Suggestions = { kind: 'fingering'; items: FingeringChoice[] } | { kind: 'bowing'; items: BowingChoice[] };

/** Ways to play a note that are shown; more would not be compared any more. */
const SHOWN_CHOICES = 7;

/** Which hand the choices for a note are about. */
export type Hand = 'left' | 'bow';

/**
 * What the Choices tab offers: suggestions for the passage while they are open, else every way to play the selected note,
 * or everything that the bow could do there.
 */
export function useChoices(
  analyst: RemoteAnalyst | null,
  conditions: Conditions,
  noteId: string | null,
  passage: BarRange,
  onProblem: (problem: Problem) => void,
) {
  const { fromBar, toBar } = passage;
  const [hand, setHand] = useState<Hand>('left');
  const [ofBow, setOfBow] = useState<{ noteId: string; items: BowChoice[] } | null>(null);
  const [suggestions, setSuggestions] = useState<Suggestions | null>(null);
  const [ofNote, setOfNote] = useState<{ noteId: string; items: NoteChoice[] } | null>(null);
  const [highlighted, setHighlighted] = useState(0);
  const [working, setWorking] = useState(false);
  /** An answer to an older question, about another passage or other marks, is dropped when it comes. */
  const latest = useRef(0);

  // Choices for a note follow the selection and every change of the marking.
  useEffect(() => {
    if (!analyst || !noteId || suggestions) return;
    let gone = false;
    const timer = setTimeout(() => {
      const asked =
        hand === 'left'
          ? analyst.choices(conditions, noteId).then((items) => !gone && setOfNote({ noteId, items: items.slice(0, SHOWN_CHOICES) }))
          : analyst.bowChoices(conditions, noteId, { fromBar, toBar }).then((items) => !gone && setOfBow({ noteId, items }));
      void asked.then(() => !gone && setHighlighted(0));
    }, 60);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [analyst, noteId, conditions, suggestions, hand, fromBar, toBar]);

  async function suggest(kind: 'fingering' | 'bowing'): Promise<void> {
    if (!analyst) return;
    setHand(kind === 'fingering' ? 'left' : 'bow');
    const asked = ++latest.current;
    setWorking(true);
    try {
      const range = { fromBar, toBar };
      const made: Suggestions =
        kind === 'fingering'
          ? { kind, items: await analyst.suggestFingering(conditions, range) }
          : { kind, items: await analyst.suggestBowing(conditions, range) };
      if (asked !== latest.current) return;
      setSuggestions(made);
      setHighlighted(0);
    } catch {
      onProblem({ place: null, what: 'The suggestion could not be made.', remedy: 'Nothing was changed; try again, or reload the page.' });
    }
    setWorking(false);
  }

  const close = useCallback(() => {
    latest.current++;
    setWorking(false);
    setSuggestions(null);
  }, []);

  const shown = !suggestions && hand === 'left' && ofNote?.noteId === noteId ? ofNote : null;
  const shownBow = !suggestions && hand === 'bow' && ofBow?.noteId === noteId ? ofBow : null;
  const count = suggestions?.items.length ?? shown?.items.length ?? shownBow?.items.length ?? 0;
  return {
    hand,
    setHand,
    suggestions,
    ofNote: shown,
    ofBow: shownBow,
    highlighted,
    working,
    suggest,
    close,
    highlight: setHighlighted,
    step: (by: number) => setHighlighted((at) => Math.max(0, Math.min(count - 1, at + by))),
  };
}

export type Choices = ReturnType<typeof useChoices>;
