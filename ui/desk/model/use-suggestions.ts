'use client';

import { useCallback, useRef, useState } from 'react';
import type { BarRange } from '@/core/score/bars';
import type { Problem } from '@/ui/kit/problem';
import type { RemoteAnalyst } from '@/ui/part/use-analyst';
import type { BowingChoice, Conditions, FingeringChoice } from '@/workers/questions';

export type Suggestions = { kind: 'fingering'; items: FingeringChoice[] } | { kind: 'bowing'; items: BowingChoice[] };

interface Asked {
  analyst: RemoteAnalyst | null;
  conditions: Conditions;
  passage: BarRange;
  onProblem(problem: Problem): void;
}

const NOT_MADE: Problem = { place: null, what: 'The suggestion could not be made.', remedy: 'Nothing was changed; try again, or reload the page.' };

/** Ways to play the passage, asked for by a key or a button and open until they are closed. */
export function useSuggestions({ analyst, conditions, passage, onProblem }: Asked) {
  const [suggestions, setSuggestions] = useState<Suggestions | null>(null);
  const [working, setWorking] = useState(false);
  /** An answer to an older question, about another passage or other marks, is dropped when it comes. */
  const latest = useRef(0);

  async function suggest(kind: Suggestions['kind']): Promise<void> {
    if (!analyst) return;
    const asked = ++latest.current;
    const { fromBar, toBar } = passage;
    const range = { fromBar, toBar };
    setWorking(true);
    try {
      const made: Suggestions =
        kind === 'fingering'
          ? { kind, items: await analyst.suggestFingering(conditions, range) }
          : { kind, items: await analyst.suggestBowing(conditions, range) };
      if (asked !== latest.current) return;
      setSuggestions(made);
    } catch {
      // A newer question has its own end.
      if (asked !== latest.current) return;
      onProblem(NOT_MADE);
    }
    setWorking(false);
  }

  const close = useCallback(() => {
    latest.current++;
    setWorking(false);
    setSuggestions(null);
  }, []);

  return { suggestions, working, suggest, close };
}
