/**
 * Who has the tune, and what the others do: each part's role bar by bar, joined to phrases. What speaks for a role (register, steps,
 * variety of rhythm, density, words and loudness, a tune that comes back) is judgement; roles change where that explains enough more.
 */
import { feltBeat } from '../score/beat';
import { loudnessOf } from '../score/loudness';
import { midiOf } from '../score/pitch';
import type { Bar, Part } from '../score/score';
import { linesOf, type LineEvent } from '../instruments/lines';
import { bestPath } from './best-path';

export const ROLES = ['tune', 'second tune', 'moving figure', 'held', 'off-beats', 'bass', 'silent'] as const;
export type Role = (typeof ROLES)[number];

/** What a part does from one bar to another. */
export interface Phrase {
  partId: string;
  role: Role;
  fromBar: number;
  toBar: number;
  /** 0 to 1: how much more speaks for it than for the next likely role. */
  sure: number;
}

interface RolePart {
  id: string;
  part: Part;
}

/** What is counted of a part in a bar. */
interface Traits {
  sounds: number;
  attacks: number;
  perBeat: number;
  /** Attacks off the beats, or on the others where the first is a rest. */
  off: number;
  even: number;
  repeated: number;
  steps: number;
  leaps: number;
  lengths: number;
  pitches: number;
  height: number;
  longest: number;
  rhythm: string;
  /** Pitch classes in order, to know who doubles whom. */
  contour: string;
}

/** Bars before and after that are looked at with one. */
const AROUND = 2;
/** What it costs that the tune goes to another part, or a part to another role; less where a phrase begins. */
const HANDS_OVER = 1.6;
const TURNS = 1.1;
const AT_PHRASE = 0.45;
/** Words that ask for the tune, and for how many bars they are taken to hold at most. */
const SOLO = /\b(solo|espress|cantabile|dolce|cant\.)/i;
const SOLO_BARS = 16;

/** Phrases of every part in the order of the parts, each from its first to its last bar. @param parts on one time line */
export function rolesOf(parts: readonly RolePart[]): Phrase[] {
  const lanes = parts.map(({ id, part }) => laneOf(id, part));
  const bars = lanes.reduce<readonly Bar[]>((most, { part }) => (part.bars.length > most.length ? part.bars : most), []);
  if (bars.length === 0) return [];
  const section = bars.map((bar, i) => i === 0 || bar.rehearsal !== null || bars[i - 1]!.doubleBarAfter || bar.repeatStart);
  const phrase = section.map((begins, i) => begins || startsPhrase(lanes, i));
  const around = lanes.map(({ traits }) => bars.map((_, b) => smoothed(traits, b)));
  const rank = bars.map((_, b) => ranks(around.map((row) => row[b]!)));
  const tune = bars.map((_, b) => lanes.map((lane, p) => tuneIn(lane, around[p]![b]!, rank[b]![p]!, b)));
  const has = bestPath(
    tune.map((row) => row.map((each) => -each)),
    (b) => HANDS_OVER * (phrase[b] ? AT_PHRASE : 1),
  );
  return lanes.flatMap((lane, p) => {
    const speaks = bars.map((_, b) => forRoles(lane, p, b, { lanes, around, rank, has, tune }));
    const path = bestPath(
      speaks.map((row) => row.map((each) => -each)),
      (b) => TURNS * (phrase[b] ? AT_PHRASE : 1),
    );
    return phrasesOf(lane.id, path, speaks, section);
  });
}

/** What a part does at a bar. */
export const roleAt = (phrases: readonly Phrase[], partId: string, barIndex: number): Phrase | null =>
  phrases.find((each) => each.partId === partId && each.fromBar <= barIndex && each.toBar >= barIndex) ?? null;

interface Lane {
  id: string;
  part: Part;
  traits: Array<Traits | null>;
  loud: (tick: number) => number;
  /** Bars under a word that asks for the tune. */
  solo: Set<number>;
  /** Bars whose tune comes again, here or in another part. */
  returns: Set<number>;
}

