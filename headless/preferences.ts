/** --set PREFERENCE=VALUE: how the left hand likes to play, by name; the weight of a term; any cost of the models. */
import { bad, good, type Result } from '../core/util/result';
import type { Technique } from '../core/instruments/player';
import { DEFAULT_COSTS, TERMS, type LeftHandCosts, type Term } from '../core/left-hand/costs';
import { handPreferencesShape, PRESETS, USUAL_PREFERENCES, type HandPreferences } from '../core/left-hand/preferences';
import { intonationShape, PITCH_SCHOOLS, USUAL_INTONATION, type IntonationSettings } from '../core/checks/target';
import { BOW_COSTS, type BowCosts } from '../core/bow-arm/tables';

export interface Preferences {
  hand: HandPreferences;
  leftHand: LeftHandCosts;
  bow: Partial<BowCosts>;
  technique: Partial<Technique>;
  intonation: IntonationSettings;
}

/** Names on the command line, what they set, and what may be said. */
const WORDS = {
  preset: { key: 'preset', values: PRESETS },
  'open-strings': { key: 'openStrings', values: handPreferencesShape.shape.openStrings.options },
  chromatic: { key: 'chromatic', values: handPreferencesShape.shape.chromatic.options },
  slides: { key: 'slides', values: handPreferencesShape.shape.slides.options },
  'half-step-trill': { key: 'halfStepTrill', values: handPreferencesShape.shape.halfStepTrill.options },
  trill: { key: 'trillBegins', values: handPreferencesShape.shape.trillBegins.options },
} as const satisfies Record<string, { key: keyof HandPreferences; values: readonly string[] }>;

const BASS_FINGERS = ['three', 'four'] as const;
const WEIGHT = /^weight[.:](.+)$/;

export const preferenceHelp = (): string =>
  [
    ...Object.entries(WORDS).map(([name, { values }]) => `      ${name}=${values.join('|')}`),
    `      pitch=${PITCH_SCHOOLS.join('|')}   tolerance=CENTS   what is aimed at, and how far off is minded`,
    `      bass-fingers=${BASS_FINGERS.join('|')}   thumb-from=STOP`,
    `      weight.TERM=0..10 (1 is usual): ${TERMS.join(', ')}`,
  ].join('\n');

export function readPreferences(set: ReadonlyArray<readonly [name: string, value: string]>): Result<Preferences> {
  const found: Preferences = {
    hand: { ...USUAL_PREFERENCES, weights: {} },
    leftHand: { ...DEFAULT_COSTS },
    bow: {},
    technique: {},
    intonation: { ...USUAL_INTONATION },
  };
  for (const [name, value] of set) {
    const problem = put(found, name, value);
    if (problem) return problem;
  }
  return good(found);
}

function put(found: Preferences, name: string, value: string): Result<never> | null {
  const place = `--set ${name}`;
  if (name in WORDS) {
    const { key, values } = WORDS[name as keyof typeof WORDS];
    if (!(values as readonly string[]).includes(value)) return bad(place, `"${value}" is not known.`, `Use one of ${values.join(', ')}.`);
    Object.assign(found.hand, { [key]: value });
    return null;
  }
  if (name === 'bass-fingers') {
    const fingers = BASS_FINGERS.find((each) => each === value);
    if (!fingers) return bad(place, `"${value}" is not known.`, `Use one of ${BASS_FINGERS.join(', ')}.`);
    found.technique.bassFingers = fingers;
    return null;
  }
  if (name === 'pitch') {
    const school = PITCH_SCHOOLS.find((each) => each === value);
    if (!school) return bad(place, `"${value}" is not known.`, `Use one of ${PITCH_SCHOOLS.join(', ')}.`);
    found.intonation.school = school;
    return null;
  }
  const number = Number(value);
  if (value.trim() === '' || !Number.isFinite(number) || Math.abs(number) > 1000)
    return bad(place, `"${value}" is no number from -1000 to 1000.`, 'Give a plain number, such as 1.5.');
  const term = WEIGHT.exec(name)?.[1]?.replaceAll('-', ' ') as Term | undefined;
  if (name === 'tolerance') {
    const asked = intonationShape.shape.toleranceCents.safeParse(number);
    if (!asked.success) return bad(place, `${value} is no tolerance from 2 to 60 cents.`, 'Use 15 for an advanced player, 30 for a beginner.');
    found.intonation.toleranceCents = asked.data;
  } else if (name === 'thumb-from') found.technique.thumbFrom = number;
  else if (term) {
    if (!TERMS.includes(term)) return bad(place, 'There is no such term.', `Use one of ${TERMS.join(', ')}.`);
    if (number < 0 || number > 10) return bad(place, `${value} is no weight from 0 to 10.`, 'Use 1 for the usual weight, 0 for none.');
    found.hand.weights[term] = number;
  } else if (name in DEFAULT_COSTS) found.leftHand[name as keyof LeftHandCosts] = number;
  else if (name in BOW_COSTS) found.bow[name as keyof BowCosts] = number;
  else
    return bad(
      place,
      'There is no such preference.',
      `Use ${Object.keys(WORDS).join(', ')}, pitch, tolerance, bass-fingers, thumb-from, weight.TERM, or one of ${[...Object.keys(DEFAULT_COSTS), ...Object.keys(BOW_COSTS)].join(', ')}.`,
    );
  return null;
}
