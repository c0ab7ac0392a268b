/** Which fingers are written down: what a player needs, not a number on every note. */
import { THUMB } from '../instruments/player';
import type { FingeredNote, Fingering } from './fingering';

/**
 * `sparse`: the start, the shifts, the thumb, harmonics. `usual`: also extensions, the fourth finger where an open string is, and
 * the open string after stopped notes of another string. `every note`: as for beginners.
 */
export const DENSITIES = ['sparse', 'usual', 'every note'] as const;
export type Density = (typeof DENSITIES)[number];

/** The notes whose finger is worth writing, in playing order. */
export function marksWorthWriting(fingering: Fingering, density: Density = 'usual'): FingeredNote[] {
  const worth: FingeredNote[] = [];
  let last: FingeredNote | null = null;
  for (const note of fingering.notes) {
    const tied = last !== null && last.event === note.event && last.place === note.place;
    if (!tied && (density === 'every note' || needed(note, last, density))) worth.push(note);
    last = note;
  }
  return worth;
}

function needed(note: FingeredNote, last: FingeredNote | null, density: 'sparse' | 'usual'): boolean {
  const { place, shift } = note;
  const thumb = place.finger === THUMB && last?.place.finger !== THUMB;
  if (last === null || shift !== null || thumb || place.harmonic !== null) return true;
  if (density === 'sparse') return false;
  const openSchool = place.finger === 4 && place.stop === 7;
  const extended = place.extension && last.place.shape !== place.shape;
  const openAgain = place.finger === 0 && last.place.finger !== 0 && note.event !== last.event && place.string !== last.place.string;
  return openSchool || extended || openAgain;
}
