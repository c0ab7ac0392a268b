/** A found plan in the numbers and words that people ask for: strokes, what they change in the print, and why. */
import { rounded } from '../util/round';
import { beatOf } from '../score/beat';
import { type DynamicLevel, type Part } from '../score/score';
import type { Unlike } from './alike';
import type { Atom } from './atoms';
import { changeCost, driftCost, driftWeight, hookCost, isLegato, loudnessCost, placeCost, retakePrice } from './costs';
import type { Reset } from './repeats';
import type { PlannedSpan } from './search';
import { alikeInside, LOCKED, placeName, slurCost, speedStepDb, zoneName, type Direction, type SpanWish } from './stroke';
import { BOW_COSTS, REST_SECONDS, retakeSeconds, type BowCosts, type BowStrategy, type StrokeKind } from './tables';

export interface Stroke {
  /** Note heads under this stroke, tied ones and those of chords among them. */
  noteIds: string[];
  /** Notes one after another, a chord counted once. */
  events: number;
  barIndex: number;
  onset: number;
  beat: number;
  /** Seconds that sound; of one stroke where a tremolo repeats it. */
  seconds: number;
  direction: Direction;
  kind: StrokeKind;
  level: DynamicLevel;
  /** 0 frog to 1 tip. */
  from: number;
  to: number;
  /** 1 for a plain stroke, more for a measured tremolo, 0 for an unmeasured one. */
  strokes: number;
  /** Where the bow is when it is over, and which way it went last. */
  endsAt: number;
  endDirection: Direction;
  cm: number;
  cmPerS: number;
  /** Loudness against the stroke before by speed alone, dB; 0 for the first. */
  stepDb: number;
  retake: boolean;
  hooked: boolean;
  zone: string;
  /** Speeds in cm/s between which this dynamic speaks, and the one that it wants. */
  slowest: number;
  fastest: number;
  wantedSpeed: number;
  /** Length in cm that it would like. */
  preferredCm: number;
  /** Seconds free for the retake, and how many it needs; null without one. */
  retakeTime: { free: number; needed: number } | null;
  /** The lift is printed or marked. */
  retakeAsked: boolean;
  /** What a fermata makes of its length: 1 without one. */
  heldTimes: number;
  /** What the coach wished here. */
  wish: SpanWish | null;
  school: 'flowing' | 'held' | null;
  feasible: boolean;
  /** What it costs, taken apart, with the plain weights. */
  terms: Record<BowTerm, number>;
}

export const BOW_TERMS = ['direction', 'split', 'join', 'hook', 'retake', 'figure', 'loudness', 'bow'] as const;
export type BowTerm = (typeof BOW_TERMS)[number];

export const BOW_CHANGE_KINDS = ['split', 'join', 'hook', 'retake', 'start-up', 'remove-slur'] as const;
export type BowChangeKind = (typeof BOW_CHANGE_KINDS)[number];

export interface BowChange {
  kind: BowChangeKind;
  noteId: string;
  /** Every note at which it is written; several where a slur is taken away. */
  writtenAt: string[];
  barIndex: number;
  beat: number;
  why: string;
  cost: number;
}

export interface Bowing {
  strategy: string;
  aim: string;
  total: number;
  terms: Record<string, number>;
  feasible: boolean;
  strokes: Stroke[];
  changes: BowChange[];
  /** Bars bowed otherwise than the same music elsewhere. */
  unlike: Unlike[];
  /** Repeats that the bow does not come round to. */
  resets: Reset[];
  /** Slurs taken for phrases: their first and last note. */
  phrases: Array<{ from: string; to: string; bows: number }>;
}

interface Described {
  part: Part;
  /** The plain weights, whatever strategy found the plan. */
  costs: BowCosts;
}

export function described({ part, costs }: Described, atoms: readonly Atom[], planned: readonly PlannedSpan[], hairCm: number, strategy: BowStrategy): Bowing {
  const strokes: Stroke[] = [];
  const changes: BowChange[] = [];
  const sums = Object.fromEntries(BOW_TERMS.map((term) => [term, 0])) as Record<BowTerm, number>;
  planned.forEach((each, i) => {
    const stroke = strokeOf(each, strokes[i - 1], planned[i - 1], { part, costs }, atoms, hairCm);
    strokes.push(stroke);
    for (const [name, cost] of Object.entries(stroke.terms)) sums[name as BowTerm] += cost;
    changes.push(...changesAt(each, planned[i - 1], stroke, strokes[i - 1], atoms, hairCm));
  });
  const terms = Object.fromEntries(Object.entries(sums).map(([name, value]) => [name, round(value)]));
  return {
    strategy: strategy.name,
    aim: strategy.aim,
    total: round(Object.values(sums).reduce((sum, value) => sum + value, 0)),
    terms,
    feasible: strokes.every((stroke) => stroke.feasible),
    strokes,
    changes: withRemovedSlurs(changes, planned, atoms),
    unlike: [],
    resets: [],
    phrases: phrasesOf(planned, atoms),
  };
}

