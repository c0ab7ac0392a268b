/** One stroke: how much bow it wants, how much it can have, and what a direction costs it. */
import { DYNAMIC_LEVELS } from '../score/dynamics';
import { ZONES } from '../marking/values';
import {
  ACCENT_FROM_S,
  ACCENT_FULL_S,
  AMOUNTS,
  DYNAMICS,
  REST_SECONDS,
  SCHOOLS,
  SPRINGING_CM,
  STROKES,
  TREMOLO_ZONES,
  type BowCosts,
  type DynamicRow,
  type StrokeKind,
} from './tables';
import type { Atom, AtomWish } from './atoms';
import type { Bow } from './bow';

export type Direction = 'down' | 'up';

export const otherWay = (direction: Direction): Direction => (direction === 'down' ? 'up' : 'down');

/** A stretch of the bow, 0 frog to 1 tip. */
export interface Stretch {
  from: number;
  to: number;
}

/** A candidate stroke over atoms `from` to `to` (both included). */
export interface StrokeSpan {
  from: number;
  to: number;
  /** Seconds that sound; of one stroke where a tremolo repeats it. */
  seconds: number;
  kind: StrokeKind;
  /** 1 for a plain stroke, more for a measured tremolo, 0 for an unmeasured one. */
  strokes: number;
  /** Length in cm that it would like, can least and most have. */
  preferredCm: number;
  leastCm: number;
  mostCm: number;
  /** Speed that the dynamic and the kind of stroke ask for, cm/s: what loudness steps are measured against. */
  wantedSpeed: number;
  home: number;
  /** Where it wants to begin (`zoneAtStart`) or to lie. */
  zone: Stretch | null;
  zoneAtStart: boolean;
  /** Where the bow should be at its end, for what comes next. */
  arrive: Stretch | null;
  wish: SpanWish | null;
  /** Cost of cutting or joining slurs for it. */
  slurCost: number;
  downCost: number;
  upCost: number;
}

export interface SpanWish {
  zone: Stretch | null;
  /** The length is the coach's, not the table's. */
  length: boolean;
  from: Stretch | null;
  to: Stretch | null;
}

/** Preferred length in cm: `min(v0·f·(ds/0.6)^(−0.25)·ds, 0.9·H)` (from memory). */
export function preferredLengthCm(speedCmPerS: number, factor: number, seconds: number, hairCm: number): number {
  return Math.min(speedCmPerS * factor * (seconds / 0.6) ** -0.25 * seconds, 0.9 * hairCm);
}

/** What a step in loudness by speed alone is as a ratio of speeds (Schelleng 1973). */
export const speedRatioOf = (db: number): number => 10 ** (db / 20);

/** Loudness of one bow speed against another in dB: doubling the speed alone is +6 dB (Schelleng 1973). */
export function speedStepDb(before: number, after: number): number {
  return 20 * Math.log10(after / before);
}

/** The table between its rows: half a step above p lies half way to mp. */
export function dynamicAt(steps: number): DynamicRow {
  const low = Math.min(DYNAMIC_LEVELS.length - 1, Math.max(0, Math.floor(steps)));
  const a = DYNAMICS[DYNAMIC_LEVELS[low]!];
  const share = steps - low;
  if (share <= 0 || low === DYNAMIC_LEVELS.length - 1) return a;
  const b = DYNAMICS[DYNAMIC_LEVELS[low + 1]!];
  const between = (x: number, y: number) => x + (y - x) * share;
  return {
    slowest: between(a.slowest, b.slowest),
    preferred: between(a.preferred, b.preferred),
    fastest: between(a.fastest, b.fastest),
    home: between(a.home, b.home),
  };
}

/** mf: louder than this the school of quiet playing hardly matters. */
const QUIET_BELOW = DYNAMIC_LEVELS.indexOf('mp');

