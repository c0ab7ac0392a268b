/** A bowing in numbers, for a table. */
import type { Part } from '../score/score';
import type { Bowing } from './describe';

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
}

export function bowingNumbers(bowing: Bowing, part: Pick<Part, 'bars'>): BowingNumbers {
  const count = (kind: string) => bowing.changes.filter((change) => change.kind === kind).length;
  const places = bowing.strokes.flatMap((stroke) => [stroke.from, stroke.to]);
  return {
    strokes: bowing.strokes.length,
    splits: count('split'),
    hooks: count('hook'),
    retakes: count('retake'),
    barsOnUp: bowing.strokes.filter(
      (stroke) => stroke.direction === 'up' && stroke.onset === part.bars[stroke.barIndex]!.onset && !part.bars[stroke.barIndex]!.pickup,
    ).length,
    greatestStepDb: bowing.strokes.reduce((most, stroke) => Math.max(most, Math.abs(stroke.stepDb)), 0),
    nearestFrog: Math.min(1, ...places),
    nearestTip: Math.max(0, ...places),
    feasible: bowing.feasible,
  };
}
