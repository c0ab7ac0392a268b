/** What a mark stands at: a note by its id, a place in a bar, a bar, or a run of bars. */
import type { BarRange } from '../score/bars';

export type Target =
  | { on: 'note'; id: string }
  /** Ticks from the start of the bar. */
  | { on: 'place'; barIndex: number; tick: number }
  | { on: 'bar'; barIndex: number }
  | ({ on: 'bars' } & BarRange);

export const placeTarget = (barIndex: number, tick: number): string => `at-${barIndex}-${tick}`;
export const barTarget = (barIndex: number): string => `bar-${barIndex}`;
export const barsTarget = ({ fromBar, toBar }: BarRange): string => `bars-${fromBar}-${toBar}`;

/** @example `targetOf('at-4-480')` is the place 480 ticks into the fifth bar */
export function targetOf(text: string): Target {
  const [, kind, first, second] = /^(at|bar|bars)-(\d+)(?:-(\d+))?$/.exec(text) ?? [];
  if (kind === 'at' && second !== undefined) return { on: 'place', barIndex: Number(first), tick: Number(second) };
  if (kind === 'bar' && second === undefined) return { on: 'bar', barIndex: Number(first) };
  if (kind === 'bars' && second !== undefined) return { on: 'bars', fromBar: Number(first), toBar: Number(second) };
  return { on: 'note', id: text };
}

/** Index of the bar that a target begins in; note ids carry theirs. */
export function barOfTarget(text: string): number {
  const target = targetOf(text);
  switch (target.on) {
    case 'note':
      return Number(text.split('-').at(-5));
    case 'bars':
      return target.fromBar;
    default:
      return target.barIndex;
  }
}
