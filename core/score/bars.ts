/** Ranges of bars. */
import type { Part } from './score';

/** Bar indices, both included. */
export interface BarRange {
  fromBar: number;
  toBar: number;
}

/** Ticks of the part; the end is not included. */
export interface TickRange {
  from: number;
  to: number;
}

/** Ticks of a range of bars. */
export function ticksOf(part: Pick<Part, 'bars'>, { fromBar, toBar }: BarRange): TickRange {
  const last = part.bars[toBar]!;
  return { from: part.bars[fromBar]!.onset, to: last.onset + last.ticks };
}
