/**
 * The constants of the fingering model, one table: every entry has its unit and source and can be
 * edited. "trial": measured on textbook fingerings; "judgement": set by us, to be improved.
 */
export interface LeftHandCosts {
  shiftHeard: number;
  shiftAcrossOpen: number;
  shiftInRest: number;
  shiftInSlur: number;
  sameFingerRelief: number;
  /** Weight of index of difficulty times time pressure. */
  shiftDifficulty: number;
  /** Seconds per bit: movement time of a shift. */
  secondsPerBit: number;
  /** Seconds: spread of the landing, distance over time (advanced player). */
  landingSpread: number;
  landingRisk: number;
  landOn2: number;
  landOn3: number;
  landOn4: number;
  slideSameLetter: number;
  slideOtherLetter: number;
  slideOnFourth: number;
  /** On violin and viola between strokes and in a slur; on cello and bass. */
  crossing: number;
  crossingInSlur: number;
  crossingLow: number;
  leap: number;
  leapInSlur: number;
  hopEqualStop: number;
  /** Two fingers on one spot of neighbouring strings. */
  squeeze: number;
  /** A finger that lies across two strings, not the fourth and not on the bass. */
  cover: number;
  hopNearStop: number;
  /** On violin and viola; on cello and bass the whole hand stands behind it. */
  fourthFinger: number;
  fourthFingerLow: number;
  fourthFingerLong: number;
  fourthFingerLongLow: number;
  /** A trill that the fourth finger would have to trill over, and one over the open string. */
  trillOnFourth: number;
  trillOnThird: number;
  trillOnOpen: number;
  openLong: number;
  openQuick: number;
  openAny: number;
  height: number;
  heightTopString: number;
  startHeight: number;
  /** Each note in second position of violin and viola: it has neither the nut nor the body of the instrument to feel. */
  secondPosition: number;
  extension: number;
  extensionChange: number;
  fourthExtended: number;
  firstBack: number;
  lowFirst: number;
  highFirst: number;
  oddAlteration: number;
  /** Two fingers closer or wider than the patterns of the hand. */
  oddSpacing: number;
  highThird: number;
  lowFourth: number;
  enharmonic: number;
  thumb: number;
  thumbChange: number;
  harmonic: number;
  stretch: number;
  beyondReach: number;
  doubleStop: number;
  /** An octave on two stopped neighbouring strings of violin or viola that is not 1 and 4. */
  octaveOtherwise: number;
  /** For a whole bar (or figure) that is fingered otherwise than the same music elsewhere. */
  alike: number;
  /** Each note above the position that the player shall stay in, and each half step of it. */
  beyondPosition: number;
  beyondPositionStep: number;
  /** Each note in half position, where the hand shall stay in first. */
  belowPosition: number;
  longSeconds: number;
  quickSeconds: number;
  /** Seconds: at most this much is taken from the note before a shift. */
  stolenSeconds: number;
}

export interface CostEntry {
  value: number;
  unit: string;
  source: 'trial' | 'judgement' | 'Fitts 1954, rate from trial';
}

const t = (value: number, unit = 'cost'): CostEntry => ({ value, unit, source: 'trial' });
const j = (value: number, unit = 'cost'): CostEntry => ({ value, unit, source: 'judgement' });

