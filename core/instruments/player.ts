/**
 * The player: instrument, hand and level. Hand sizes are arithmetic, not medical advice; where a
 * stretch hurts, it is wrong whatever the figures say.
 */
import type { InstrumentKind } from '../score/score';
import { good, type Result } from '../util/result';
import { type Instrument, instrumentOf, usualInstrument } from './instrument';

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

export interface Player {
  name: string;
  instrument: Instrument;
  hand: Hand;
  level: Level;
  thumbPosition: boolean;
}

/** Medium adult hand (from memory, unvalidated; editable). 51 to 53 are thumb to first, second, third finger. */
const COMFORTABLE: Spreads = { 12: 58, 23: 42, 34: 42, 13: 92, 24: 80, 14: 110, 51: 90, 52: 115, 53: 140 };
const LIMIT: Spreads = { 12: 76, 23: 54, 34: 54, 13: 118, 24: 98, 14: 135, 51: 115, 52: 145, 53: 175 };

const FACTORS: Readonly<Record<HandSize, number>> = { small: 0.88, medium: 1, large: 1.1 };

export function handOf(size: HandSize): Hand {
  const scale = (spreads: Spreads): Spreads =>
    Object.fromEntries(Object.entries(spreads).map(([pair, mm]) => [pair, mm * FACTORS[size]])) as unknown as Spreads;
  return { name: size, comfortableMm: scale(COMFORTABLE), limitMm: scale(LIMIT) };
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
    hand: handOf('medium'),
    level: 'advanced',
    thumbPosition: kind === 'cello' || kind === 'bass',
  };
}

/** A player as the database and the command line describe one. */
export interface PlayerDescription {
  name: string;
  instrument: InstrumentKind;
  size: string | null;
  tuning: string | null;
  hand: HandSize;
  level: Level;
  thumbPosition: boolean;
}

export function playerFrom({ name, instrument: kind, size, tuning, hand, level, thumbPosition }: PlayerDescription): Result<Player> {
  const instrument = instrumentOf(kind, size, tuning);
  return instrument.ok ? good({ name, instrument: instrument.value, hand: handOf(hand), level, thumbPosition }) : instrument;
}

/** Fingers as the headless door and the marks write them. */
export const fingerName = (finger: number): string => (finger === THUMB ? 'T' : String(finger));
export const fingerNumber = (name: string): number => (name === 'T' ? THUMB : Number(name));
