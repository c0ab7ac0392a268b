/**
 * The player: instrument, hand and level. Hand sizes are arithmetic, not medical advice; where a
 * stretch hurts, it is wrong whatever the figures say.
 */
import { z } from 'zod';
import type { InstrumentKind } from '../score/score';
import { good, type Result } from '../util/result';
import { type Instrument, instrumentOf, isUpper, usualInstrument } from './instrument';

export type Level = 'beginner' | 'intermediate' | 'advanced' | 'professional';
export type HandSize = 'small' | 'medium' | 'large';

export const LEVELS: readonly Level[] = ['beginner', 'intermediate', 'advanced', 'professional'];
export const HAND_SIZES: readonly HandSize[] = ['small', 'medium', 'large'];

/** Finger numbers as used inside: 0 open, 1 to 4, and the thumb. */
export const THUMB = 5;

/** Spreads between two fingers in mm, keyed by the lower and the higher finger: `14` is first to fourth. */
export interface Spreads {
  12: number;
  23: number;
  34: number;
  13: number;
  24: number;
  14: number;
  51: number;
  52: number;
  53: number;
}

export interface Hand {
  name: string;
  comfortableMm: Spreads;
  limitMm: Spreads;
}

/** How a player was taught, where good players disagree. */
export const techniqueShape = z.object({
  /** Bass, low positions: 1-2-4 with a tone in the hand, or 1-2-3-4 with a minor third, the hand pivoting on the thumb. */
  bassFingers: z.enum(['three', 'four']),
  /** Lowest stop at which the thumb goes on the string, half steps above the open string. */
  thumbFrom: z.int().min(4).max(19),
});
export type Technique = z.infer<typeof techniqueShape>;

export interface Player extends Technique {
  name: string;
  instrument: Instrument;
  hand: Hand;
  level: Level;
  thumbPosition: boolean;
}

/** The thumb is brought over the edge where the neck meets the body, about a seventh above the open string (common practice). */
export const USUAL_TECHNIQUE: Technique = { bassFingers: 'three', thumbFrom: 10 };

/** Medium adult hand (from memory, unvalidated; editable). 51 to 53 are thumb to first, second, third finger. */
const COMFORTABLE: Spreads = { 12: 58, 23: 42, 34: 42, 13: 92, 24: 80, 14: 110, 51: 90, 52: 115, 53: 140 };
const LIMIT: Spreads = { 12: 76, 23: 54, 34: 54, 13: 118, 24: 98, 14: 135, 51: 115, 52: 145, 53: 175 };

const FACTORS: Readonly<Record<HandSize, number>> = { small: 0.88, medium: 1, large: 1.1 };

/**
 * How far the same hand spreads along the string: on the cello and bass across the palm, on violin and viola with the arm turned under
 * and the fingers bent over the string. A fourth in first position is 73 mm on a violin (trial, on octaves and fifths of methods).
 */
const SPREAD: Readonly<Record<InstrumentKind, number>> = { violin: 0.75, viola: 0.84, cello: 1, bass: 1 };

/** @returns spreads in mm on the strings of this instrument */
export function handOf(size: HandSize, kind: InstrumentKind): Hand {
  const factor = FACTORS[size] * SPREAD[kind];
  const scale = (spreads: Spreads): Spreads => Object.fromEntries(Object.entries(spreads).map(([pair, mm]) => [pair, mm * factor])) as unknown as Spreads;
  return { name: size, comfortableMm: scale(COMFORTABLE), limitMm: scale(LIMIT) };
}

const PAIRS = ['12', '23', '34', '13', '24', '14', '51', '52', '53'] as const;
const millimetres = z.number().min(15).max(260);

/** What was measured of a hand, in mm: first to fourth finger on one string, where it is easy and the most that goes without pain. */
export const measuredShape = z
  .object({
    comfortable: millimetres,
    greatest: millimetres,
    /** Pairs that were measured as well; the others follow from first to fourth. */
    pairs: z.partialRecord(z.enum(PAIRS), z.object({ comfortable: millimetres, greatest: millimetres })).optional(),
  })
  .refine(({ comfortable, greatest }) => greatest >= comfortable, { message: 'The greatest spread is less than the comfortable one', path: ['greatest'] });
export type MeasuredHand = z.infer<typeof measuredShape>;

