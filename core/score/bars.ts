/** Ranges of bars. */
import type { Part } from './score';

/** Bar indices, both included. */
export interface BarRange {
  fromBar: number;
  toBar: number;
}

/** Ticks of a range of bars; the end is not included. */
export function ticksOf(part: Pick<Part, 'bars'>, { fromBar, toBar }: BarRange): { from: number; to: number } {
  const last = part.bars[toBar]!;
  return { from: part.bars[fromBar]!.onset, to: last.onset + last.ticks };
}
