'use client';

import { useMemo, useSyncExternalStore } from 'react';
import type { Instrument } from '@/core/instruments/instrument';
import type { FingeredNote } from '@/core/left-hand/fingering';
import { noteById } from '@/core/score/find';
import type { Part } from '@/core/score/score';
import type { PlayingStore } from '@/ui/playing/playing';
import type { System } from './engraving';
import { useHeights } from './heights';
import { placedFingers } from './left-hand-track';

interface Props {
  playing: PlayingStore;
  system: System;
  notes: readonly FingeredNote[];
  instrument: Instrument;
  part: Part;
  secondsAt(tick: number): number;
}

/** The finger that is down while it is played, ringed; and a line through the track. */
export function HandMoving({ playing, system, notes, instrument, part, secondsAt }: Props) {
  const height = useHeights().hand;
  const { seconds } = useSyncExternalStore(playing.subscribe, playing.snapshot, playing.snapshot);
  const timed = useMemo(() => {
    const { fingers } = placedFingers(system, notes, instrument, height);
    return fingers
      .map(({ note, x, y }) => {
        const head = noteById(part, note.id);
        return { x, y, startS: head ? secondsAt(head.onset) : 0, endS: head ? secondsAt(head.onset + head.duration) : 0 };
      })
      .sort((a, b) => a.startS - b.startS);
  }, [system, notes, instrument, part, secondsAt, height]);
  if (seconds === null) return null;
  const down = timed.filter(({ startS, endS }) => startS <= seconds && seconds < endS);
  if (down.length === 0) return null;
  return (
    <svg aria-hidden data-fingers-down={down.length} className="pointer-events-none absolute inset-0" width={system.widthPx} height={height}>
      <line x1={down[0]!.x} x2={down[0]!.x} y1={0} y2={height} stroke="var(--spruce)" opacity={0.5} />
      {down.map(({ x, y }, i) => (
        <circle key={i} cx={x} cy={y} r={12} fill="none" stroke="var(--spruce)" strokeWidth={2.5} />
      ))}
    </svg>
  );
}
