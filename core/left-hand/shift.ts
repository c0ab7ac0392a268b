/**
 * A shift: how far the hand moves, in how much time, and how hard that is.
 * Index of difficulty after Fitts 1954, log2(2·distance/width), where the width is the mm of ±10 cents
 * at the target; movement time from a rate in seconds per bit (trial).
 */
import { centsPerMm } from '../instruments/geometry';
import { THUMB } from '../instruments/player';
import type { Place } from './places';

export const TARGET_WIDTH_CENTS = 20;

/** Index of difficulty in bits: `log2(2·distance/width)`, never below 0 (Fitts 1954). */
export function difficultyBits(distanceMm: number, widthMm: number): number {
  if (distanceMm <= 0) return 0;
  return Math.max(0, Math.log2((2 * distanceMm) / widthMm));
}

/** Width of the target in mm: ±10 cents at a stop. */
export function targetWidthMm(lengthMm: number, stop: number): number {
  return TARGET_WIDTH_CENTS / centsPerMm(lengthMm, stop);
}

export type ShiftKind = 'same finger' | 'old finger leads' | 'new finger leads' | 'over a string';
export type HeardWhere = 'in a slur' | 'at a bow change' | 'across an open string' | 'on a harmonic' | 'in a rest';

export interface Shift {
  mm: number;
  gapMs: number;
  bits: number;
  bitsPerS: number;
  kind: ShiftKind;
  /** Where the old finger lies when the hand has arrived, on its own string; null for the same finger. */
  guide: { string: number; stop: number } | null;
  heard: HeardWhere;
  /** Seconds of silence and open strings, and seconds of the last stopped note: what the gap is made of. */
  freeS: number;
  lastS: number;
  /** Seconds that are taken from the last note at most, but for a long one. */
  stolenS: number;
}

/** Two hands closer than this are the same place. */
export const SAME_PLACE_MM = 0.5;

/** Whether the hand leaves its place between two stopped notes. */
export function isShift(from: Place, to: Place): boolean {
  return Math.abs(from.handMm - to.handMm) > SAME_PLACE_MM;
}

/** The gap in seconds, and what it is made of. */
export interface ShiftTime {
  gapS: number;
  freeS: number;
  lastS: number;
  stolenS: number;
}

export function shiftBetween(from: Place, to: Place, lengthMm: number, time: ShiftTime, heard: HeardWhere): Shift {
  const mm = Math.abs(from.handMm - to.handMm);
  const bits = difficultyBits(mm, targetWidthMm(lengthMm, to.stop));
  const up = to.handMm > from.handMm;
  const kind: ShiftKind =
    from.string !== to.string
      ? 'over a string'
      : from.finger === to.finger
        ? 'same finger'
        : order(to) > order(from) === up
          ? 'old finger leads'
          : 'new finger leads';
  return {
    mm,
    bits,
    kind,
    heard,
    freeS: time.freeS,
    lastS: time.lastS,
    stolenS: time.stolenS,
    gapMs: time.gapS * 1000,
    bitsPerS: bits / Math.max(time.gapS, 0.001),
    guide:
      from.finger === to.finger || from.hand === null || to.hand === null
        ? null
        : { string: from.string, stop: Math.max(1, to.hand + (from.stop - from.hand)) },
  };
}

const order = (place: Place): number => (place.finger === THUMB ? 0.5 : place.finger);

/** Seconds of an audible slide: what is left of a short note, and never drawn out (judgement). */
const SLIDE_S = 0.15;
const SLIDE_SHARE = 0.3;
export const slideSeconds = (noteS: number): number => Math.min(SLIDE_S, noteS * SLIDE_SHARE);
