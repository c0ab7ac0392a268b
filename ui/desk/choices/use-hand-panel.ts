'use client';

import { useEffect, useMemo, useState } from 'react';
import type { Player } from '@/core/instruments/player';
import type { HandAdvice } from '@/core/left-hand/advice';
import { frameAt } from '@/core/left-hand/frame';
import type { FingeredNote } from '@/core/left-hand/fingering';
import { changeTo, type Change } from '@/core/marking/change';
import type { Marking } from '@/core/marking/mark';
import type { BarRange } from '@/core/score/bars';
import type { Conditions } from '@/workers/analyst';
import type { HandPanelProps } from './hand-panel';
import type { RemoteAnalyst } from '@/ui/part/use-analyst';

interface Question {
  analyst: RemoteAnalyst | null;
  conditions: Conditions;
  marking: Marking;
  /** As planned, and as the tracks show them with the choice that is pointed at. */
  planned: readonly FingeredNote[];
  notes: readonly FingeredNote[];
  person: Player;
  passage: BarRange;
  focus: string | null;
  /** The left-hand side is open. */
  wanted: boolean;
  onChange(reason: string, changes: readonly Change[]): void;
  onSettings(): void;
}

/** Everything the left-hand side of the Choices tab shows about the selection and its passage. */
export function useHandPanel({ analyst, conditions, marking, planned, notes, person, passage, focus, wanted, onChange, onSettings }: Question): HandPanelProps {
  const { fromBar, toBar } = passage;
  const advice = useAdvice(analyst, conditions, { fromBar, toBar }, wanted);
  const frame = useMemo(() => (wanted && focus ? frameAt({ notes: planned }, focus, person) : null), [wanted, planned, focus, person]);
  const previewed = useMemo(() => (wanted && focus ? frameAt({ notes }, focus, person) : null), [wanted, notes, focus, person]);

  function onAdvice({ take, text }: HandAdvice) {
    if (!take) return;
    const { noteId, finger, string } = take;
    const changes = [
      changeTo(marking, noteId, 'finger', { value: finger, origin: 'suggestion' }),
      changeTo(marking, noteId, 'string', { value: String(string), origin: 'suggestion' }),
    ].filter((change) => change !== null);
    if (changes.length) onChange(text.split(':')[0]!, changes);
  }

  return { person, preferences: conditions.preferences, frame, previewed, focus, advice, onAdvice, onSettings };
}

function useAdvice(analyst: RemoteAnalyst | null, conditions: Conditions, { fromBar, toBar }: BarRange, wanted: boolean): readonly HandAdvice[] | null {
  const [found, setFound] = useState<{ fromBar: number; toBar: number; advice: readonly HandAdvice[] } | null>(null);
  useEffect(() => {
    if (!analyst || !wanted) return;
    let gone = false;
    void analyst.handAside(conditions, { fromBar, toBar }).then((advice) => {
      if (!gone) setFound({ fromBar, toBar, advice });
    });
    return () => {
      gone = true;
    };
  }, [analyst, conditions, fromBar, toBar, wanted]);
  return found?.fromBar === fromBar && found.toBar === toBar ? found.advice : null;
}
