/** Names of the positions by the stop of the first finger, as methods use them (from memory). */
import type { InstrumentKind } from '../score/score';

const VIOLIN = [
  'half',
  'first',
  'second',
  'third',
  'fourth',
  'fifth',
  'sixth',
  'seventh',
  'eighth',
  'ninth',
  'tenth',
  'eleventh',
  'twelfth',
  'thirteenth',
  'fourteenth',
  'fifteenth',
];

/** Letter position of violin and viola: 1 is first position, 0 half position. */
export function letterPositionName(position: number): string {
  return VIOLIN[position] ?? `${position}th`;
}

/**
 * Place of the unaltered first finger in letter positions, in half steps above the open string:
 * second position lies 3 or 4 half steps up, so 3.5 stands for both (from memory).
 */
const FRAME_STOPS = [1, 2, 3.5, 5, 7, 8.5, 10.5, 12, 14, 15.5, 17, 19, 20.5, 22.5, 24, 26];

export function frameStop(position: number): number {
  return FRAME_STOPS[position] ?? 26 + 2 * (position - 15);
}

const CELLO: Readonly<Record<number, string>> = {
  1: 'half',
  2: 'first',
  3: 'second',
  4: 'second (raised)',
  5: 'third',
  6: 'third (raised)',
  7: 'fourth',
  8: 'fifth',
  9: 'fifth (raised)',
  10: 'sixth',
  11: 'sixth (raised)',
  12: 'seventh',
  13: 'seventh (raised)',
};
const BASS: Readonly<Record<number, string>> = {
  1: 'half',
  2: 'I',
  3: 'II',
  4: 'II-III',
  5: 'III',
  6: 'III-IV',
  7: 'IV',
  8: 'V',
  9: 'V-VI',
  10: 'VI',
  11: 'VI-VII',
  12: 'VII',
};

/** Name of a chromatic hand place on cello or bass; above the named ones the note under the first finger is the name: "1 on B". */
export function chromaticPositionName(kind: InstrumentKind, hand: number, thumb: boolean, note: () => string): string {
  if (thumb) return 'thumb';
  const names = kind === 'bass' ? BASS : CELLO;
  return names[hand] ?? `1 on ${note()}`;
}

/** Names of the positions that an instrument has, from the nut upwards. */
export function positionNames(kind: InstrumentKind): readonly string[] {
  if (kind === 'bass') return Object.values(BASS);
  return kind === 'cello' ? Object.values(CELLO) : VIOLIN;
}

const ALL_NAMES: ReadonlySet<string> = new Set([...VIOLIN, ...Object.values(CELLO), ...Object.values(BASS)]);
export const isPositionName = (name: string): boolean => ALL_NAMES.has(name);

/** A position as it is written over a note. @example third: "3rd"; II-III stays */
export function positionSign(name: string): string {
  const at = VIOLIN.indexOf(name.replace(' (raised)', ''));
  if (at < 0) return `${name} pos.`;
  if (at === 0) return '½ pos.';
  const ending = at > 3 ? 'th' : ['st', 'nd', 'rd'][at - 1]!;
  return `${at}${ending}${name.endsWith('(raised)') ? '+' : ''} pos.`;
}
