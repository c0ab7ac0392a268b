/**
 * The time line of a score: how long each bar is, what it is called, and what is said once for all parts (letters, tempi, tempo
 * words, repeats, jumps), which most files write into one part only. Every part is laid on it, so that all count alike.
 */
import { wholeBarTicks } from './beat';
import { barIndexAt, type Bar, type Part, type PlaySigns, type TempoMark, type Warning, type WordMark } from './score';
import { sayBar } from './address';
import { quartersOf } from './ticks';
import { fromTheStart } from './time';

export type LineBar = Omit<Bar, 'fifths'>;

export interface TimeLine {
  bars: LineBar[];
  /** Marks that some part prints or that its file plays, in order. */
  tempi: TempoMark[];
  /** Words about the tempo, in order. */
  words: WordMark[];
}

/** A part as it was read by itself, and what its bars alone cannot say. */
export interface PartAlone {
  part: Part;
  bars: ReadonlyArray<{
    /** Nothing stands in it: it says nothing about its length. */
    empty: boolean;
    /** A time signature is in force. */
    metred: boolean;
  }>;
}

/**
 * @param parts of one file, each on its own time: bars as long as they fill them
 * @returns the common time line, and bars whose length nobody explains
 */
export function timeLineOf(parts: readonly PartAlone[]): { line: TimeLine; warnings: Warning[] } {
  const count = Math.max(0, ...parts.map(({ part }) => part.bars.length));
  const bars: LineBar[] = [];
  let onset = 0;
  for (let index = 0; index < count; index++) {
    const bar = mergedBar(parts, index, onset);
    bars.push(bar);
    onset += bar.ticks;
  }
  countBars(bars);
  const placed = parts.map(({ part }) => ({ part, at: onto(part, bars) ?? stay }));
  const tempi = placed.flatMap(({ part, at }) =>
    part.tempi.filter(({ carried }) => !carried).map(({ source: _, ...tempo }) => ({ ...tempo, tick: at(tempo.tick) })),
  );
  const words = placed.flatMap(({ part, at }) => part.words.filter(({ text }) => isTempoWord(text)).map(({ tick, text }) => ({ tick: at(tick), text })));
  return { line: { bars, tempi: eachOnce(tempi, ({ printed }) => printed !== null), words: eachOnce(words, () => true) }, warnings: unexplained(bars) };
}

const stay = (tick: number): number => tick;

/** What all parts say about one measure. */
function mergedBar(parts: readonly PartAlone[], index: number, onset: number): LineBar {
  const there = parts.flatMap(({ part, bars }) => (part.bars[index] ? [{ bar: part.bars[index], ...bars[index]! }] : []));
  const { bar: first } = there.find(({ metred }) => metred) ?? there[0]!;
  const filled = there.filter(({ empty }) => !empty).map(({ bar }) => bar.ticks);
  const some = (says: (bar: Bar) => boolean) => there.some(({ bar }) => says(bar));
  return {
    index,
    label: first.label,
    onset,
    ticks: filled.length ? Math.max(...filled) : wholeBarTicks(first),
    beats: first.beats,
    beatType: first.beatType,
    into: 0,
    pickup: false,
    counted: null,
    implicit: some((bar) => bar.implicit),
    rehearsal: there.find(({ bar }) => bar.rehearsal !== null)?.bar.rehearsal ?? null,
    doubleBarAfter: some((bar) => bar.doubleBarAfter),
    repeatStart: some((bar) => bar.repeatStart),
    repeatEnd: some((bar) => bar.repeatEnd),
    signs: there.map(({ bar }) => bar.signs).reduce(mergedSigns, null),
  };
}

function mergedSigns(a: PlaySigns | null, b: PlaySigns | null): PlaySigns | null {
  if (!a || !b) return a ?? b;
  return {
    times: a.times ?? b.times,
    volta: a.volta ?? b.volta,
    voltaEnd: a.voltaEnd || b.voltaEnd,
    segno: a.segno || b.segno,
    coda: a.coda || b.coda,
    toCoda: a.toCoda || b.toCoda,
    fine: a.fine || b.fine,
    jump: a.jump ?? b.jump,
  };
}

/**
 * Counts the bars as players do (common practice): a bar that a repeat or a double bar splits is one bar, an upbeat is none. The
 * rest of a split bar is called as its beginning.
 */
function countBars(bars: LineBar[]): void {
  let counted = -1;
  let begun: LineBar | null = null;
  let sofar = 0;
  bars.forEach((bar, i) => {
    const whole = wholeBarTicks(bar);
    const short = bar.ticks < whole;
    const goesOn: boolean = begun !== null && short && sofar < whole && sofar + bar.ticks <= whole && (bar.implicit || bar.label === begun.label);
    if (goesOn) {
      Object.assign(bar, { into: sofar, pickup: true, counted, label: begun!.label });
      sofar += bar.ticks;
    } else if (short && (bar.implicit || (i === 0 && bars[1]?.label !== bar.label))) {
      Object.assign(bar, { into: whole - bar.ticks, pickup: true, counted: null });
      begun = null;
    } else {
      bar.counted = ++counted;
      begun = bar;
      sofar = bar.ticks;
    }
  });
}

