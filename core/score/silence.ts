/** Rests as a player counts them: the real bars as printed, with their metres. */
import { barStarts, lastOfBar } from './counted';
import type { Bar } from './score';

export interface Silence {
  /** Whole bars of rest. */
  bars: number;
  /** The same bars by their metres, in order. */
  metres: Array<{ count: number; beats: number; beatType: number }>;
}

/** The bars that lie wholly between two ticks. A bar that a repeat splits is one; upbeats are none. */
export function silenceBetween(bars: readonly Bar[], from: number, to: number): Silence {
  const metres: Silence['metres'] = [];
  let count = 0;
  for (const start of barStarts(bars)) {
    const bar = bars[start]!;
    if (bar.onset < from) continue;
    const last = bars[lastOfBar(bars, start)]!;
    if (last.onset + last.ticks > to) break;
    count++;
    const before = metres.at(-1);
    if (before?.beats === bar.beats && before.beatType === bar.beatType) before.count++;
    else metres.push({ count: 1, beats: bar.beats, beatType: bar.beatType });
  }
  return { bars: count, metres };
}

/** @example "7 bars of rest (5 of 4/4, 2 of 3/4)" */
export function silenceInWords({ bars, metres }: Silence): string {
  const said = `${bars} ${bars === 1 ? 'bar' : 'bars'} of rest`;
  return metres.length < 2 ? said : `${said} (${metres.map(({ count, beats, beatType }) => `${count} of ${beats}/${beatType}`).join(', ')})`;
}
