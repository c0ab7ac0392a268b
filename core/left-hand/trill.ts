/** Trills as fingers: which note is above, and which finger of this hand can reach it. */
import { isUpper } from '../instruments/instrument';
import type { InstrumentKind } from '../score/score';
import { keyAlter, midiOf, transposed } from '../score/pitch';
import type { Bar, Note } from '../score/score';
import type { LeftHandCosts } from './costs';
import type { Place } from './places';

export const isTrilled = (note: Note): boolean => note.trill || note.ornaments.some(({ kind }) => kind === 'trill');

/** Half steps to the upper note of a trill: the printed sign, else the next letter in the key. */
export function upperStep(note: Note, bar: Pick<Bar, 'fifths'>): number {
  const printed = note.ornaments.find(({ kind }) => kind === 'trill')?.above ?? null;
  const upper = transposed({ ...note.pitch, alter: 0 }, 1, 0);
  const alter = printed ?? keyAlter(bar.fifths, upper.step);
  return midiOf({ step: upper.step, octave: upper.octave, alter }) - midiOf(note.pitch);
}

/**
 * Fingers above a finger in a hand that counts in half steps, by the half steps they reach: the closed and the extended hand of the
 * cello, the hand of the bass (1-2 and 2-4 a half step), and 1-2-3 above the neck (common practice).
 */
const ABOVE: Readonly<Record<'cello' | 'bass' | 'high', Readonly<Record<number, Readonly<Record<number, number>>>>>> = {
  cello: { 1: { 1: 2, 2: 3 }, 2: { 1: 3, 2: 4 }, 3: { 1: 4 } },
  bass: { 1: { 1: 2, 2: 4 }, 2: { 1: 4 } },
  high: { 1: { 1: 2, 2: 3 }, 2: { 1: 3, 2: 3 } },
};

/** What it costs to trill with a finger over this one: the fourth has none above it, the third only the weak fourth. */
export function trillCost(place: Pick<Place, 'finger' | 'shape'>, halfSteps: number, kind: InstrumentKind, costs: LeftHandCosts): number {
  const { finger, shape } = place;
  if (isUpper(kind)) return finger === 4 ? costs.trillOnFourth : finger === 3 ? costs.trillOnThird : 0;
  const upper = ABOVE[shape === 'upper' || shape === 'thumb' ? 'high' : kind][finger]?.[halfSteps];
  if (upper === undefined) return costs.trillOnFourth;
  return upper === 4 && (finger === 3 || kind === 'bass') ? costs.trillOnThird : 0;
}
