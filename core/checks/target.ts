/**
 * Where a note is in tune: equal temperament, Pythagorean (melodic, pure fifths from A), or just against a drone or the root of
 * the chord. In cents against equal temperament with A at its place.
 */
import { z } from 'zod';
import { letterIndex, midiOf, type Pitch } from '../score/pitch';

/** How in tune a part is wanted; what is not said comes from the player's level. */
export const intonationShape = z.object({
  /** Equal temperament; pure fifths, melodic (high leading notes); pure intervals over the chord or the drone (low major thirds). */
  school: z.enum(['equal', 'pythagorean', 'just']),
  /** Cents off that are minded. */
  toleranceCents: z.number().min(2).max(60).nullable(),
});
export type IntonationSettings = z.infer<typeof intonationShape>;

/** The strings are tuned in pure fifths, and a melody is heard against them; chords are for the coach to say. */
export const USUAL_INTONATION: IntonationSettings = { school: 'pythagorean', toleranceCents: null };

export const PITCH_SCHOOLS = ['equal', 'pythagorean', 'just'] as const;
export type PitchSchool = (typeof PITCH_SCHOOLS)[number];

/** A pure fifth (3:2) and the syntonic comma (81:80), in cents. */
export const PURE_FIFTH = 1200 * Math.log2(3 / 2);
export const SYNTONIC_COMMA = 1200 * Math.log2(81 / 80);

/** Place of a letter in the circle of fifths: F -1, C 0, G 1 … B 5; seven more for each sharp. */
const FIFTHS: Readonly<Record<Pitch['step'], number>> = { F: -1, C: 0, G: 1, D: 2, A: 3, E: 4, B: 5 };
const fifthsOf = ({ step, alter }: Pitch): number => FIFTHS[step] + 7 * alter;

/** A pure interval over the root, in cents, by its letters (0 to 6) and half steps: just intonation within five. */
const JUST: Readonly<Record<string, readonly [over: number, under: number]>> = {
  '0/0': [1, 1],
  '1/1': [16, 15],
  '1/2': [9, 8],
  '2/3': [6, 5],
  '2/4': [5, 4],
  '3/5': [4, 3],
  '3/6': [45, 32],
  '4/6': [64, 45],
  '4/7': [3, 2],
  '4/8': [25, 16],
  '5/8': [8, 5],
  '5/9': [5, 3],
  '6/10': [9, 5],
  '6/11': [15, 8],
  '6/9': [128, 75],
};

/** Cents above equal temperament of a note in a chain of pure fifths through A. @example E is 2 cents high, B 4, C 6 low */
export const pythagoreanCents = (pitch: Pitch): number => (fifthsOf(pitch) - FIFTHS.A) * (PURE_FIFTH - 700);

/** Cents above equal temperament of a note that is just over a root which is at its Pythagorean place; null for intervals that have no just form here. */
export function justCents(pitch: Pitch, root: Pitch): number | null {
  const letters = (((letterIndex(pitch) - letterIndex(root)) % 7) + 7) % 7;
  const halfSteps = (((midiOf(pitch) - midiOf(root)) % 12) + 12) % 12;
  const ratio = JUST[`${letters}/${halfSteps}`];
  if (!ratio) return null;
  return 1200 * Math.log2(ratio[0] / ratio[1]) - 100 * halfSteps + pythagoreanCents(root);
}

/** Cents against equal temperament at which a note is wanted. @param root of the chord, or the drone; without one just is Pythagorean */
export function targetCents(pitch: Pitch, school: PitchSchool, root: Pitch | null): number {
  if (school === 'equal') return 0;
  return school === 'just' && root ? (justCents(pitch, root) ?? pythagoreanCents(pitch)) : pythagoreanCents(pitch);
}

/** The major tonic of a key signature, in the middle octave. @param fifths sharps (positive) or flats */
export function tonicOf(fifths: number): Pitch {
  const letters = ['F', 'C', 'G', 'D', 'A', 'E', 'B'] as const;
  const place = fifths + 1;
  return { step: letters[((place % 7) + 7) % 7]!, alter: Math.floor(place / 7), octave: 4 };
}

export interface TwoReferences {
  /** Strings, 1 the highest, and what the note makes with each. */
  lower: { string: number; interval: string };
  upper: { string: number; interval: string };
  /** How much higher the note is that is pure with the upper string. */
  cents: number;
}

const IMPERFECT: ReadonlyArray<readonly [halfSteps: number, letters: number, name: string]> = [
  [3, 2, 'minor third'],
  [4, 2, 'major third'],
  [8, 5, 'minor sixth'],
  [9, 5, 'major sixth'],
];

/**
 * A note between two open strings that cannot be pure with both: a just third or sixth over the lower string, a pure fourth or fifth with the upper one.
 * @example first-finger E on the violin's D string: 21.5 cents higher as a fourth under A than as a major sixth over G
 */
export function twoReferences(pitch: Pitch, string: number, strings: readonly Pitch[]): TwoReferences | null {
  const [upper, lower] = [strings[string - 2], strings[string]];
  if (!upper || !lower) return null;
  const under = midiOf(upper) - midiOf(pitch);
  const perfect = under === 5 ? 'fourth' : under === 7 ? 'fifth' : under === -5 ? 'fourth' : null;
  if (!perfect) return null;
  const over = midiOf(pitch) - midiOf(lower);
  const letters = letterIndex(pitch) - letterIndex(lower);
  const imperfect = IMPERFECT.find(([halfSteps, steps]) => halfSteps === over && steps === letters);
  if (!imperfect) return null;
  // Pure with the upper string a note is at its Pythagorean place, as the strings are.
  const cents = pythagoreanCents(pitch) - justCents(pitch, lower)!;
  return { lower: { string: string + 1, interval: imperfect[2] }, upper: { string: string - 1, interval: perfect }, cents };
}
