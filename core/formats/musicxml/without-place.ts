/** Marks that the part has no place for, so that none is left out of a file unsaid. */
import { noteById } from '../../score/find';
import type { Part } from '../../score/score';
import { splitKey, type Mark, type Marking } from '../../marking/mark';
import { isBowWishKind, isWordKind, type MarkKind, MARKS } from '../../marking/kinds';
import { parseHairpin, STRUCK } from '../../marking/values';
import { placeOfTarget } from '../../marking/notes';
import { targetOf } from '../../marking/target';
import { wishInWords } from '../../marking/wishes';

/**
 * Keys of marks in force that would go out and stand at nothing that the part has. Marks that are set aside do not go out, nor do
 * notes for the player unless they are asked for, nor what is said to the plan only (whether a slur is a bow).
 */
export function withoutPlace(part: Part, marking: Marking, { words = false }: { words?: boolean }): string[] {
  return Object.entries(marking).flatMap(([key, mark]) => {
    const { target, kind } = splitKey(key);
    if (mark.off || (isWordKind(kind) && !words) || (isBowWishKind(kind) && wishInWords(kind, mark.value) === null)) return [];
    return hasPlace(part, target, kind, mark) ? [] : [key];
  });
}

function hasPlace(part: Part, target: string, kind: MarkKind, { value }: Mark): boolean {
  if (MARKS[kind].at === 'note') return noteById(part, target) !== undefined;
  if (isBowWishKind(kind) || isWordKind(kind)) return placeOfTarget(part, target) !== null;
  const at = targetOf(target);
  const bar = at.on === 'place' ? part.bars[at.barIndex] : undefined;
  if (!bar || at.on !== 'place' || at.tick > bar.ticks) return false;
  if (kind !== 'hairpin' || value === STRUCK) return true;
  const end = parseHairpin(value);
  const endBar = end && part.bars[end.toBar];
  return Boolean(end && endBar && end.toTick <= endBar.ticks && endBar.onset + end.toTick > bar.onset + at.tick);
}
