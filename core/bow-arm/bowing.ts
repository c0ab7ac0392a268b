/** Bowings for a line: the best plan and others that differ in strategy, with what they change and why. */
import type { Line } from '../score/lines';
import { beatOf, type DynamicLevel, type Part, type Score } from '../score/score';
import type { Clock } from '../score/time';
import type { Player } from '../instruments/player';
import type { Marking } from '../marking/mark';
import { atomsOf, type Atom } from './atoms';
import { cheapestBowing, refined, type PlannedSpan } from './search';
import { LOCKED, speedStepDb, strokeSpan, zoneName, type Direction, type StrokeSpan } from './stroke';
import { BOW_COSTS, BOW_STRATEGIES, HAIR_CM, REST_SECONDS, retakeSeconds, type BowCosts, type BowStrategy } from './tables';

export interface BowingRequest {
  score: Pick<Score, 'ticksPerQuarter'>;
  part: Part;
  line: Line;
  player: Player;
  clock: Clock;
  marking: Marking;
  alternatives?: number;
  /** Changes to the table of costs. */
  costs?: Partial<BowCosts>;
  /** Only this passage is returned, in ticks of the part; the end is not included. */
  within?: { from: number; to: number };
}

export interface Stroke {
  /** Note heads under this stroke. */
  noteIds: string[];
  barIndex: number;
  onset: number;
  beat: number;
  seconds: number;
  direction: Direction;
  level: DynamicLevel;
  /** 0 frog to 1 tip. */
  from: number;
  to: number;
  cm: number;
  cmPerS: number;
  /** Loudness against the stroke before by speed alone, dB; 0 for the first. */
  stepDb: number;
  retake: boolean;
  hooked: boolean;
  zone: string;
  /** Speeds in cm/s between which this dynamic speaks. */
  slowest: number;
  fastest: number;
  /** Seconds free for the retake, and how many it needs; null without one. */
  retakeTime: { free: number; needed: number } | null;
}

export type BowChangeKind = 'split' | 'join' | 'hook' | 'retake' | 'start-up' | 'remove-slur';

export interface BowChange {
  kind: BowChangeKind;
  noteId: string;
  barIndex: number;
  beat: number;
  why: string;
}

export interface Bowing {
  strategy: string;
  aim: string;
  total: number;
  terms: Record<string, number>;
  feasible: boolean;
  strokes: Stroke[];
  changes: BowChange[];
}

export function planBowing(request: BowingRequest): Bowing[] {
  const { part, line, clock, score, marking } = request;
  const whole = atomsOf(part, line, clock, score.ticksPerQuarter, marking);
  if (whole.length === 0) return [];
  const { within } = request;
  if (!within) return planAlternatives(request, whole);
  const inside = (onset: number) => onset >= within.from && onset < within.to;
  if (!whole.some((atom) => inside(atom.onset))) return [];
  const plans = planAlternatives(request, heldOutside(request, whole, inside));
  return plans.map((plan) => ({
    ...plan,
    strokes: plan.strokes.filter((stroke) => inside(stroke.onset)),
    changes: plan.changes.filter((change) => inside(part.bars[change.barIndex]!.onset)),
  }));
}

/** Strokes of context around a passage. */
const CONTEXT = 6;

/** The atoms of a passage and some around it, those outside held to the best plan of the whole line. */
function heldOutside(request: BowingRequest, whole: readonly Atom[], inside: (onset: number) => boolean): Atom[] {
  const { strokes } = planOne(request, whole, BOW_STRATEGIES[0]!, null)!;
  const first = strokes.findIndex((stroke) => inside(stroke.onset));
  if (first < 0) return [...whole];
  let last = first;
  while (strokes[last + 1] && inside(strokes[last + 1]!.onset)) last++;
  const byEvent = new Map(whole.map((atom) => [atom.ids[0]!, atom]));
  const kept: Atom[] = [];
  strokes.slice(Math.max(0, first - CONTEXT), last + 1 + CONTEXT).forEach((stroke) => {
    const held = !inside(stroke.onset);
    const ids = stroke.noteIds.filter((id) => byEvent.has(id));
    ids.forEach((id, i) => {
      const atom = byEvent.get(id)!;
      const start = i === 0 && held;
      kept.push({
        ...atom,
        held,
        ...(start ? { lock: stroke.direction, mustHook: stroke.hooked, mustRetake: stroke.retake && atom.silenceS < REST_SECONDS } : {}),
      });
    });
  });
  const opening = kept[0];
  if (opening) kept[0] = { ...opening, linked: false, mustHook: false, mustRetake: false };
  return kept;
}

