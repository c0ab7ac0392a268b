'use client';

import { useMemo, useSyncExternalStore } from 'react';
import { bowAt, strokeTimes, type PlayingStore, type TimedStroke } from '@/ui/playing/playing';
import { bowScale, type DrawnStroke } from './bow-track';
import { useHeights } from './heights';

interface Props {
  playing: PlayingStore;
  strokes: readonly DrawnStroke[];
  secondsAt(tick: number): number;
}

/** The bow moving along its line at tempo: a dot on the stick, and a line through the tracks. */
export function BowMoving({ playing, strokes, secondsAt }: Props) {
  const height = useHeights().bow;
  const { seconds } = useSyncExternalStore(playing.subscribe, playing.snapshot, playing.snapshot);
  const timed = useMemo(() => timedStrokes(strokes, secondsAt), [strokes, secondsAt]);
  const at = seconds === null ? null : bowAt(timed, seconds);
  if (!at) return null;
  return (
    <div aria-hidden className="pointer-events-none absolute inset-0" data-playing>
      <span className="absolute w-px bg-rosin" style={{ left: at.x, top: 0, height, opacity: 0.5 }} />
      <span
        className={`absolute h-3.5 w-3.5 rounded-full border-2 border-rosin ${at.lifted ? 'bg-sheet' : 'bg-rosin'}`}
        style={{ left: at.x - 7, top: bowScale(height).yOf(at.place) - 7 }}
      />
    </div>
  );
}

const timedStrokes = (drawn: readonly DrawnStroke[], secondsAt: (tick: number) => number): TimedStroke[] =>
  strokeTimes(
    drawn.map(({ stroke }) => stroke),
    secondsAt,
  ).map((time, i) => {
    const { from: fromX, to: toX, begins, ends, stroke } = drawn[i]!;
    if (stroke.strokes !== 1) return { ...time, fromX, toX };
    // Of one that goes over the end of a system only the part that is drawn here.
    const [within, on] = [(share: number) => time.startS + (time.endS - time.startS) * share, (share: number) => time.from + (time.to - time.from) * share];
    return { ...time, startS: within(begins), endS: within(ends), from: on(begins), to: on(ends), fromX, toX };
  });
