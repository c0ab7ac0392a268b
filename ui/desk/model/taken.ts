/** What taking a choice writes, and how the history names it. Plain functions. */
import { fingerName } from '@/core/instruments/player';
import { changeTo, type Change } from '@/core/marking/change';
import type { Marking } from '@/core/marking/mark';
import type { Note, Part } from '@/core/score/score';
import { placeLabel } from '@/ui/kit/music';
import type { Choices } from './use-choices';

export interface Taken {
  reason: string;
  changes: readonly Change[];
}

interface Where {
  part: Part;
  /** Bars of the passage, as they are said. */
  bars: string;
  focus: Note | undefined;
  marking: Marking;
}

/**
 * Null where there is nothing to write: what is there already is not taken.
 * @param compared the suggestions stood side by side: the history says what else there was
 */
export function takenChoice(
  { suggestions, ofBow, ofNote }: Pick<Choices, 'suggestions' | 'ofBow' | 'ofNote'>,
  index: number,
  where: Where,
  compared: boolean,
): Taken | null {
  if (suggestions) {
    const { kind, items } = suggestions;
    const names = items.map((item) => ('plan' in item ? item.plan.strategy : item.way.strategy)).filter((_, i) => i !== index);
    return written({
      reason: `Suggested ${kind}, bars ${where.bars}${compared ? ` (compared with ${names.join(', ')})` : ''}`,
      changes: items[index]?.changes ?? [],
    });
  }
  const ofTheBow = ofBow?.items[index];
  if (ofTheBow) return written({ reason: ofTheBow.name, changes: ofTheBow.changes });
  const place = ofNote?.items[index]?.place;
  const { focus, part, marking } = where;
  if (!place || !focus) return null;
  const [finger, string] = [fingerName(place.finger), String(place.string)];
  const changes = [
    changeTo(marking, focus.id, 'finger', { value: finger, origin: 'coach' }),
    changeTo(marking, focus.id, 'string', { value: string, origin: 'coach' }),
  ].filter((change) => change !== null);
  return written({ reason: `${placeLabel(part, focus)}: ${finger} on string ${string}`, changes });
}

const written = (taken: Taken): Taken | null => (taken.changes.length ? taken : null);
