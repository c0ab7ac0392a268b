/** Hemiolas: three groups of two beats over two bars of three, found in the rhythm and offered as accents and a bowing. */
import { beatTicks } from '../score/beat';
import { type Part } from '../score/score';
import type { Atom } from './atoms';

export interface Hemiola {
  /** Bar index of the first of the two bars. */
  barIndex: number;
  /** First notes of the three groups. */
  noteIds: [string, string, string];
  /** What shows it, in words. */
  because: string;
}

/**
 * Two bars of three beats in which something begins on every second beat, and either nothing begins on the second bar
 * line (a tie or a long note lies over it) or the three groups have one rhythm that the bars do not have (common practice).
 */
export function hemiolasOf(part: Pick<Part, 'bars'>, atoms: readonly Atom[]): Hemiola[] {
  const found: Hemiola[] = [];
  const byOnset = new Map(atoms.map((atom) => [atom.onset, atom]));
  for (let i = 0; i + 1 < part.bars.length; i++) {
    const [bar, next] = [part.bars[i]!, part.bars[i + 1]!];
    const beat = beatTicks(bar);
    if (bar.beats !== 3 || next.beats !== 3 || bar.beatType !== next.beatType || bar.ticks !== 3 * beat || next.ticks !== 3 * beat) continue;
    const starts = [0, 2, 4].map((beats) => byOnset.get(bar.onset + beats * beat));
    if (starts.some((atom) => atom === undefined)) continue;
    const rhythm = (from: number, ticks: number) =>
      atoms
        .filter((atom) => atom.onset >= from && atom.onset < from + ticks)
        .map((atom) => `${atom.onset - from}/${atom.ticks}${atom.accent ? '!' : ''}${atom.linked ? '-' : ''}`)
        .join(' ');
    const over = !byOnset.has(next.onset);
    const groups = [0, 2, 4].map((beats) => rhythm(bar.onset + beats * beat, 2 * beat));
    const alike = groups[0] === groups[1] && groups[1] === groups[2] && rhythm(bar.onset, 3 * beat) !== rhythm(next.onset, 3 * beat);
    if (!over && !alike) continue;
    const ids = starts.map((atom) => atom!.ids[0]!) as [string, string, string];
    found.push({ barIndex: i, noteIds: ids, because: over ? 'a note lies over the second bar line' : 'the same rhythm comes every two beats' });
    i++;
  }
  return found;
}
