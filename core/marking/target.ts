/** What a mark stands at: a note by its id, a place in a bar, a bar, or a run of bars. */
import type { BarRange } from '../score/bars';
import { noteNamed } from '../score/identity';
import { fractionText, ticksOfFraction } from '../score/ticks';

export type Target =
  | { on: 'note'; id: string }
  /** Ticks from the start of the bar. */
  | { on: 'place'; barIndex: number; tick: number }
  | { on: 'bar'; barIndex: number }
  | ({ on: 'bars' } & BarRange);

export const placeTarget = (barIndex: number, tick: number): string => `at-${barIndex}-${fractionText(tick)}`;
export const barTarget = (barIndex: number): string => `bar-${barIndex}`;
export const barsTarget = ({ fromBar, toBar }: BarRange): string => `bars-${fromBar}-${toBar}`;

/** @example `targetOf('at-4-1_2')` is the place an eighth note into the fifth bar */
export function targetOf(text: string): Target {
  const [, kind, first, second] = /^(at|bar|bars)-(\d+)(?:-(\d+(?:_\d+)?))?$/.exec(text) ?? [];
  const tick = kind === 'at' && second !== undefined ? ticksOfFraction(second) : null;
  if (tick !== null) return { on: 'place', barIndex: Number(first), tick };
  if (kind === 'bar' && second === undefined) return { on: 'bar', barIndex: Number(first) };
  if (kind === 'bars' && /^\d+$/.test(second ?? '')) return { on: 'bars', fromBar: Number(first), toBar: Number(second) };
  return { on: 'note', id: text };
}

/** Index of the bar that a target begins in; null for what stands nowhere. */
export function barOfTarget(text: string): number | null {
  const target = targetOf(text);
  switch (target.on) {
    case 'note':
      return noteNamed(text)?.barIndex ?? null;
    case 'bars':
      return target.fromBar;
    default:
      return target.barIndex;
  }
}
