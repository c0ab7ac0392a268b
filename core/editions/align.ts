/**
 * Two editions of one part, bar by bar and note by note. Bars are matched by the difference algorithm of Myers (package
 * `diff`) over what they sound like; where bars differ, the cheapest pairing of the stretch is taken (Needleman and
 * Wunsch 1970). Inside a pair of bars notes are matched by time and pitch, then by time, then by order.
 */
import { diffArrays } from 'diff';
import { midiOf } from '../score/pitch';
import type { Note, Part } from '../score/score';
import { TICKS_PER_QUARTER } from '../score/ticks';

export interface Alignment {
  /** In order; null where one edition has no such bar. */
  bars: Array<{ ours: number | null; theirs: number | null }>;
  /** Notes that belong together, by ids: ours to theirs. */
  notes: ReadonlyMap<string, string>;
  /** Notes without a partner inside bars that have one. */
  onlyOurs: string[];
  onlyTheirs: string[];
}

export function align(ours: Part, theirs: Part): Alignment {
  const ourBars = contentOf(ours);
  const theirBars = contentOf(theirs);
  const bars = alignBars(ourBars, theirBars);
  const notes = new Map<string, string>();
  const onlyOurs: string[] = [];
  const onlyTheirs: string[] = [];
  for (const pair of bars) {
    if (pair.ours === null || pair.theirs === null) continue;
    const { pairs, left, right } = pairNotes(ourBars[pair.ours]!.notes, theirBars[pair.theirs]!.notes);
    for (const [a, b] of pairs) notes.set(a.note.id, b.note.id);
    onlyOurs.push(...left.map(({ note }) => note.id));
    onlyTheirs.push(...right.map(({ note }) => note.id));
  }
  return { bars, notes, onlyOurs, onlyTheirs };
}

/** A note with its time in quarters from the bar line, so that files of other divisions compare. */
interface Timed {
  note: Note;
  at: number;
  length: number;
}

interface BarContent {
  notes: Timed[];
  /** What it sounds like, as one word. */
  key: string;
}

const rounded = (quarters: number): number => Math.round(quarters * 1000) / 1000;

function contentOf(part: Part): BarContent[] {
  const bars: BarContent[] = part.bars.map((bar) => ({ notes: [], key: `${rounded(bar.ticks / TICKS_PER_QUARTER)}` }));
  for (const note of part.notes) {
    if (note.cue) continue;
    bars[note.barIndex]!.notes.push({ note, at: rounded(note.tick / TICKS_PER_QUARTER), length: rounded(note.duration / TICKS_PER_QUARTER) });
  }
  for (const bar of bars) bar.key += bar.notes.map(({ note, at, length }) => ` ${at}:${length}:${midiOf(note.pitch)}${note.grace ? 'g' : ''}`).join('');
  return bars;
}

function alignBars(ours: readonly BarContent[], theirs: readonly BarContent[]): Alignment['bars'] {
  const result: Alignment['bars'] = [];
  let a = 0;
  let b = 0;
  const removed: number[] = [];
  const added: number[] = [];
  const settle = () => {
    result.push(...pairBars(removed.splice(0), added.splice(0), ours, theirs));
  };
  for (const change of diffArrays(
    ours.map((bar) => bar.key),
    theirs.map((bar) => bar.key),
  )) {
    const count = change.value.length;
    if (change.removed) for (let i = 0; i < count; i++) removed.push(a++);
    else if (change.added) for (let i = 0; i < count; i++) added.push(b++);
    else {
      settle();
      for (let i = 0; i < count; i++) result.push({ ours: a++, theirs: b++ });
    }
  }
  settle();
  return result;
}

/** A pair of bars that are alike by less than this is no pair. */
const GAP_COST = 0.55;
/** Stretches larger than this are paired in order. */
const LARGEST_TABLE = 4_000_000;

