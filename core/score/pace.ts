/** The tempo as it is meant: eased, pushed, a note that takes time, a stretch broader or quicker than the rest. Marks of the coach, made into steps. */
import { barIndexAt, type Bar, type Pace, type PaceMark } from './score';
import { TICKS_PER_QUARTER } from './ticks';

export const PACES = ['ease', 'push', 'take time', 'in time'] as const satisfies readonly Pace[];

/** From a tick on the tempo is so many times what the tempo marks say. */
export interface PaceStep {
  tick: number;
  times: number;
}

/** What an easing comes down to and a pushing goes up to, and how many times as long a note lasts that takes time (judgement; free of any style). */
const EASED = 0.7;
const PUSHED = 1.2;
const TAKES = 1.5;
/** Without an end of its own an easing or pushing lasts so many bars, or to the next double bar. */
const LASTS_BARS = 4;
/** A change by degrees is made in steps of this length. */
const STEP_TICKS = TICKS_PER_QUARTER / 2;

/** @param value of a mark @returns null for what is none @example `paceOf('at 80 %')` is `{ times: .8 }` */
export function paceOf(value: string): PaceMark['pace'] | null {
  if ((PACES as readonly string[]).includes(value)) return value as Pace;
  const percent = /^at (\d{2,3}) %$/.exec(value);
  const times = percent ? Number(percent[1]) / 100 : NaN;
  return times >= 0.5 && times <= 1.5 ? { times } : null;
}

/** @param bars of the part, in order @returns in order of ticks; of several at one tick the last holds */
export function paceSteps(marks: readonly PaceMark[], bars: readonly Pick<Bar, 'onset' | 'ticks' | 'doubleBarAfter'>[]): PaceStep[] {
  const inOrder = [...marks].sort((a, b) => a.tick - b.tick);
  const steps: PaceStep[] = [];
  let base = 1;
  inOrder.forEach(({ tick, endTick, pace }, i) => {
    const next = inOrder[i + 1]?.tick ?? Infinity;
    if (typeof pace === 'object' || pace === 'in time') {
      base = typeof pace === 'object' ? pace.times : 1;
      steps.push({ tick, times: base });
    } else if (pace === 'take time') {
      steps.push({ tick, times: base / TAKES });
      if (endTick < next) steps.push({ tick: endTick, times: base });
    } else {
      const own = endOf(tick, bars);
      const until = Math.min(next, own);
      const goal = pace === 'ease' ? EASED : PUSHED;
      for (let at = tick; at < until; at += STEP_TICKS) {
        const share = (Math.min(at + STEP_TICKS / 2, until) - tick) / (until - tick);
        steps.push({ tick: at, times: base * (1 + (goal - 1) * share) });
      }
      if (own < next) steps.push({ tick: own, times: base });
    }
  });
  return steps;
}

function endOf(tick: number, bars: readonly Pick<Bar, 'onset' | 'ticks' | 'doubleBarAfter'>[]): number {
  const first = barIndexAt(bars, tick);
  const within = bars.slice(first, first + LASTS_BARS);
  const last = within.find(({ doubleBarAfter }) => doubleBarAfter) ?? within.at(-1);
  return last ? last.onset + last.ticks : tick + LASTS_BARS * 4 * TICKS_PER_QUARTER;
}

/** How a pace is written over a note. */
export const paceSign = (value: string): string => ({ ease: 'easing', push: 'pushing', 'take time': 'take time', 'in time': 'in time' })[value] ?? value;
