/** What Crossread asks about a whole score, and what it is answered. */
import type { Entry } from '../core/ensemble/entries';
import type { RhythmGroup } from '../core/ensemble/groups';
import type { Foreign } from '../core/ensemble/in-chord';
import type { Phrase } from '../core/ensemble/roles';
import type { StaffLine } from '../core/ensemble/staff';
import type { TempoForAll } from '../core/ensemble/tempo-for-all';
import type { Told } from '../core/instruments/as-told';
import type { InstrumentKind } from '../core/score/score';
import type { Change } from '../core/marking/change';
import type { Opening, SpotToMend } from '../core/rehearsal/opening';
import type { SectionTempo } from '../core/rehearsal/page';

export interface ScoreMusic {
  id: string;
  name: string;
  markingId: string;
  music: string;
  told: Told;
  /** Wanted tempo of the part; null takes the printed one. */
  tempo: number | null;
}

export interface BarShown {
  label: string;
  /** Ticks from the start. */
  onset: number;
  ticks: number;
  rehearsal: string | null;
}

/** A stroke of the bow, or a note that is not bowed or not planned yet. */
export interface StrokeShown {
  onset: number;
  end: number;
  /** Null where it is not known. */
  direction: 'down' | 'up' | null;
  /** Printed or marked, not only planned. */
  written: boolean;
  /** Attacks under it after the first, ticks. */
  attacks: number[];
  /** Steps from ppp (0) to fff (7). */
  loud: number;
}

export interface LaneShown {
  partId: string;
  name: string;
  /** Null for what is no bowed string part. */
  instrument: InstrumentKind | null;
  strokes: StrokeShown[];
  /** Both hands are planned for the marks that it has now. */
  planned: boolean;
  /** Up to which tempo it works is known. */
  tempoKnown: boolean;
}

export interface ChordShown {
  /** Ticks. */
  from: number;
  to: number;
  /** In words, and as short as it can be said; null where no reading is sure. */
  name: string | null;
  sign: string | null;
}

/** An entry of a string part. */
export interface EntryShown extends Entry {
  partId: string;
  name: string;
  /** Bar and beat. */
  at: string;
  onset: number;
  printed: boolean;
}

export interface ScoreShown {
  /** What stands in the way of comparing them, in words. */
  remarks: string[];
  bars: BarShown[];
  lanes: LaneShown[];
  groups: RhythmGroup[];
  /** What each part does from where to where. */
  phrases: Phrase[];
  chords: ChordShown[];
  entries: EntryShown[];
  /** Null until every string part is planned and its tempi are known. */
  tempo: ScoreTempo | null;
}

/** The notes of a part as they stand on its staff, and those that are foreign to the chord. */
export interface StaffShown {
  line: StaffLine;
  foreign: Array<{ id: string; what: Foreign }>;
}

export interface ScoreTempo {
  all: TempoForAll;
  sections: SectionTempo[];
  /** Quarters per minute that the parts are checked at, by most of them, and those that depart from it. */
  wanted: number;
  departing: Array<{ partId: string; name: string; tempo: number }>;
  /** Spots that stand in the way of it, and the tempo at which the fewest do. */
  against: SpotToMend[];
  opening: Opening | null;
}

export interface CarriedTo {
  partId: string;
  changes: Change[];
}
