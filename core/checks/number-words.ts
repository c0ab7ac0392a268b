/** The numbers of a finding in people's words, for whoever asks how it is known. */
import { rounded } from '../util/round';
import type { Finding } from './finding';
import type { NumbersOf } from './numbers';

type NameOf<Numbers> = Numbers extends unknown ? Extract<keyof Numbers, string> : never;
type Named<Name> = Name extends `${string} cents` ? never : Name;
/** Every name that a number may have, but for the causes of being out of tune, which say themselves what they are. */
type NumberName = Named<NameOf<NumbersOf[keyof NumbersOf]>>;

interface Said {
  label: string;
  unit?: string;
  /** A share, said as per cent. */
  share?: true;
}

const WORDS: { readonly [Name in NumberName]: Said } = {
  pitches: { label: 'notes' },
  reason: { label: 'why' },
  held: { label: 'planned as held' },
  marks: { label: 'marks' },
  planned: { label: 'planned' },
  direction: { label: 'direction' },
  mm: { label: 'distance', unit: 'mm' },
  gapMs: { label: 'time for it', unit: 'ms' },
  bits: { label: 'difficulty of the move (distance against width of the target)', unit: 'bits' },
  bitsPerS: { label: 'asked of the hand', unit: 'bits a second' },
  playerBitsPerS: { label: 'what this level manages', unit: 'bits a second' },
  load: { label: 'asked for against managed', share: true },
  heard: { label: 'where it happens' },
  comfortableMm: { label: 'comfortable for this hand', unit: 'mm' },
  limitMm: { label: 'limit of this hand', unit: 'mm' },
  hand: { label: 'hand' },
  chance: { label: 'chance of being too far off', share: true },
  errorCents: { label: 'give or take, all causes together', unit: 'cents' },
  toleranceCents: { label: 'minded from', unit: 'cents' },
  cause: { label: 'above all from' },
  aim: { label: 'pitch that is aimed at' },
  aimCents: { label: 'aimed at against equal temperament', unit: 'cents' },
  from: { label: 'from' },
  to: { label: 'to' },
  halfSteps: { label: 'interval', unit: 'half steps' },
  seconds: { label: 'time', unit: 's' },
  shareOfString: { label: 'distance on the string', share: true },
  neededCm: { label: 'bow that is needed at least', unit: 'cm' },
  hairCm: { label: 'bow that there is', unit: 'cm' },
  slowestCmPerS: { label: 'slowest bow that speaks', unit: 'cm a second' },
  beforeCmPerS: { label: 'speed of the stroke before', unit: 'cm a second' },
  cmPerS: { label: 'speed of the bow', unit: 'cm a second' },
  stepDb: { label: 'louder by speed alone', unit: 'dB' },
  surplusDb: { label: 'of that more than the dynamics ask for', unit: 'dB' },
  steadySpeedRatio: { label: 'speed of the short one against the long one, there and back for good', unit: 'times' },
  steadyStepDb: { label: 'the same as loudness', unit: 'dB' },
  figuresUntilTheBowEnds: { label: 'figures until the bow ends' },
  neededS: { label: 'time that is needed', unit: 's' },
  freeS: { label: 'time that there is', unit: 's' },
  strokesPerS: { label: 'strokes', unit: 'a second' },
  playerStrokesPerS: { label: 'strokes that this player manages', unit: 'a second' },
  bounced: { label: 'off the string' },
  notes: { label: 'notes of the shortest trill' },
  notesPerS: { label: 'notes', unit: 'a second' },
  playerNotesPerS: { label: 'notes that this level manages', unit: 'a second' },
  written: { label: 'played as' },
  fingers: { label: 'fingers' },
  ornament: { label: 'ornament' },
  mainS: { label: 'left for the note itself', unit: 's' },
  crossingsPerS: { label: 'changes of string', unit: 'a second' },
  playerCrossingsPerS: { label: 'changes that this player manages', unit: 'a second' },
  handTravelCm: { label: 'way of the bow hand for each', unit: 'cm' },
  strings: { label: 'strings apart' },
  cm: { label: 'bow', unit: 'cm' },
  contact: { label: 'distance from the bridge over the length of the string', share: true },
  missingDb: { label: 'missing of the level', unit: 'dB' },
  level: { label: 'dynamic' },
  slurCm: { label: 'bow of the slur', unit: 'cm' },
  singleCm: { label: 'bow of a single note', unit: 'cm' },
  singles: { label: 'single notes' },
  longS: { label: 'long note', unit: 's' },
  shortS: { label: 'short note', unit: 's' },
  shortCm: { label: 'bow of the short note', unit: 'cm' },
  times: { label: 'times' },
  endsAt: { label: 'place of the bow after it, from the frog', share: true },
  awayCm: { label: 'missing', unit: 'cm' },
  away: { label: 'away from the wish', share: true },
  bars: { label: 'here' },
  like: { label: 'there' },
  bows: { label: 'bows' },
  kind: { label: 'kind' },
  count: { label: 'to count' },
  differences: { label: 'differences' },
  alike: { label: 'what is alike' },
  part: { label: 'part' },
  how: { label: 'how' },
};

/** Of one kind, where a name means something else there. */
const OF_KIND: { readonly [Kind in Finding['kind']]?: { readonly [Name in NumberName]?: Said } } = {
  'wish not met': { from: { label: 'begins, from the frog', share: true }, to: { label: 'ends, from the frog', share: true } },
  reach: { mm: { label: 'span', unit: 'mm' } },
  'bow runs out': { seconds: { label: 'how long it lasts', unit: 's' } },
  'repeat does not come round': { cm: { label: 'away', unit: 'cm' } },
  'pizzicato change late': { seconds: { label: 'time that there is', unit: 's' } },
};

/** Label and value of every number of a finding, in its order. @example ['distance', '103 mm'] */
export function numbersInWords({ kind, numbers }: Pick<Finding, 'kind' | 'numbers'>): Array<readonly [label: string, value: string]> {
  return Object.entries(numbers).map(([name, value]: [string, string | number]) => {
    const said: Said = OF_KIND[kind]?.[name as NumberName] ?? WORDS[name as NumberName] ?? causeOf(name);
    if (typeof value === 'string') return [said.label, value] as const;
    if (said.share) return [said.label, `${Math.round(value * 100)} %`] as const;
    return [said.label, `${rounded(value, 2)}${said.unit ? ` ${said.unit}` : ''}`] as const;
  });
}

/** @example "shift cents" is the spread that comes from the shift */
const causeOf = (name: string): Said => ({ label: `of it from: ${name.replace(/ cents$/, '')}`, unit: 'cents' });
