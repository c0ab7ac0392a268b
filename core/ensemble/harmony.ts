/**
 * Which chord sounds when: stretches of beats, each with the chord that explains best what sounds in it. What a chord costs is what does
 * not belong to it and what it lacks (after B. Pardo and W. P. Birmingham, "Algorithms for Chordal Analysis", Computer Music Journal 26(2),
 * 2002, from memory: matched less foreign less missing, the best division by a shortest path); notes that come and go by step cost less, as
 * they may well be foreign. The weights are judgement, tuned on nothing but the cadences of the tests.
 */
import { feltBeat } from '../score/beat';
import { midiOf } from '../score/pitch';
import type { Bar, Part } from '../score/score';
import { TICKS_PER_QUARTER } from '../score/ticks';
import { linesOf } from '../instruments/lines';
import { CHORD_KINDS, classOf, halfStepsOf, inversionOf, SHAPES, type Chord, type ChordKind, type Class } from './chord';
import { mayBeForeign } from './melodic';

/** A chord from one moment to another, ticks; null where nothing sounds, too little does, or two readings tie. */
export interface Harmony {
  from: number;
  to: number;
  chord: Chord | null;
}

/** A chord does not last longer than this before it is looked at anew, in beats; the same one may follow. */
const LONGEST = 8;
/** What a new chord costs where a bar begins, in its middle, and on another beat: in beats of one foreign note. */
const CHANGE = { bar: 0.3, middle: 0.4, beat: 0.55 };
/** Where every part goes to another note a new chord costs so much of it, where none does so much. */
const MOVES = { all: 0.3, none: 1.5 };
/** A chord that lacks its root is none. What it costs to lack the others, in the order of the stack. */
const LACKS = [Infinity, 0.8, 0.15, 1.4, 1.4];
/** Of a diminished or augmented chord the fifth makes what it is; of the rarer chords of four notes it is wanted. */
const LACKS_ITS_FIFTH = 1.2;
const RARE_LACKS_FIFTH = 0.45;
const FIFTH_MAY_LACK: ReadonlySet<ChordKind> = new Set<ChordKind>(['major', 'minor', 'dominant seventh']);
/** A foreign lowest note costs so much more. */
const BASS = 0.6;
/** Lowest note: root, third, fifth, seventh, ninth. */
const TURNED = [0, 0.06, 0.22, 0.12, 0.4];
/** A class that a further part doubles. */
const DOUBLED = 0.3;
/** A member that is written otherwise than the chord is spelled, for each beat. */
const MISSPELLED = 0.3;
/** Readings nearer than this, per stretch, tie. */
const TIE = 0.04;

const kept = new WeakMap<Part, { of: readonly Part[]; harmony: Harmony[] }>();

/** The chords of a score, from its first to its last beat without a gap. @param parts on one time line, with their edits in force */
export function harmonyOf(parts: readonly Part[]): Harmony[] {
  const sounding = parts.filter(({ notes }) => notes.length > 0);
  const [first] = sounding;
  if (!first) return [];
  const known = kept.get(first);
  if (known && known.of.length === sounding.length && known.of.every((part, i) => part === sounding[i])) return known.harmony;
  const harmony = madeHarmony(sounding);
  kept.set(first, { of: sounding, harmony });
  return harmony;
}

/** The chord at a moment; by halving. */
export function chordAt(harmony: readonly Harmony[], tick: number): Chord | null {
  let [low, high] = [0, harmony.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (harmony[middle]!.from <= tick) low = middle;
    else high = middle - 1;
  }
  const at = harmony[low];
  return at && at.from <= tick && tick < at.to ? at.chord : null;
}

/** One place in the metre at which chords may change, and what sounds until the next. */
interface Beat {
  from: number;
  to: number;
  change: number;
  /** By place on the line of fifths: how much a class costs as foreign, and whether it sounds at all. */
  foreign: Map<Class, number>;
  bass: Map<Class, number>;
  /** Its lowest note at the beginning; null in silence. */
  lowest: Class | null;
}

function madeHarmony(parts: readonly Part[]): Harmony[] {
  const beats = beatsOf(parts);
  // Best way to every beat, and the stretch that leads there.
  const best: Array<{ cost: number; from: number; chord: Chord | null }> = [{ cost: 0, from: 0, chord: null }];
  for (let to = 1; to <= beats.length; to++) {
    let found = { cost: Infinity, from: to - 1, chord: null as Chord | null };
    const heard = new Stretch();
    for (let from = to - 1; from >= 0 && to - from <= LONGEST; from--) {
      const beat = beats[from]!;
      // Silence stands by itself.
      if (beat.foreign.size === 0) {
        if (from === to - 1) found = { cost: best[from]!.cost, from, chord: null };
        break;
      }
      heard.add(beat);
      const read = heard.best();
      const cost = best[from]!.cost + beat.change + read.cost;
      if (cost < found.cost) found = { cost, from, chord: read.chord };
    }
    best.push(found);
  }
  const harmony: Harmony[] = [];
  for (let to = beats.length; to > 0; to = best[to]!.from) {
    const { from, chord } = best[to]!;
    harmony.unshift({ from: beats[from]!.from, to: beats[to - 1]!.to, chord });
  }
  return joined(harmony);
}

