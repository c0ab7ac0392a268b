/** What stands in the way of comparing parts, in words: nothing is left out without saying so. */
import type { Part } from '../score/score';

type Named = { name: string; part: Pick<Part, 'bars'> };

/** More bars than this share, called otherwise than in the first part, and it is said. */
const CALLED_OTHERWISE = 0.1;

/** In the order of the parts; none where all have the same bars. */
export function remarksOn(parts: readonly Named[]): string[] {
  const longest = parts.reduce<Named | null>((most, each) => (most === null || each.part.bars.length > most.part.bars.length ? each : most), null);
  if (!longest) return [];
  const count = longest.part.bars.length;
  return parts.flatMap(({ name, part: { bars } }): string[] => {
    if (bars.length < count)
      return [`${name} has ${bars.length} ${bars.length === 1 ? 'bar' : 'bars'}, ${longest.name} ${count}: behind that it is compared with nobody.`];
    const otherwise = bars.filter(({ label }, i) => label !== longest.part.bars[i]!.label);
    if (otherwise.length <= count * CALLED_OTHERWISE) return [];
    const first = otherwise[0]!;
    const there = longest.part.bars[first.index]!.label;
    return [
      `Bars of ${name} are numbered otherwise (${first.label || 'none'} where ${longest.name} has ${there || 'none'}): they are compared by their place.`,
    ];
  });
}
