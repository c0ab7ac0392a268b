/** Clefs by their names (textbook definition): what stands on which line. */
import type { Clef } from './score';

const NAMES: Readonly<Record<string, string>> = {
  G2: 'treble clef',
  G1: 'French violin clef',
  F4: 'bass clef',
  F3: 'baritone clef',
  C4: 'tenor clef',
  C3: 'alto clef',
  C2: 'mezzo-soprano clef',
  C1: 'soprano clef',
};

/** @example `clefName({ sign: 'C', line: 4, octave: 0 }) === 'tenor clef'` */
export function clefName({ sign, line, octave }: Clef): string {
  const name = NAMES[`${sign}${line}`];
  const small = octave === 0 ? '' : octave < 0 ? ' with the 8 below' : ' with the 8 above';
  return `${name ?? `${sign} clef on line ${line}`}${small}`;
}

/** The clefs that parts for bowed strings are written in. */
export const STRING_CLEFS = {
  treble: { sign: 'G', line: 2, octave: 0 },
  alto: { sign: 'C', line: 3, octave: 0 },
  tenor: { sign: 'C', line: 4, octave: 0 },
  bass: { sign: 'F', line: 4, octave: 0 },
} as const satisfies Record<string, Clef>;
export type StringClef = keyof typeof STRING_CLEFS;
export const STRING_CLEF_NAMES = Object.keys(STRING_CLEFS) as StringClef[];

/** A clef from a place on, on one staff. */
export interface ClefAsked {
  name: StringClef;
  staff: number;
}

/** @example `parseClef('tenor')`, on another staff than the first: `parseClef('bass, staff 2')` */
export function parseClef(text: string): ClefAsked | null {
  const [, name, staff = '1'] = /^([a-z]+)(?:, staff ([2-9]))?$/.exec(text) ?? [];
  const known = STRING_CLEF_NAMES.find((each) => each === name);
  return known ? { name: known, staff: Number(staff) } : null;
}

export const clefValue = ({ name, staff }: ClefAsked): string => (staff === 1 ? name : `${name}, staff ${staff}`);