/** The same chord twice is one, but not over a change of its lowest note. */
function joined(harmony: readonly Harmony[]): Harmony[] {
  const all: Harmony[] = [];
  for (const each of harmony) {
    const last = all.at(-1);
    if (last && same(last.chord, each.chord)) last.to = each.to;
    else all.push({ ...each });
  }
  return all;
}

function lacking(kind: ChordKind, member: number): number {
  const { members, degrees } = SHAPES[kind];
  if (degrees[member] === 'augmented sixth') return Infinity;
  if (member !== 2) return LACKS[member]!;
  return members[2] !== 1 ? LACKS_ITS_FIFTH : FIFTH_MAY_LACK.has(kind) ? LACKS[2]! : RARE_LACKS_FIFTH;
}

const same = (a: Chord | null, b: Chord | null): boolean =>
  a === b || (a !== null && b !== null && a.root === b.root && a.kind === b.kind && a.inversion === b.inversion);

/** Classes are kept in a row: from so many fifths below C. */
const BELOW = 32;
const ROW = 64;
/** Members of every kind as half steps over the root. */
const HALF_STEPS = CHORD_KINDS.map((kind) => SHAPES[kind].members.map(halfStepsOf));

/** What sounds over a few beats, and the chord that explains it best. */
class Stretch {
  /** By class: what it costs as foreign. */
  private readonly foreign = new Float64Array(ROW);
  private readonly classes: Class[] = [];
  /** By half step: the same, and with what the lowest notes weigh. */
  private readonly explained = new Float64Array(12);
  private readonly heard = new Uint8Array(12);
  private all = 0;
  private wholeBass = 0;
  private beats = 0;
  private lowest: Class | null = null;

  /** The beat before those that are there. */
  add({ foreign, bass, lowest }: Beat): void {
    this.beats++;
    this.lowest = lowest ?? this.lowest;
    for (const [of, cost] of foreign) {
      if (!this.foreign[of + BELOW]) this.classes.push(of);
      this.foreign[of + BELOW]! += cost;
      this.explained[halfStepsOf(of)]! += cost;
      this.heard[halfStepsOf(of)] = 1;
      this.all += cost;
    }
    for (const [of, cost] of bass) {
      this.explained[halfStepsOf(of)]! += BASS * cost;
      this.wholeBass += BASS * cost;
    }
  }

  /** A single class is no chord, but a stretch can be made of it. */
  best(): { cost: number; chord: Chord | null } {
    let [cost, second] = [Infinity, Infinity];
    let [root, kind] = [0, 0];
    for (const own of this.classes) {
      for (let k = 0; k < CHORD_KINDS.length; k++) {
        const price = this.price(own, k);
        if (price < cost) {
          if (own !== root) second = cost;
          [cost, root, kind] = [price, own, k];
        } else if (price < second && own !== root) second = price;
      }
    }
    const sounding = this.heard.reduce((sum, each) => sum + each, 0);
    if (sounding < 2 || second - cost < TIE) return { cost, chord: null };
    const name = CHORD_KINDS[kind]!;
    return { cost, chord: { root, kind: name, inversion: this.lowest === null ? 0 : inversionOf({ root, kind: name }, this.lowest) } };
  }

  private price(root: Class, k: number): number {
    const kind = CHORD_KINDS[k]!;
    const { members, rare } = SHAPES[kind];
    const above = HALF_STEPS[k]!;
    const from = halfStepsOf(root);
    let cost = this.all + this.wholeBass + rare * this.beats;
    for (let i = 0; i < members.length; i++) {
      const at = (from + above[i]!) % 12;
      if (!this.heard[at]) cost += lacking(kind, i);
      else {
        cost -= this.explained[at]!;
        if (!this.foreign[root + members[i]! + BELOW]) cost += MISSPELLED * this.beats;
      }
    }
    return cost + (this.lowest === null ? TURNED[0]! : TURNED[inversionOf({ root, kind }, this.lowest)]!);
  }
}

/** Ticks between places where a chord may change: the felt beat, and never more than a quarter in simple time. */
const changeEvery = (bar: Bar): number => {
  const beat = feltBeat(bar);
  return bar.beatType <= 4 ? Math.min(beat, TICKS_PER_QUARTER) : beat;
};

