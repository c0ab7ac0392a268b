/**
 * Unequal short notes: the first of each pair longer, the second shorter, inside the beat (a custom of the French
 * baroque, and of swing). The ratio is the coach's.
 */
import type { Bar } from '../score/score';
import { TICKS_PER_QUARTER } from '../score/ticks';

/** Share of the pair that the first note takes; null for even playing. @example `longShare('2:1') === 2 / 3` */
export function longShare(ratio: string | undefined): number | null {
  const match = /^(\d+):(\d+)$/.exec(ratio ?? '');
  return match ? Number(match[1]) / (Number(match[1]) + Number(match[2])) : null;
}

/**
 * The tick at which a written tick sounds. In time signatures counted in quarters (or longer) pairs of eighths are uneven;
 * counted in eighths, pairs of sixteenths; never across the beat, so that every beat stays where it is. Shorter notes
 * inside each eighth keep their share of it.
 */
export function stretched(tick: number, bar: Bar, ratio: string | undefined): number {
  const share = longShare(ratio);
  if (share === null) return tick;
  const pair = (TICKS_PER_QUARTER * 4) / Math.max(4, bar.beatType);
  const inBar = tick - bar.onset;
  const start = Math.floor(inBar / pair) * pair;
  const inside = inBar - start;
  const half = pair / 2;
  const moved = inside <= half ? (inside / half) * share * pair : share * pair + ((inside - half) / half) * (1 - share) * pair;
  return bar.onset + start + moved;
}
