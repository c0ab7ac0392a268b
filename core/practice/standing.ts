/** Where a passage stands, from what was logged: the tempo that holds now, what is lacking, and what a block of practice brings. */
import { daysBetween, type Day } from './day';
import { FORGETTING, GAIN, LADDER } from './tables';

/** One run through a passage, as it was logged. */
export interface Run {
  day: Day;
  /** Felt beats per minute. */
  tempo: number;
  clean: boolean;
}

export interface Standing {
  /** The tempo that holds today, in felt beats per minute; null where neither log nor check says anything. */
  now: number | null;
  /** The highest tempo that ever stood four times in a row; null without any. */
  best: number | null;
  /** The day it was last practised; null for never. */
  last: Day | null;
  /** Days on which it was practised. */
  days: number;
  /** Days in which half of the last gain is lost. */
  halfLife: number;
}

/** Days in which half of the last gain is lost, after so many days of practice. */
export const halfLifeAfter = (days: number): number => FORGETTING.halfLifeDays * FORGETTING.spacing ** Math.max(0, days - 1);

/** Of runs in the order in which they were played: the highest tempo at which four in a row were clean; rows go on over runs that are quicker. */
export function rowOfFour(runs: readonly Pick<Run, 'tempo' | 'clean'>[]): number | null {
  let best: number | null = null;
  for (let i = LADDER.row; i <= runs.length; i++) {
    const row = runs.slice(i - LADDER.row, i);
    const tempo = Math.min(...row.map((run) => run.tempo));
    if (row.every(({ clean }) => clean) && (best === null || tempo > best)) best = tempo;
  }
  return best;
}

/**
 * @param runs in the order in which they were played
 * @param ceiling the tempo that the check gives for this player; null where it gives none
 */
export function standingOf(runs: readonly Run[], today: Day, ceiling: number | null): Standing {
  const unknown = ceiling === null ? null : ceiling * GAIN.unknownShare;
  const byDay = new Map<Day, Run[]>();
  for (const run of runs) if (daysBetween(run.day, today) >= 0) byDay.set(run.day, [...(byDay.get(run.day) ?? []), run]);
  const practised = [...byDay.keys()].sort((a, b) => daysBetween(b, a));
  let level: number | null = null;
  let gain = 0;
  let at: Day | null = null;
  const lostBy = (day: Day, days: number): number => (at === null ? 0 : gain * (1 - 2 ** (-daysBetween(at, day) / halfLifeAfter(days))));
  practised.forEach((day, i) => {
    const held: number | null = level === null ? null : level - lostBy(day, i);
    const reached = rowOfFour(byDay.get(day)!);
    if (reached !== null && (held === null || reached >= held)) {
      gain = Math.max(0, reached - (held ?? Math.min(reached, unknown ?? reached)));
      level = reached;
    } else if (held !== null) {
      // It was played below what holds: that keeps it, and brings nothing.
      gain = Math.max(0, gain - lostBy(day, i));
      level = held;
    }
    at = day;
  });
  const days = practised.length;
  return {
    now: level === null ? unknown : level - lostBy(today, days),
    best: rowOfFour(runs),
    last: practised.at(-1) ?? null,
    days,
    halfLife: halfLifeAfter(days),
  };
}

export interface Goal {
  tempo: number;
  /** The wanted tempo lies above what the marking allows this player: practice will not mend that, the marking will. */
  isCapped: boolean;
}

/** @param wanted of the piece @param ceiling that the check gives for this player; null for none */
export const goalOf = (wanted: number, ceiling: number | null): Goal =>
  ceiling !== null && ceiling < wanted ? { tempo: ceiling, isCapped: true } : { tempo: wanted, isCapped: false };

/** What is lacking, in beats per minute. */
export const gapOf = (now: number | null, goal: number): number => Math.max(0, goal - (now ?? goal * GAIN.unknownShare));

/** What so many minutes bring, in beats per minute. @param k minutes in which the gap shrinks to 1/e */
export const gainOf = (gap: number, minutes: number, k: number): number => gap * (1 - Math.exp(-minutes / k));

/** A block as it went. */
export interface Block {
  /** Before it, and what it brought, in beats per minute. */
  gap: number;
  gained: number;
  minutes: number;
}

/**
 * The minutes of one player: least squares over the shares of the gap that blocks closed, pulled towards the usual ones (ridge on the
 * logarithm); the usual ones where there are too few blocks.
 */
export function fittedMinutes(blocks: readonly Block[]): number {
  const known = blocks
    .filter(({ gap, minutes }) => gap > 0 && minutes > 0)
    .map(({ gap, gained, minutes }) => ({ share: Math.max(0, Math.min(1, gained / gap)), minutes }));
  if (known.length < GAIN.fitFrom) return GAIN.minutes;
  const error = (logK: number): number => {
    const k = Math.exp(logK);
    const of = known.reduce((sum, { share, minutes }) => sum + (share - (1 - Math.exp(-minutes / k))) ** 2, 0);
    return of + GAIN.fitPull * (logK - Math.log(GAIN.minutes)) ** 2;
  };
  return Math.exp(least(error, Math.log(GAIN.fitLeast), Math.log(GAIN.fitMost)));
}

const STEPS = 60;
/** The least of a function over an interval: by steps, then by thirds around the best (ternary search). */
function least(of: (x: number) => number, from: number, to: number): number {
  const step = (to - from) / STEPS;
  let best = from;
  for (let i = 1; i <= STEPS; i++) if (of(from + i * step) < of(best)) best = from + i * step;
  let [low, high] = [Math.max(from, best - step), Math.min(to, best + step)];
  while (high - low > 1e-6) {
    const [a, b] = [low + (high - low) / 3, high - (high - low) / 3];
    if (of(a) < of(b)) high = b;
    else low = a;
  }
  return (low + high) / 2;
}