/** Bars that are shorter than their time signature says without an upbeat, a split, a repeat or the end that would explain it. */
function unexplained(bars: readonly LineBar[]): Warning[] {
  return bars.flatMap((bar, i) => {
    const next = bars[i + 1];
    const whole = wholeBarTicks(bar);
    if (bar.ticks >= whole || bar.pickup || !next || next.into > 0 || bar.doubleBarAfter || next.repeatStart) return [];
    const [has, wants] = [bar.ticks, whole].map((ticks) => Math.round(quartersOf(ticks) * 100) / 100);
    return [
      {
        place: `bar ${sayBar(bars, i)}`,
        text: `The notes fill ${has} quarters, the time signature ${bar.beats}/${bar.beatType} has ${wants}. The bar is read as long as it is filled; correct the durations if that is a mistake.`,
      },
    ];
  });
}

/** The way of a tick of a part onto other bars: the same place in the same measure. Null where they begin as its own do. */
function onto(part: Pick<Part, 'bars'>, bars: readonly LineBar[]): ((tick: number) => number) | null {
  if (part.bars.every((bar, i) => bar.onset === bars[i]?.onset)) return null;
  return (tick) => {
    const index = barIndexAt(part.bars, tick);
    return bars[index]!.onset + tick - part.bars[index]!.onset;
  };
}

/** In order, one at each tick: of several the first that is better, else the first. */
function eachOnce<T extends { tick: number }>(marks: readonly T[], better: (mark: T) => boolean): T[] {
  const byTick = new Map<number, T>();
  for (const mark of marks) {
    const known = byTick.get(mark.tick);
    if (!known || (!better(known) && better(mark))) byTick.set(mark.tick, mark);
  }
  return [...byTick.values()].sort((a, b) => a.tick - b.tick);
}

/**
 * A part laid on the time line of its score: bars, letters, repeats as all parts have them, tempi and tempo words of the other
 * parts beside its own. A part that does not have the bars of the line (its file is another one) stays as it is.
 */
export function onTimeLine(part: Part, { bars, tempi, words }: TimeLine): Part {
  if (bars.length !== part.bars.length) return part;
  const at = onto(part, bars);
  const move = <T extends { tick: number }>(marks: T[]): T[] => (at ? marks.map((mark) => ({ ...mark, tick: at(mark.tick) })) : marks);
  const ownTempi = move(part.tempi.filter(({ carried }) => !carried));
  const ownWords = move(part.words);
  const others = <T extends { tick: number }>(all: readonly T[], own: readonly T[]): T[] => {
    const taken = new Set(own.map(({ tick }) => tick));
    return all.filter(({ tick }) => !taken.has(tick));
  };
  const common = {
    ...part,
    bars: bars.map((bar, i) => ({ ...bar, fifths: part.bars[i]!.fifths })),
    words: [...ownWords, ...others(words, ownWords)].sort((a, b) => a.tick - b.tick),
    tempi: fromTheStart([...ownTempi, ...others(tempi, ownTempi)]),
  };
  if (!at) return common;
  return {
    ...common,
    clefs: move(part.clefs),
    keys: move(part.keys),
    notes: part.notes.map((note) => ({ ...note, onset: bars[note.barIndex]!.onset + note.tick })),
    slurs: part.slurs.map((slur) => ({ ...slur, onset: at(slur.onset), endOnset: at(slur.endOnset) })),
    dynamics: move(part.dynamics),
    hairpins: part.hairpins.map((hairpin) => ({ ...hairpin, from: at(hairpin.from), to: at(hairpin.to) })),
    plucked: move(part.plucked),
    rests: part.rests.map((rest) => ({ ...rest, onset: at(rest.onset) })),
  };
}

const TEMPO_WORDS =
  /\b(grave|largo|larghetto|lento|adagio|andante|andantino|moderato|allegretto|allegro|vivace|vivo|presto|prestissimo|tempo|mosso|moto|rit(?:\.|ard|en)|rall|allarg|accel|string(?:\.|endo)|slentando|calando|morendo|rubato|fermo|langsam|mäßig|lebhaft|bewegt|schnell|ruhig|zurückhaltend|eilend|lent|modéré|vif|vite|animé|retenu|cédez|pressez|slow|fast|quick|lively|slower|faster|swing)/i;

/** Words that tell the tempo, which all parts follow. @example "poco rit.", "Allegro ma non troppo", "a tempo" */
export const isTempoWord = (text: string): boolean => TEMPO_WORDS.test(text);
