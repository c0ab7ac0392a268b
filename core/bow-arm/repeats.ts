/** Repeats as played: where the music goes back, the bow must be able to begin again from where the end leaves it. */
import { playedOrder } from '../score/played';
import type { Bar } from '../score/score';
import type { Atom } from './atoms';
import type { PlannedSpan } from './search';
import type { Direction } from './stroke';
import { REST_SECONDS } from './tables';

export interface Jump {
  /** Atoms on both sides: the last before it and the first after it, in the order of playing. */
  from: number;
  to: number;
  fromBar: number;
  toBar: number;
}

/** Places where the bars are not played in the written order and no rest lets the bow be set anew. */
export function jumpsOf(atoms: readonly Atom[], bars: readonly Bar[], secondsAt: (tick: number) => number): Jump[] {
  const jumps = new Map<string, Jump>();
  const { order } = playedOrder(bars);
  order.forEach((fromBar, i) => {
    const toBar = order[i + 1];
    if (toBar === undefined || toBar === fromBar + 1) return;
    const from = atoms.findLastIndex((atom) => atom.barIndex === fromBar);
    const to = atoms.findIndex((atom) => atom.barIndex === toBar);
    if (from < 0 || to < 0) return;
    const [last, first] = [atoms[from]!, atoms[to]!];
    const bar = bars[fromBar]!;
    const silence = secondsAt(bar.onset + bar.ticks) - secondsAt(last.onset + last.ticks) + secondsAt(first.onset) - secondsAt(bars[toBar]!.onset);
    if (silence < REST_SECONDS) jumps.set(`${from} ${to}`, { from, to, fromBar, toBar });
  });
  return [...jumps.values()];
}

export function wishedToRepeat(atoms: readonly Atom[], jumps: readonly Jump[], strokes: readonly PlannedSpan[]): Atom[] {
  const result = [...atoms];
  for (const { from, to } of jumps) {
    const target = strokes.find((stroke) => stroke.span.from <= to && to <= stroke.span.to);
    if (target) result[from] = { ...result[from]!, jumpsTo: directionOf(target) };
  }
  return result;
}

/** A repeat that the bow does not come round to by itself. */
export interface Reset {
  fromBar: number;
  toBar: number;
  noteId: string;
  direction: Direction;
  /** How far the bow has to be brought, as a share of it. */
  distance: number;
}

export function resetsAt(atoms: readonly Atom[], jumps: readonly Jump[], strokes: readonly PlannedSpan[]): Reset[] {
  return jumps.flatMap(({ from, to, fromBar, toBar }): Reset[] => {
    const last = strokes.find((stroke) => stroke.span.from <= from && from <= stroke.span.to);
    const target = strokes.find((stroke) => stroke.span.from <= to && to <= stroke.span.to);
    if (!last || !target || (directionOf(last) === directionOf(target)) === last.back) return [];
    const end = last.back ? last.from : last.to;
    return [{ fromBar, toBar, noteId: atoms[from]!.ids[0]!, direction: directionOf(target), distance: Math.abs(end - target.from) }];
  });
}

const directionOf = (stroke: PlannedSpan): Direction => (stroke.to > stroke.from ? 'down' : 'up');
