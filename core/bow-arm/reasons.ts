/** A bowing in numbers, for a table. */
import type { Part } from '../score/score';
import type { Line } from '../instruments/lines';
import type { Bow } from './bow';
import { crossingNumbers, crossingsOf, type CrossingNumbers, type StringOf } from './crossings';
import type { Bowing } from './describe';
import { speedRatioOf } from './stroke';
import { bowTempi, type BowLimit, type TempoQuestion } from './tempo';

export interface BowingNumbers {
  strokes: number;
  splits: number;
  hooks: number;
  retakes: number;
  /** Bars that begin up-bow. */
  barsOnUp: number;
  /** Greatest loudness step by speed alone, dB. */
  greatestStepDb: number;
  nearestFrog: number;
  nearestTip: number;
  feasible: boolean;
  /** Quarters per minute between which it works, with the bar that sets each; null where nothing does. */
  floor: { tempo: number; barIndex: number } | null;
  ceiling: { tempo: number; barIndex: number } | null;
  crossings: CrossingNumbers | null;
  /** Least and most of the bow used for a stroke, cm. */
  shortestCm: number;
  longestCm: number;
}

export interface NumbersQuestion extends TempoQuestion {
  part: Pick<Part, 'bars'>;
  line: Line;
  bow: Bow;
  stringOf: StringOf | null;
}

export function bowingNumbers(bowing: Bowing, question: NumbersQuestion): BowingNumbers {
  const { part, line, bow, stringOf } = question;
  const { floor, ceiling } = bowTempi(bowing.strokes, question);
  const limit = (found: BowLimit | null, round: (tempo: number) => number) => found && { tempo: round(found.tempo), barIndex: found.stroke.barIndex };
  const crossings = stringOf && crossingsOf(bowing.strokes, line, stringOf, question.secondsAt, bow);
  const count = (...kinds: string[]) => bowing.changes.filter((change) => kinds.includes(change.kind)).length;
  const places = bowing.strokes.flatMap((stroke) => [stroke.from, stroke.to]);
  return {
    strokes: bowing.strokes.length,
    splits: count('split', 'remove-slur'),
    hooks: count('hook'),
    retakes: count('retake'),
    barsOnUp: bowing.strokes.filter(
      (stroke) => stroke.direction === 'up' && stroke.onset === part.bars[stroke.barIndex]!.onset && !part.bars[stroke.barIndex]!.pickup,
    ).length,
    greatestStepDb: bowing.strokes.reduce((most, stroke) => Math.max(most, Math.abs(stroke.stepDb)), 0),
    nearestFrog: Math.min(1, ...places),
    nearestTip: Math.max(0, ...places),
    feasible: bowing.feasible,
    floor: limit(floor, Math.ceil),
    ceiling: limit(ceiling, Math.floor),
    crossings: crossings && crossingNumbers(crossings, bowing.strokes, bow.kind),
    shortestCm: bowing.strokes.reduce((least, stroke) => Math.min(least, stroke.cm), Infinity),
    longestCm: bowing.strokes.reduce((most, stroke) => Math.max(most, stroke.cm), 0),
  };
}

/** The greatest step of a bowing as the ear does not have it but the arm. @example 6.02: "twice as fast" */
export const stepInWords = (db: number): string => (db < 0.5 ? 'none' : timesAsFast(speedRatioOf(db)));

/** "twice as fast", "nearly three times as fast", "1.4 times as fast". */
export function timesAsFast(ratio: number): string {
  if (Math.abs(ratio - 0.5) < 0.05) return 'half as fast';
  const whole = Math.round(ratio);
  if (whole < 2 || Math.abs(ratio - whole) > 0.15) return `${ratio.toFixed(1)} times as fast`;
  const words = whole === 2 ? 'twice' : whole === 3 ? 'three times' : whole === 4 ? 'four times' : `${whole} times`;
  return `${ratio < whole - 0.04 ? 'nearly ' : ''}${words} as fast`;
}
