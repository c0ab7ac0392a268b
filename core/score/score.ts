/**
 * The score: what the composer and the edition say. Plain immutable values, JSON-serialisable.
 * Time is whole ticks (`TICKS_PER_QUARTER` to the quarter note); pitch is spelled.
 */
import type { Pitch } from './pitch';
import type { TimeLine } from './time-line';

export type InstrumentKind = 'violin' | 'viola' | 'cello' | 'bass';

export interface Warning {
  place: string;
  text: string;
}

export interface Score {
  title: string;
  composer: string | null;
  /** What all parts have in common; each part lies on it. */
  timeLine: TimeLine;
  parts: Part[];
  warnings: Warning[];
}

export interface Part {
  /** The file's part id. */
  id: string;
  name: string;
  /** What the name, the sound or the clef and range say; null where it is no bowed string part. */
  instrument: InstrumentKind | null;
  /** How the instrument was recognised, in words. */
  instrumentBecause: string;
  /** Several players on one part: chords may be divided. */
  section: boolean;
  /** Half steps to add to the written pitch to get the sound. */
  soundsHalfSteps: number;
  /** True where the file says so itself; false where it was inferred or set by the coach. */
  transposesItself: boolean;
  bars: Bar[];
  /** Clef changes in order, the first one of each staff included. */
  clefs: ClefChange[];
  /** Key changes in order, in the middle of a bar too. */
  keys: KeyChange[];
  /** Every pitched note head in order of onset, then voice, then pitch upwards. */
  notes: Note[];
  slurs: Slur[];
  dynamics: DynamicMark[];
  hairpins: Hairpin[];
  words: WordMark[];
  tempi: TempoMark[];
  /** How the tempo is meant, where the coach says so; never of the file. */
  pace?: readonly PaceMark[];
  /** Playing signs that the file gives for sound only: where plucking begins and ends. */
  plucked: Array<{ tick: number; on: boolean }>;
  rests: Rest[];
}

export interface Clef {
  sign: string;
  /** Counted from the lowest line. */
  line: number;
  /** Octaves of the small 8 at the clef: -1 sounds an octave lower than the plain clef. */
  octave: number;
}

export interface ClefChange {
  tick: number;
  staff: number;
  clef: Clef;
}

export interface KeyChange {
  tick: number;
  /** Sharps (positive) or flats (negative). */
  fifths: number;
}

export interface Bar {
  index: number;
  /** As printed; a string because editions write "12a" or start again at 1. */
  label: string;
  onset: number;
  /** Length in ticks, as it is filled by the part that fills it most. */
  ticks: number;
  beats: number;
  beatType: number;
  fifths: number;
  /** Ticks of its bar that lie before it: of an upbeat what is missing, of the rest of a bar after a repeat in its middle what was played. */
  into: number;
  /** An upbeat, or the rest of a bar after a repeat in its middle. */
  pickup: boolean;
  /** Which bar it is as players count, from 0; the two halves of a split bar are one, an upbeat is none. */
  counted: number | null;
  /** The file says that it has no number of its own. */
  implicit: boolean;
  rehearsal: string | null;
  /** Barline at its end is double, heavy or a repeat. */
  doubleBarAfter: boolean;
  repeatStart: boolean;
  repeatEnd: boolean;
  /** Voltas, segno, coda and the like; null for the many bars that have none. */
  signs: PlaySigns | null;
}

/** What a bar says about the order in which the bars are played. */
export interface PlaySigns {
  /** How often the repeated stretch is played, where its end says so. */
  times: number | null;
  /** Numbers of the volta that begins here. */
  volta: number[] | null;
  /** A volta ends with this bar. */
  voltaEnd: boolean;
  segno: boolean;
  coda: boolean;
  toCoda: boolean;
  fine: boolean;
  jump: 'da capo' | 'dal segno' | null;
}

export const ARTICULATIONS = [
  'accent',
  'strong-accent',
  'staccato',
  'staccatissimo',
  'tenuto',
  'portato',
  'spiccato',
  'breath',
  'caesura',
  'stress',
  'unstress',
  'soft-accent',
] as const;
export type Articulation = (typeof ARTICULATIONS)[number];

/** Those that every version of the file format can say; the others are read and kept. */
export type WritableArticulation = Exclude<Articulation, 'soft-accent'>;
export const WRITABLE_ARTICULATIONS = ARTICULATIONS.filter((name): name is WritableArticulation => name !== 'soft-accent');

export type OrnamentKind = 'trill' | 'mordent' | 'inverted mordent' | 'turn' | 'inverted turn' | 'delayed turn' | 'shake' | 'slide in';

