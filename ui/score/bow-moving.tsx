'use client';

import { useMemo, useSyncExternalStore } from 'react';
import { bowAt, strokeTimes, type PlayingStore, type TimedStroke } from '@/ui/playing/playing';
import { BOW_HEIGHT, bowY, type DrawnStroke } from './bow-track';

interface Props {
  playing: PlayingStore;
  strokes: readonly DrawnStroke[];
  secondsAt(tick: number): number;
}

/** The bow moving along its line at tempo: a dot on the stick, and a line through the tracks. */
export function BowMoving({ playing, strokes, secondsAt }: Props) {
  const { seconds } = useSyncExternalStore(playing.subscribe, playing.snapshot, playing.snapshot);
  const timed = useMemo(() => timedStrokes(strokes, secondsAt), [strokes, secondsAt]);
  const at = seconds === null ? null : bowAt(timed, seconds);
  if (!at) return null;
  return (
    <div aria-hidden className="pointer-events-none absolute inset-0" data-playing>
      <span className="absolute w-px bg-rosin" style={{ left: at.x, top: 0, height: BOW_HEIGHT, opacity: 0.5 }} />
      <span
        className={`absolute h-3.5 w-3.5 rounded-full border-2 border-rosin ${at.lifted ? 'bg-sheet' : 'bg-rosin'}`}
        style={{ left: at.x - 7, top: bowY(at.place) - 7 }}
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
