/** Geometry that the three tracks share. All lengths in px unless a name says otherwise. */
import type { System } from './engraving';

/** Room on the left for the names of a track's lines: the engraving leaves it free under the clef. */
export const LABEL_WIDTH = 40;

export interface Span {
  from: number;
  to: number;
}

/** Keeps labels of one row from lying on one another: true when the span was free and is now taken. */
export class Row {
  private readonly taken: Span[] = [];

  claim(span: Span): boolean {
    if (this.taken.some((other) => span.from < other.to + 4 && other.from < span.to + 4)) return false;
    this.taken.push(span);
    return true;
  }
}

/** Width of a label in 12 px text, near enough for keeping labels apart. */
export const textWidth = (text: string): number => text.length * 6.4;

/** Ids of the system's note heads from left to right. */
export const headsInOrder = (system: System): Array<{ id: string; x: number; y: number }> =>
  Object.entries(system.heads)
    .map(([id, head]) => ({ id, ...head }))
    .sort((a, b) => a.x - b.x);
