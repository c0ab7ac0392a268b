'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import type { Stroke } from '@/core/bow-arm/describe';
import type { Instrument } from '@/core/instruments/instrument';
import type { FingeredNote } from '@/core/left-hand/fingering';
import { performanceOf, type Performance } from '@/core/playback/performance';
import type { BarRange } from '@/core/score/bars';
import { ticksOf } from '@/core/score/bars';
import { linesOf } from '@/core/instruments/lines';
import type { Note } from '@/core/score/score';
import { clockFor } from '@/core/score/time';
import type { Problem } from '@/ui/kit/problem';
import type { OpenPart } from '@/workers/questions';
import { PlayingStore } from './playing';
import { changePlayOptions, usePlayOptions } from './play-options';
import { SoundPlayer } from './sound';

interface Asked {
  /** With the edits in force. */
  open: OpenPart | null;
  instrument: Instrument;
  tempo: number | null;
  line: number;
  passage: BarRange;
  focus: Note | undefined;
  onProblem(problem: Problem): void;
}

/** How a passage is fingered and bowed when it is played. */
export interface Plan {
  notes: readonly FingeredNote[];
  strokes: readonly Stroke[];
}

const SILENT: Problem = {
  place: null,
  what: 'This browser gives no sound.',
  remedy: 'The place still moves through the music; check the sound of the machine and play again.',
};

/** Plays the passage as it is planned: the place moves along the tracks, with sound, click and count-in as wanted. */
export function usePlay({ open, instrument, tempo, line, passage, focus, onProblem }: Asked) {
  const [playing] = useState(() => new PlayingStore());
  const [sound] = useState(() => new SoundPlayer());
  const options = usePlayOptions();
  const started = useRef(0);
  useEffect(
    () => () => {
      playing.stop();
      sound.stop();
    },
    [playing, sound, passage],
  );
  const secondsAt = useMemo(() => (open ? clockFor(open.part, tempo).secondsAt : null), [open, tempo]);

  function stop() {
    started.current++;
    playing.stop();
    sound.stop();
  }

  /** From the selected note, else from the start of the passage, to its end. */
  async function start({ notes, strokes }: Plan, fromFocus: boolean): Promise<void> {
    stop();
    if (!open || !secondsAt) return;
    const mine = ++started.current;
    const within = ticksOf(open.part, passage);
    const from = fromFocus && focus && focus.onset >= within.from && focus.onset < within.to ? focus.onset : within.from;
    const lines = linesOf(open.part);
    const performance = performanceOf({
      part: open.part,
      line: lines[line] ?? lines[0]!,
      fingering: notes,
      newBows: new Set(strokes.map((stroke) => stroke.noteIds[0]!)),
      instrument,
      clock: { secondsAt },
      within: { from, to: within.to },
    });
    const now = await begin(performance, mine);
    if (now) playing.start(now, performance.toS);
  }

  async function begin(performance: Performance, mine: number): Promise<(() => number) | null> {
    const silent = () => {
      const began = window.performance.now();
      return () => performance.fromS + ((window.performance.now() - began) / 1000) * options.speed;
    };
    if (!options.sound && !options.click && !options.countIn) return silent();
    try {
      // Null where it was stopped, or started anew, before it could sound.
      return await sound.start(performance, options);
    } catch {
      if (mine !== started.current) return null;
      onProblem(SILENT);
      return silent();
    }
  }

  return { playing, secondsAt, options, change: changePlayOptions, stop, start };
}

export type Play = ReturnType<typeof usePlay>;
