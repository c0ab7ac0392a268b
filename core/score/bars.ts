/** Bars by their printed labels. */
import { bad, good, type Result } from '../util/result';
import type { Part } from './score';

export interface BarRange {
  fromBar: number;
  toBar: number;
}

/**
 * "5-12" or "7" by printed label; both ends included.
 * Where a label comes twice, the first one counts as the start and the next one after it as the end.
 */
export function barsByLabel(part: Pick<Part, 'bars'>, text: string): Result<BarRange> {
  const match = /^\s*(\S+?)\s*(?:[-–]\s*(\S+))?\s*$/.exec(text);
  const remedy = `Give one bar or two, such as 5 or 5-12; this part has bars ${part.bars[0]?.label ?? '?'} to ${part.bars.at(-1)?.label ?? '?'}.`;
  if (!match) return bad(`bars "${text}"`, 'This is no range of bars.', remedy);
  const fromBar = part.bars.findIndex((bar) => bar.label === match[1]);
  if (fromBar < 0) return bad(`bars "${text}"`, `There is no bar ${match[1]}.`, remedy);
  if (match[2] === undefined) return good({ fromBar, toBar: fromBar });
  const toBar = part.bars.findIndex((bar, i) => i >= fromBar && bar.label === match[2]);
  if (toBar < 0) return bad(`bars "${text}"`, `There is no bar ${match[2]} after bar ${match[1]}.`, remedy);
  return good({ fromBar, toBar });
}

/** Ticks of a range of bars; the end is not included. */
export function ticksOf(part: Pick<Part, 'bars'>, { fromBar, toBar }: BarRange): { from: number; to: number } {
  const last = part.bars[toBar]!;
  return { from: part.bars[fromBar]!.onset, to: last.onset + last.ticks };
}