function planAlternatives(request: BowingRequest, atoms: readonly Atom[]): Bowing[] {
  const found: Bowing[] = [];
  const seen = new Set<string>();
  const wanted = request.alternatives ?? 3;
  for (const strategy of BOW_STRATEGIES) {
    if (found.length > 0 && wanted === 1) break;
    const notFirst = strategy.reversed ? (found[0]?.strokes[0]?.direction ?? null) : null;
    const bowing = planOne(request, atoms, strategy, notFirst);
    if (!bowing) continue;
    const key = bowing.strokes.map((stroke) => `${stroke.noteIds[0]}${stroke.direction}`).join(' ');
    if (seen.has(key)) continue;
    seen.add(key);
    found.push(bowing);
  }
  const [best, ...rest] = found;
  rest.sort((a, b) => a.total - b.total);
  return best ? [best, ...rest].slice(0, wanted) : [];
}

function planOne(request: BowingRequest, atoms: readonly Atom[], strategy: BowStrategy, notFirst: Direction | null): Bowing | null {
  const instrument = request.player.instrument.kind;
  const hairCm = HAIR_CM[instrument];
  const costs: BowCosts = { ...BOW_COSTS, ...request.costs, ...strategy.costs };
  const spansEndingAt = candidateSpans(atoms, instrument, costs, strategy.name === 'as printed');
  const { strokes, cost } = cheapestBowing({ atoms, spansEndingAt, hairCm, costs, notFirst });
  if (!Number.isFinite(cost) || (notFirst && cost >= LOCKED)) return null;
  return describe(request, atoms, refined(strokes, hairCm, costs), hairCm, strategy);
}

/** Candidate cuts inside one slur at most, so that long slurs stay cheap to plan. */
const MOST_CUTS = 7;

/** Every stroke that the slurs allow: whole slurs, and their pieces between the best places to split. */
function candidateSpans(atoms: readonly Atom[], instrument: Player['instrument']['kind'], costs: BowCosts, asPrinted: boolean): StrokeSpan[][] {
  const ending: StrokeSpan[][] = Array.from({ length: atoms.length + 1 }, () => []);
  for (let start = 0; start < atoms.length;) {
    let end = start;
    while (end + 1 < atoms.length && atoms[end + 1]!.linked) end++;
    const forced = new Set<number>();
    const optional: Array<{ at: number; cost: number }> = [];
    for (let at = start + 1; at <= end; at++) {
      const atom = atoms[at]!;
      if (atom.lock || atom.mustRetake || atom.mustHook) forced.add(at);
      else if (!asPrinted && !atom.held) optional.push({ at, cost: atom.onBar ? 0 : atom.onHalfBar ? 1 : atom.onBeat ? 2 : 3 });
    }
    const cuts = [
      ...forced,
      ...optional
        .sort((a, b) => a.cost - b.cost || a.at - b.at)
        .slice(0, MOST_CUTS)
        .map((cut) => cut.at),
    ];
    const borders = [start, ...cuts.sort((a, b) => a - b), end + 1];
    for (let i = 0; i < borders.length; i++) {
      for (let k = i + 1; k < borders.length; k++) {
        if (borders.slice(i + 1, k).some((border) => forced.has(border))) break;
        ending[borders[k]!]!.push(strokeSpan(atoms, borders[i]!, borders[k]! - 1, instrument, costs));
      }
    }
    start = end + 1;
  }
  return ending;
}

