/** What a finding of each kind knows of itself: all inputs of its sentence, with their units in their names. A kind is made here. */

type Of<Names extends string> = Record<Names, number>;

export interface NumbersOf {
  unplayable: { pitches: string; reason: string; held?: string };
  /** Marks that no hand, or no bow, can do together. */
  contradiction: NumbersOf['unplayable'] | { marks: string; planned: string } | { direction: string; planned: string };
  'shift late': Of<'mm' | 'gapMs' | 'bits' | 'bitsPerS' | 'playerBitsPerS' | 'load'> & { heard: string };
  reach: Of<'mm' | 'comfortableMm' | 'limitMm'> & { hand: string };
  'out-of-tune risk': Of<'chance' | 'errorCents' | 'toleranceCents'> & {
    cause: string;
    aim?: string;
    aimCents?: number;
    mm?: number;
    gapMs?: number;
    /** Of each cause. */
    [cents: `${string} cents`]: number;
  };
  'colour break': { from: string; to: string } & Of<'halfSteps' | 'seconds'>;
  'audible shift': Of<'mm' | 'seconds' | 'shareOfString'>;
  'bow runs out': Of<'neededCm' | 'hairCm' | 'seconds' | 'slowestCmPerS'>;
  'bow must race back': Of<'beforeCmPerS' | 'cmPerS' | 'stepDb' | 'surplusDb' | 'steadySpeedRatio' | 'steadyStepDb'> & { figuresUntilTheBowEnds?: number };
  'retake late': Of<'neededS' | 'freeS'>;
  'stroke too quick': Of<'strokesPerS' | 'playerStrokesPerS'> & { bounced: 'yes' | 'no' };
  'trill too quick': Of<'seconds' | 'notes' | 'notesPerS' | 'playerNotesPerS'> & { written: string; fingers?: string };
  'ornament too quick': { ornament: string } & Of<'seconds' | 'neededS' | 'mainS' | 'playerNotesPerS'>;
  'string change too quick': Of<'crossingsPerS' | 'playerCrossingsPerS' | 'handTravelCm'>;
  'string leap in a slur': Of<'strings' | 'seconds'>;
  'level out of reach': Of<'cm' | 'cmPerS' | 'contact' | 'missingDb'> & { level: string };
  'single notes vanish': Of<'notesPerS' | 'playerStrokesPerS' | 'slurCm' | 'singleCm' | 'singles'>;
  'rhythm under one bow': Of<'longS' | 'shortS' | 'shortCm' | 'times'>;
  /** `endsAt`: place of the bow as a share of it from the frog. */
  'held to the wrong end': Of<'endsAt' | 'awayCm'>;
  /** Places of the bow as shares of it from the frog. */
  'wish not met': Of<'away' | 'from' | 'to'>;
  'bowed differently elsewhere': { bars: string; like: string };
  'repeat does not come round': { direction: string; cm: number };
  'pizzicato change late': Of<'seconds' | 'neededS'>;
  'phrase or bow?': Of<'bows'>;
  'reading trap': { kind: string; count?: string };
  'counting trap': { kind: string; count?: string };
  'marked differently elsewhere': { like: string; differences: number; marks: string } & ({ alike: string } | { part: string; how: string });
}

export type FindingKind = keyof NumbersOf;
