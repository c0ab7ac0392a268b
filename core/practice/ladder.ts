/** The tempo ladder: where a run is played, how many in a row it takes, and where to go on after it. Tempi in felt beats per minute. */
import { LADDER } from './tables';

export interface Rung {
  tempo: number;
  /** Clean runs in a row here, and how many it takes. */
  row: number;
  wanted: number;
  /** Misses in a row here. */
  misses: number;
  /** The rungs below, the lowest first. */
  below: readonly number[];
  /** What the last run came to. */
  moved: 'up' | 'back' | null;
  /** Seconds of rest before the next run. */
  restS: number;
  isReached: boolean;
}

/** One step up, at least two beats per minute. */
export const stepUp = (tempo: number): number => Math.max(Math.round(tempo * (1 + LADDER.climb)), tempo + LADDER.climbLeast);

/** Where it begins: never above the goal. @param lastClean the highest tempo with a row of clean runs; null for none */
export function firstRung(goal: number, lastClean: number | null): Rung {
  const from = Math.max(goal * LADDER.startShare, lastClean === null ? 0 : lastClean * (1 - LADDER.startBelow));
  return at(Math.max(1, Math.min(goal, Math.round(from))), []);
}

const at = (tempo: number, below: readonly number[], moved: Rung['moved'] = null): Rung => ({
  tempo,
  row: 0,
  wanted: LADDER.row,
  misses: 0,
  below,
  moved,
  restS: moved === null ? 0 : LADDER.restS,
  isReached: false,
});

/** After one run. A goal that stands four times is tried once a little over it; then it is reached. */
export function afterRun(rung: Rung, isClean: boolean, goal: number): Rung {
  const here = { ...rung, moved: null, restS: 0 };
  if (rung.isReached) return here;
  if (!isClean) {
    const misses = rung.misses + 1;
    if (misses < LADDER.missesBack) return { ...here, row: 0, misses };
    const back = rung.below.at(-1);
    return back === undefined ? { ...here, row: 0, misses: 0, restS: LADDER.restS } : at(back, rung.below.slice(0, -1), 'back');
  }
  const row = rung.row + 1;
  if (row < rung.wanted) return { ...here, row, misses: 0 };
  if (rung.tempo > goal) return { ...here, row, misses: 0, isReached: true };
  const below = [...rung.below, rung.tempo];
  if (rung.tempo < goal) return at(Math.min(goal, stepUp(rung.tempo)), below, 'up');
  return { ...at(Math.max(Math.round(goal * LADDER.over), goal + 1), below, 'up'), wanted: 1 };
}

/** The rung that a session has come to: what was logged is enough to go on after an interruption. */
export const ladderAfter = (goal: number, lastClean: number | null, runs: readonly { clean: boolean }[]): Rung =>
  runs.reduce((rung, { clean }) => afterRun(rung, clean, goal), firstRung(goal, lastClean));
