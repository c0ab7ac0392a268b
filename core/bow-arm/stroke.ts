/** One stroke: how much bow it wants, how much it can have, and what a direction costs it. */
import { DYNAMICS, HAIR_CM, STROKES, type BowCosts, type StrokeKind, type StrokeRow } from './tables';
import type { Atom } from './atoms';
import type { InstrumentKind } from '../score/score';

export type Direction = 'down' | 'up';

/** A candidate stroke over atoms `from` to `to` (both included). */
export interface StrokeSpan {
  from: number;
  to: number;
  /** Seconds that sound. */
  seconds: number;
  kind: StrokeKind;
  /** Length in cm that it would like, can least and most have. */
  preferredCm: number;
  leastCm: number;
  mostCm: number;
  /** Speed that the dynamic and the kind of stroke ask for, cm/s: what loudness steps are measured against. */
  wantedSpeed: number;
  home: number;
  row: StrokeRow;
  /** Cost of splitting the printed slur in front of it. */
  splitCost: number;
  downCost: number;
  upCost: number;
}

/** Preferred length in cm: `min(v0·f·(ds/0.6)^(−0.25)·ds, 0.9·H)` (from memory). */
export function preferredLengthCm(speedCmPerS: number, factor: number, seconds: number, hairCm: number): number {
  return Math.min(speedCmPerS * factor * (seconds / 0.6) ** -0.25 * seconds, 0.9 * hairCm);
}

/** Loudness of one bow speed against another in dB: doubling the speed alone is +6 dB (Schelleng 1973). */
export function speedStepDb(before: number, after: number): number {
  return 20 * Math.log10(after / before);
}

export function strokeSpan(atoms: readonly Atom[], from: number, to: number, instrument: InstrumentKind, costs: BowCosts): StrokeSpan {
  const first = atoms[from]!;
  const last = atoms[to]!;
  const single = from === to;
  const kind: StrokeKind = single
    ? first.kind
    : atoms.slice(from, to + 1).some((atom) => atom.dots)
      ? 'portato'
      : first.kind === 'accent'
        ? 'accent'
        : 'legato';
  const row = STROKES[kind];
  const written = last.onsetS + last.seconds - first.onsetS;
  const seconds = Math.max(0.02, written * (single ? row.sounding : 1));
  const dynamic = DYNAMICS[first.level];
  const hair = HAIR_CM[instrument];
  return {
    from,
    to,
    seconds,
    kind,
    row,
    preferredCm: Math.max(0.5, preferredLengthCm(dynamic.preferred, row.speed, seconds, hair)),
    leastCm: dynamic.slowest * seconds,
    mostCm: dynamic.fastest * seconds,
    wantedSpeed: dynamic.preferred * row.speed,
    home: dynamic.home,
    splitCost: first.linked ? splitCost(first, costs) : 0,
    ...directionCosts(atoms, from, to, costs),
  };
}

function splitCost(atom: Atom, costs: BowCosts): number {
  if (atom.lock || atom.mustHook || atom.mustRetake) return 0;
  if (atom.onBar) return costs.splitAtBar;
  if (atom.onHalfBar) return costs.splitAtHalf;
  return atom.onBeat ? costs.splitAtBeat : costs.splitOffBeat;
}

function directionCosts(atoms: readonly Atom[], from: number, to: number, costs: BowCosts): { downCost: number; upCost: number } {
  const atom = atoms[from]!;
  let downCost = 0;
  let upCost = 0;
  if (atom.onBar) upCost += costs.barOnUp * Math.min(1.2, Math.max(0.35, atom.barSeconds / 2));
  if (atom.onBar && from === 0) upCost += costs.startUp;
  if (atom.onHalfBar) upCost += costs.halfBarOnUp;
  if (atom.accent) upCost += costs.accentUp;
  if (atom.notes > 2) upCost += costs.chordUp;
  if (atoms[to]!.last) upCost += costs.lastUp;
  if (atom.upbeat) downCost += costs.upbeatDown;
  if (atom.hairpin === 'crescendo') downCost += costs.crescendoDown;
  if (atom.hairpin === 'diminuendo') upCost += costs.diminuendoUp;
  if (atom.kind === 'portato') downCost += costs.portatoDown;
  if (atom.lock === 'down') upCost += LOCKED;
  if (atom.lock === 'up') downCost += LOCKED;
  return { downCost, upCost };
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
