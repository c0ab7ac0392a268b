/**
 * Bowed string instruments as data: tunings, sizes and string lengths.
 * Tunings: common practice (A4 = 440 Hz, ISO 16:1975). Lengths: sounding string length in mm, nut to
 * bridge, typical values from memory; makers differ by a few mm, so every length can be overridden.
 */
import { midiOf, parsePitch, pitchName, type Pitch } from '../score/pitch';
import type { InstrumentKind } from '../score/score';
import { bad, good, type Result } from '../util/result';

export interface Instrument {
  kind: InstrumentKind;
  size: string;
  /** Sounding pitches of the open strings, highest string first: `strings[0]` is string 1. */
  strings: Pitch[];
  /** Sounding string length in mm. */
  lengthMm: number;
  /** Highest stop in half steps that the fingerboard allows (from memory). */
  highestStop: number;
  /** Half steps by which the lowest string goes on below the nut: the low-C extension of a bass has four. */
  belowNut: number;
}

export const INSTRUMENT_KINDS = ['violin', 'viola', 'cello', 'bass'] as const satisfies readonly InstrumentKind[];

/** The upper strings: violin and viola, whose hands think in letters; cello and bass count in half steps. */
export const isUpper = (kind: InstrumentKind): kind is 'violin' | 'viola' => kind === 'violin' || kind === 'viola';

const TUNINGS: Readonly<Record<InstrumentKind, readonly string[]>> = {
  violin: ['G3', 'D4', 'A4', 'E5'],
  viola: ['C3', 'G3', 'D4', 'A4'],
  cello: ['C2', 'G2', 'D3', 'A3'],
  bass: ['E1', 'A1', 'D2', 'G2'],
};

/** Tunings that have a name besides the usual one, low to high (common practice). */
export const NAMED_TUNINGS: Readonly<Record<InstrumentKind, Readonly<Record<string, readonly string[]>>>> = {
  violin: {},
  viola: {},
  cello: { 'A string down': ['C2', 'G2', 'D3', 'G3'] },
  bass: {
    solo: ['F#1', 'B1', 'E2', 'A2'],
    'low-B': ['B0', 'E1', 'A1', 'D2', 'G2'],
    'low-C': ['C1', 'E1', 'A1', 'D2', 'G2'],
    'high-C': ['E1', 'A1', 'D2', 'G2', 'C3'],
    extension: ['E1', 'A1', 'D2', 'G2'],
  },
};

/** From E down to C, along the scroll (common practice). */
const EXTENSION_HALF_STEPS = 4;

export const SIZES: Readonly<Record<InstrumentKind, Readonly<Record<string, number>>>> = {
  violin: { '4/4': 328, '7/8': 317, '3/4': 307, '1/2': 285, '1/4': 255, '1/8': 230, '1/10': 213, '1/16': 200 },
  viola: { '17"': 390, '16.5"': 382, '16"': 375, '15.5"': 366, '15"': 357, '14"': 335, '13"': 310, '12"': 290 },
  cello: { '4/4': 692, '7/8': 660, '3/4': 630, '1/2': 560, '1/4': 510, '1/8': 440 },
  bass: { '4/4': 1110, '7/8': 1080, '3/4': 1050, '1/2': 975, '1/4': 900 },
};

export const DEFAULT_SIZE: Readonly<Record<InstrumentKind, string>> = { violin: '4/4', viola: '16"', cello: '4/4', bass: '3/4' };

const HIGHEST_STOP: Readonly<Record<InstrumentKind, number>> = { violin: 28, viola: 25, cello: 31, bass: 27 };

/**
 * @param size a key of SIZES, or a length in mm ("330mm"); null takes the usual adult size
 * @param tuning "orchestral", a name of NAMED_TUNINGS ("solo", "low-B", "extension"), or sounding pitches low to high: "E1,A1,D2,G2"
 */
export function instrumentOf(kind: InstrumentKind, size: string | null = null, tuning: string | null = null): Result<Instrument> {
  const wanted = size ?? DEFAULT_SIZE[kind];
  const asMm = /^(\d+(?:\.\d+)?)\s*mm$/.exec(wanted);
  const inches = wanted.replace(/(in|''|”)$/, '"');
  const lengthMm = asMm ? Number(asMm[1]) : (SIZES[kind][wanted] ?? SIZES[kind][inches] ?? SIZES[kind][`${wanted}"`]);
  if (lengthMm === undefined || lengthMm < 100 || lengthMm > 1400) {
    return bad(
      `size "${wanted}"`,
      `There is no such ${kind} size here.`,
      `Use one of ${Object.keys(SIZES[kind]).join(', ')}, or a string length such as ${SIZES[kind][DEFAULT_SIZE[kind]]}mm.`,
    );
  }
  const strings = tuningOf(kind, tuning ?? 'orchestral');
  if (!strings.ok) return strings;
  return good({
    kind,
    size: wanted,
    strings: strings.value,
    lengthMm,
    highestStop: HIGHEST_STOP[kind],
    belowNut: kind === 'bass' && tuning === 'extension' ? EXTENSION_HALF_STEPS : 0,
  });
}

/** The usual adult instrument in its usual tuning. */
export function usualInstrument(kind: InstrumentKind): Instrument {
  const result = instrumentOf(kind);
  if (!result.ok) throw new Error(result.problem.what);
  return result.value;
}

function tuningOf(kind: InstrumentKind, tuning: string): Result<Pitch[]> {
  const names = tuning === 'orchestral' ? TUNINGS[kind] : (NAMED_TUNINGS[kind][tuning] ?? (tuning === 'solo' ? TUNINGS[kind] : tuning.split(',')));
  const pitches = names.map((name) => parsePitch(name));
  const remedy = `Give the sounding pitches from low to high, such as ${TUNINGS[kind].join(',')}.`;
  if (pitches.some((pitch) => pitch === null)) return bad(`tuning "${tuning}"`, 'This is not a row of pitches.', remedy);
  const low = pitches as Pitch[];
  if (low.length < 1 || low.length > 6) return bad(`tuning "${tuning}"`, `An instrument with ${low.length} strings is not known here.`, remedy);
  for (let i = 1; i < low.length; i++) {
    if (midiOf(low[i]!) <= midiOf(low[i - 1]!)) return bad(`tuning "${tuning}"`, `${pitchName(low[i]!)} is not higher than ${pitchName(low[i - 1]!)}.`, remedy);
  }
  return good([...low].reverse());
}

/** Letter name of an open string as players say it: "E", "F#". */
export function stringName(instrument: Instrument, string: number): string {
  const pitch = instrument.strings[string - 1];
  return pitch ? pitchName(pitch).replace(/-?\d+$/, '') : '?';
}
