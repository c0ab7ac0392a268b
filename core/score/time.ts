/**
 * Seconds from ticks: the tempo map of a part at the wanted tempo.
 * A wanted tempo other than the printed one scales the later tempo marks with it.
 */
import type { Part, TempoMark } from './score';
import { paceSteps } from './pace';
import { TICKS_PER_QUARTER } from './ticks';
import { tempoByWords } from './tempo-words';

/** Used where a part prints neither a tempo nor a word for one. */
const TEMPO_WITHOUT_MARK = 90;

/** Seconds that a note before the beat takes (judgement). */
export const GRACE_S = 0.08;

/** Quarters per minute that may be asked for: the range of a metronome, and some more where quarters are short. */
export const SLOWEST_TEMPO = 20;
export const FASTEST_TEMPO = 320;
export const TEMPO_LIMITS = { least: SLOWEST_TEMPO, most: FASTEST_TEMPO };

export interface Clock {
  /** Quarters per minute at the first tempo mark. */
  tempo: number;
  secondsAt(tick: number): number;
}

/** The tempo that the part prints first, in quarters per minute; null when it prints none. */
export function printedTempo(part: Part): number | null {
  return part.tempi[0]?.quartersPerMinute ?? null;
}

type Beginning = Pick<Part, 'tempi' | 'words' | 'bars'> & Partial<Pick<Part, 'pace'>>;

/** The tempo of the beginning where none is wanted: as printed, or guessed by its words, or the usual one. */
export interface FirstTempo {
  quartersPerMinute: number;
  /** Why it is only guessed; null where it is printed. */
  guessed: string | null;
}

export function firstTempo(part: Beginning): FirstTempo {
  const printed = part.tempi[0];
  if (printed) return { quartersPerMinute: printed.quartersPerMinute, guessed: null };
  const byWords = tempoByWords(part);
  if (byWords) return { quartersPerMinute: byWords.quartersPerMinute, guessed: `“${byWords.words}” without a figure` };
  return { quartersPerMinute: TEMPO_WITHOUT_MARK, guessed: 'the part says nothing of it' };
}

/** In order, and in force from the very start: the first tempo of a part counts from its beginning. */
export function fromTheStart(tempi: readonly TempoMark[]): TempoMark[] {
  const inOrder = [...tempi].sort((a, b) => a.tick - b.tick);
  const first = inOrder[0];
  return first && first.tick > 0 ? [{ tick: 0, quartersPerMinute: first.quartersPerMinute, printed: null, carried: true }, ...inOrder] : inOrder;
}

/** Every tick at which the tempo changes, by a mark or because it is meant so; the first counts from the beginning. */
function withPace(marks: readonly TempoMark[], { pace, bars }: Beginning): Array<Pick<TempoMark, 'tick' | 'quartersPerMinute'>> {
  const tempi = marks.map(({ quartersPerMinute, tick }, i) => ({ tick: i === 0 ? 0 : tick, quartersPerMinute }));
  if (!pace?.length) return tempi;
  const steps = paceSteps(pace, bars);
  const last = <T extends { tick: number }>(list: readonly T[], tick: number): T | undefined => list.findLast((each) => each.tick <= tick);
  const ticks = [...new Set([...tempi.map(({ tick }) => tick), ...steps.map(({ tick }) => tick)])].sort((a, b) => a - b);
  return ticks.map((tick) => ({ tick, quartersPerMinute: (last(tempi, tick) ?? tempi[0]!).quartersPerMinute * (last(steps, tick)?.times ?? 1) }));
}

/**
 * @param wanted quarters per minute at the first tempo mark; null takes the printed tempo, or the guessed one
 * @example `clockFor(part, 480, 60).secondsAt(480) === 1`
 */
export function clockFor(part: Beginning, wanted: number | null): Clock {
  const printed = firstTempo(part).quartersPerMinute;
  const tempo = wanted ?? printed;
  const factor = tempo / printed;
  const marks: TempoMark[] = part.tempi.length ? part.tempi : [{ tick: 0, quartersPerMinute: printed, printed: null }];
  const starts: number[] = [];
  const ticks: number[] = [];
  const secondsPerTick: number[] = [];
  let seconds = 0;
  for (const { tick, quartersPerMinute } of withPace(marks, part)) {
    if (ticks.length > 0) seconds += (tick - ticks.at(-1)!) * secondsPerTick.at(-1)!;
    starts.push(seconds);
    ticks.push(tick);
    secondsPerTick.push(60 / (quartersPerMinute * factor * TICKS_PER_QUARTER));
  }
  return {
    tempo,
    secondsAt(tick) {
      let i = ticks.length - 1;
      while (i > 0 && ticks[i]! > tick) i--;
      return starts[i]! + (tick - ticks[i]!) * secondsPerTick[i]!;
    },
  };
}