export function strokeSpan(atoms: readonly Atom[], from: number, to: number, bow: Bow, costs: BowCosts): StrokeSpan {
  const first = atoms[from]!;
  const last = atoms[to]!;
  const single = from === to;
  const kind = single ? first.kind : slurredKind(atoms, from, to);
  const row = STROKES[kind];
  const written = last.onsetS + last.seconds - first.onsetS;
  const strokes = single ? first.strokes : 1;
  const seconds = Math.max(0.02, (written * (single ? row.sounding : 1)) / (strokes || Math.max(1, Math.round(written / UNMEASURED_S))));
  const dynamic = dynamicAt(single ? first.steps : (first.steps + last.steps) / 2);
  const hair = bow.hairCm;
  const zone = kind === 'tremolo' ? tremoloZone(first.steps, strokes) : row.zone;
  const school = first.wish?.school ? SCHOOLS[first.wish.school][first.steps < QUIET_BELOW ? 'quiet' : 'other'] : 1;
  const speed = row.speed * school * bow.speed;
  const wish = spanWish(first.wish, last.wish);
  const plain = preferredLengthCm(dynamic.preferred, speed, seconds, hair);
  const liked = kind === 'spiccato' ? Math.min(plain, SPRINGING_CM) : plain;
  const cm = wish?.length ? wishedCm(first.wish!, hair) : liked;
  return {
    from,
    to,
    seconds,
    kind,
    strokes,
    preferredCm: Math.max(0.5, cm),
    // A length that is wished is the coach's to answer for: what it costs in sound is said by the sound recipe.
    leastCm: Math.min(dynamic.slowest * bow.speed * Math.min(1, school) * seconds, wish?.length ? cm : Infinity),
    mostCm: Math.max(dynamic.fastest * bow.speed * seconds, wish?.length ? cm : 0),
    wantedSpeed: (dynamic.preferred * speed * liked) / plain,
    home: zone === row.zone ? dynamic.home : (zone!.from + zone!.to) / 2,
    zone,
    zoneAtStart: row.zoneAtStart,
    arrive: arrival(last, atoms[to + 1]),
    wish,
    slurCost: slurCost(atoms, from, to, costs) + alikeInside(atoms, from, to, costs),
    ...directionCosts(atoms, from, to, costs),
  };
}

function tremoloZone(steps: number, strokes: number): Stretch {
  if (strokes > 1 || steps >= DYNAMIC_LEVELS.indexOf('f')) return TREMOLO_ZONES.loud;
  return steps <= DYNAMIC_LEVELS.indexOf('p') ? TREMOLO_ZONES.quiet : TREMOLO_ZONES.medium;
}

/** A soft passage ahead means arriving in the upper half (common practice). */
function arrival(last: Atom, next: Atom | undefined): Stretch | null {
  const softer = next !== undefined && next.silenceS < REST_SECONDS && next.steps <= SOFT && last.steps - next.steps >= MUCH_SOFTER;
  return softer ? { from: WELL_UP, to: 1 } : null;
}

const SOFT = DYNAMIC_LEVELS.indexOf('p');
const MUCH_SOFTER = 1.5;

/** Safely in the upper half. */
const WELL_UP = 0.6;

/** Length of one stroke of an unmeasured tremolo, in seconds (from memory). */
const UNMEASURED_S = 0.08;

function slurredKind(atoms: readonly Atom[], from: number, to: number): StrokeKind {
  const first = atoms[from]!;
  for (let i = from; i <= to; i++) if (atoms[i]!.dots || atoms[i]!.kind === 'portato') return 'portato';
  // Notes before the beat lie under the bow of the main note.
  if (from + 1 === to && atoms[to]!.onset === first.onset) return atoms[to]!.kind;
  return first.kind === 'accent' ? 'accent' : 'legato';
}

/** A stroke does what is wished at its first note; where it ends may also be said at its last. */
function spanWish(first: AtomWish | null, last: AtomWish | null): SpanWish | null {
  if (!first && !last?.to) return null;
  const wish: SpanWish = {
    zone: !first?.zone || first.zone === 'whole bow' ? null : ZONES[first.zone],
    length: first !== null && (first.amount !== null || first.zone === 'whole bow'),
    from: first?.from ?? null,
    to: first?.to ?? last?.to ?? null,
  };
  return wish.zone || wish.length || wish.from || wish.to ? wish : null;
}

function wishedCm({ zone, amount }: AtomWish, hairCm: number): number {
  if (zone === 'whole bow' || amount === null) return AMOUNTS.whole * hairCm;
  return 'cm' in amount ? Math.min(amount.cm, 0.96 * hairCm) : amount.share * hairCm;
}

/** The slur in front of it is cut, or slurs and notes inside it are joined. */
export function slurCost(atoms: readonly Atom[], from: number, to: number, costs: BowCosts): number {
  let cost = atoms[from]!.linked ? splitCost(atoms[from]!, costs) : 0;
  // The last note of a slur by itself: a slur of two is gone with it.
  const marked = atoms[from]!.lock || atoms[from]!.mustHook || atoms[from]!.mustRetake;
  if (cost > 0 && !marked && !atoms[from]!.phrase && !atoms[from]!.tied && from === to && !atoms[to + 1]?.linked) cost += costs.splitLast;
  for (let i = from + 1; i <= to; i++) if (!atoms[i]!.linked) cost += costs.join;
  return cost;
}

/** A slur that needs little bow is not given up to save bow: the less it needs, the dearer is its cut. */
const timesShort = ({ slurShare }: Atom, { splitShort }: BowCosts): number => 1 + (splitShort - 1) * Math.max(0, 1 - slurShare / WHOLE_BOW);
/** What a slur takes at most at the speed that it likes (`preferredLengthCm`). */
const WHOLE_BOW = 0.9;

