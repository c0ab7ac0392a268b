/**
 * How far out of tune a note is likely to be: independent causes add as squares. The spread of a cause
 * is in mm on the string; one mm is more cents on a shorter string and higher up.
 */
import { errorFunction } from 'simple-statistics';
import { centsPerMm } from '../instruments/geometry';
import type { Player } from '../instruments/player';
import type { FingeredNote } from '../left-hand/fingering';
import { COLD_AFTER_S, PLACEMENT_ALONE, PLACEMENT_FACTORS, PLACEMENT_MM, SHIFT_SPREAD_S, TOLERANCE_CENTS } from './tables';

export type Cause = 'placement' | 'shift' | 'extension' | 'cold entry' | 'fourth finger' | 'stretch' | 'dissonant stop' | 'changed frame' | 'diminished fifth';

export interface ExpectedError {
  /** Standard deviation in cents. */
  errorCents: number;
  /** Probability of being more than the tolerance off. */
  chance: number;
  toleranceCents: number;
  /** Standard deviation in cents that each cause adds on its own. */
  causes: Partial<Record<Cause, number>>;
  main: Cause;
}

/** Chance of being more than t off with a standard deviation σ: `2·(1 − Φ(t/σ))` (normal distribution). */
export function chanceBeyond(toleranceCents: number, errorCents: number): number {
  if (errorCents <= 0) return 0;
  return 1 - errorFunction(toleranceCents / errorCents / Math.SQRT2);
}

/** Spread in cents of placing a finger without moving the hand: `s0·sqrt(L/328)·2^(−n/24)` mm (models). */
export function placementCents(player: Player, stop: number): number {
  const { lengthMm } = player.instrument;
  return PLACEMENT_MM[player.level] * Math.sqrt(lengthMm / 328) * 2 ** (-stop / 24) * centsPerMm(lengthMm, stop);
}

/** Spread in cents of landing after a shift: `k·D/T` mm (models). */
export function shiftCents(player: Player, mm: number, gapMs: number, stop: number): number {
  return ((SHIFT_SPREAD_S[player.level] * mm) / Math.max(0.01, gapMs / 1000)) * centsPerMm(player.instrument.lengthMm, stop);
}

export interface ToneSurroundings {
  /** Seconds of rest before the note; Infinity at the start. */
  restBeforeS: number;
  /** The pitch rings with an open string: the player hears it and mends it. */
  rings: boolean;
  /** How far it is stretched beyond what is comfortable, 0 to 1 at the limit of the hand. */
  stretch?: number;
  /** Held together with a note that does not blend: seconds, sevenths, the tritone. */
  dissonant?: boolean;
  /** The same finger lay half a step away on this string a moment ago. */
  frameChanged?: boolean;
  /** A diminished fifth from a note on the next string a moment ago: fingers that lie close across the strings. */
  closeFingers?: boolean;
  /** Cents; by the level otherwise. */
  toleranceCents?: number;
}

/** Expected error of one stopped note; null for an open string or a harmonic, which the finger cannot put out of tune. */
export function expectedError(note: FingeredNote, player: Player, around: ToneSurroundings): ExpectedError | null {
  const { place, shift } = note;
  if (place.finger === 0 || place.harmonic !== null) return null;
  const base = placementCents(player, place.stop) * (around.rings ? PLACEMENT_FACTORS.ringing : 1);
  const causes: Partial<Record<Cause, number>> = { placement: base };
  if (shift) causes.shift = shiftCents(player, shift.mm, shift.gapMs, place.stop);
  if (place.extension) causes.extension = base * PLACEMENT_FACTORS.extension;
  if (place.finger === 4) causes['fourth finger'] = base * Math.sqrt(PLACEMENT_FACTORS.fourthFinger ** 2 - 1);
  if (around.restBeforeS >= COLD_AFTER_S && (place.hand ?? 0) > 2) causes['cold entry'] = base * Math.sqrt(PLACEMENT_FACTORS.coldEntry ** 2 - 1);
  if (around.stretch) causes.stretch = base * PLACEMENT_FACTORS.stretch * Math.min(2, around.stretch);
  if (around.dissonant) causes['dissonant stop'] = base * PLACEMENT_FACTORS.dissonantStop;
  if (around.frameChanged) causes['changed frame'] = base * PLACEMENT_FACTORS.changedFrame;
  if (around.closeFingers) causes['diminished fifth'] = base * PLACEMENT_FACTORS.diminishedFifth;
  const errorCents = Math.sqrt(Object.values(causes).reduce((sum, cents) => sum + cents * cents, 0));
  // Placing the finger is part of every note: what comes on top of it is the cause, where it weighs anything like as much.
  const main = (Object.entries(causes) as Array<[Cause, number]>)
    .map(([cause, cents]) => [cause, cause === 'placement' ? cents * PLACEMENT_ALONE : cents] as const)
    .reduce((best, entry) => (entry[1] > best[1] ? entry : best))[0];
  const toleranceCents = around.toleranceCents ?? TOLERANCE_CENTS[player.level];
  return { errorCents, chance: chanceBeyond(toleranceCents, errorCents), toleranceCents, causes, main };
}
