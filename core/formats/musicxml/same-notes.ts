/** Which note of a corrected bar is which printed one, so that it keeps its signs. Found by the cheapest alignment (Needleman and Wunsch 1970). */
import { pitchName } from '../../score/pitch';
import type { BarEvent } from '../../score/bar-text';
import type { BarItem } from './bar-walk';

/** A note that is gone or new, and one whose pitch became another: what is alike stays together. */
const GAP = 0.55;
const OTHER_PITCH = 0.8;
const OTHER_LENGTH = 0.05;

/** For each event the index of its printed item, or null; in order. @param lasts of the events, in divisions */
export function sameNotes(items: readonly BarItem[], events: readonly BarEvent[], lasts: readonly number[]): Array<number | null> {
  const cost = (item: BarItem, event: BarEvent, length: number): number => {
    if (item.what !== event.what) return Infinity;
    const other = Math.abs(item.lasts - length) < 1e-6 ? 0 : OTHER_LENGTH;
    if (item.what === 'rest') return other;
    if (item.pitches.length !== event.heads.length) return Infinity;
    const names = event.heads.map(({ pitch }) => pitchName(pitch));
    return other + (item.pitches.every((pitch) => names.includes(pitch)) ? 0 : OTHER_PITCH);
  };
  const best = Array.from({ length: items.length + 1 }, (_, i) => [i * GAP, ...events.map((_, j) => (i === 0 ? (j + 1) * GAP : Infinity))]);
  items.forEach((item, i) =>
    events.forEach((event, j) => {
      const same = best[i]![j]! + cost(item, event, lasts[j]!);
      best[i + 1]![j + 1] = Math.min(same, best[i]![j + 1]! + GAP, best[i + 1]![j]! + GAP);
    }),
  );
  const found: Array<number | null> = events.map(() => null);
  for (let [i, j] = [items.length, events.length]; i > 0 && j > 0;) {
    const here = best[i]![j]!;
    if (here === best[i - 1]![j - 1]! + cost(items[i - 1]!, events[j - 1]!, lasts[j - 1]!)) found[--j] = --i;
    else if (here === best[i - 1]![j]! + GAP) i--;
    else j--;
  }
  return found;
}