export const COST_TABLE: Readonly<Record<keyof LeftHandCosts, CostEntry>> = {
  shiftHeard: t(0.53),
  shiftAcrossOpen: t(0.35),
  shiftInRest: t(0.15),
  shiftInSlur: t(0.52),
  sameFingerRelief: t(0.08),
  shiftDifficulty: t(0.12, 'cost per bit'),
  secondsPerBit: { value: 0.025, unit: 's/bit', source: 'Fitts 1954, rate from trial' },
  landingSpread: t(0.003, 's'),
  landingRisk: t(0.3),
  landOn2: t(0.1),
  landOn3: t(0.2),
  landOn4: t(0.4),
  slideSameLetter: j(0.3),
  slideOtherLetter: t(1.2),
  slideOnFourth: t(0.25),
  crossing: t(0.07),
  crossingInSlur: t(0.18),
  crossingLow: t(0.12),
  leap: t(0.5),
  leapInSlur: t(0.8),
  hopEqualStop: j(0.55),
  squeeze: j(0.6),
  cover: t(0.15),
  hopNearStop: t(0.7),
  fourthFinger: t(0.07),
  fourthFingerLow: t(0.06),
  fourthFingerLong: t(0.26),
  fourthFingerLongLow: t(0.12),
  trillOnFourth: j(1.5),
  trillOnThird: t(0.6),
  trillOnOpen: j(0.3),
  openLong: j(0.25),
  openQuick: t(-0.08),
  openAny: j(-0.02),
  height: j(0.006, 'cost per half step²'),
  heightTopString: t(0.0017, 'cost per half step²'),
  secondPosition: t(0.06),
  startHeight: j(0.13, 'cost per half step'),
  extension: t(0.18),
  extensionChange: t(0.4),
  fourthExtended: t(0.45),
  firstBack: j(0.5),
  lowFirst: j(0.06),
  highFirst: j(0.3),
  oddAlteration: t(0.15),
  oddSpacing: t(0.36),
  highThird: j(0.1),
  lowFourth: j(0.1),
  enharmonic: j(0.2),
  thumb: j(0.25),
  thumbChange: j(0.6),
  harmonic: t(0.31),
  stretch: j(0.5),
  beyondReach: j(4),
  doubleStop: j(0.2),
  octaveOtherwise: t(1.5),
  alike: j(1.2),
  beyondPosition: j(2),
  beyondPositionStep: j(0.3, 'cost per half step'),
  belowPosition: j(0.6),
  longSeconds: j(1.2, 's'),
  quickSeconds: t(0.2, 's'),
  stolenSeconds: j(0.15, 's'),
};

export const DEFAULT_COSTS: LeftHandCosts = Object.fromEntries(
  Object.entries(COST_TABLE).map(([name, entry]) => [name, entry.value]),
) as unknown as LeftHandCosts;

/** The terms that every fingering is explained with. */
export const TERMS = [
  'shift',
  'long shift',
  'landing',
  'slide',
  'crossing',
  'leap',
  'hop',
  'weak finger',
  'long fourth finger',
  'open string',
  'height',
  'extension',
  'frame',
  'thumb',
  'harmonic',
  'reach',
  'start',
  'position',
  'unlike',
] as const;
export type Term = (typeof TERMS)[number];

/** Multipliers of terms that make a strategy out of the same model. */
export interface Strategy {
  name: string;
  /** In words for the coach: what this way of playing is after. */
  aim: string;
  weights: Partial<Record<Term, number>>;
  /** Added to every open string. */
  openBias: number;
}

export const STRATEGIES: readonly Strategy[] = [
  { name: 'balanced', aim: 'the easiest way on the whole', weights: {}, openBias: 0 },
  { name: 'fewest shifts', aim: 'moves the hand as seldom as it can', weights: { shift: 2.6, 'long shift': 2.6, landing: 1.5 }, openBias: 0 },
  { name: 'small shifts', aim: 'goes up and down in small steps', weights: { 'long shift': 8, shift: 0.8 }, openBias: 0 },
  { name: 'stay low', aim: 'stays near the nut', weights: { height: 5, start: 8 }, openBias: -0.05 },
  { name: 'one colour', aim: 'keeps a line on one string', weights: { crossing: 7, leap: 2, hop: 1.5 }, openBias: 0.5 },
  { name: 'no open strings', aim: 'stops every note', weights: {}, openBias: 1.6 },
  { name: 'no fourth finger on long notes', aim: 'gives long notes to a stronger finger', weights: { 'weak finger': 2, 'long fourth finger': 9 }, openBias: 0 },
  { name: 'same pattern', aim: 'fingers the same music alike wherever it comes back', weights: { unlike: 8 }, openBias: 0 },
];
