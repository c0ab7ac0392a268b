/**
 * String crossings: from which string to which, how quickly, inside a slur or not, how far the bow hand travels for it,
 * and which way round the bow goes.
 */
import { isUpper } from '../instruments/instrument';
import type { InstrumentKind } from '../score/score';
import type { Line, LineEvent } from '../instruments/lines';
import type { Atom } from './atoms';
import type { Stroke } from './describe';
import type { Bow } from './bow';
import { MOTION_MATTERS_PER_S } from './tables';
import type { Direction } from './stroke';

/** String of a note, 1 the highest; null where nobody knows. */
export type StringOf = (noteId: string) => number | null;

/** Degrees between neighbouring strings (from memory). */
export const STRING_ANGLE_DEG: Readonly<Record<InstrumentKind, number>> = { violin: 15, viola: 16, cello: 14.5, bass: 18 };

/** The hand lies about this far behind the frog, in cm (from memory). */
const HAND_BEHIND_CM = 4;

/**
 * Travel of the bow hand in cm for a crossing of so many strings at a place of the bow (0 frog to 1 tip):
 * `(x·H + 4 cm)·angle`, the angle in radians (geometry of the lever).
 * @example a violin at the frog, one string: `4 · 15° = 1.05 cm`
 */
export function handTravelCm(place: number, strings: number, { kind, hairCm }: Bow): number {
  return (place * hairCm + HAND_BEHIND_CM) * ((STRING_ANGLE_DEG[kind] * Math.abs(strings) * Math.PI) / 180);
}

export interface Crossing {
  /** First note on the new string. */
  noteId: string;
  barIndex: number;
  onset: number;
  /** Level of the bow before and after: a string, or half way between two; 1 the highest. */
  from: number;
  to: number;
  /** More than to the neighbour. */
  leap: boolean;
  inSlur: boolean;
  /** When, in seconds; and seconds from the beginning of the note before. */
  atS: number;
  seconds: number;
  /** Where on the bow it happens, and how far the hand travels for it. */
  place: number;
  handCm: number;
}

/** Level of the bow on an event's strings; null where a string is not known. */
export function levelOf(event: Pick<LineEvent, 'notes'>, stringOf: StringOf): number | null {
  let sum = 0;
  for (const note of event.notes) {
    const string = stringOf(note.id);
    if (string === null) return null;
    sum += string;
  }
  return event.notes.length ? sum / event.notes.length : null;
}

/** A change of level smaller than this is none: a double stop with one of its own strings. */
const SAME_LEVEL = 0.51;

/** The level of the bow at a note, and how it came there. */
export interface BowLevel {
  noteId: string;
  onset: number;
  level: number;
  stroke: Stroke;
  /** Null where it stays on its level, or begins. */
  crossing: { from: number; fromOnset: number; leap: boolean; inSlur: boolean } | null;
}

/** The levels of the bow through a line; where nothing is bowed, or no string is known, the row begins anew. */
export function bowLevels(strokes: readonly Stroke[], line: Line, stringOf: StringOf): BowLevel[] {
  const strokeOf = new Map<string, Stroke>();
  for (const stroke of strokes) for (const id of stroke.noteIds) strokeOf.set(id, stroke);
  const levels: BowLevel[] = [];
  let before: BowLevel | null = null;
  for (const { ids, notes, onset } of line.events) {
    const stroke = strokeOf.get(ids[0]!);
    const level = levelOf({ notes }, stringOf);
    if (!stroke || level === null) {
      before = null;
      continue;
    }
    const strings: number = before ? Math.abs(level - before.level) : 0;
    const crossing: BowLevel['crossing'] =
      before && strings >= SAME_LEVEL ? { from: before.level, fromOnset: before.onset, leap: strings > 1.5, inSlur: before.stroke === stroke } : null;
    before = { noteId: ids[0]!, onset, level, stroke, crossing };
    levels.push(before);
  }
  return levels;
}

export function crossingsOf(strokes: readonly Stroke[], line: Line, stringOf: StringOf, secondsAt: (tick: number) => number, bow: Bow): Crossing[] {
  return bowLevels(strokes, line, stringOf).flatMap(({ noteId, onset, level, stroke, crossing }) => {
    if (!crossing) return [];
    const { from, fromOnset, leap, inSlur } = crossing;
    const place = inSlur ? placeWithin(stroke, onset, secondsAt) : stroke.from;
    const atS = secondsAt(onset);
    const handCm = handTravelCm(place, Math.abs(level - from), bow);
    return [{ noteId, barIndex: stroke.barIndex, onset, from, to: level, leap, inSlur, atS, seconds: atS - secondsAt(fromOnset), place, handCm }];
  });
}

function placeWithin(stroke: Stroke, tick: number, secondsAt: (tick: number) => number): number {
  const share = Math.min(1, (secondsAt(tick) - secondsAt(stroke.onset)) / stroke.seconds);
  return stroke.from + (stroke.to - stroke.from) * share;
}

/** Crossings in a row that make a rate, so that one quick pair is no finding. */
export const RATE_CROSSINGS = 4;