function describe(request: BowingRequest, atoms: readonly Atom[], planned: readonly PlannedSpan[], hairCm: number, strategy: BowStrategy): Bowing {
  const { part, score } = request;
  const strokes: Stroke[] = [];
  const changes: BowChange[] = [];
  let feasible = true;
  planned.forEach(({ span, from, to, start }, i) => {
    const atom = atoms[span.from]!;
    const bar = part.bars[atom.barIndex]!;
    const cm = Math.abs(to - from) * hairCm;
    const cmPerS = cm / span.seconds;
    const before = strokes[i - 1];
    const beat = beatOf(bar, atom.onset - bar.onset, score.ticksPerQuarter);
    const inRest = atom.silenceS >= REST_SECONDS;
    const lastAtom = atoms[span.from - 1];
    const retakeTime =
      start === 'retake' && before && lastAtom ? { needed: retakeSeconds(before.to - from), free: (inRest ? atom.silenceS : 0) + lastAtom.seconds / 2 } : null;
    const slowest = span.leastCm / span.seconds;
    const fastest = span.mostCm / span.seconds;
    const stroke: Stroke = {
      noteIds: atoms.slice(span.from, span.to + 1).flatMap((a) => a.ids),
      barIndex: atom.barIndex,
      onset: atom.onset,
      beat,
      seconds: span.seconds,
      direction: to > from ? 'down' : 'up',
      level: atom.level,
      from,
      to,
      cm,
      cmPerS,
      stepDb: before ? speedStepDb(before.cmPerS, cmPerS) : 0,
      retake: start === 'retake',
      hooked: start === 'hook',
      zone: zoneName(from, to),
      slowest,
      fastest,
      retakeTime,
    };
    strokes.push(stroke);
    if (cmPerS < slowest * 0.98 || cmPerS > fastest * 1.02 || (retakeTime && retakeTime.needed > retakeTime.free)) feasible = false;
    const change = (kind: BowChangeKind, why: string) => changes.push({ kind, noteId: atom.ids[0]!, barIndex: atom.barIndex, beat, why });
    if (span.splitCost > 0 && atom.linked) change('split', splitReason(span, planned[i - 1], hairCm, slowest));
    if (stroke.hooked && !atom.mustHook)
      change(
        'hook',
        `both notes ${stroke.direction}-bow with a stop between, ${stroke.direction === 'up' ? 'so that the next strong beat comes down' : 'so that the bow is where the next note wants it'}`,
      );
    if (stroke.retake && !atom.mustRetake && before?.direction === stroke.direction)
      change('retake', inRest ? 'the rest leaves time to set the bow again' : `lifted to begin ${stroke.direction}-bow again`);
    if (i === 0 && stroke.direction === 'up' && atom.lock === null)
      change('start-up', atom.upbeat ? 'an upbeat goes up, so that the bar begins down' : 'so that what follows lies better');
  });
  const terms = costTerms(planned, atoms, hairCm);
  const total = Object.values(terms).reduce((sum, value) => sum + value, 0);
  return { strategy: strategy.name, aim: strategy.aim, total: Math.round(total * 1000) / 1000, terms, feasible, strokes, changes };
}

function splitReason(span: StrokeSpan, before: PlannedSpan | undefined, hairCm: number, slowest: number): string {
  const seconds = span.seconds + (before?.span.seconds ?? 0);
  const needed = Math.round(slowest * seconds);
  return needed > hairCm * 0.95
    ? `the printed slur needs at least ${needed} cm, the bow has ${hairCm}`
    : 'so that the strokes around it have enough bow and fall on the right beats';
}

/** The plan's cost with the plain weights, taken apart. */
function costTerms(planned: readonly PlannedSpan[], atoms: readonly Atom[], hairCm: number): Record<string, number> {
  const terms = { direction: 0, split: 0, hook: 0, retake: 0, bow: 0 };
  const costs = BOW_COSTS;
  planned.forEach(({ span, from, to, start }) => {
    const atom = atoms[span.from]!;
    const direction = to > from ? span.downCost : span.upCost;
    terms.direction += direction >= LOCKED ? 0 : direction;
    if (atom.linked) terms.split += atom.onBar ? costs.splitAtBar : atom.onHalfBar ? costs.splitAtHalf : atom.onBeat ? costs.splitAtBeat : costs.splitOffBeat;
    if (start === 'hook')
      terms.hook += atom.onBar ? costs.hookOverBar : atom.dots ? costs.hookStaccato : span.from !== span.to ? costs.hookSlurred : costs.hook;
    if (start === 'retake') terms.retake += atom.silenceS >= REST_SECONDS ? costs.retakeInRest : costs.retake;
    const off = Math.log2((Math.abs(to - from) * hairCm) / span.preferredCm);
    terms.bow += costs.distribution * off * off;
  });
  return Object.fromEntries(Object.entries(terms).map(([name, value]) => [name, Math.round(value * 1000) / 1000]));
}

/** A mark that a bowing asks for. */
export interface BowMark {
  noteId: string;
  kind: 'bow' | 'retake' | 'hook' | 'slur';
  value: string;
}

/**
 * The marks a player needs for a bowing: where it begins, where it does not simply alternate, where the bow is set
 * anew after a rest, and every slur that is split.
 */
export function bowMarksWorthWriting(bowing: Bowing): BowMark[] {
  const marks: BowMark[] = [];
  const splits = new Set(bowing.changes.filter((change) => change.kind === 'split').map((change) => change.noteId));
  bowing.strokes.forEach((stroke, i) => {
    const noteId = stroke.noteIds[0]!;
    const before = bowing.strokes[i - 1];
    const next = bowing.strokes[i + 1];
    const again = before?.direction === stroke.direction;
    const againNext = next?.direction === stroke.direction && (next.hooked || next.retake);
    if (!before || stroke.retake || stroke.hooked || again || againNext || splits.has(noteId)) marks.push({ noteId, kind: 'bow', value: stroke.direction });
    if (stroke.hooked) marks.push({ noteId, kind: 'hook', value: 'yes' });
    if (stroke.retake && again) marks.push({ noteId, kind: 'retake', value: 'yes' });
    if (splits.has(noteId)) marks.push({ noteId, kind: 'slur', value: 'split' });
  });
  return marks;
}
