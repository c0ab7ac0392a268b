'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { NoteChoice } from '@/core/left-hand/choices';
import type { BarRange } from '@/core/score/bars';
import type { Problem } from '@/ui/kit/problem';
import type { BowingChoice, Conditions, FingeringChoice } from '@/workers/analyst';
import type { RemoteAnalyst } from './use-analyst';

export type Suggestions = { kind: 'fingering'; items: FingeringChoice[] } | { kind: 'bowing'; items: BowingChoice[] };

/** Ways to play a note that are shown; more would not be compared any more. */
const SHOWN_CHOICES = 7;

/** What the Choices tab offers: suggestions for the passage while they are open, else every way to play the selected note. */
export function useChoices(analyst: RemoteAnalyst | null, conditions: Conditions, noteId: string | null, onProblem: (problem: Problem) => void) {
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
      void analyst.choices(conditions, noteId).then((items) => {
        if (gone) return;
        setOfNote({ noteId, items: items.slice(0, SHOWN_CHOICES) });
        setHighlighted(0);
      });
    }, 60);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [analyst, noteId, conditions, suggestions]);

  async function suggest(kind: 'fingering' | 'bowing', { fromBar, toBar }: BarRange): Promise<void> {
    if (!analyst) return;
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

  const shown = !suggestions && ofNote?.noteId === noteId ? ofNote : null;
  const count = suggestions?.items.length ?? shown?.items.length ?? 0;
  return {
    suggestions,
    ofNote: shown,
    highlighted,
    working,
    suggest,
    close,
    highlight: setHighlighted,
    step: (by: number) => setHighlighted((at) => Math.max(0, Math.min(count - 1, at + by))),
  };
}

export type Choices = ReturnType<typeof useChoices>;