/** Crossings per second from the n-th on: of four in a row, the slowest, so that notes which stay on their string count; 0 at the end. */
export function crossingRate(crossings: readonly Pick<Crossing, 'atS' | 'from' | 'to'>[], from: number): number {
  const row = crossings.slice(from, from + RATE_CROSSINGS);
  if (row.length < RATE_CROSSINGS) return 0;
  let longest = 0;
  for (let i = 1; i < row.length; i++) longest = Math.max(longest, row[i]!.atS - row[i - 1]!.atS);
  const least = Math.min(...row.map(({ from: level, to }) => Math.abs(to - level)));
  return longest > 0 ? (1 + LEAP_SHARE * Math.max(0, least - 1)) / longest : 0;
}

/** The hand goes as many times as far over a string in between; of each further string this share counts, since the arm swings (judgement). */
const LEAP_SHARE = 0.35;

/** The string that lies away from the bow hand: violin and viola the lowest, cello and bass the highest. */
const farIsLow = isUpper;

/**
 * Motion that goes with the circle of the hand: down-bow on the string that is farther from the bow hand, up-bow on the
 * nearer one (common practice); so the lower strings come out mirrored.
 * @example on the violin the lower of two strings is far: down-bow there
 */
export function outsideDirection(string: number, other: number, instrument: InstrumentKind): Direction {
  const lower = string > other;
  return lower === farIsLow(instrument) ? 'down' : 'up';
}

/** How a quick change between two strings is bowed; null where it is none, or slurred. */
export function motionAt(crossing: Crossing, stroke: Stroke, instrument: InstrumentKind): 'outside' | 'inside' | null {
  if (crossing.inSlur || crossing.seconds > 1 / MOTION_MATTERS_PER_S) return null;
  return stroke.direction === outsideDirection(crossing.to, crossing.from, instrument) ? 'outside' : 'inside';
}

/** Atoms at quick crossings between two strings, back and forth, know the direction that outside motion asks for. */
export function withOutsideMotion(atoms: readonly Atom[], line: Line, stringOf: StringOf, instrument: InstrumentKind): Atom[] {
  const levels = atoms.map((atom) => levelOf(line.events[atom.event]!, stringOf));
  const quick = (i: number) => {
    const [a, b] = [levels[i - 1], levels[i]];
    if (a === null || a === undefined || b === null || b === undefined || Math.abs(a - b) < SAME_LEVEL) return false;
    return !atoms[i]!.linked && atoms[i]!.onsetS - atoms[i - 1]!.onsetS <= 1 / MOTION_MATTERS_PER_S && atoms[i]!.silenceS < 0.05;
  };
  return atoms.map((atom, i) => {
    const backAndForth =
      i > 0 &&
      quick(i) &&
      ((i + 1 < atoms.length && quick(i + 1) && levels[i + 1] === levels[i - 1]) || (i > 1 && quick(i - 1) && levels[i - 2] === levels[i]));
    return backAndForth ? { ...atom, outside: outsideDirection(levels[i]!, levels[i - 1]!, instrument) } : atom;
  });
}

/** Where on the bow crossings at this rate are easiest (common practice: the quicker, the nearer to the lower half, but not at the frog). */
export function easiestPlace(perS: number): { from: number; to: number; words: string } {
  if (perS >= 4) return { from: 0.3, to: 0.5, words: 'between the balance point and the middle' };
  if (perS >= 2) return { from: 0.2, to: 0.6, words: 'in the lower half or the middle' };
  return { from: 0, to: 1, words: 'anywhere' };
}

/** The passage on open strings alone: for each event the strings and their ticks; repeated strings are kept, since the bow strokes are the same. */
export function openStringVersion(
  line: Line,
  stringOf: StringOf,
  within: { from: number; to: number },
): Array<{ noteId: string; onset: number; strings: number[] }> {
  return line.events
    .filter((event) => event.onset >= within.from && event.onset < within.to && !event.grace)
    .flatMap((event) => {
      const strings = event.notes.map((note) => stringOf(note.id));
      return strings.every((string) => string !== null) ? [{ noteId: event.ids[0]!, onset: event.onset, strings: [...new Set(strings)] }] : [];
    });
}

export interface CrossingNumbers {
  crossings: number;
  leaps: number;
  inSlurs: number;
  /** Crossings per second, four in a row. */
  quickestPerS: number;
  handCm: number;
  inside: number;
  outside: number;
}

export function crossingNumbers(crossings: readonly Crossing[], strokes: readonly Stroke[], instrument: InstrumentKind): CrossingNumbers {
  const strokeOf = new Map(strokes.flatMap((stroke) => stroke.noteIds.map((id) => [id, stroke] as const)));
  const motions = crossings.map((crossing) => motionAt(crossing, strokeOf.get(crossing.noteId)!, instrument));
  return {
    crossings: crossings.length,
    leaps: crossings.filter((crossing) => crossing.leap).length,
    inSlurs: crossings.filter((crossing) => crossing.inSlur).length,
    quickestPerS: crossings.reduce((most, _, i) => Math.max(most, crossingRate(crossings, i)), 0),
    handCm: crossings.reduce((sum, crossing) => sum + crossing.handCm, 0),
    inside: motions.filter((motion) => motion === 'inside').length,
    outside: motions.filter((motion) => motion === 'outside').length,
  };
}
