/** Chords of three and four notes: which notes sound when, and what each way costs in time and bow. */
import type { ChordWay } from '../marking/values';

export interface ChordStep {
  /** Indices of the notes, 0 the lowest. */
  notes: number[];
  /** Seconds from the beginning of the chord. */
  atS: number;
  seconds: number;
  cm: number;
}

export interface ChordPlan {
  way: ChordWay;
  steps: ChordStep[];
  /** Seconds before the top sounds alone or in its pair, and bow used up to then. */
  delayS: number;
  delayCm: number;
  /** False where it cannot be played so, with the reason. */
  possible: boolean;
  words: string;
}

/** Seconds from one note of a rolled chord to the next (judgement). */
const ROLL_S = 0.07;

/** The lower pair of a broken chord takes a quarter of the stroke, within these seconds (common practice). */
const PAIR_S = { share: 0.25, least: 0.1, most: 0.3 };

/** Three strings are held together this long at most, near the frog and loud (judgement). */
const TOGETHER_S = 0.35;

/** Bow for each breaking of the chord against the share of its time: more, since the string has to start (judgement). */
const START_FACTOR = 1.4;

/**
 * @param count notes of the chord, from low to high on neighbouring strings
 * @param seconds length of the chord
 * @param cm bow that the stroke has
 * @example a quarter of .6 s in four notes, broken: the lower two for .15 s, then the upper two
 */
export function chordPlan(count: number, seconds: number, cm: number, way: ChordWay): ChordPlan {
  const all = Array.from({ length: count }, (_, i) => i);
  switch (way) {
    case 'rolled': {
      const step = Math.min(ROLL_S, seconds / (count * 2));
      const steps = all.map((note, i): ChordStep => {
        const last = i === count - 1;
        // The last two are held together once the top is reached.
        return { notes: last && count > 1 ? [note - 1, note] : [note], atS: i * step, seconds: last ? seconds - i * step : step, cm: 0 };
      });
      const plan = withBow(steps, seconds, cm);
      return { way, ...plan, possible: true, words: `rolled from the bottom, the top ${ms(plan.delayS)} after the first note` };
    }
    case 'two and two': {
      const first = Math.min(PAIR_S.most, Math.max(PAIR_S.least, seconds * PAIR_S.share), seconds / 2);
      const steps: ChordStep[] = [
        { notes: all.slice(0, 2), atS: 0, seconds: first, cm: 0 },
        { notes: all.slice(-2), atS: first, seconds: seconds - first, cm: 0 },
      ];
      const plan = withBow(steps, seconds, cm);
      return { way, ...plan, possible: count > 2, words: `the lower two for ${ms(first)}, then the upper two` };
    }
    case 'together': {
      if (count > 3)
        return { ...chordPlan(count, seconds, cm, 'two and two'), way, possible: false, words: 'four strings cannot be bowed at once: break it two and two' };
      const held = Math.min(TOGETHER_S, seconds);
      const steps: ChordStep[] = [{ notes: all, atS: 0, seconds: held, cm: 0 }];
      if (seconds > held) steps.push({ notes: all.slice(-2), atS: held, seconds: seconds - held, cm: 0 });
      const plan = withBow(steps, seconds, cm);
      return {
        way,
        ...plan,
        delayS: 0,
        delayCm: 0,
        possible: true,
        words: seconds > held ? `all three for ${ms(held)} near the frog, then the upper two` : 'all three at once, near the frog',
      };
    }
  }
}

function withBow(steps: ChordStep[], seconds: number, cm: number): Pick<ChordPlan, 'steps' | 'delayS' | 'delayCm'> {
  const weights = steps.map((step, i) => (step.seconds / seconds) * (i < steps.length - 1 ? START_FACTOR : 1));
  const sum = weights.reduce((a, b) => a + b, 0);
  const shared = steps.map((step, i) => ({ ...step, cm: (cm * weights[i]!) / sum }));
  const before = shared.slice(0, -1);
  return { steps: shared, delayS: shared.at(-1)!.atS, delayCm: before.reduce((total, step) => total + step.cm, 0) };
}

const ms = (seconds: number): string => `${Math.round(seconds * 1000)} ms`;