function beatsOf(parts: readonly Part[]): Beat[] {
  const bars = parts.reduce((most, part) => (part.bars.length > most.length ? part.bars : most), parts[0]!.bars);
  const beats: Beat[] = [];
  for (const bar of bars) {
    const every = changeEvery(bar);
    const count = Math.max(1, Math.ceil(bar.ticks / every - 1e-9));
    for (let k = 0; k < count; k++) {
      const place = bar.into + k * every;
      const change = place === 0 ? CHANGE.bar : isMiddle(bar, place, every) ? CHANGE.middle : CHANGE.beat;
      beats.push({
        from: bar.onset + k * every,
        to: Math.min(bar.onset + (k + 1) * every, bar.onset + bar.ticks),
        change,
        foreign: new Map(),
        bass: new Map(),
        lowest: null,
      });
    }
  }
  fill(beats, parts);
  return beats;
}

/** Bars of four, eight, twelve … beats have a middle. */
const isMiddle = (bar: Bar, place: number, every: number): boolean => {
  const whole = (bar.beats * 4 * TICKS_PER_QUARTER) / bar.beatType;
  return (whole / every) % 2 === 0 && place * 2 === whole;
};

interface Sounding {
  from: number;
  to: number;
  of: Class;
  midi: number;
  /** From 0 (a passing note) to 1 (it can only belong to the chord). */
  weight: number;
}

/** What sounds within each beat, moment by moment. */
function fill(beats: readonly Beat[], parts: readonly Part[]): void {
  const notes: Sounding[] = parts
    .flatMap((part) =>
      linesOf(part).flatMap(({ events }) =>
        events.flatMap((event, i) =>
          event.grace
            ? []
            : event.notes.map((note) => ({
                from: event.onset,
                to: event.end,
                of: classOf(note.pitch),
                midi: midiOf(note.pitch),
                weight: mayBeForeign(events, i, note),
              })),
        ),
      ),
    )
    .sort((a, b) => a.from - b.from);
  weighTogether(notes);
  let next = 0;
  let open: Sounding[] = [];
  for (const beat of beats) {
    const before = open;
    open = [...open];
    while (next < notes.length && notes[next]!.from < beat.to) open.push(notes[next++]!);
    beat.change *= changeBy(beat, open, before);
    open = open.filter(({ to }) => to > beat.from);
    heardIn(beat, open);
  }
}

/** What begins and ends with all the others is of the chord, however it moves: foreign notes move while others stay. */
function weighTogether(notes: Sounding[]): void {
  const [begins, ends] = [counted(notes.map(({ from }) => from)), counted(notes.map(({ to }) => to))];
  const byEnd = notes.map(({ to }) => to).sort((a, b) => a - b);
  const byStart = notes.map(({ from }) => from);
  for (const note of notes) {
    // Those that sound when it begins, and right before it ends.
    const atStart = below(byStart, note.from + 1) - below(byEnd, note.from + 1);
    const atEnd = below(byStart, note.to) - below(byEnd, note.to);
    const withIt = Math.min(share(begins.get(note.from)!, atStart), share(ends.get(note.to)!, atEnd));
    note.weight += (1 - note.weight) * withIt;
  }
}

const share = (same: number, all: number): number => (all > 1 ? (same - 1) / (all - 1) : 0);

function counted(ticks: readonly number[]): Map<number, number> {
  const all = new Map<number, number>();
  for (const tick of ticks) all.set(tick, (all.get(tick) ?? 0) + 1);
  return all;
}

/** How many of an ordered list lie below a value. */
function below(sorted: readonly number[], value: number): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** How likely a new chord is by how many of the notes that begin are others than those that sounded before. */
function changeBy({ from }: Beat, open: readonly Sounding[], before: readonly Sounding[]): number {
  const there = open.filter((each) => each.from <= from && each.to > from);
  if (there.length === 0) return 1;
  const held = new Set(before.filter((each) => each.from < from && each.to >= from).map(({ midi }) => midi));
  const share = there.filter((each) => each.from === from && !held.has(each.midi)).length / there.length;
  return MOVES.none + (MOVES.all - MOVES.none) * share;
}

function heardIn(beat: Beat, open: readonly Sounding[]): void {
  const turns = [...new Set(open.flatMap(({ from, to }) => [from, to]).filter((tick) => tick > beat.from && tick < beat.to)), beat.from, beat.to].sort(
    (a, b) => a - b,
  );
  for (let i = 1; i < turns.length; i++) {
    const [from, to] = [turns[i - 1]!, turns[i]!];
    const there = open.filter((each) => each.from <= from && each.to >= to);
    if (there.length === 0) continue;
    const part = (to - from) / (beat.to - beat.from);
    const lowest = there.reduce((low, each) => (each.midi < low.midi ? each : low));
    const weights = new Map<Class, number[]>();
    for (const { of, weight } of there) weights.set(of, [...(weights.get(of) ?? []), weight]);
    for (const [of, all] of weights) beat.foreign.set(of, (beat.foreign.get(of) ?? 0) + part * Math.max(...all) * (1 + DOUBLED * (all.length - 1)));
    // Alone it is a melody and no bass.
    if (there.every(({ midi }) => midi === lowest.midi)) continue;
    beat.bass.set(lowest.of, (beat.bass.get(lowest.of) ?? 0) + part * lowest.weight);
    beat.lowest ??= lowest.of;
  }
}