function laneOf(id: string, part: Part): Lane {
  const events = linesOf(part)[0]!.events.filter(({ grace }) => !grace);
  const solo = new Set<number>();
  for (const { tick, text } of part.words) {
    if (!SOLO.test(text)) continue;
    const from = part.bars.findIndex((bar) => tick >= bar.onset && tick < bar.onset + bar.ticks);
    for (let b = from; b >= 0 && b < Math.min(part.bars.length, from + SOLO_BARS); b++) {
      if (b > from && part.bars[b]!.rehearsal) break;
      solo.add(b);
    }
  }
  const traits: Array<Traits | null> = [];
  let next = 0;
  for (const bar of part.bars) {
    const end = bar.onset + bar.ticks;
    while (next < events.length && events[next]!.end <= bar.onset) next++;
    const there: LineEvent[] = [];
    for (let i = next; i < events.length && events[i]!.onset < end; i++) there.push(events[i]!);
    traits.push(traitsOf(bar, there));
  }
  return { id, part, traits, loud: loudnessOf(part).stepsAt, solo, returns: returning(part.bars, events) };
}

const top = ({ notes }: LineEvent): number => midiOf(notes.at(-1)!.pitch);

function traitsOf(bar: Bar, events: readonly LineEvent[]): Traits | null {
  if (events.length === 0) return null;
  const end = bar.onset + bar.ticks;
  const beat = feltBeat(bar);
  const begun = events.filter(({ onset }) => onset >= bar.onset);
  const sounds = events.reduce((sum, event) => sum + Math.min(end, event.end) - Math.max(bar.onset, event.onset), 0) / bar.ticks;
  const lengths = begun.map((event) => event.end - event.onset);
  const moves = events.slice(1).map((event, i) => Math.abs(top(event) - top(events[i]!)));
  const share = (count: number, all: number) => (all === 0 ? 0 : count / all);
  const restsFirst = events[0]!.onset > bar.onset;
  const off = begun.filter(({ onset }) => (onset - bar.onset + bar.into) % beat !== 0).length;
  const commonest = Math.max(0, ...[...count(lengths).values()]);
  return {
    sounds,
    attacks: begun.length,
    perBeat: share(begun.length * beat, bar.ticks),
    off: restsFirst && bar.into === 0 ? 1 : syncopated(bar, events) ? 1 : share(off, begun.length) * (off > 1 ? 0.6 : 0.2),
    even: share(commonest, begun.length),
    repeated: share(moves.filter((by) => by === 0).length, moves.length),
    steps: share(moves.filter((by) => by === 1 || by === 2).length, moves.length),
    leaps: share(moves.filter((by) => by > 2).length, moves.length),
    lengths: new Set(lengths).size,
    pitches: new Set(events.map(top)).size,
    height: events.reduce((sum, event) => sum + top(event), 0) / events.length,
    longest: Math.max(...events.map((event) => Math.min(end, event.end) - Math.max(bar.onset, event.onset))) / bar.ticks,
    rhythm: begun.map(({ onset, end: to }) => `${onset - bar.onset} ${to - onset}`).join('|'),
    contour: begun.map((event) => top(event) % 12).join(' '),
  };
}

/** Held over the bar line into a beat, and struck on the others. */
const syncopated = (bar: Bar, events: readonly LineEvent[]): boolean =>
  events.length > 1 && events[0]!.onset < bar.onset && events[0]!.end - bar.onset <= feltBeat(bar) && events.length <= 3;

function count<T>(all: readonly T[]): Map<T, number> {
  const counted = new Map<T, number>();
  for (const each of all) counted.set(each, (counted.get(each) ?? 0) + 1);
  return counted;
}

