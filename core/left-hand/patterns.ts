/** Finger patterns: what two fingers of one hand may be to each other. */
import type { Place } from './places';

/** Half steps between two fingers of violin and viola as the patterns of the hand have them: whole and half steps in any order, by `6·lower + higher`. */
const SPACING: Readonly<Record<number, readonly [least: number, most: number]>> = {
  [6 * 1 + 2]: [1, 2],
  [6 * 2 + 3]: [1, 2],
  [6 * 3 + 4]: [1, 2],
  [6 * 1 + 3]: [3, 4],
  [6 * 2 + 4]: [3, 4],
  [6 * 1 + 4]: [4, 6],
};

/** The same as rows of numbers, for the search; 0 where no pattern speaks of the pair. */
const spacings = (which: 0 | 1): Int8Array => Int8Array.from({ length: 64 }, (_, pair) => SPACING[pair]?.[which] ?? 0);
const LEAST_APART = spacings(0);
const MOST_APART = spacings(1);

/** Closer or wider than any pattern: against the finger that was last down, wherever the hand lies (common practice). */
export function isOddlySpaced(a: Place, b: Place): boolean {
  const up = a.finger < b.finger;
  const pair = up ? 6 * a.finger + b.finger : 6 * b.finger + a.finger;
  const least = LEAST_APART[pair]!;
  if (least === 0) return false;
  const apart = up ? b.stop - a.stop : a.stop - b.stop;
  return apart < least || apart > MOST_APART[pair]!;
}

/** Two fingers on one spot of neighbouring strings, where one could lie across both. */
export const isSqueezed = (a: Place, b: Place): boolean =>
  a.stop === b.stop && a.finger !== b.finger && Math.abs(a.string - b.string) === 1 && Math.max(a.finger, b.finger) < 4;

/** The first finger drawn back and another stretched forward at once: a hand of five half steps, which nobody has (common practice). */
export const isOverwide = (a: Place, b: Place): boolean =>
  (a.shape === 'extended back' && b.shape === 'extended') || (a.shape === 'extended' && b.shape === 'extended back');