function pairBars(left: readonly number[], right: readonly number[], ours: readonly BarContent[], theirs: readonly BarContent[]): Alignment['bars'] {
  const only = (bars: readonly number[], side: 'ours' | 'theirs') =>
    bars.map((bar) => ({ ours: side === 'ours' ? bar : null, theirs: side === 'theirs' ? bar : null }));
  if (left.length === 0) return only(right, 'theirs');
  if (right.length === 0) return only(left, 'ours');
  const width = right.length + 1;
  if (left.length * right.length > LARGEST_TABLE || (left.length === right.length && left.length === 1)) {
    const common = Math.min(left.length, right.length);
    return [
      ...left.slice(0, common).map((bar, i) => ({ ours: bar, theirs: right[i]! })),
      ...only(left.slice(common), 'ours'),
      ...only(right.slice(common), 'theirs'),
    ];
  }
  const cost = new Float64Array((left.length + 1) * width);
  const step = new Uint8Array((left.length + 1) * width);
  for (let j = 1; j < width; j++) [cost[j], step[j]] = [j * GAP_COST, 2];
  for (let i = 1; i <= left.length; i++) {
    cost[i * width] = i * GAP_COST;
    step[i * width] = 1;
    for (let j = 1; j < width; j++) {
      const at = i * width + j;
      const pair = cost[at - width - 1]! + 1 - likeness(ours[left[i - 1]!]!, theirs[right[j - 1]!]!);
      const up = cost[at - width]! + GAP_COST;
      const across = cost[at - 1]! + GAP_COST;
      cost[at] = Math.min(pair, up, across);
      step[at] = pair <= up && pair <= across ? 0 : up <= across ? 1 : 2;
    }
  }
  const result: Alignment['bars'] = [];
  for (let i = left.length, j = right.length; i > 0 || j > 0;) {
    const way = step[i * width + j]!;
    result.push({ ours: way === 2 ? null : left[--i]!, theirs: way === 1 ? null : right[--j]! });
  }
  return result.reverse();
}

/** Share of notes that two bars have in common: those of the same time and pitch count whole, those of the same time half. */
function likeness(a: BarContent, b: BarContent): number {
  const most = Math.max(a.notes.length, b.notes.length);
  if (most === 0) return 1;
  const exact = new Set(a.notes.map(({ note, at }) => `${at} ${midiOf(note.pitch)}`));
  const times = new Set(a.notes.map(({ at }) => at));
  let common = 0;
  for (const { note, at } of b.notes) common += exact.has(`${at} ${midiOf(note.pitch)}`) ? 1 : times.has(at) ? 0.5 : 0;
  return Math.min(1, common / most);
}

function pairNotes(ours: readonly Timed[], theirs: readonly Timed[]): { pairs: Array<[Timed, Timed]>; left: Timed[]; right: Timed[] } {
  const pairs: Array<[Timed, Timed]> = [];
  let left = [...ours];
  let right = [...theirs];
  const by = (key: (timed: Timed) => string) => {
    const waiting = new Map<string, Timed[]>();
    for (const timed of right) waiting.set(key(timed), [...(waiting.get(key(timed)) ?? []), timed]);
    const used = new Set<Timed>();
    left = left.filter((timed) => {
      const partner = waiting.get(key(timed))?.shift();
      if (!partner) return true;
      used.add(partner);
      pairs.push([timed, partner]);
      return false;
    });
    right = right.filter((timed) => !used.has(timed));
  };
  const grace = (timed: Timed) => (timed.note.grace ? 'g' : '');
  by((timed) => `${grace(timed)}${timed.at} ${midiOf(timed.note.pitch)} ${timed.note.voice}`);
  by((timed) => `${grace(timed)}${timed.at} ${midiOf(timed.note.pitch)}`);
  by((timed) => `${grace(timed)}${timed.at}`);
  // What is left begins at another time: the same pitches in the same order belong together.
  let a = 0;
  let b = 0;
  const moved: Array<[Timed, Timed]> = [];
  for (const change of diffArrays(
    left.map((timed) => `${grace(timed)}${midiOf(timed.note.pitch)}`),
    right.map((timed) => `${grace(timed)}${midiOf(timed.note.pitch)}`),
  )) {
    const count = change.value.length;
    if (change.removed) a += count;
    else if (change.added) b += count;
    else for (let i = 0; i < count; i++) moved.push([left[a++]!, right[b++]!]);
  }
  const matched = new Set(moved.flat());
  return { pairs: [...pairs, ...moved], left: left.filter((timed) => !matched.has(timed)), right: right.filter((timed) => !matched.has(timed)) };
}
