/** How to hear whether a note is in tune: the open string that rings or sounds pure with it. */
import { midiOf } from '../score/pitch';
import type { Pitch } from '../score/pitch';
import { stringName, type Instrument } from '../instruments/instrument';

export type Consonance = 'unison' | 'octave' | 'two octaves' | 'fifth' | 'fourth';

export interface HearIt {
  interval: Consonance;
  string: number;
  stringName: string;
  /** The open string vibrates with the note on its own. */
  rings: boolean;
}

/** Best open string to check against: unison, octaves, then fifth and fourth; never the string that is being played. */
export function hearAgainst(pitch: Pitch, onString: number | null, instrument: Instrument): HearIt | null {
  const midi = midiOf(pitch);
  let best: (HearIt & { rank: number }) | null = null;
  instrument.strings.forEach((open, index) => {
    const string = index + 1;
    if (string === onString) return;
    const above = midi - midiOf(open);
    const found: readonly [Consonance, number, boolean] | null =
      above === 0
        ? ['unison', 0, true]
        : Math.abs(above) === 12
          ? ['octave', 1, above > 0]
          : above === 24
            ? ['two octaves', 2, true]
            : Math.abs(above) === 7
              ? ['fifth', 3, false]
              : Math.abs(above) === 5
                ? ['fourth', 4, false]
                : null;
    if (!found) return;
    const neighbour = onString !== null && Math.abs(onString - string) === 1;
    const rank = found[1] + (neighbour ? 0 : found[2] ? 0.5 : 5);
    if (rank < 5 && (!best || rank < best.rank)) best = { interval: found[0], string, stringName: stringName(instrument, string), rings: found[2], rank };
  });
  if (!best) return null;
  const { interval, string, stringName: name, rings } = best as HearIt;
  return { interval, string, stringName: name, rings };
}

/** Where two references disagree: a just major sixth over one string against a just fourth under the next, in cents. */
export const SYNTONIC_COMMA_CENTS = 1200 * Math.log2(81 / 80);