const round = (value: number): number => rounded(value, 3);

function strokeOf(
  { span, from, to, start, back }: PlannedSpan,
  before: Stroke | undefined,
  lastPlanned: PlannedSpan | undefined,
  { part, costs }: Described,
  atoms: readonly Atom[],
  hairCm: number,
): Stroke {
  const atom = atoms[span.from]!;
  const bar = part.bars[atom.barIndex]!;
  const cm = Math.abs(to - from) * hairCm;
  const cmPerS = cm / span.seconds;
  const inRest = atom.silenceS >= REST_SECONDS;
  const lastAtom = atoms[span.from - 1];
  const retakeTime =
    start === 'retake' && before && lastAtom
      ? { needed: retakeSeconds(before.endsAt - from), free: (inRest ? atom.silenceS : 0) + lastAtom.seconds / 2 }
      : null;
  const slowest = span.leastCm / span.seconds;
  const fastest = span.mostCm / span.seconds;
  const direction: Direction = to > from ? 'down' : 'up';
  return {
    noteIds: atoms.slice(span.from, span.to + 1).flatMap((a) => a.ids),
    events: span.to - span.from + 1,
    barIndex: atom.barIndex,
    onset: atom.onset,
    beat: beatOf(bar, atom.onset - bar.onset),
    seconds: span.seconds,
    direction,
    kind: span.kind,
    level: atom.level,
    from,
    to,
    strokes: span.strokes,
    endsAt: back ? from : to,
    endDirection: back ? (direction === 'down' ? 'up' : 'down') : direction,
    cm,
    cmPerS,
    stepDb: before ? speedStepDb(before.cmPerS, cmPerS) : 0,
    retake: start === 'retake',
    hooked: start === 'hook',
    zone: zoneName(from, to),
    slowest,
    fastest,
    wantedSpeed: span.wantedSpeed,
    preferredCm: span.preferredCm,
    retakeTime,
    retakeAsked: atom.mustRetake || (lastAtom !== undefined && lastAtom.lock !== null && lastAtom.lock === atom.lock),
    heldTimes: atoms[span.to]!.heldTimes,
    wish: span.wish,
    school: atom.wish?.school ?? null,
    feasible: cmPerS >= slowest * 0.98 && cmPerS <= fastest * 1.02 && !(retakeTime && retakeTime.needed > retakeTime.free),
    terms: termsOf({ span, from, to, start, back }, lastPlanned, atoms, hairCm, costs),
  };
}

const joinsInside = (atoms: readonly Atom[], from: number, to: number): number => atoms.slice(from + 1, to + 1).filter((atom) => !atom.linked).length;

/** The stroke's cost and that of coming to it, with the plain weights: together what the search minimised. A lock costs nothing. */
function termsOf(
  { span, from, to, start }: PlannedSpan,
  before: PlannedSpan | undefined,
  atoms: readonly Atom[],
  hairCm: number,
  costs: BowCosts,
): Record<BowTerm, number> {
  const atom = atoms[span.from]!;
  const lastAtom = atoms[span.from - 1];
  const direction = to > from ? span.downCost : span.upCost;
  const joins = joinsInside(atoms, span.from, span.to) * costs.join;
  const inRest = atom.silenceS >= REST_SECONDS;
  const turned = start === 'change';
  const price = {
    hook: start === 'hook' && before && lastAtom ? hookCost(before.span, span, lastAtom, atom, costs)[to > from ? 0 : 1] : 0,
    retake: start === 'retake' && before && lastAtom ? retakePrice(endOf(before) - from, inRest, lastAtom, atom, costs, isLegato(before.span, span)) : 0,
  };
  const lengths = before && !inRest ? ([Math.abs(before.to - before.from), Math.abs(to - from)] as const) : null;
  const drift = lengths && turned ? driftWeight(before!.span, span, atoms, costs) : 0;
  return {
    direction: direction >= LOCKED ? 0 : direction,
    split: slurCost(atoms, span.from, span.to, costs) - joins + alikeInside(atoms, span.from, span.to, costs),
    join: joins,
    ...price,
    figure: lengths && turned ? changeCost(before!.span, span, atoms, costs) + (drift ? driftCost(drift, ...lengths) : 0) : 0,
    loudness: lengths ? loudnessCost(before!.span, lengths[0], span, lengths[1], costs.loudness * costs.distribution) : 0,
    bow: placeCost(span, from, to, hairCm, costs),
  };
}

const endOf = ({ from, to, back }: PlannedSpan): number => (back ? from : to);