/**
 * The hand of one person: the usual proportions, scaled to what was measured. Reach is arithmetic; a greatest spread below the
 * comfortable one is taken for the comfortable one.
 * @example first position, first finger down, the fourth comes to a fourth above it on a violin: 73 mm
 */
export function handMeasured({ comfortable, greatest, pairs = {} }: MeasuredHand): Hand {
  const scaled = (usual: Spreads, measured: number, which: 'comfortable' | 'greatest'): Spreads =>
    Object.fromEntries(
      Object.entries(usual).map(([pair, mm]) => [pair, pairs[pair as (typeof PAIRS)[number]]?.[which] ?? (mm * measured) / usual[14]]),
    ) as unknown as Spreads;
  const comfortableMm = scaled(COMFORTABLE, comfortable, 'comfortable');
  const most = scaled(LIMIT, Math.max(comfortable, greatest), 'greatest');
  const limitMm = Object.fromEntries(
    Object.entries(most).map(([pair, mm]) => [pair, Math.max(mm, comfortableMm[pair as unknown as keyof Spreads])]),
  ) as unknown as Spreads;
  return { name: 'measured', comfortableMm, limitMm };
}

/** The presets as if they had been measured: what the form starts from. */
export const asMeasured = (hand: Hand): MeasuredHand => ({ comfortable: Math.round(hand.comfortableMm[14]), greatest: Math.round(hand.limitMm[14]) });

/** Four fingers in a minor third on the bass: the hand turns on the thumb between neighbours, so the frame is wider than the hand (judgement). */
const PIVOTING = 1.25;

function pivoting(hand: Hand): Hand {
  const wider = (spreads: Spreads): Spreads => Object.fromEntries(Object.entries(spreads).map(([pair, mm]) => [pair, mm * PIVOTING])) as unknown as Spreads;
  return { name: hand.name, comfortableMm: wider(hand.comfortableMm), limitMm: wider(hand.limitMm) };
}

/** Comfortable and greatest spread in mm between two different fingers; null for an impossible pair. */
export function spreadMm(hand: Hand, a: number, b: number): { comfortable: number; limit: number } | null {
  const [low, high] = a === THUMB || (b !== THUMB && a < b) ? [a, b] : [b, a];
  const key = `${low}${high === 4 && low === THUMB ? 3 : high}` as unknown as keyof Spreads;
  const comfortable = hand.comfortableMm[key];
  return comfortable === undefined ? null : { comfortable, limit: hand.limitMm[key] };
}

/** A player to start from: usual adult instrument, medium hand, advanced. */
export function usualPlayer(kind: InstrumentKind): Player {
  return {
    name: 'Usual adult',
    instrument: usualInstrument(kind),
    hand: handOf('medium', kind),
    level: 'advanced',
    thumbPosition: !isUpper(kind),
    ...USUAL_TECHNIQUE,
  };
}

/** The same player in the four-finger school of the bass (or out of it). */
export function withBassFingers(player: Player, bassFingers: Technique['bassFingers']): Player {
  if (player.bassFingers === bassFingers || player.instrument.kind !== 'bass') return { ...player, bassFingers };
  return { ...player, bassFingers, hand: bassFingers === 'four' ? pivoting(player.hand) : player.hand };
}

/** A player as the database and the command line describe one. */
export interface PlayerDescription {
  name: string;
  instrument: InstrumentKind;
  size: string | null;
  tuning: string | null;
  hand: HandSize;
  /** Stands instead of the preset where the hand was measured. */
  measured?: MeasuredHand | null | undefined;
  level: Level;
  thumbPosition: boolean;
  technique?: Partial<Technique> | undefined;
}

export function playerFrom(described: PlayerDescription): Result<Player> {
  const { name, instrument: kind, size, tuning, hand, measured, level, thumbPosition, technique } = described;
  const instrument = instrumentOf(kind, size, tuning);
  if (!instrument.ok) return instrument;
  const { bassFingers, ...rest } = { ...USUAL_TECHNIQUE, ...technique };
  const player: Player = {
    name,
    instrument: instrument.value,
    hand: measured ? handMeasured(measured) : handOf(hand, kind),
    level,
    thumbPosition,
    ...USUAL_TECHNIQUE,
    ...rest,
  };
  return good(withBassFingers(player, bassFingers));
}

/** Fingers as the headless door and the marks write them. */
export const fingerName = (finger: number): string => (finger === THUMB ? 'T' : String(finger));
export const fingerNumber = (name: string): number => (name === 'T' ? THUMB : Number(name));
