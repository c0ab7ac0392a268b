/**
 * How a stroke is made to sound: where between bridge and fingerboard, with how much weight, with which vibrato. In words
 * and as a lane, never as newtons.
 */
import { DYNAMIC_LEVELS } from '../score/dynamics';
import type { DynamicLevel } from '../score/score';
import type { Stroke } from './describe';
import { SCHOOLS } from './tables';
import { speedStepDb } from './stroke';

/** Distance from the bridge over string length at the speed that the table prefers (from memory; Schelleng 1973 for the relation). */
export const CONTACT: Readonly<Record<DynamicLevel, number>> = { ppp: 0.17, pp: 0.16, p: 0.14, mp: 0.125, mf: 0.11, f: 0.095, ff: 0.08, fff: 0.075 };

/** Nearer to the bridge or farther from it no tone is made (from memory). */
export const CONTACT_LIMITS = { nearest: 0.03, farthest: 0.2 };

const LANES = [
  { until: 0.075, words: 'near the bridge' },
  { until: 0.1, words: 'towards the bridge' },
  { until: 0.128, words: 'half way' },
  { until: 0.155, words: 'towards the fingerboard' },
  { until: 1, words: 'by the fingerboard' },
] as const;

const WEIGHTS = ['hardly any weight', 'light', 'some weight', 'firm', 'heavy'] as const;

export interface Vibrato {
  /** 0 none, 1 narrow, 2 medium, 3 wide; speed 1 slow, 2 medium, 3 quick. */
  width: 0 | 1 | 2 | 3;
  speed: 1 | 2 | 3;
  words: string;
}

export interface SoundRecipe {
  /** Distance from the bridge over string length. */
  contact: number;
  lane: string;
  /** 0 to 4, and in words. */
  weight: number;
  weightWords: string;
  vibrato: Vibrato;
  /** Loudness that this bow can have at the best contact against what the dynamic wants, dB; 0 where it is reached. */
  missingDb: number;
}

/**
 * Amplitude grows with speed over distance from the bridge (Schelleng 1973), so a slower bow keeps the level nearer to the
 * bridge: `β = v·β0/v0`, within limits. What the limits leave out is missing.
 * @param open all notes of the stroke are open strings: they have no vibrato
 * @example half the speed at mf: β .055 instead of .11, nothing missing; a quarter: 6 dB missing
 */
export function soundRecipe(stroke: Stroke, open = false): SoundRecipe {
  const normal = CONTACT[stroke.level];
  const school = stroke.school ?? 'even';
  // The school changes the wanted speed on purpose: flowing bows farther from the bridge, held ones nearer to it.
  const plain = stroke.wantedSpeed / schoolSpeed(stroke);
  const lengthened = (stroke.seconds / 0.6) ** -0.25;
  const wanted = normal * (stroke.cmPerS / (plain * lengthened));
  const contact = Math.min(CONTACT_LIMITS.farthest, Math.max(CONTACT_LIMITS.nearest, wanted));
  const missing = wanted < contact ? speedStepDb(contact, wanted) : 0;
  const step = DYNAMIC_LEVELS.indexOf(stroke.level);
  const base = step / 2 + (stroke.kind === 'accent' || stroke.kind === 'martelé' ? 1 : 0) - (stroke.kind === 'spiccato' ? 1 : 0);
  const weight = Math.round(Math.min(4, Math.max(0, base + Math.log2(normal / contact) * 0.7 - (school === 'flowing' ? 1 : 0))));
  return {
    contact,
    lane: LANES.find((lane) => contact < lane.until)!.words,
    weight,
    weightWords: WEIGHTS[weight]!,
    vibrato: open ? OPEN_STRING : vibratoFor(stroke, step),
    missingDb: Math.abs(missing) < 0.5 ? 0 : missing,
  };
}

function schoolSpeed({ school, level }: Stroke): number {
  if (school === null) return 1;
  return SCHOOLS[school][DYNAMIC_LEVELS.indexOf(level) < DYNAMIC_LEVELS.indexOf('mp') ? 'quiet' : 'other'];
}

const WIDTHS = ['no vibrato', 'narrow', 'medium', 'wide'] as const;
const SPEEDS = ['', 'slow', 'medium', 'quick'] as const;

const OPEN_STRING: Vibrato = { width: 0, speed: 1, words: 'none: an open string' };

/** Seconds below which a note is over before a vibrato is heard (judgement). */
const TOO_SHORT_S = 0.25;

function vibratoFor(stroke: Stroke, step: number): Vibrato {
  if (stroke.seconds / stroke.events < TOO_SHORT_S || stroke.kind === 'spiccato' || stroke.kind === 'tremolo') return { width: 0, speed: 1, words: WIDTHS[0] };
  const loud = step >= DYNAMIC_LEVELS.indexOf('f');
  const quiet = step <= DYNAMIC_LEVELS.indexOf('p');
  const accent = stroke.kind === 'accent' || stroke.kind === 'martelé';
  const width = stroke.school === 'held' && quiet ? 1 : loud ? 3 : quiet ? 1 : 2;
  const speed = accent || (stroke.school === 'held' && quiet) ? 3 : loud ? 2 : stroke.school === 'flowing' ? 1 : 2;
  const words = width === 2 && speed === 2 ? 'medium' : `${WIDTHS[width]}, ${SPEEDS[speed]}`;
  return { width, speed, words: accent ? `${words}, from the very start` : stroke.school === 'held' && quiet ? `${words}, live` : words };
}
