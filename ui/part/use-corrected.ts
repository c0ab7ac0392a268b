'use client';

import { useEffect, useEffectEvent, useState } from 'react';
import { correctionsOf } from '@/core/marking/corrections';
import type { Marking } from '@/core/marking/mark';
import type { Part } from '@/core/score/score';
import type { Problem } from '@/ui/kit/problem';
import type { OpenPart } from '@/workers/questions';
import type { RemoteAnalyst } from './remote-analyst';

const NOT_CORRECTED: Problem = {
  place: null,
  what: 'The corrected notes could not be shown.',
  remedy: 'They are kept with the marks. Take the last correction back (Ctrl+Z), or reload.',
};

interface Asked {
  analyst: RemoteAnalyst | null;
  opened: OpenPart | null;
  /** What the marks that are shown correct. */
  shown: Marking;
  onProblem(problem: Problem): void;
}

/** The part with its notes and clefs as they are corrected; what it was before until that is read. */
export function useCorrected({ analyst, opened, shown, onProblem }: Asked): Part | null {
  const said = correctionsOf(shown);
  const [made, setMade] = useState<{ of: OpenPart; part: Part } | null>(null);
  const ask = useEffectEvent((of: RemoteAnalyst) => of.corrected(shown));
  const fail = useEffectEvent(() => onProblem(NOT_CORRECTED));
  useEffect(() => {
    if (!analyst || !opened || said === '') return;
    let gone = false;
    ask(analyst).then(
      (part) => gone || setMade({ of: opened, part }),
      () => gone || fail(),
    );
    return () => {
      gone = true;
    };
  }, [analyst, opened, said]);
  if (!opened) return null;
  return said !== '' && made?.of === opened ? made.part : opened.part;
}