function changesAt(
  { span }: PlannedSpan,
  lastPlanned: PlannedSpan | undefined,
  stroke: Stroke,
  before: Stroke | undefined,
  atoms: readonly Atom[],
  hairCm: number,
): BowChange[] {
  const atom = atoms[span.from]!;
  const found: BowChange[] = [];
  const change = (kind: BowChangeKind, why: string, cost: number, at = atom) =>
    found.push({ kind, noteId: at.ids[0]!, writtenAt: [at.ids[0]!], barIndex: at.barIndex, beat: stroke.beat, why, cost: round(cost) });
  if (span.slurCost > 0 && atom.linked)
    change(
      'split',
      atom.tied ? tieReason(atoms, span, hairCm, stroke.slowest) : splitReason(span, lastPlanned, hairCm, stroke.slowest, atom.phrase),
      stroke.terms.split,
    );
  for (let i = span.from + 1; i <= span.to; i++)
    if (!atoms[i]!.linked) change('join', 'one bow for both, so that the next strong beat comes down', BOW_COSTS.join, atoms[i]!);
  const next = stroke.direction === 'up' ? 'so that the next strong beat comes down' : 'so that the bow is where the next note wants it';
  if (stroke.hooked && !atom.mustHook) change('hook', `both notes ${stroke.direction}-bow with a stop between, ${next}`, stroke.terms.hook);
  if (stroke.retake && !atom.mustRetake && before?.endDirection === stroke.direction) {
    const why =
      atom.silenceS >= REST_SECONDS ? 'the rest leaves time to set the bow again' : `lifted to begin ${stroke.direction}-bow again ${placeName(stroke.from)}`;
    change('retake', why, stroke.terms.retake);
  }
  if (!before && stroke.direction === 'up' && atom.lock === null)
    change('start-up', atom.upbeat ? 'an upbeat goes up, so that the bar begins down' : 'so that what follows lies better', stroke.terms.direction);
  return found;
}

/** Of a tied note: what all of it would need in one bow. */
function tieReason(atoms: readonly Atom[], { from }: PlannedSpan['span'], hairCm: number, slowest: number): string {
  const { event } = atoms[from]!;
  const seconds = atoms.reduce((sum, atom) => (atom.event === event ? sum + atom.seconds / atom.heldTimes : sum), 0);
  return `held in one bow the tied note needs at least ${Math.round(slowest * seconds)} cm, the bow has ${Math.round(hairCm)}`;
}

function splitReason(span: PlannedSpan['span'], before: PlannedSpan | undefined, hairCm: number, slowest: number, phrase: boolean): string {
  if (phrase) return 'the slur is longer than any bow and is taken for a phrase';
  const seconds = span.seconds + (before?.span.seconds ?? 0);
  const needed = Math.round(slowest * seconds);
  return needed > hairCm * 0.95
    ? `the printed slur needs at least ${needed} cm, the bow has ${Math.round(hairCm)}`
    : 'so that the strokes around it have enough bow and fall on the right beats';
}

/** A slur that is cut at every note is one that is taken away. */
function withRemovedSlurs(changes: readonly BowChange[], planned: readonly PlannedSpan[], atoms: readonly Atom[]): BowChange[] {
  /** By the note after the first: all notes of the slur but the first. */
  const removed = new Map<string, string[]>();
  const dropped = new Set<string>();
  const strokeAt = new Map(planned.map((stroke) => [stroke.span.from, stroke]));
  for (let start = 0; start < atoms.length;) {
    let end = start;
    while (atoms[end + 1]?.linked) end++;
    let separate = end > start && !atoms[start]!.phrase && !atoms[end]!.tied;
    for (let i = start; separate && i <= end; i++) separate = strokeAt.get(i)?.span.to === i;
    if (separate) {
      const notes = atoms.slice(start + 1, end + 1).map((atom) => atom.ids[0]!);
      removed.set(notes[0]!, notes);
      for (const note of notes) dropped.add(note);
    }
    start = end + 1;
  }
  return changes.flatMap((change) => {
    if (change.kind !== 'split' || !dropped.has(change.noteId)) return [change];
    const writtenAt = removed.get(change.noteId);
    return writtenAt ? [{ ...change, kind: 'remove-slur' as const, writtenAt, why: 'separate bows: the slur costs more than it gives here' }] : [];
  });
}

function phrasesOf(planned: readonly PlannedSpan[], atoms: readonly Atom[]): Bowing['phrases'] {
  const found: Bowing['phrases'] = [];
  for (let start = 0; start < atoms.length;) {
    let end = start;
    while (atoms[end + 1]?.linked) end++;
    if (atoms[start]!.phrase && end > start) {
      const bows = planned.filter(({ span }) => span.from >= start && span.from <= end).length;
      found.push({ from: atoms[start]!.ids[0]!, to: atoms[end]!.ids[0]!, bows });
    }
    start = end + 1;
  }
  return found;
}
