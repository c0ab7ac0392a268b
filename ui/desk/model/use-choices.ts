'use client';

import { useState } from 'react';
import type { BarRange } from '@/core/score/bars';
import type { Problem } from '@/ui/kit/problem';
import { useAnalysed, type RemoteAnalyst } from '@/ui/part/use-analyst';
import type { Conditions } from '@/workers/questions';
import { useSuggestions, type Suggestions } from './use-suggestions';

/** Ways to play a note that are shown; more would not be compared any more. */
const SHOWN_CHOICES = 7;

/** Who walks through the notes does not ask about each. */
const REST_MS = 90;

/** Which hand the choices for a note are about. */
export type Hand = 'left' | 'bow';

interface Asked {
  analyst: RemoteAnalyst | null;
  conditions: Conditions;
  noteId: string | null;
  passage: BarRange;
  onProblem(problem: Problem): void;
}

/**
 * What the Choices tab offers: suggestions for the passage while they are open, else every way to play the selected note,
 * or everything that the bow could do there.
 */
export function useChoices({ analyst, conditions, noteId, passage, onProblem }: Asked) {
  const [hand, setHand] = useState<Hand>('left');
  const [highlighted, setHighlighted] = useState(0);
  const { suggestions, working, suggest, close } = useSuggestions({ analyst, conditions, passage, onProblem });
  const about = { analyst, conditions, noteId, passage, wanted: !suggestions };
  const asked = { left: useNoteChoices({ ...about, hand: hand === 'left' }), bow: useBowChoices({ ...about, hand: hand === 'bow' }) };
  const ofNote = hand === 'left' ? asked.left.value : null;
  const ofBow = hand === 'bow' ? asked.bow.value : null;

  // With a new list the first of it is the one that is pointed at.
  const list: readonly unknown[] | null = suggestions?.items ?? ofNote?.items ?? ofBow?.items ?? null;
  const [listed, setListed] = useState(list);
  if (list !== listed) {
    setListed(list);
    setHighlighted(0);
  }
  return {
    hand,
    setHand,
    suggestions,
    ofNote,
    ofBow,
    /** The choices for the note could not be worked out. */
    unanswered: asked[hand],
    highlighted,
    working,
    suggest: (kind: Suggestions['kind']) => {
      setHand(kind === 'fingering' ? 'left' : 'bow');
      void suggest(kind);
    },
    close,
    highlight: setHighlighted,
    step: (by: number) => setHighlighted((at) => Math.max(0, Math.min((list?.length ?? 0) - 1, at + by))),
  };
}

export type Choices = ReturnType<typeof useChoices>;

interface OfNote extends Pick<Asked, 'analyst' | 'conditions' | 'noteId' | 'passage'> {
  wanted: boolean;
  hand: boolean;
}

function useNoteChoices({ analyst, conditions, noteId, wanted, hand }: OfNote) {
  const answer = useAnalysed({
    analyst,
    conditions,
    of: ['choices', noteId ?? ''],
    wanted: wanted && hand && noteId !== null,
    keep: true,
    restMs: REST_MS,
    ask: async (of) => ({ noteId, items: (await of.choices(conditions, noteId!)).slice(0, SHOWN_CHOICES) }),
  });
  return { ...answer, value: wanted && answer.value?.noteId === noteId ? answer.value : null };
}

function useBowChoices({ analyst, conditions, noteId, passage: { fromBar, toBar }, wanted, hand }: OfNote) {
  const answer = useAnalysed({
    analyst,
    conditions,
    of: ['bow choices', noteId ?? '', fromBar, toBar],
    wanted: wanted && hand && noteId !== null,
    keep: true,
    restMs: REST_MS,
    ask: async (of) => ({ noteId, items: await of.bowChoices(conditions, noteId!, { fromBar, toBar }) }),
  });
  return { ...answer, value: wanted && answer.value?.noteId === noteId ? answer.value : null };
}
