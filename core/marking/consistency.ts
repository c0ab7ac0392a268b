/**
 * The same music marked in two ways: bars on the same notes, on other notes, or with the same rhythm, compared mark by mark.
 * Where one place is marked and the other is not, that is a difference too: what was decided once is to be copied or meant.
 */
import { letterIndex, midiOf } from '../score/pitch';
import type { Line, LineEvent } from '../instruments/lines';
import type { Note, Part } from '../score/score';
import { changeTo, type Change } from './change';
import { markAt, type Mark, type Marking } from './mark';
import { type MarkKind, kindsWhere, MARKS } from './kinds';
import { TICKS_PER_QUARTER } from '../score/ticks';

/** How alike two bars are: the same notes; the same intervals on other notes; the same rhythm. */
export const ALIKE = ['same notes', 'other notes', 'same rhythm'] as const;
export type Alike = (typeof ALIKE)[number];

/** A run of bars that stands twice, marked differently. */
export interface MarkedDifferently {
  alike: Alike;
  /** First of the two places, bar indices, both included. */
  first: { fromBar: number; toBar: number };
  second: { fromBar: number; toBar: number };
  differences: MarkDifference[];
  /** Marks of the first place onto the second, and the other way. */
  copyThere: Change[];
  copyHere: Change[];
}

export interface MarkDifference {
  kind: MarkKind;
  firstNote: string;
  secondNote: string;
  /** Null where nothing is marked there. */
  first: string | null;
  second: string | null;
}

/** Marks that should be the same on the same notes. On other notes fingers and strings may differ, bows should not. */
const HAND_KINDS = kindsWhere(({ alike }) => alike === 'hand');
const BOW_KINDS = kindsWhere(({ alike }) => alike === 'bow');

/** What is compared, and copied, by how alike two bars are. */
export const KINDS_ALIKE: Readonly<Record<Alike, readonly MarkKind[]>> = {
  'same notes': [...HAND_KINDS, ...BOW_KINDS],
  'other notes': BOW_KINDS,
  'same rhythm': BOW_KINDS.filter((kind) => MARKS[kind].group === 'player'),
};

/** Step by step on other notes, bar after bar: bows may well begin the other way round there, but slurs and strokes should go on alike. */
const IN_SEQUENCE = kindsWhere(({ sequence }) => sequence);
const BARS_OF_SEQUENCE = 3;

/** Fewer notes in a bar make no tune; a rhythm alone needs two bars to be one. */
const FEWEST_NOTES = 3;
const BARS_OF_RHYTHM = 2;

export interface BarOfLine {
  barIndex: number;
  events: LineEvent[];
  keys: Readonly<Record<Alike, string>>;
  /** Its rhythm and whether there are slurs, also where every note is as long as the next. */
  rhythm: string;
}

/** Every run that is marked in both places in two ways, or in one place only; the closest likeness first. */
export function markedDifferently(part: Part, line: Line, marking: Marking): MarkedDifferently[] {
  const bars = comparableBars(part, line);
  const found: MarkedDifferently[] = [];
  const told = new Set<string>();
  for (const alike of ALIKE) {
    const groups = new Map<string, number[]>();
    bars.forEach((bar, i) => {
      if (bar.events.length < FEWEST_NOTES) return;
      groups.set(bar.keys[alike], [...(groups.get(bar.keys[alike]) ?? []), i]);
    });
    for (const places of groups.values()) {
      const model = modelAmong(places, bars, marking, KINDS_ALIKE[alike]);
      if (model === null) continue;
      for (const place of places) {
        if (place === model || told.has(`${bars[place]!.barIndex}`)) continue;
        const apart = alike === 'same notes' || (Math.abs(place - model) >= BARS_OF_RHYTHM && runsOn(model, place, bars, alike));
        const kinds = apart ? KINDS_ALIKE[alike] : IN_SEQUENCE;
        if (!apart && !(inSequence(model, place, bars) && marksOf(bars[place]!, kinds, marking) > 0)) continue;
        const differences = compared(bars[model]!, bars[place]!, kinds, marking);
        if (differences.length === 0) continue;
        told.add(`${bars[place]!.barIndex}`);
        found.push(oneBar(alike, bars[model]!, bars[place]!, differences, marking));
      }
    }
  }
  return joined(found.sort((a, b) => a.second.fromBar - b.second.fromBar));
}

const barsOfLine = new WeakMap<Line, BarOfLine[]>();

/** The bars of a line with what they are known again by; worked out once for each line. */
export function comparableBars(part: Part, line: Line): BarOfLine[] {
  let bars = barsOfLine.get(line);
  if (!bars) barsOfLine.set(line, (bars = comparable(part, line)));
  return bars;
}

