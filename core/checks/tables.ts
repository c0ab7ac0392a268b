/**
 * Constants of the checks, one table each. "models": starting values from our own trial, unvalidated;
 * "memory": from memory; "judgement": set by us. All are to be editable by the user.
 */
import type { InstrumentKind } from '../score/score';
import type { Level, Player } from '../instruments/player';

/** Spread of placing a finger, in mm on a string of 328 mm at the nut (models, unvalidated). */
export const PLACEMENT_MM: Readonly<Record<Level, number>> = { beginner: 3, intermediate: 1.7, advanced: 0.95, professional: 0.6 };

/** Seconds: spread in mm of a shift's landing is this times distance over time (models, unvalidated). */
export const SHIFT_SPREAD_S: Readonly<Record<Level, number>> = { beginner: 0.009, intermediate: 0.005, advanced: 0.003, professional: 0.0018 };

/** Cents off that this level is expected to notice and mind (judgement). */
export const TOLERANCE_CENTS: Readonly<Record<Level, number>> = { beginner: 30, intermediate: 22, advanced: 15, professional: 10 };

/** Bits per second that a shift may ask for: 0.025 s a bit for an advanced player (models), the others by judgement. */
export const SHIFT_BITS_PER_S: Readonly<Record<Level, number>> = { beginner: 18, intermediate: 28, advanced: 40, professional: 50 };

/** Separate strokes per second (memory). */
const STROKES_PER_S: Readonly<Record<Level, number>> = { beginner: 4, intermediate: 7, advanced: 10, professional: 13 };

/** String changes per second (memory). */
const CROSSINGS_PER_S: Readonly<Record<Level, number>> = { beginner: 2, intermediate: 4, advanced: 7, professional: 10 };

/** Low heavy strings start more slowly (common practice). */
const QUICKNESS: Readonly<Record<InstrumentKind, number>> = { violin: 1, viola: 0.95, cello: 0.9, bass: 0.75 };

/** Separate strokes per second that a player manages, and changes of string. */
export const strokesPerS = ({ level, instrument }: Pick<Player, 'level' | 'instrument'>): number => STROKES_PER_S[level] * QUICKNESS[instrument.kind];
export const crossingsPerS = ({ level, instrument }: Pick<Player, 'level' | 'instrument'>): number => CROSSINGS_PER_S[level] * QUICKNESS[instrument.kind];

/** Bounced strokes per second: slower they are placed one by one, quicker they do not come off (memory). */
export const BOUNCED_PER_S: Readonly<Record<Level, number>> = { beginner: 3, intermediate: 7, advanced: 10, professional: 12 };

/** Seconds to go from the bow to plucking or back, with the bow in the hand (judgement). */
export const PIZZICATO_CHANGE_S = 0.45;

/** Separate notes a second beside slurs of the same value, against what the player manages in a row (judgement). */
export const MIXED_LOAD_FROM: Thresholds = [0.5, 0.8, 1.3];

/** A single note that is longer has time to be given its bow, in seconds (judgement). */
export const SINGLE_NOTE_S = 0.4;

/** A single note this many times as fast as the slur bumps rather than vanishes (judgement). */
export const HURRIES_BACK = 2;

/** Two notes have one value within this share (a tempo that changes gently is no other value). */
export const SAME_VALUE = 0.06;

/** A rhythm under one bow is told of from so many notes, long against short, and short ones no longer than this in seconds (judgement). */
export const EVEN_RHYTHM = { notes: 3, ratio: 1.9, shortestS: 0.3 } as const;

/** Nobody misses the last of the bow: this share of it is all that is asked for (judgement). */
export const MOST_OF_THE_BOW = 0.9;

/** What is missing of the bow after a held note, as a share of it (judgement). */
export const WRONG_END_FROM: Thresholds = [0.12, 0.3, 0.5];

/** What is missing of a level at the best contact, dB (judgement). */
export const MISSING_DB_FROM = [3, 6, 9] as const;

