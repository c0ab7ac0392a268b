/** A part among the others of its piece: what the Desk asks about them. */
import { around, tuneIn, type Around } from '../core/ensemble/around';
import type { OtherPart } from '../core/ensemble/ensemble';
import { cueChanges, entriesOf, type Entry } from '../core/ensemble/entries';
import type { Change } from '../core/marking/change';
import type { Marking } from '../core/marking/mark';
import type { Part } from '../core/score/score';
import type { WantedTempi } from './questions';

/** The part itself among those of the piece, whose own ids are of another kind. */
const OWN = 'own';
const withOwn = (part: Part, others: readonly OtherPart[]) => [{ id: OWN, name: part.name, part }, ...others];

export const aroundNote = (noteId: string, part: Part, others: readonly OtherPart[]): Around | null => around(noteId, OWN, withOwn(part, others));

export const entriesAmong = (part: Part, others: readonly OtherPart[]): Entry[] => entriesOf(part, others, tuneIn(withOwn(part, others)));

/** What a cue before an entry writes into the part; of several the one at `index`. */
export function cueAmong(noteId: string, index: number, part: Part, marking: Marking, others: readonly OtherPart[]): Change[] {
  const entry = entriesAmong(part, others).find((each) => each.noteId === noteId);
  const cue = entry?.cues[index];
  const from = others.find(({ id }) => id === cue?.partId);
  return entry && cue && from ? cueChanges(cue, entry, part, marking, from.part) : [];
}

/** What most of the other string parts are checked at, and those that are not. @param own quarters per minute */
export function wantedTempi(own: number, others: ReadonlyArray<{ name: string; tempo: number }>): WantedTempi | null {
  const counted = new Map<number, number>();
  for (const { tempo } of others) counted.set(tempo, (counted.get(tempo) ?? 0) + 1);
  const most = [...counted].sort((a, b) => b[1] - a[1])[0];
  return most ? { own, others: most[0], departing: others.filter(({ tempo }) => tempo !== most[0]) } : null;
}
