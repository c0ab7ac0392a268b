/** The bow in the hand: how much hair it has, and how quick strokes are on its strings. */
import { rounded } from '../util/round';
import { DEFAULT_SIZE, SIZES, usualInstrument, type Instrument } from '../instruments/instrument';
import type { InstrumentKind } from '../score/score';
import { HAIR_CM } from './tables';

export interface Bow {
  kind: InstrumentKind;
  /** Usable hair, cm. */
  hairCm: number;
  /** Speeds against those of the table. */
  speed: number;
}

/**
 * Usable hair of smaller bows against a full one (from memory of bows as they are sold: a violin's bow is 74 cm long at 4/4, 69 at 3/4,
 * 62 at 1/2, 55 at 1/4, 49 at 1/8). Violas are large and small for grown hands with one bow; from 14 inches down children play them.
 */
const HAIR_BY_SIZE: Readonly<Record<InstrumentKind, Readonly<Record<string, number>>>> = {
  violin: { '7/8': 0.96, '3/4': 0.9, '1/2': 0.8, '1/4': 0.7, '1/8': 0.61, '1/10': 0.56, '1/16': 0.5 },
  viola: { '14"': 0.91, '13"': 0.83, '12"': 0.75 },
  cello: { '7/8': 0.97, '3/4': 0.93, '1/2': 0.85, '1/4': 0.76, '1/8': 0.68 },
  bass: { '1/2': 0.93, '1/4': 0.85 },
};

/** A string of its own length: the bow follows it less than by the whole (judgement on the table). */
const byLength = ({ kind, lengthMm }: Instrument): number => Math.min(1, (lengthMm / SIZES[kind][DEFAULT_SIZE[kind]]!) ** 1.4);

/**
 * Low heavy strings speak more slowly and are bowed more slowly at the same level (common practice; the waves of thick strings die
 * sooner and their onset takes longer: Guettler 2002 on attacks, from memory).
 */
const SPEED: Readonly<Record<InstrumentKind, number>> = { violin: 1, viola: 0.97, cello: 0.92, bass: 0.76 };

/** @example a quarter-size violin: 46 cm of hair */
export function bowOf(instrument: Instrument): Bow {
  const { kind, size } = instrument;
  const share = HAIR_BY_SIZE[kind][size] ?? (SIZES[kind][size] === undefined ? byLength(instrument) : 1);
  return { kind, hairCm: rounded(HAIR_CM[kind] * share, 1), speed: SPEED[kind] };
}

export const usualBow = (kind: InstrumentKind): Bow => bowOf(usualInstrument(kind));