export interface Ornament {
  kind: OrnamentKind;
  /** Alteration of the upper and the lower note where an accidental mark is printed. */
  above: number | null;
  below: number | null;
}

/** The sign before a note head. */
export interface Accidental {
  alter: number;
  /** In brackets, or marked as a reminder in the file. */
  courtesy: boolean;
}

/** How a length is written: an eighth in a triplet is `{ type: 'eighth', dots: 0, actual: 3, normal: 2 }`. */
export interface WrittenLength {
  type: string | null;
  dots: number;
  actual: number;
  normal: number;
}

export interface Note {
  id: string;
  barIndex: number;
  voice: string;
  staff: number;
  /** Ticks from the start of the bar. */
  tick: number;
  /** Ticks from the start of the part. */
  onset: number;
  /** Ticks; 0 for a grace note. */
  duration: number;
  /** Sounding pitch. */
  pitch: Pitch;
  /** Written pitch, as the file has it. */
  written: Pitch;
  /** True for the second and later heads of a chord in the file's order. */
  inChord: boolean;
  grace: null | 'slashed' | 'plain';
  cue: boolean;
  tiedFrom: boolean;
  tiedTo: boolean;
  articulations: Articulation[];
  fermata: boolean;
  trill: boolean;
  ornaments: Ornament[];
  accidental: Accidental | null;
  length: WrittenLength;
  /** Strokes of a tremolo sign: 0 none, 3 is unmeasured. */
  tremolo: number;
  /** A tremolo between this note and the next (start) or the one before (stop). */
  tremoloWith: null | 'start' | 'stop';
  /** A sliding line begins, ends, or passes through here. */
  slide: null | 'start' | 'stop' | 'both';
  chordSign: null | 'arpeggio' | 'arpeggio up' | 'arpeggio down' | 'together';
  harmonic: null | 'natural' | 'artificial';
  /** Which pitch of a harmonic the note head shows, where the file says so (a diamond head is a touch). */
  harmonicShows: null | 'base' | 'touching' | 'sounding';
  /** The plus sign over a string player's note: plucked by the left hand. */
  leftPlucked: boolean;
  /** What the edition prints, in the words of the marking. */
  printed: { finger: string | null; string: number | null; bow: 'down' | 'up' | null };
  /** Which `<note>` element of the part this is, counted from 0 in file order. */
  source: number;
}

export interface Rest {
  barIndex: number;
  voice: string;
  onset: number;
  duration: number;
}

export interface Slur {
  /** Note ids; the first and the last note under the slur. */
  from: string;
  to: string;
  voice: string;
  onset: number;
  /** Onset of the last note under it. */
  endOnset: number;
}

export type DynamicLevel = 'ppp' | 'pp' | 'p' | 'mp' | 'mf' | 'f' | 'ff' | 'fff';

export interface DynamicMark {
  tick: number;
  /** As printed: "sfz", "fp" keep their name. */
  text: string;
  /** Level from here on; null for a single stressed note (sfz, rf), which leaves the level as it is. */
  level: DynamicLevel | null;
  /** Which sign of the part it is (`signsOf`); absent for signs that no file holds. */
  source?: number;
}

export interface Hairpin {
  kind: 'crescendo' | 'diminuendo';
  from: number;
  to: number;
  /** Signs of its two ends. */
  source?: readonly [number, number];
}

export interface WordMark {
  tick: number;
  text: string;
  source?: number;
}

export type Pace = 'ease' | 'push' | 'take time' | 'in time';

export interface PaceMark {
  tick: number;
  /** Where its note ends. */
  endTick: number;
  /** A stretch of its own: so many times the tempo, until the next "in time" or another stretch. */
  pace: Pace | { times: number };
}

export interface TempoMark {
  tick: number;
  /** Quarter notes per minute. */
  quartersPerMinute: number;
  printed: string | null;
  /** No mark of its own: the first one, carried back to the beginning. */
  carried?: true;
  /** Signs that say it: the metronome mark, the sound, or both; absent for marks of another part. */
  source?: readonly number[];
}

/** Largest onset + duration of the part, in ticks. */
export function partEnd(part: Part): number {
  const last = part.bars[part.bars.length - 1];
  return last ? last.onset + last.ticks : 0;
}

/** Index of the bar that holds a tick of the part. */
export function barIndexAt(bars: readonly Pick<Bar, 'onset'>[], tick: number): number {
  let low = 0;
  let high = bars.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (bars[middle]!.onset <= tick) low = middle;
    else high = middle - 1;
  }
  return low;
}