/** A short last note is the end of running music and no arrival: the price grows from nothing to the whole between these (s, judgement). */
const LAST_FROM_S = 0.35;
const LAST_FULL_S = 0.9;

export function splitCost(atom: Atom, costs: BowCosts): number {
  if (atom.lock || atom.mustHook || atom.mustRetake) return 0;
  const share = atom.phrase ? costs.splitPhrase : timesShort(atom, costs);
  if (atom.onBar) return costs.splitAtBar * share;
  if (atom.onHalfBar) return costs.splitAtHalf * share;
  return (atom.onBeat ? costs.splitAtBeat : costs.splitOffBeat) * share;
}

/** What going on, or beginning, otherwise than the same music does costs a stroke. */
export function alikeInside(atoms: readonly Atom[], from: number, to: number, costs: BowCosts): number {
  let cost = 0;
  for (let i = from + 1; i <= to; i++) {
    if (atoms[i]!.alike?.direction) cost += costs.unlike * atoms[i]!.alike!.weight;
    if (atoms[i]!.beside !== null && atoms[i]!.beside !== 'none') cost += costs.unlikeBeside;
  }
  if (atoms[from]!.beside === 'none') cost += costs.unlikeBeside;
  return cost;
}

function directionCosts(atoms: readonly Atom[], from: number, to: number, costs: BowCosts): { downCost: number; upCost: number } {
  const atom = atoms[from]!;
  const last = atoms[to]!;
  let downCost = 0;
  let upCost = 0;
  if (atom.onBar) {
    // A bow that fills the bar has no strong beat to set against weaker ones.
    const fills = last.onsetS + last.seconds - atom.onsetS >= atom.barSeconds * 0.98;
    const weight = atom.linked ? costs.slurredBar : fills ? costs.filledBar : 1;
    upCost += costs.barOnUp * Math.min(1.2, Math.max(0.35, atom.barSeconds / 2)) * weight;
  }
  if (atom.onBar && from === 0 && atom.hairpin !== 'crescendo') upCost += costs.startUp;
  if (atom.onHalfBar) upCost += costs.halfBarOnUp;
  if (atom.accent) upCost += costs.accentUp * Math.min(1, Math.max(0, (atom.seconds - ACCENT_FROM_S) / (ACCENT_FULL_S - ACCENT_FROM_S)));
  if (atom.notes > 2) upCost += costs.chordUp;
  if (last.last) upCost += costs.lastUp * Math.min(1, Math.max(0, (last.onsetS + last.seconds - atom.onsetS - LAST_FROM_S) / (LAST_FULL_S - LAST_FROM_S)));
  if (atom.upbeat) downCost += costs.upbeatDown;
  if (atom.hairpin === 'crescendo') downCost += costs.crescendoDown;
  if (atom.hairpin === 'diminuendo') upCost += costs.diminuendoUp;
  if (atom.kind === 'portato') downCost += to > from && repeats(atoms, from, to) ? costs.portatoRepeatedDown : costs.portatoDown;
  if (atom.alike) {
    const unlike = costs.unlike * atom.alike.weight;
    if (atom.alike.direction !== 'down') downCost += unlike;
    if (atom.alike.direction !== 'up') upCost += unlike;
  }
  if (last.jumpsTo === 'down') downCost += costs.repeatAgain;
  if (last.jumpsTo === 'up') upCost += costs.repeatAgain;
  if (atom.outside === 'down') upCost += costs.insideMotion;
  if (atom.outside === 'up') downCost += costs.insideMotion;
  if (atom.lock === 'down' || atom.only === 'down') upCost += LOCKED;
  if (atom.lock === 'up' || atom.only === 'up') downCost += LOCKED;
  return { downCost, upCost };
}

function repeats(atoms: readonly Atom[], from: number, to: number): boolean {
  const [low, high] = atoms[from]!.pitches;
  for (let i = from + 1; i <= to; i++) if (atoms[i]!.pitches[0] !== low || atoms[i]!.pitches[1] !== high) return false;
  return true;
}

/** A lock is kept whatever it costs. */
export const LOCKED = 1e6;

/** Where a stroke lies, in the word a coach uses. */
export function zoneName(from: number, to: number): string {
  const length = Math.abs(to - from);
  const middle = (from + to) / 2;
  if (length > 0.75) return 'whole bow';
  if (middle < 0.15) return 'frog';
  if (middle < 0.4) return 'lower half';
  if (middle < 0.6) return 'middle';
  if (middle < 0.85) return 'upper half';
  return 'tip';
}

/** Where a place lies, in the word a coach uses. */
export function placeName(place: number): string {
  if (place < 0.15) return 'at the frog';
  if (place < 0.4) return 'in the lower half';
  if (place < 0.6) return 'in the middle';
  return place < 0.85 ? 'in the upper half' : 'at the tip';
}
