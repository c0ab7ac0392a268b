'use client';

import { useMemo } from 'react';
import type { HandAdvice } from '@/core/left-hand/advice';
import { frameAt } from '@/core/left-hand/frame';
import { changeTo } from '@/core/marking/change';
import { ASIDE_MS, useAnalysed } from '@/ui/part/use-analyst';
import { capital } from '@/ui/kit/words';
import { useDesk } from './desk';

const NOTHING_PLANNED: never[] = [];

/** The hand at the selected note: as planned, and with the choice that is pointed at. */
export function useFrames() {
  const { report, drawn, selection, view } = useDesk();
  const { person } = view;
  const { focus } = selection;
  const planned = report?.fingering?.notes ?? NOTHING_PLANNED;
  const { notes } = drawn;
  const frame = useMemo(() => (focus ? frameAt({ notes: planned }, focus, person) : null), [planned, focus, person]);
  const previewed = useMemo(() => (focus ? frameAt({ notes }, focus, person) : null), [notes, focus, person]);
  return { frame, previewed, focus, person };
}

/** What else there is to say about the hand in this passage, and to mark it. */
export function useHandAdvice() {
  const { analyst, conditions, passage, marking, change } = useDesk();
  const { fromBar, toBar } = passage;
  const bars = `${fromBar} ${toBar}`;
  const answer = useAnalysed({
    analyst,
    conditions,
    of: ['hand', bars],
    keep: true,
    restMs: ASIDE_MS,
    ask: async (of) => ({ bars, advice: await of.handAdvice(conditions, { fromBar, toBar }) }),
  });

  function mark({ take, kind }: HandAdvice) {
    if (!take) return;
    const { noteId, finger, string } = take;
    const changes = [
      changeTo(marking, noteId, 'finger', { value: finger, origin: 'suggestion' }),
      changeTo(marking, noteId, 'string', { value: String(string), origin: 'suggestion' }),
    ].filter((each) => each !== null);
    if (changes.length) change(capital(kind), changes);
  }
  return { advice: answer.value?.bars === bars ? answer.value.advice : null, problem: answer.problem, retry: answer.retry, mark };
}
