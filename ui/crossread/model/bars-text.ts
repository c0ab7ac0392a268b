import type { BarShown } from '@/workers/score-questions';

/** @example "bars 17–20" */
export function barsText(bars: readonly BarShown[], { fromBar, toBar }: { fromBar: number; toBar: number }): string {
  const [from, to] = [bars[fromBar]?.label ?? '', bars[toBar]?.label ?? ''];
  return fromBar === toBar ? `bar ${from}` : `bars ${from}–${to}`;
}
