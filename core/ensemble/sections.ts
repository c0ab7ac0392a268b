/** A score in the stretches that a rehearsal goes by: from letter to letter, or between double bars. */
import type { BarRange } from '../score/bars';
import type { Bar } from '../score/score';

export interface Stretch extends BarRange {
  /** The letter, or the bars. */
  name: string;
}

/** Without a letter or a double bar for so many bars it is cut here (judgement: what one rehearses at once). */
const LONGEST = 24;

/** In order, without gaps; one at least where there is a bar. */
export function sectionsOf(bars: readonly Pick<Bar, 'label' | 'rehearsal' | 'doubleBarAfter'>[]): Stretch[] {
  const starts = bars.flatMap(({ rehearsal }, i) => (i === 0 || rehearsal !== null || bars[i - 1]!.doubleBarAfter ? [i] : []));
  const cut = starts.flatMap((start, i) => {
    const end = starts[i + 1] ?? bars.length;
    const pieces = Math.max(1, Math.ceil((end - start) / LONGEST));
    const size = Math.ceil((end - start) / pieces);
    return Array.from({ length: pieces }, (_, n) => start + n * size).filter((at) => at < end);
  });
  return cut.map((fromBar, i) => {
    const toBar = (cut[i + 1] ?? bars.length) - 1;
    const { rehearsal, label } = bars[fromBar]!;
    return { name: rehearsal ?? `${label}–${bars[toBar]!.label}`, fromBar, toBar };
  });
}
