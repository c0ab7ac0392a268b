/** Which fingers are written down: what a player needs, not a number on every note. */
import type { Instrument } from '../instruments/instrument';
import { THUMB } from '../instruments/player';
import { noteById } from '../score/find';
import { midiOf } from '../score/pitch';
import type { Part } from '../score/score';
import type { FingeredNote, Fingering } from './fingering';

/**
 * `sparse`: the start, the shifts, the thumb, harmonics. `usual`: also extensions, a finger that is used again for another note of its
 * string, the first note on another string where the hand is not in first position, a finger that an accidental moves, the fourth finger
 * where an open string is, and the open string after stopped notes of another string. `every note`: as for beginners.
 */
export const DENSITIES = ['sparse', 'usual', 'every note'] as const;
export type Density = (typeof DENSITIES)[number];

export interface WrittenFor {
  part: Part;
  instrument: Instrument;
}

/** The notes whose finger is worth writing, in playing order. */
export function marksWorthWriting(fingering: Fingering, writtenFor: WrittenFor, density: Density = 'usual'): FingeredNote[] {
  const worth: FingeredNote[] = [];
  let last: FingeredNote | null = null;
  for (const note of fingering.notes) {
    const tied = last !== null && last.event === note.event && last.place === note.place;
    if (!tied && (density === 'every note' || needed(note, last, density, writtenFor))) worth.push(note);
    last = note;
  }
  return worth;
}

function needed(note: FingeredNote, last: FingeredNote | null, density: 'sparse' | 'usual', { part, instrument }: WrittenFor): boolean {
  const { place, shift } = note;
  const thumb = place.finger === THUMB && last?.place.finger !== THUMB;
  if (last === null || shift !== null || thumb || place.harmonic !== null) return true;
  if (density === 'sparse') return false;
  const before = last.place;
  const anotherString = place.string !== before.string && note.event !== last.event;
  if (place.finger === 0) return before.finger !== 0 && anotherString;
  const extended = place.extension && before.shape !== place.shape;
  const again = place.finger === before.finger && place.string === before.string && place.stop !== before.stop;
  const inPosition = anotherString && !isLow(place.position);
  const moved = place.frameCost > 0 && noteById(part, note.id)?.accidental?.courtesy === false;
  return extended || again || inPosition || moved || insteadOfOpen(note, instrument);
}

/** In first and half position a finger on another string is where it always is. */
const isLow = (position: string | null): boolean => position === null || position === 'half' || position === 'first' || position === 'I';

/** The fourth finger on a note that the next string has open. */
function insteadOfOpen({ place }: FingeredNote, { strings }: Instrument): boolean {
  const own = strings[place.string - 1];
  const next = strings[place.string - 2];
  return place.finger === 4 && own !== undefined && next !== undefined && midiOf(own) + place.stop === midiOf(next);
}

/** Whether a string numeral is needed: the note stands on another string than first position has it on. */
export function needsNumeral({ id, place, shift }: FingeredNote, last: FingeredNote | null, { part, instrument }: WrittenFor): boolean {
  const note = noteById(part, id);
  if (!note || place.finger === 0 || isLow(place.position)) return false;
  // While the hand stays the finger says the string.
  if (last !== null && shift === null) return false;
  const usual = instrument.strings.findIndex((open) => midiOf(open) <= midiOf(note.pitch)) + 1;
  return usual !== 0 && usual !== place.string;
}
