'use client';

import { useEffect, useMemo, useState } from 'react';
import type { BarRange } from '@/core/score/bars';
import { ticksOf } from '@/core/score/bars';
import type { Note } from '@/core/score/score';
import { clockFor } from '@/core/score/time';
import type { OpenPart } from '@/workers/analyst';
import { PlayingStore } from './playing';

/** The bow at tempo: where the music is in time, and a place that moves through it. */
export function usePlay(open: OpenPart | null, tempo: number | null, passage: BarRange, focus: Note | undefined) {
  const [playing] = useState(() => new PlayingStore());
  useEffect(() => () => playing.stop(), [playing, passage]);
  const secondsAt = useMemo(() => (open ? clockFor(open.part, open.ticksPerQuarter, tempo).secondsAt : null), [open, tempo]);

  /** From the selected note, else from the start of the passage, to its end; again stops. */
  function play() {
    if (playing.snapshot().seconds !== null) return playing.stop();
    if (!open || !secondsAt) return;
    const { from, to } = ticksOf(open.part, passage);
    const start = focus && focus.onset >= from && focus.onset < to ? focus.onset : from;
    playing.start(secondsAt(start), secondsAt(to));
  }

  return { playing, secondsAt, play };
}
