/** The tempi between which a bowing works, with everything else held as it is: slurs give a floor, all others a ceiling. */
import type { Stroke } from './describe';
import { USABLE } from './tables';

export type BowLimitKind = 'bow runs out' | 'retake late' | 'stroke too quick';

export interface BowLimit {
  kind: BowLimitKind;
  /** Quarters per minute at which it begins. */
  tempo: number;
  stroke: Stroke;
}

/** Strokes in a row that make a rate, so that one quick pair is no finding. */
export const RATE_STROKES = 4;

export interface TempoQuestion {
  /** Tempo of the plan, quarters per minute. */
  tempo: number;
  hairCm: number;
  /** Separate strokes per second that the player manages. */
  strokesPerS: number;
  secondsAt(tick: number): number;
}

export function bowLimits(strokes: readonly Stroke[], question: TempoQuestion): BowLimit[] {
  const { tempo, hairCm, strokesPerS } = question;
  const limits: BowLimit[] = [];
  strokes.forEach((stroke, i) => {
    const runsOut = bowLoad(stroke, hairCm);
    if (runsOut > 0.5) limits.push({ kind: 'bow runs out', tempo: tempo * runsOut, stroke });
    // A lift that the plan found is no limit: at another tempo there is another plan.
    if (stroke.retakeTime && stroke.retakeAsked)
      limits.push({ kind: 'retake late', tempo: (tempo * stroke.retakeTime.free) / stroke.retakeTime.needed, stroke });
    const rate = strokeRate(strokes, i, question);
    if (rate > 0) limits.push({ kind: 'stroke too quick', tempo: (tempo * strokesPerS) / rate, stroke });
  });
  return limits;
}

/** Bow that a stroke needs at the slowest speed that speaks, against the bow there is. A fermata lasts as long as the bow does. */
export const bowLoad = (stroke: Pick<Stroke, 'slowest' | 'seconds' | 'heldTimes'>, hairCm: number): number =>
  (stroke.slowest * stroke.seconds) / stroke.heldTimes / (hairCm * USABLE);

/** Strokes per second from the n-th on: of four in a row the slowest, or the strokes of a measured tremolo. */
export function strokeRate(strokes: readonly Stroke[], from: number, { secondsAt }: Pick<TempoQuestion, 'secondsAt'>): number {
  const first = strokes[from]!;
  if (first.strokes > 1) return 1 / first.seconds;
  const row = strokes.slice(from, from + RATE_STROKES);
  if (row.length < RATE_STROKES) return 0;
  let longest = 0;
  for (let i = 0; i + 1 < row.length; i++) longest = Math.max(longest, secondsAt(row[i + 1]!.onset) - secondsAt(row[i]!.onset));
  return longest > 0 ? 1 / longest : 0;
}

/** Floor and ceiling of a plan, each with the stroke that sets it; null where nothing does. */
export function bowTempi(strokes: readonly Stroke[], question: TempoQuestion): { floor: BowLimit | null; ceiling: BowLimit | null } {
  let floor: BowLimit | null = null;
  let ceiling: BowLimit | null = null;
  for (const limit of bowLimits(strokes, question)) {
    if (limit.kind === 'bow runs out') floor = floor && floor.tempo >= limit.tempo ? floor : limit;
    else ceiling = ceiling && ceiling.tempo <= limit.tempo ? ceiling : limit;
  }
  return { floor, ceiling };
}
