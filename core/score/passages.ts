/** Passages: bar ranges with a name, made from what the print shows until the coach says otherwise. */
import { LIMITS } from '../util/limits';
import { shortened } from '../util/text';
import { sayBars } from './address';
import { barStarts } from './counted';
import type { Bar, Part } from './score';

export interface Passage {
  name: string;
  /** Bar indices, both included. */
  fromBar: number;
  toBar: number;
}

/** Spans longer than this are cut into pieces of about eight bars. */
const LONGEST_SPAN = 16;
const SPAN = 8;

/**
 * Passages from rehearsal marks, double bars, or else eight-bar spans; every bar is in exactly one.
 * Bars of rest for the whole part at the borders stay with the passage before them.
 */
export function automaticPassages(part: Pick<Part, 'bars'>): Passage[] {
  const bars = part.bars;
  const starts: Array<{ bar: number; name: string | null }> = [];
  bars.forEach((bar, i) => {
    const afterDouble = i > 0 && bars[i - 1]!.doubleBarAfter;
    if (i === 0 || bar.rehearsal || afterDouble) starts.push({ bar: i, name: bar.rehearsal });
  });
  const passages: Passage[] = [];
  starts.forEach((start, s) => {
    const end = (starts[s + 1]?.bar ?? bars.length) - 1;
    passages.push(...cut(bars, start.bar, end, start.name));
  });
  return passages;
}

function cut(bars: readonly Bar[], from: number, to: number, name: string | null): Passage[] {
  const starts = barStarts(bars).filter((start) => start >= from && start <= to);
  const pieces = starts.length > LONGEST_SPAN ? Math.round(starts.length / SPAN) : 1;
  const border = (piece: number): number => (piece === 0 ? from : piece === pieces ? to + 1 : starts[piece * SPAN]!);
  return Array.from({ length: pieces }, (_, piece) => {
    const [start, end] = [border(piece), border(piece + 1) - 1];
    return { name: passageName(bars, start, end, name, piece * SPAN), fromBar: start, toBar: end };
  });
}

function passageName(bars: readonly Bar[], from: number, to: number, mark: string | null, barsIn: number): string {
  if (mark) {
    const after = barsIn === 0 ? '' : `+${barsIn}`;
    return shortened(mark, LIMITS.name - after.length) + after;
  }
  if (from === 0) return 'Opening';
  const said = sayBars(bars, { fromBar: from, toBar: to });
  return said.includes('–') ? `Bars ${said}` : `Bar ${said}`;
}
