/** Bars as players count them: a bar that a repeat splits is one, an upbeat is none. */
import type { Bar } from './score';

/** What a bar is called and counted by. */
export type Called = Pick<Bar, 'label'> & Partial<Pick<Bar, 'into' | 'counted'>>;

type Counted = Pick<Bar, 'label' | 'into' | 'counted'>;

/** The rest of a bar that a repeat has split: it is called as its beginning. */
export const goesOn = ({ into = 0, counted = null }: Called): boolean => into > 0 && counted !== null;

/** Measures that bars begin with, as they are counted. */
export const barStarts = (bars: readonly Counted[]): number[] => bars.flatMap((bar, i) => (bar.counted !== null && !goesOn(bar) ? [i] : []));

/** The last measure of the bar that one belongs to. */
export function lastOfBar(bars: readonly Called[], index: number): number {
  let last = index;
  while (bars[last + 1] && goesOn(bars[last + 1]!)) last++;
  return last;
}

/** Which bar a measure belongs to; an upbeat stands between two, seen from the side that one counts to. */
export function placeOfBar(bars: readonly Counted[], starts: readonly number[], index: number, by: number): number {
  const { counted } = bars[index]!;
  if (counted !== null) return counted;
  const next = starts.findIndex((start) => start > index);
  const after = next < 0 ? starts.length : next;
  return by > 0 ? after - 1 : after;
}
