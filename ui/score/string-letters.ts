/** Where the letter of a string stands at a finger: above it, below it or beside it, wherever nothing else is. Px. */
export interface Box {
  from: number;
  to: number;
  top: number;
  bottom: number;
}

interface Finger {
  x: number;
  y: number;
}

export interface LetterAsked extends Finger {
  /** An open string has its letter below, where no finger is. */
  open: boolean;
}

/** Half the width of a letter, and how high one in 12 px text is over its baseline. */
const HALF = 4.5;
const TALL = 9;

const overlap = (a: Box, b: Box): number =>
  Math.max(0, Math.min(a.to, b.to) - Math.max(a.from, b.from)) * Math.max(0, Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top));
const boxAt = (x: number, y: number): Box => ({ from: x - HALF, to: x + HALF, top: y - TALL, bottom: y });

/**
 * Baseline and middle of each letter.
 * @param asked in playing order
 * @param fingers all circles of the system
 * @param taken by other labels
 */
export function stringLetters(asked: readonly LetterAsked[], fingers: readonly Finger[], radius: number, taken: readonly Box[]): Finger[] {
  const circles = fingers.map(({ x, y }) => ({ from: x - radius, to: x + radius, top: y - radius, bottom: y + radius }));
  const letters: Box[] = [];
  return asked.map(({ x, y, open }) => {
    const above = { x, y: y - radius - 3 };
    const below = { x, y: y + radius + 11 };
    const beside = [radius + 7, -radius - 7].map((by) => ({ x: x + by, y: y + 4 }));
    const ways = [...(open ? [below, above] : [above, below]), ...beside];
    const covered = ways.map((way) => [...taken, ...letters, ...circles].reduce((sum, box) => sum + overlap(boxAt(way.x, way.y), box), 0));
    const best = ways[covered.indexOf(Math.min(...covered))]!;
    letters.push(boxAt(best.x, best.y));
    return best;
  });
}