function comparable(part: Part, line: Line): BarOfLine[] {
  const byBar = new Map<number, LineEvent[]>();
  for (const event of line.events) {
    const { barIndex } = event.notes[0]!;
    byBar.set(barIndex, [...(byBar.get(barIndex) ?? []), event]);
  }
  return [...byBar].map(([barIndex, events]) => {
    const bar = part.bars[barIndex]!;
    const first = events[0]!.notes[0]!;
    // In parts of a quarter that any rhythm divides: other parts may count in ticks of their own.
    const time = (ticks: number) => Math.round((ticks / TICKS_PER_QUARTER) * 5040);
    const key = (height: (note: Note) => number | string) =>
      events.map(({ onset, end, notes, grace }) => `${time(onset - bar.onset)} ${time(end - onset)} ${grace} ${notes.map(height).join('+')}`).join('|');
    const slurred = part.slurs.some(({ from }) => events.some(({ ids }) => ids.includes(from)));
    const rhythm = `${slurred} ${key(() => '')}`;
    return {
      barIndex,
      events,
      rhythm,
      keys: {
        'same notes': key((note) => midiOf(note.pitch)),
        'other notes': `${slurred} ${key((note) => letterIndex(note.pitch) - letterIndex(first.pitch))}`,
        // Notes of one length are no rhythm that anybody knows again.
        'same rhythm': new Set(events.map(({ onset, end }) => end - onset)).size > 1 ? rhythm : `bar ${barIndex}`,
      },
    };
  });
}

const marksOf = (bar: BarOfLine, kinds: readonly MarkKind[], marking: Marking): number =>
  bar.events.reduce((sum, { ids }) => sum + kinds.filter((kind) => inForce(marking, ids[0]!, kind)).length, 0);

function inForce(marking: Marking, noteId: string, kind: MarkKind): Mark | null {
  const mark = markAt(marking, noteId, kind);
  return mark && !mark.off ? mark : null;
}

/** The first place that is marked by the coach, else the first that is marked at all. */
function modelAmong(places: readonly number[], bars: readonly BarOfLine[], marking: Marking, kinds: readonly MarkKind[]): number | null {
  const byCoach = places.find((place) => bars[place]!.events.some(({ ids }) => kinds.some((kind) => inForce(marking, ids[0]!, kind)?.origin === 'coach')));
  return byCoach ?? places.find((place) => marksOf(bars[place]!, kinds, marking) > 0) ?? null;
}

/** Both lie in a row of bars that are one tune on other notes. */
function inSequence(a: number, b: number, bars: readonly BarOfLine[]): boolean {
  const key = bars[a]!.keys['other notes'];
  const like = (at: number) => bars[at]?.keys['other notes'] === key && bars[at]!.barIndex - bars[a]!.barIndex === at - a;
  let [first, last] = [a, a];
  while (like(first - 1)) first--;
  while (like(last + 1)) last++;
  return b >= first && b <= last && last - first + 1 >= BARS_OF_SEQUENCE;
}

/** The music goes on alike for another bar, before or after. */
function runsOn(a: number, b: number, bars: readonly BarOfLine[], alike: Alike): boolean {
  for (const step of [1, -1]) {
    let run = 1;
    while (run < BARS_OF_RHYTHM) {
      const [x, y] = [bars[a + step * run], bars[b + step * run]];
      if (!x || !y || x.keys[alike] !== y.keys[alike] || x.events.length < FEWEST_NOTES) break;
      run++;
    }
    if (run >= BARS_OF_RHYTHM) return true;
  }
  return false;
}

function compared(model: BarOfLine, place: BarOfLine, kinds: readonly MarkKind[], marking: Marking): MarkDifference[] {
  return model.events.flatMap((event, i) => {
    const [firstNote, secondNote] = [event.ids[0]!, place.events[i]!.ids[0]!];
    return kinds.flatMap((kind): MarkDifference[] => {
      const [first, second] = [inForce(marking, firstNote, kind)?.value ?? null, inForce(marking, secondNote, kind)?.value ?? null];
      return first === second ? [] : [{ kind, firstNote, secondNote, first, second }];
    });
  });
}

function oneBar(alike: Alike, model: BarOfLine, place: BarOfLine, differences: MarkDifference[], marking: Marking): MarkedDifferently {
  const copy = (from: 'first' | 'second') =>
    differences.flatMap(({ kind, firstNote, secondNote }): Change[] => {
      const [source, target] = from === 'first' ? [firstNote, secondNote] : [secondNote, firstNote];
      const mark = inForce(marking, source, kind);
      const change = changeTo(marking, target, kind, mark && { value: mark.value, origin: 'coach' });
      return change ? [change] : [];
    });
  const at = ({ barIndex }: BarOfLine) => ({ fromBar: barIndex, toBar: barIndex });
  return { alike, first: at(model), second: at(place), differences, copyThere: copy('first'), copyHere: copy('second') };
}

/** Bars that follow one another in both places are one difference. */
function joined(found: readonly MarkedDifferently[]): MarkedDifferently[] {
  const runs: MarkedDifferently[] = [];
  for (const each of found) {
    const last = runs.at(-1);
    if (last && last.alike === each.alike && last.second.toBar + 1 === each.second.fromBar && last.first.toBar + 1 === each.first.fromBar) {
      last.first = { ...last.first, toBar: each.first.toBar };
      last.second = { ...last.second, toBar: each.second.toBar };
      last.differences = [...last.differences, ...each.differences];
      last.copyThere = [...last.copyThere, ...each.copyThere];
      last.copyHere = [...last.copyHere, ...each.copyHere];
    } else runs.push({ ...each });
  }
  return runs;
}
