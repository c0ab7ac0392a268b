/** Passages: bar ranges with a name, made from what the print shows until the coach says otherwise. */
import { LIMITS } from '../util/limits';
import { shortened } from '../util/text';
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
  const count = to - from + 1 - (bars[from]?.pickup ? 1 : 0);
  const pieces = count > LONGEST_SPAN ? Math.round(count / SPAN) : 1;
  const result: Passage[] = [];
  let start = from;
  for (let piece = 0; piece < pieces; piece++) {
    const extra = piece === 0 && bars[from]?.pickup ? 1 : 0;
    const end = piece === pieces - 1 ? to : Math.min(to, start + SPAN - 1 + extra);
    result.push({ name: passageName(bars, start, end, name, piece), fromBar: start, toBar: end });
    start = end + 1;
  }
  return result;
}

function passageName(bars: readonly Bar[], from: number, to: number, mark: string | null, piece: number): string {
  if (mark) {
    const after = piece === 0 ? '' : `+${from - bars.findIndex((bar) => bar.rehearsal === mark)}`;
    return shortened(mark, LIMITS.name - after.length) + after;
  }
  if (from === 0) return 'Opening';
  return from === to ? `Bar ${bars[from]!.label}` : `Bars ${bars[from]!.label}–${bars[to]!.label}`;
}
