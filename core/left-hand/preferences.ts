/**
 * Where good players disagree about the left hand: presets, schools, and the weight of every cost. A preference never forbids
 * a note: what goes against it only costs more.
 */
import { isUpper } from '../instruments/instrument';
import { z } from 'zod';
import type { InstrumentKind } from '../score/score';
import { DEFAULT_COSTS, TERMS, type LeftHandCosts, type Term } from './costs';

export const PRESETS = ['usual', 'first position', 'orchestral', 'singing', 'historical'] as const;
export type Preset = (typeof PRESETS)[number];

export const handPreferencesShape = z.object({
  preset: z.enum(PRESETS),
  /** Multipliers that the coach set herself, over those of the preset. */
  weights: z.partialRecord(z.enum(TERMS), z.number().min(0).max(10)),
  /** Open string or fourth finger: open where it rings and the tempo is quick; open wherever there is one; stopped. */
  openStrings: z.enum(['usual', 'open', 'stopped']),
  /** Chromatic lines: as it comes; a finger for each half step; fingers that slide. */
  chromatic: z.enum(['usual', 'finger each', 'sliding']),
  /** A shift in a slur: hidden where it can be, or heard because the line wants it. */
  slides: z.enum(['hidden', 'wanted']),
  halfStepTrill: z.enum(['neighbours', '1-3']),
  trillBegins: z.enum(['main', 'upper']),
});
export type HandPreferences = z.infer<typeof handPreferencesShape>;

export const USUAL_PREFERENCES: HandPreferences = {
  preset: 'usual',
  weights: {},
  openStrings: 'usual',
  chromatic: 'usual',
  slides: 'hidden',
  halfStepTrill: 'neighbours',
  trillBegins: 'main',
};

interface PresetEntry {
  /** What it is for, in words. */
  aim: string;
  weights: Partial<Record<Term, number>>;
  openBias: number;
  /** Stays in first position (half position included) where it can. */
  staysLow: boolean;
}

/** Judgement, each on the trade's own words for it. */
export const PRESET_TABLE: Readonly<Record<Preset, PresetEntry>> = {
  usual: { aim: 'the easiest way on the whole', weights: {}, openBias: 0, staysLow: false },
  'first position': { aim: 'for first-position classes: the hand stays where it was set', weights: {}, openBias: -0.1, staysLow: true },
  orchestral: {
    aim: 'safe in a section: few shifts, low positions, nothing daring',
    weights: { shift: 2, 'long shift': 2, landing: 1.5, height: 1.5, harmonic: 2, crossing: 0.8, thumb: 1.5 },
    openBias: -0.02,
    staysLow: false,
  },
  singing: {
    aim: 'for a line that sings: one colour, strong fingers, stopped notes',
    weights: { shift: 0.75, 'long shift': 0.75, crossing: 3.5, leap: 1.5, 'weak finger': 2, 'long fourth finger': 2, height: 0.7, harmonic: 1.5 },
    openBias: 0.35,
    staysLow: false,
  },
  historical: {
    aim: 'low positions and open strings, shifts where the music breathes',
    weights: { shift: 1.4, 'long shift': 1.4, height: 4, start: 3, harmonic: 3, crossing: 0.6, thumb: 2 },
    openBias: -0.12,
    staysLow: false,
  },
};

/** Highest place of the first finger that still counts as first position, half steps above the open string (methods). */
const FIRST_POSITION = 2;

/** Open strings everywhere or nowhere, added to each (the threshold between them is about .07, trial). */
const OPEN_BIAS: Readonly<Record<HandPreferences['openStrings'], number>> = { usual: 0, open: -0.4, stopped: 1.2 };

/** What the search needs of the preferences. */
export interface Resolved {
  costs: LeftHandCosts;
  /** One per term, in the order of TERMS. */
  weights: Float64Array;
  openBias: number;
  /** Highest place of the first finger without extra cost, half steps; null where there is no limit. */
  stayBelow: number | null;
}

/**
 * @param costs single constants that were changed by name
 */
export function resolved(preferences: HandPreferences = USUAL_PREFERENCES, costs: LeftHandCosts = DEFAULT_COSTS): Resolved {
  const preset = PRESET_TABLE[preferences.preset];
  return {
    costs: { ...costs, ...chromaticCosts(preferences.chromatic, costs), ...(preferences.slides === 'wanted' ? { shiftInSlur: costs.shiftInSlur - 0.5 } : {}) },
    weights: Float64Array.from(TERMS, (term) => preferences.weights[term] ?? preset.weights[term] ?? 1),
    openBias: preset.openBias + OPEN_BIAS[preferences.openStrings],
    stayBelow: preset.staysLow ? FIRST_POSITION : null,
  };
}

/** The two schools of chromatic lines as prices of a finger that slides and of fingers close together. */
function chromaticCosts(school: HandPreferences['chromatic'], costs: LeftHandCosts): Partial<LeftHandCosts> {
  if (school === 'usual') return {};
  if (school === 'sliding') return { slideSameLetter: costs.slideSameLetter * 0.25, slideOtherLetter: costs.slideOtherLetter * 0.6 };
  return {
    slideSameLetter: costs.slideSameLetter * 4,
    slideOtherLetter: costs.slideOtherLetter * 2.5,
    enharmonic: costs.enharmonic * 0.25,
    oddAlteration: costs.oddAlteration * 0.5,
  };
}

/** Terms that can be weighed by the coach, with the words she is asked in. */
export const WEIGHT_WORDS: ReadonlyArray<readonly [term: Term, words: string]> = [
  ['shift', 'Shifts'],
  ['long shift', 'Long or hurried shifts'],
  ['landing', 'Landing on 3 or 4 after a shift'],
  ['crossing', 'String changes'],
  ['leap', 'Leaps over a string'],
  ['hop', 'One finger hopping across'],
  ['slide', 'A finger sliding a half step'],
  ['weak finger', 'The fourth finger'],
  ['long fourth finger', 'The fourth finger on long notes'],
  ['open string', 'Open strings'],
  ['height', 'High on a low string'],
  ['start', 'Cold starts high up'],
  ['extension', 'Extensions'],
  ['reach', 'Stretches'],
  ['frame', 'Fingers out of their usual place'],
  ['harmonic', 'Harmonics'],
  ['thumb', 'The thumb'],
  ['unlike', 'The same music fingered in two ways'],
];

/** Terms that mean something on this instrument. */
export const weighable = (kind: InstrumentKind): ReadonlyArray<readonly [term: Term, words: string]> =>
  WEIGHT_WORDS.filter(([term]) => term !== 'thumb' || !isUpper(kind));
