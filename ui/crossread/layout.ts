/** Where everything is from left to right: one place for one moment, in all lanes. Px unless a name says otherwise. */
import type { RhythmGroup } from '@/core/ensemble/groups';
import { quartersOf } from '@/core/score/ticks';
import type { BarShown } from '@/workers/score-questions';

export const NAME_PX = 128;
/** Few parts have more room each. */
export const laneHeight = (lanes: number): number => (lanes <= 6 ? 96 : lanes <= 10 ? 72 : 56);
/** A piece of a lane that is drawn or not, at least so wide. */
const CHUNK_PX = 480;

export const xOf = (tick: number, pxPerQuarter: number): number => quartersOf(tick) * pxPerQuarter;

/** Bars that are drawn at once. */
export interface Chunk {
  fromBar: number;
  toBar: number;
  from: number;
  to: number;
}

export function chunksOf(bars: readonly BarShown[], pxPerQuarter: number): Chunk[] {
  const chunks: Chunk[] = [];
  bars.forEach(({ onset, ticks }, index) => {
    const [from, to] = [xOf(onset, pxPerQuarter), xOf(onset + ticks, pxPerQuarter)];
    const last = chunks.at(-1);
    if (last && last.to - last.from < CHUNK_PX) Object.assign(last, { toBar: index, to });
    else chunks.push({ fromBar: index, toBar: index, from, to });
  });
  return chunks;
}

/** Those that lie in a stretch, with one more on either side. */
export function chunksIn(chunks: readonly Chunk[], from: number, to: number): { first: number; last: number } {
  const first = chunks.findIndex((chunk) => chunk.to >= from);
  const last = chunks.findLastIndex((chunk) => chunk.from <= to);
  return { first: Math.max(0, first - 1), last: Math.min(chunks.length - 1, last + 1) };
}

/** The row that each group has in the band, so that none lies on another; the larger first. */
export function rowsOf(groups: readonly RhythmGroup[]): { rows: Map<string, number>; count: number } {
  const ends: number[] = [];
  const rows = new Map<string, number>();
  for (const { id, fromBar, toBar } of groups) {
    let row = ends.findIndex((end) => end < fromBar);
    if (row < 0) row = ends.length;
    ends[row] = toBar;
    rows.set(id, row);
  }
  return { rows, count: Math.max(1, ends.length) };
}
