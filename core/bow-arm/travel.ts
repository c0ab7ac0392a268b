/** Where the bow gets to: uneven pairs and what they cost, and figures that drift along the bow until it ends. */
import type { Stroke } from './describe';
import { speedStepDb } from './stroke';

/** Two strokes there and back, the first longer in time than the second. */
export interface UnevenPair {
  /** Speed of the short one against the long one where both have one length: the steady state. */
  speedRatio: number;
  /** The same in dB: 20·log10 of it (Schelleng 1973). */
  stepDb: number;
  /** One length for both that lies fairly between what each would like, in cm. */
  fairCm: number;
  /** By how much the long one is then softer and the short one louder than its dynamic wants, in dB. */
  longDb: number;
  shortDb: number;
  /** Using this many cm on the long one, the short one need not be louder than it wants by more than 2 dB. */
  littleCm: number;
  littleLongDb: number;
}

/**
 * @param longS sounding seconds of the stroke there, `shortS` of the stroke back
 * @param longCm what each would like, in cm
 * @example two beats there and one back: `unevenPair(2, 1, …).speedRatio === 2`, +6.02 dB
 */
export function unevenPair(longS: number, shortS: number, longCm: number, shortCm: number): UnevenPair {
  const speedRatio = longS / shortS;
  const fairCm = Math.sqrt(longCm * shortCm);
  const littleCm = Math.min(fairCm, shortCm * 10 ** (HARDLY_HEARD_DB / 20));
  return {
    speedRatio,
    stepDb: speedStepDb(1, speedRatio),
    fairCm,
    longDb: speedStepDb(longCm, fairCm),
    shortDb: speedStepDb(shortCm, fairCm),
    littleCm,
    littleLongDb: speedStepDb(longCm, littleCm),
  };
}

/** A step that hardly anybody hears (judgement). */
const HARDLY_HEARD_DB = 2;

export interface Drift {
  /** Strokes of the figure, and how often it comes in a row. */
  strokes: number;
  times: number;
  /** First stroke of the row. */
  at: number;
  /** Share of the bow that one figure moves on with the lengths that its strokes would like; positive towards the tip. */
  perFigure: number;
  /** Figures until the bow ends; null where it stays. */
  figuresUntilEnd: number | null;
}

/** Strokes of a figure at most. */
const LONGEST = 6;

/** A figure that moves on by less than this share of the bow stays where it is (judgement). */
const STAYS = 0.03;

/** Whether two strokes are the same step of a figure. */
const same = (a: Stroke, b: Stroke): boolean => a.direction === b.direction && a.kind === b.kind && Math.abs(a.seconds - b.seconds) < 0.02 * b.seconds;

/**
 * Figures that come at least three times in a row and do not come back to where they began, if every stroke has the
 * length that it would like.
 */
export function driftsOf(strokes: readonly Stroke[], hairCm: number): Drift[] {
  const found: Drift[] = [];
  for (let at = 0; at < strokes.length;) {
    const { drift, length } = figureAt(strokes, at, hairCm);
    if (drift) found.push(drift);
    at += length;
  }
  return found;
}

/** The figure that comes at least three times from here on: how many strokes that is, and whether it drifts. */
function figureAt(strokes: readonly Stroke[], at: number, hairCm: number): { drift: Drift | null; length: number } {
  for (let count = 2; count <= LONGEST; count++) {
    let length = count;
    while (at + length < strokes.length && same(strokes[at + length]!, strokes[at + length - count]!) && !strokes[at + length]!.retake) length++;
    const times = Math.floor(length / count);
    if (times < 3) continue;
    const figure = strokes.slice(at, at + count);
    const uneven = Math.max(...figure.map((stroke) => stroke.seconds)) > 1.4 * Math.min(...figure.map((stroke) => stroke.seconds));
    const perFigure = figure.reduce((sum, stroke) => sum + ((stroke.direction === 'down' ? 1 : -1) * stroke.preferredCm) / hairCm, 0);
    if (!uneven || Math.abs(perFigure) < STAYS) return { drift: null, length: count * times };
    const room = perFigure > 0 ? 1 - figure[0]!.from : figure[0]!.from;
    const drift = { strokes: count, times, at, perFigure, figuresUntilEnd: Math.max(1, Math.floor(room / Math.abs(perFigure))) };
    return { drift, length: count * times };
  }
  return { drift: null, length: 1 };
}
