/**
 * A place that moves through the music at tempo. One store for the Desk, so that only the lines
 * that move are drawn anew.
 */
import type { Stroke } from '@/core/bow-arm/describe';

export interface Playing {
  /** Seconds from the start of the part; null while nothing moves. */
  seconds: number | null;
}

export class PlayingStore {
  private state: Playing = { seconds: null };
  private readonly listeners = new Set<() => void>();
  private frame = 0;

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = (): Playing => this.state;

  /** Moves on to a time of the music. @param now where it is at this moment, in seconds of the part; may begin before the first note */
  start(now: () => number, to: number): void {
    this.stop();
    const step = () => {
      const seconds = now();
      if (seconds >= to) return this.stop();
      this.set({ seconds });
      this.frame = requestAnimationFrame(step);
    };
    step();
  }

  stop(): void {
    cancelAnimationFrame(this.frame);
    if (this.state.seconds !== null) this.set({ seconds: null });
  }

  private set(state: Playing): void {
    this.state = state;
    for (const listener of this.listeners) listener();
  }
}

export interface TimedStroke {
  /** Seconds at which it begins and ends. */
  startS: number;
  endS: number;
  /** Where that is on the page. */
  fromX: number;
  toX: number;
  /** Places on the bow. */
  from: number;
  to: number;
  /** There and back so often. */
  strokes: number;
}

/** When strokes sound: each until its length is over, or the next one begins. */
export function strokeTimes(
  strokes: readonly Stroke[],
  secondsAt: (tick: number) => number,
): Array<Pick<TimedStroke, 'startS' | 'endS' | 'from' | 'to' | 'strokes'>> {
  return strokes.map((stroke, i) => {
    const startS = secondsAt(stroke.onset);
    const next = strokes[i + 1];
    const times = Math.max(1, stroke.strokes);
    const endS = Math.min(startS + stroke.seconds * times, next ? secondsAt(next.onset) : Infinity);
    return { startS, endS, from: stroke.from, to: stroke.to, strokes: times };
  });
}

/** Where the bow is at a time: on the page and on the stick; null before the first stroke of this row and after its last. */
export function bowAt(strokes: readonly TimedStroke[], seconds: number): { x: number; place: number; lifted: boolean } | null {
  let low = 0;
  let high = strokes.length - 1;
  if (high < 0 || seconds < strokes[0]!.startS) return null;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (strokes[middle]!.startS <= seconds) low = middle;
    else high = middle - 1;
  }
  const stroke = strokes[low]!;
  const next = strokes[low + 1];
  if (seconds <= stroke.endS) {
    const share = (seconds - stroke.startS) / Math.max(0.001, stroke.endS - stroke.startS);
    const turns = share * Math.max(1, stroke.strokes);
    const there = Math.floor(turns) % 2 === 0 ? turns % 1 : 1 - (turns % 1);
    return { x: stroke.fromX + (stroke.toX - stroke.fromX) * share, place: stroke.from + (stroke.to - stroke.from) * there, lifted: false };
  }
  if (!next) return null;
  const share = (seconds - stroke.endS) / Math.max(0.001, next.startS - stroke.endS);
  const ends = stroke.strokes % 2 === 0 ? stroke.from : stroke.to;
  return { x: stroke.toX + (next.fromX - stroke.toX) * share, place: ends + (next.from - ends) * share, lifted: true };
}