/** Distance of the bow from where it was wished, as a share of it (judgement). */
export const WISH_MISSED_FROM = [0.12, 0.25, 0.4] as const;

/** Leap over a string inside a slur against the time for it, in seconds per string: less than this is heard (judgement). */
export const LEAP_S = 0.18;

/** Multipliers of the placement spread (models, untested). */
export const PLACEMENT_FACTORS = {
  /** Added to the spread, in units of the placement spread. */
  extension: 0.5,
  coldEntry: 1.5,
  fourthFinger: 1.15,
  ringing: 0.7,
  /** At the limit of the hand. */
  stretch: 0.6,
  dissonantStop: 0.5,
  /** A finger that has just lain half a step away is drawn back there: the spots that are known to go wrong in chromatic lines (common practice). */
  changedFrame: 1.3,
  diminishedFifth: 0.8,
} as const;

/** Another cause is named before the placing of the finger from this share of it on (judgement). */
export const PLACEMENT_ALONE = 0.6;

/** A rest this long before a note makes its entry cold, in seconds (judgement). */
export const COLD_AFTER_S = 1.5;

/** Where a finding begins and where it gets worse: chance of being out of tune (judgement). */
export const OUT_OF_TUNE_FROM = [0.15, 0.3, 0.5] as const;

/** Load of a shift against the player, needed over available time (judgement). */
export const SHIFT_LOAD_FROM = [1, 1.25, 1.75] as const;

/** Loudness step of an uneven pair beyond the wanted one, dB (judgement). */
export const UNEVEN_DB_FROM = [6, 9, 12] as const;

/** The same where the pair is a figure that comes again and again (judgement). */
export const UNEVEN_FIGURE_DB_FROM = [4, 9, 12] as const;

/** Needed over available time from bowing to plucking and back (judgement). */
export const PLUCK_LOAD_FROM = [1, 2, 4] as const;

/** Needed over available bow, and needed over available time of a retake (judgement). */
export const BOW_LOAD_FROM = [1, 1.2, 1.6] as const;

/** Notes per second of the shortest trill over what the level manages (judgement). */
export const TRILL_LOAD_FROM = [1, 1.3, 1.7] as const;

/** A string change in mid-phrase is told of on notes this long, in seconds, that lie this near, in half steps (judgement). */
export const COLOUR_FROM_S = 0.35;
export const COLOUR_HALF_STEPS = 4;

/** A shift inside a slur over the string length: from here on it is heard (judgement). */
export const AUDIBLE_FROM = [0.06, 0.14, 0.24] as const;

/** Notes within which a finger that lay elsewhere is remembered by the hand (judgement). */
export const FRAME_NOTES = 4;

/** Reach over what is comfortable, as a share of the way to the limit (judgement). */
export const REACH_FROM = [0.35, 0.7, 1] as const;

/** Added to that where both are held at once: nothing can give way (judgement). */
export const HELD_TOGETHER = 0.2;

/** Between notes this far apart in seconds the hand may pivot; then only what passes the limit counts (judgement). */
export const PIVOT_S = 0.25;
export const REACH_WHEN_PIVOTING = [1, 1.3, 1.6] as const;

export type Thresholds = readonly [number, number, number];

/** Told of whatever its load is: to watch; and what cannot be otherwise: it will fail. */
export const TOLD: Thresholds = [1, 2, 3];
export const CERTAIN: Thresholds = [0, 0, 1];

/** What is done a second over what the level manages (judgement). */
export const RATE_FROM: Thresholds = [1, 1.3, 1.7];

/** 0 below the first threshold, else 1 to 3. */
export function severityOf(value: number, thresholds: Thresholds): 0 | 1 | 2 | 3 {
  if (value >= thresholds[2]) return 3;
  if (value >= thresholds[1]) return 2;
  return value >= thresholds[0] ? 1 : 0;
}
