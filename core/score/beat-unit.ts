/** The beat that is felt as a note value, and tempi counted in it. */
import { feltBeat } from './beat';
import type { Bar, Part } from './score';
import { quartersOf } from './ticks';

export interface BeatUnit {
  name: 'whole' | 'half' | 'dotted quarter' | 'quarter' | 'dotted eighth' | 'eighth' | 'sixteenth';
  quarters: number;
}

export const BEAT_UNITS: readonly BeatUnit[] = [
  { name: 'whole', quarters: 4 },
  { name: 'half', quarters: 2 },
  { name: 'dotted quarter', quarters: 1.5 },
  { name: 'quarter', quarters: 1 },
  { name: 'dotted eighth', quarters: 0.75 },
  { name: 'eighth', quarters: 0.5 },
  { name: 'sixteenth', quarters: 0.25 },
];

export const QUARTER = BEAT_UNITS.find(({ name }) => name === 'quarter')!;

/** The beat that is felt in a bar, as a note value; the quarter where there is no single one. @example 6/8: dotted quarter */
export function beatUnitOf(bar: Pick<Bar, 'beats' | 'beatType'>): BeatUnit {
  const quarters = quartersOf(feltBeat(bar));
  return BEAT_UNITS.find((unit) => unit.quarters === quarters) ?? QUARTER;
}

/** The same tempo in another beat. @example quarter 138 is half 69 */
export const inBeats = (quartersPerMinute: number, { quarters }: BeatUnit): number => quartersPerMinute / quarters;

/** Twice and half of a beat; the plain quarter beside a dotted one. */
export function otherUnits(unit: BeatUnit): BeatUnit[] {
  const others = BEAT_UNITS.filter(({ name, quarters }) => !name.startsWith('dotted') && (quarters === unit.quarters * 2 || quarters === unit.quarters / 2));
  return others.length ? others : BEAT_UNITS.filter(({ name }) => name === 'quarter' && name !== unit.name);
}

/** The beat that is felt at the beginning of a part: tempi of the whole part are said in it. */
export function feltUnitOf({ bars }: Pick<Part, 'bars'>): BeatUnit {
  const first = bars.find((bar) => !bar.pickup) ?? bars[0];
  return first ? beatUnitOf(first) : QUARTER;
}
