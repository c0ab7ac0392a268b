/** Why the best on the whole is still the best where another way has a spot less. Plain functions. */
import type { Finding } from '@/core/checks/finding';
import type { FingeringChoice } from '@/workers/questions';

/** Where the best way has a spot that another way spares. */
export interface Spared {
  finding: Pick<Finding, 'kind' | 'noteIds' | 'bar'>;
  /** What the way that spares it is after, and what it costs more. */
  aim: string;
  more: readonly string[];
}

type Way = Pick<FingeringChoice, 'more'> & {
  way: Pick<FingeringChoice['way'], 'aim'>;
  outlook: { spots: readonly Pick<Finding, 'kind' | 'noteIds' | 'bar' | 'barIndex'>[] };
};

/** @param items the best way first @returns for each spot of the best the next best way that has nothing of the kind in that bar */
export function sparedElsewhere([best, ...others]: readonly Way[]): Spared[] {
  if (!best) return [];
  const seen = new Set<string>();
  return best.outlook.spots.flatMap((finding) => {
    const key = `${finding.kind} ${finding.barIndex}`;
    if (seen.has(key)) return [];
    seen.add(key);
    const other = others.find(({ outlook }) => !outlook.spots.some(({ kind, barIndex }) => kind === finding.kind && barIndex === finding.barIndex));
    return other ? [{ finding, aim: other.way.aim, more: other.more }] : [];
  });
}
