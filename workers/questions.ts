/** What the analyst is asked under, and what it answers. */
import type { Part } from '../core/score/score';
import type { Told } from '../core/instruments/as-told';
import type { PlayerDescription } from '../core/instruments/player';
import type { Marking } from '../core/marking/mark';
import type { Change } from '../core/marking/change';
import type { FingeringNumbers } from '../core/left-hand/reasons';
import type { Fingering } from '../core/left-hand/fingering';
import type { HandPreferences } from '../core/left-hand/preferences';
import type { Density } from '../core/left-hand/worth-writing';
import type { Bowing } from '../core/bow-arm/describe';
import type { Hemiola } from '../core/bow-arm/hemiola';
import type { BowingNumbers } from '../core/bow-arm/reasons';
import type { IntonationSettings } from '../core/checks/target';
import { HandOutlook } from '../core/checks/hand-outlook';

/** What a plan depends on besides the music. */
export interface Conditions {
  marking: Marking;
  player: PlayerDescription | null;
  tempo: number | null;
  told: Told;
  /** How the left hand likes to play. */
  preferences: HandPreferences;
  /** How many fingers a taken suggestion writes. */
  density: Density;
  /** How in tune it is wanted. */
  intonation: IntonationSettings;
  /** Which line of a divided part is planned. */
  line: number;
}

/** Another part of the piece, as the server gives it. */
export interface OtherMusic {
  id: string;
  name: string;
  markingId: string;
  music: string;
  marking: Marking;
  told: Told;
  /** Wanted, quarters per minute; null takes the printed one. */
  tempo: number | null;
}

/** Quarters per minute. */
export interface WantedTempi {
  own: number;
  /** Of most other string parts. */
  others: number;
  departing: Array<{ name: string; tempo: number }>;
}

export interface OpenPart {
  part: Part;
}

export interface FingeringChoice {
  way: Fingering;
  numbers: FingeringNumbers;
  /** What it comes to for this player. */
  outlook: HandOutlook;
  more: string[];
  less: string[];
  /** What taking it writes. */
  changes: Change[];
}

export interface BowingChoice {
  plan: Bowing;
  numbers: BowingNumbers;
  more: string[];
  less: string[];
  changes: Change[];
}

/** What else there is to say about the bow in a passage. */
export interface BowOfPassage {
  hemiolas: Hemiola[];
  /** Strings of every note, for practising the crossings alone. */
  openStrings: Array<{ noteId: string; strings: number[] }>;
}