/** Two bars that come again as the same intervals in the same rhythm, with something of a tune in them. */
function returning(bars: readonly Bar[], events: readonly LineEvent[]): Set<number> {
  const keys = bars.map((bar, b) => {
    const end = bars[b + 1] ? bars[b + 1]!.onset + bars[b + 1]!.ticks : bar.onset + bar.ticks;
    const there = events.filter(({ onset }) => onset >= bar.onset && onset < end);
    if (there.length < 4 || new Set(there.map((event) => event.end - event.onset)).size < 2 || new Set(there.map(top)).size < 4) return null;
    return there.map((event) => `${event.onset - bar.onset} ${top(event) - top(there[0]!)}`).join('|');
  });
  const counted = count(keys.filter((key) => key !== null));
  return new Set(keys.flatMap((key, b) => (key !== null && counted.get(key)! > 1 ? [b, b + 1] : [])));
}

/** A bar with those around it, so that a single one decides nothing. */
function smoothed(traits: ReadonlyArray<Traits | null>, b: number): Traits | null {
  if (!traits[b]) return null;
  const there = traits.slice(Math.max(0, b - AROUND), b + AROUND + 1).filter((each): each is Traits => each !== null);
  const mean = (of: (each: Traits) => number) => there.reduce((sum, each) => sum + of(each), 0) / there.length;
  const own = traits[b];
  return {
    ...own,
    perBeat: mean((each) => each.perBeat),
    off: mean((each) => each.off),
    even: mean((each) => each.even),
    repeated: mean((each) => each.repeated),
    steps: mean((each) => each.steps),
    leaps: mean((each) => each.leaps),
    lengths: mean((each) => each.lengths),
    pitches: mean((each) => each.pitches),
    height: mean((each) => each.height),
    longest: mean((each) => each.longest),
    attacks: mean((each) => each.attacks),
  };
}

/** From 0, the lowest that sounds, to 1; null where it is silent. */
function ranks(row: ReadonlyArray<Traits | null>): Array<number | null> {
  const heights = row.flatMap((each) => (each ? [each.height] : [])).sort((a, b) => a - b);
  return row.map((each) => (each ? (heights.length < 2 ? 1 : heights.filter((height) => height < each.height).length / (heights.length - 1)) : null));
}

const startsPhrase = (lanes: readonly Lane[], b: number): boolean =>
  lanes.some(({ traits }) => traits[b] && (traits[b - 1] === null || traits[b - 1] === undefined || traits[b - 1]!.sounds < 0.7));

const upTo = (value: number, most: number): number => Math.min(1, value / most);

function tuneIn(lane: Lane, traits: Traits | null, rank: number | null, b: number): number {
  if (!traits) return -1.5;
  const bar = lane.part.bars[b]!;
  return (
    0.9 * rank! +
    0.3 * upTo(traits.perBeat, 2) +
    0.6 * upTo(traits.lengths - 1, 1.5) +
    0.9 * upTo(traits.pitches - 1, 4) +
    0.4 * traits.steps +
    (lane.solo.has(b) ? 1.6 : 0) +
    (lane.returns.has(b) ? 0.4 : 0) +
    0.22 * (lane.loud(bar.onset) - 4) -
    0.9 * traits.repeated -
    0.9 * traits.off -
    (traits.longest > 0.9 ? 0.5 : 0)
  );
}

interface All {
  lanes: readonly Lane[];
  around: ReadonlyArray<ReadonlyArray<Traits | null>>;
  rank: ReadonlyArray<ReadonlyArray<number | null>>;
  has: readonly number[];
  tune: ReadonlyArray<readonly number[]>;
}

