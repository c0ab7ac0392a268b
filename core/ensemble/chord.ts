/**
 * Chords as stacks of thirds, by spelling: a pitch class is its place on the line of fifths (… F -1, C 0, G 1 …), so that G sharp and A
 * flat are two. Intervals of the kinds: textbook common practice.
 */
import { pitchLetter, type Pitch } from '../score/pitch';

export const CHORD_KINDS = [
  'major',
  'minor',
  'diminished',
  'augmented',
  'dominant seventh',
  'major seventh',
  'minor seventh',
  'half-diminished seventh',
  'diminished seventh',
  'minor with major seventh',
  'augmented with major seventh',
  'dominant ninth',
  'dominant with minor ninth',
  'major ninth',
  'minor ninth',
  'Italian sixth',
  'French sixth',
  'German sixth',
] as const;
export type ChordKind = (typeof CHORD_KINDS)[number];

export const DEGREES = ['root', 'third', 'fifth', 'seventh', 'ninth', 'augmented sixth', 'augmented fourth'] as const;
export type Degree = (typeof DEGREES)[number];

/** A letter with its sign, as a place on the line of fifths. */
export type Class = number;

export interface Chord {
  /** Of an augmented sixth chord its lowest note. */
  root: Class;
  kind: ChordKind;
  /** 0 root position, 1 the third lies lowest, and so on. */
  inversion: number;
}

interface Shape {
  /** From the root, in fifths; in the order of the degrees. */
  members: readonly number[];
  degrees: readonly Degree[];
  /** How much less likely than a triad (judgement, in beats of one foreign note). */
  rare: number;
}

const THIRDS: readonly Degree[] = ['root', 'third', 'fifth', 'seventh', 'ninth'];
const stacked = (rare: number, ...members: number[]): Shape => ({ members, degrees: THIRDS.slice(0, members.length), rare });
const sixth = (rare: number, members: number[], degrees: Degree[]): Shape => ({ members, degrees, rare });

export const SHAPES: Readonly<Record<ChordKind, Shape>> = {
  major: stacked(0, 0, 4, 1),
  minor: stacked(0, 0, -3, 1),
  diminished: stacked(0.3, 0, -3, -6),
  augmented: stacked(0.6, 0, 4, 8),
  'dominant seventh': stacked(0.1, 0, 4, 1, -2),
  'major seventh': stacked(0.35, 0, 4, 1, 5),
  'minor seventh': stacked(0.25, 0, -3, 1, -2),
  'half-diminished seventh': stacked(0.3, 0, -3, -6, -2),
  'diminished seventh': stacked(0.25, 0, -3, -6, -9),
  'minor with major seventh': stacked(0.8, 0, -3, 1, 5),
  'augmented with major seventh': stacked(0.9, 0, 4, 8, 5),
  'dominant ninth': stacked(0.6, 0, 4, 1, -2, 2),
  'dominant with minor ninth': stacked(0.5, 0, 4, 1, -2, -5),
  'major ninth': stacked(0.8, 0, 4, 1, 5, 2),
  'minor ninth': stacked(0.7, 0, -3, 1, -2, 2),
  'Italian sixth': sixth(0.35, [0, 4, 10], ['root', 'third', 'augmented sixth']),
  'French sixth': sixth(0.45, [0, 4, 6, 10], ['root', 'third', 'augmented fourth', 'augmented sixth']),
  'German sixth': sixth(0.35, [0, 4, 1, 10], ['root', 'third', 'fifth', 'augmented sixth']),
};

const OF_STEP: Readonly<Record<Pitch['step'], number>> = { F: -1, C: 0, G: 1, D: 2, A: 3, E: 4, B: 5 };
const LETTERS = ['F', 'C', 'G', 'D', 'A', 'E', 'B'] as const;

/** Place on the line of fifths; quarter tones count as the note below them. @example C 0, F# 6, Bb -2 */
export const classOf = ({ step, alter }: Pitch): Class => OF_STEP[step] + 7 * Math.floor(alter);

/** Half steps above C, from 0 to 11. */
export const halfStepsOf = (of: Class): number => (((of * 7) % 12) + 12) % 12;

/** @example -2 is "B flat" */
export const className = (of: Class): string => pitchLetter(pitchOf(of));

/** The pitch of a class in the middle octave. */
export const pitchOf = (of: Class): Pitch => ({ step: LETTERS[(((of + 1) % 7) + 7) % 7]!, alter: Math.floor((of + 1) / 7), octave: 4 });

/** The degree that a class is in a chord, spelled as it is or otherwise; null where it is none of it. */
export function degreeOf({ root, kind }: Pick<Chord, 'root' | 'kind'>, of: Class): Degree | null {
  const { members, degrees } = SHAPES[kind];
  const exact = members.findIndex((member) => root + member === of);
  const at = exact >= 0 ? exact : members.findIndex((member) => halfStepsOf(root + member) === halfStepsOf(of));
  return at < 0 ? null : degrees[at]!;
}

/** @example "D dominant seventh, first inversion" */
export function chordName({ root, kind, inversion }: Chord): string {
  return `${className(root)} ${kind}${INVERSIONS[inversion] ? `, ${INVERSIONS[inversion]}` : ''}`;
}
const INVERSIONS = ['', 'first inversion', 'second inversion', 'third inversion', 'fourth inversion'];

/** As short as it can be said, with the lowest note where that is another one. @example "D", "Am", "G7/B", "F♯°" */
export function chordSign({ root, kind, inversion }: Chord): string {
  const letter = (of: Class) => className(of).replace(' double sharp', '𝄪').replace(' double flat', '𝄫').replace(' sharp', '♯').replace(' flat', '♭');
  const bass = SHAPES[kind].members[inversion]!;
  return `${letter(root)}${SIGNS[kind]}${inversion ? `/${letter(root + bass)}` : ''}`;
}
const SIGNS: Readonly<Record<ChordKind, string>> = {
  major: '',
  minor: 'm',
  diminished: '°',
  augmented: '+',
  'dominant seventh': '7',
  'major seventh': 'maj7',
  'minor seventh': 'm7',
  'half-diminished seventh': 'ø7',
  'diminished seventh': '°7',
  'minor with major seventh': 'm maj7',
  'augmented with major seventh': '+maj7',
  'dominant ninth': '9',
  'dominant with minor ninth': '7♭9',
  'major ninth': 'maj9',
  'minor ninth': 'm9',
  'Italian sixth': ' It6',
  'French sixth': ' Fr6',
  'German sixth': ' Ger6',
};

/** Which note of a chord lies lowest, as a place in its stack. */
export function inversionOf({ root, kind }: Pick<Chord, 'root' | 'kind'>, bass: Class): number {
  const at = SHAPES[kind].members.findIndex((member) => halfStepsOf(root + member) === halfStepsOf(bass));
  return Math.max(0, at);
}
