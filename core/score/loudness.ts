/** The wanted loudness at any moment: the printed level, and the way that hairpins lead between levels. */
import { DYNAMIC_LEVELS } from './dynamics';
import type { DynamicLevel, Part } from './score';
import { TICKS_PER_QUARTER } from './ticks';

/** In force where a part prints no dynamic yet. */
const UNSAID = DYNAMIC_LEVELS.indexOf('mf');

export interface Loudness {
  /** The printed level in force, hairpins aside. */
  levelAt(tick: number): DynamicLevel;
  /** Steps from ppp (0) to fff (7), between them inside hairpins. */
  stepsAt(tick: number): number;
  hairpinAt(tick: number): 'crescendo' | 'diminuendo' | null;
}

type Marked = Pick<Part, 'dynamics' | 'hairpins'>;

/**
 * A hairpin leads to the level printed at its end (within a quarter note), else one step up or down, which then holds
 * until the next printed level (common practice).
 * @example p, a crescendo of four quarters to f: half way it is two and a half steps above ppp and a half
 */
export function loudnessOf(part: Marked): Loudness {
  const marks = part.dynamics.filter((mark) => mark.level !== null).sort((a, b) => a.tick - b.tick);
  const hairpins = [...part.hairpins].filter((hairpin) => hairpin.to > hairpin.from).sort((a, b) => a.from - b.from);
  /** Level in steps from a tick on, rising or falling to the next point where `to` is given. */
  const points: Array<{ tick: number; steps: number; glide: { until: number; to: number } | null }> = [{ tick: 0, steps: UNSAID, glide: null }];
  let steps = UNSAID;
  let m = 0;
  const takeMarks = (until: number) => {
    for (; m < marks.length && marks[m]!.tick <= until; m++) {
      steps = DYNAMIC_LEVELS.indexOf(marks[m]!.level!);
      points.push({ tick: marks[m]!.tick, steps, glide: null });
    }
  };
  hairpins.forEach((hairpin, i) => {
    takeMarks(hairpin.from);
    const end = Math.min(hairpin.to, hairpins[i + 1]?.from ?? Infinity);
    const arrival = marks.find((mark) => mark.tick > hairpin.from && mark.tick <= end + TICKS_PER_QUARTER && mark.tick >= end - TICKS_PER_QUARTER);
    const step = hairpin.kind === 'crescendo' ? 1 : -1;
    const printed = arrival ? DYNAMIC_LEVELS.indexOf(arrival.level!) : null;
    // A crescendo that leads to p is a swell before a sudden p: it rises and the p comes as printed.
    const to = printed !== null && Math.sign(printed - steps) === step ? printed : Math.min(DYNAMIC_LEVELS.length - 1, Math.max(0, steps + step));
    const until = Math.min(end, arrival?.tick ?? end);
    points.push({ tick: hairpin.from, steps, glide: { until, to } });
    points.push({ tick: until, steps: to, glide: null });
    steps = to;
  });
  takeMarks(Infinity);
  points.sort((a, b) => a.tick - b.tick);
  const at = (tick: number) => {
    let low = 0;
    let high = points.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (points[middle]!.tick <= tick) low = middle;
      else high = middle - 1;
    }
    return points[low]!;
  };
  return {
    levelAt(tick) {
      let level: DynamicLevel = 'mf';
      for (const mark of marks) {
        if (mark.tick > tick) break;
        level = mark.level!;
      }
      return level;
    },
    stepsAt(tick) {
      const { tick: from, steps: base, glide } = at(tick);
      return glide && glide.until > from ? base + ((glide.to - base) * (tick - from)) / (glide.until - from) : base;
    },
    hairpinAt: (tick) => hairpins.find((hairpin) => hairpin.from <= tick && tick < hairpin.to)?.kind ?? null,
  };
}

/** The level nearest to a number of steps. */
export const levelNear = (steps: number): DynamicLevel => DYNAMIC_LEVELS[Math.min(DYNAMIC_LEVELS.length - 1, Math.max(0, Math.round(steps)))]!;