/** What speaks for each role of a part in a bar, in the order of ROLES. */
function forRoles(lane: Lane, p: number, b: number, { lanes, around, rank, has, tune }: All): number[] {
  const own = around[p]![b];
  if (!own) return ROLES.map((role) => (role === 'silent' ? 2 : -1));
  const holder = has[b]!;
  const leader = lanes[holder]!.traits[b];
  const now = lane.traits[b]!;
  // Whoever plays the very notes of the tune, in whatever octave, has it too.
  const doubles = leader !== null && leader !== undefined && leader.attacks > 1 && now.contour === leader.contour && now.rhythm === leader.rhythm;
  const leads = p === holder || doubles;
  const sameRhythm = leader ? rhythmShared(lanes, p, holder, b) : 0;
  const low = rank[b]![p]!;
  const like = tune[b]![p]! - tune[b]![holder]!;
  const slow = 1 - upTo(own.perBeat, 2);
  const below = rank[b]!.indexOf(0);
  const withBass = below < 0 ? 0 : doubled(lanes[p]!.part, lanes[below]!.part, b);
  return [
    leads ? 2.2 : -1,
    leads
      ? 0.2
      : 1.6 * sameRhythm * (1 - own.repeated * 0.4) +
        0.4 * upTo(own.pitches - 1, 3) +
        0.5 * own.steps * (1 - own.repeated) +
        0.3 * Math.max(-1, like) -
        (low === 0 ? 0.8 : 0) -
        0.6 * own.off,
    (1.0 * own.even + 0.6 * own.leaps + 0.3 * upTo(own.pitches - 1, 3) + 0.1 * own.repeated) * upTo(own.perBeat, 1.25) - (low === 0 ? 0.4 : 0) - 0.6 * own.off,
    1.7 * own.longest * (own.longest > 0.75 ? 1 : 0.5) + 0.9 * own.repeated * (own.perBeat <= 1.1 ? 1 : 0) - 0.3 * upTo(own.perBeat, 2) - (low === 0 ? 0.8 : 0),
    1.9 * own.off - 0.3 * own.leaps,
    (low === 0 ? 1.5 : low < 0.6 ? 0.2 + withBass : -0.6) + 0.4 * slow + 0.2 * own.leaps - 0.7 * own.off,
    -1,
  ];
}

/** Share of the lowest part's attacks in a bar at which another part begins the same note, in whatever octave. */
function doubled(part: Part, lowest: Part, b: number): number {
  if (part === lowest) return 1;
  const own = new Map(part.notes.filter(({ barIndex, grace }) => barIndex === b && !grace).map((note) => [note.onset, midiOf(note.pitch) % 12]));
  const theirs = lowest.notes.filter(({ barIndex, grace }) => barIndex === b && !grace);
  return theirs.length === 0 ? 0 : theirs.filter((note) => own.get(note.onset) === midiOf(note.pitch) % 12).length / theirs.length;
}

/** How much of the rhythm around a bar two parts share. */
function rhythmShared(lanes: readonly Lane[], p: number, q: number, b: number): number {
  let [same, all] = [0, 0];
  for (let at = Math.max(0, b - AROUND); at <= b + AROUND; at++) {
    const [own, other] = [lanes[p]!.traits[at], lanes[q]!.traits[at]];
    if (!own || !other || other.attacks === 0) continue;
    all++;
    if (own.rhythm === other.rhythm) same++;
  }
  return all === 0 ? 0 : same / all;
}

function phrasesOf(partId: string, path: readonly number[], speaks: readonly number[][], begins: readonly boolean[]): Phrase[] {
  const phrases: Array<Phrase & { margins: number[] }> = [];
  path.forEach((r, b) => {
    const role = ROLES[r]!;
    const others = speaks[b]!.filter((_, i) => i !== r);
    const margin = speaks[b]![r]! - Math.max(...others);
    const last = phrases.at(-1);
    if (last && last.role === role && !(begins[b] && role !== 'silent')) {
      last.toBar = b;
      last.margins.push(margin);
    } else phrases.push({ partId, role, fromBar: b, toBar: b, sure: 0, margins: [margin] });
  });
  return phrases.map(({ margins, ...each }) => ({
    ...each,
    sure: Math.round(Math.min(1, Math.max(0, margins.reduce((sum, by) => sum + by, 0) / margins.length)) * 100) / 100,
  }));
}
