/**
 * Spelled pitch. Octaves are scientific (C4 is middle C, A4 = 440 Hz, ISO 16:1975);
 * semitone numbers are those of MIDI (A4 = 69).
 */
export type Step = 'C' | 'D' | 'E' | 'F' | 'G' | 'A' | 'B';

export interface Pitch {
  step: Step;
  /** Half steps above the natural note; quarter tones are fractions. */
  alter: number;
  octave: number;
}

export const STEPS: readonly Step[] = ['C', 'D', 'E', 'F', 'G', 'A', 'B'];
const SEMITONES_OF_STEP: readonly number[] = [0, 2, 4, 5, 7, 9, 11];

/** Half steps on the MIDI scale: `midiOf({step:'A', alter:0, octave:4}) === 69`. */
export function midiOf(pitch: Pitch): number {
  return 12 * (pitch.octave + 1) + SEMITONES_OF_STEP[STEPS.indexOf(pitch.step)]! + pitch.alter;
}

/** Letter names counted from C0: two notes a third apart differ by 2, whatever their accidentals. */
export function letterIndex(pitch: Pitch): number {
  return pitch.octave * 7 + STEPS.indexOf(pitch.step);
}

/** The natural pitch on a letter index. */
export function naturalAt(index: number): Pitch {
  return { step: STEPS[((index % 7) + 7) % 7]!, alter: 0, octave: Math.floor(index / 7) };
}

/** Scientific name: `"F#4"`, `"Bb3"`, `"C##5"`; quarter tones carry their cents: `"A4+50c"`. */
export function pitchName(pitch: Pitch): string {
  const whole = Math.trunc(pitch.alter);
  const cents = Math.round((pitch.alter - whole) * 100);
  const sign = whole > 0 ? '#'.repeat(whole) : 'b'.repeat(-whole);
  return `${pitch.step}${sign}${pitch.octave}${cents ? `${cents > 0 ? '+' : ''}${cents}c` : ''}`;
}

/** A pitch without its octave, in words. @example "B flat" */
export function pitchLetter({ step, alter }: Pick<Pitch, 'step' | 'alter'>): string {
  const signs: Readonly<Record<number, string>> = { [-2]: ' double flat', [-1]: ' flat', 0: '', 1: ' sharp', 2: ' double sharp' };
  return `${step}${signs[Math.round(alter)] ?? ''}`;
}

/** Reads `"F#4"`, `"Bb3"`, `"c5"`; null when it is no pitch name. */
export function parsePitch(name: string): Pitch | null {
  const match = /^([A-Ga-g])(#{0,3}|b{0,3})(-?\d{1,2})$/.exec(name.trim());
  if (!match) return null;
  const sign = match[2]!;
  return {
    step: match[1]!.toUpperCase() as Step,
    alter: sign.startsWith('b') ? -sign.length : sign.length,
    octave: Number(match[3]),
  };
}

/** A pitch moved by an interval given in letter names and half steps (a minor third up is 2, 3). */
export function transposed(pitch: Pitch, letters: number, halfSteps: number): Pitch {
  const natural = naturalAt(letterIndex(pitch) + letters);
  return { ...natural, alter: midiOf(pitch) + halfSteps - midiOf(natural) };
}

/**
 * The plainest spelling of a half-step number in a key signature: sharps in sharp keys, flats in flat keys.
 * @param fifths sharps (positive) or flats (negative) of the key signature
 */
export function spelled(midi: number, fifths = 0): Pitch {
  const names: Array<[Step, number]> =
    fifths >= 0
      ? [
          ['C', 0],
          ['C', 1],
          ['D', 0],
          ['D', 1],
          ['E', 0],
          ['F', 0],
          ['F', 1],
          ['G', 0],
          ['G', 1],
          ['A', 0],
          ['A', 1],
          ['B', 0],
        ]
      : [
          ['C', 0],
          ['D', -1],
          ['D', 0],
          ['E', -1],
          ['E', 0],
          ['F', 0],
          ['G', -1],
          ['G', 0],
          ['A', -1],
          ['A', 0],
          ['B', -1],
          ['B', 0],
        ];
  const rounded = Math.round(midi);
  const [step, alter] = names[((rounded % 12) + 12) % 12]!;
  return { step, alter, octave: Math.floor(rounded / 12) - 1 };
}

/** Frequency in Hz in equal temperament; `a4` is the concert pitch (ISO 16:1975: 440 Hz). */
export function frequencyHz(midi: number, a4 = 440): number {
  return a4 * 2 ** ((midi - 69) / 12);
}

/** Alteration that a key signature gives a letter: `keyAlter(2, 'F') === 1`. */
export function keyAlter(fifths: number, step: Step): number {
  const sharps: readonly Step[] = ['F', 'C', 'G', 'D', 'A', 'E', 'B'];
  const place = sharps.indexOf(step);
  if (fifths > 0) return Math.floor((fifths - 1 - place) / 7) + 1;
  if (fifths < 0) return -(Math.floor((-fifths - 1 - (6 - place)) / 7) + 1);
  return 0;
}
