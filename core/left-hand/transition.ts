/**
 * What it costs to come from one grip to the next. One function, used by the search, by the brute-force
 * check and by the explanation, so that a total can always be taken apart into its terms.
 */
import { isUpper } from '../instruments/instrument';
import { centsPerMm, stopMm } from '../instruments/geometry';
import { spreadMm, THUMB, type Player } from '../instruments/player';
import { TERMS, type LeftHandCosts, type Strategy, type Term } from './costs';
import { resolved, type Resolved } from './preferences';
import type { Grip } from './grip';
import { isOddlySpaced, isOverwide, isSqueezed } from './patterns';
import type { Place } from './places';
import { trillCost } from './trill';
import { difficultyBits, isShift, targetWidthMm } from './shift';

/** Time and slur around one event, as the costs need them. */
export interface Moment {
  onsetS: number;
  endS: number;
  /** The note before is under the same slur. */
  slurredFromLast: boolean;
  /** Seconds of silence before it. */
  restBeforeS: number;
  grace: boolean;
  /** Half steps to the upper note of its trill: a finger must be free above it that reaches it; 0 where there is none. */
  trillStep: number;
  /** The left hand plucks it, with a finger above the one that stops. */
  leftPlucked: boolean;
}

/** A stopped grip together with the moment in which it was last down. */
export interface Carried {
  grip: Grip;
  endS: number;
  durationS: number;
}

export interface Weighing {
  player: Player;
  costs: LeftHandCosts;
  /** Weight per term, in the order of TERMS. */
  weights: Float64Array;
  openBias: number;
  /** Above this place of the first finger each note costs more; null where there is no such limit. */
  stayBelow: number | null;
  /** Violin or viola. */
  upper: boolean;
  /** A finger lies across two strings with ease. */
  covers: boolean;
  /** Tables by whole stop, counted from LOWEST_STOP: mm from the nut, width of ±10 cents in mm, cents per mm. */
  mm: Float64Array;
  widthMm: Float64Array;
  centsPerMm: Float64Array;
  /** Spreads in mm by `6·finger + finger`; infinite where the pair has no limit of its own. */
  comfortableMm: Float64Array;
  limitMm: Float64Array;
  /** A move pays back no more than this: a state that is dearer by it cannot win any more. */
  mostRefund: number;
}

const INDEX = Object.fromEntries(TERMS.map((term, i) => [term, i])) as Record<Term, number>;
const SHIFT = INDEX.shift,
  LONG_SHIFT = INDEX['long shift'],
  LANDING = INDEX.landing,
  SLIDE = INDEX.slide,
  CROSSING = INDEX.crossing,
  LEAP = INDEX.leap,
  HOP = INDEX.hop,
  WEAK = INDEX['weak finger'],
  LONG_FOURTH = INDEX['long fourth finger'],
  OPEN = INDEX['open string'],
  HEIGHT = INDEX.height,
  EXTENSION = INDEX.extension,
  FRAME = INDEX.frame,
  THUMB_TERM = INDEX.thumb,
  HARMONIC = INDEX.harmonic,
  REACH = INDEX.reach,
  START = INDEX.start,
  POSITION = INDEX.position,
  UNLIKE = INDEX.unlike;

/** A rest shorter than this does not hide a shift. */
const HIDING_REST_S = 0.08;
export const hidesShift = ({ restBeforeS }: Pick<Moment, 'restBeforeS'>): boolean => restBeforeS >= HIDING_REST_S;

/** @param strategy multiplies the preferred weights; none are the plain ones */
export function weighingFor(player: Player, preferred: Resolved = resolved(), strategy: Pick<Strategy, 'weights' | 'openBias'> | null = null): Weighing {
  const { lengthMm, kind } = player.instrument;
  const byStop = (value: (stop: number) => number) => Float64Array.from({ length: STOPS }, (_, i) => value(i + LOWEST_STOP));
  const byPair = (value: (pair: { comfortable: number; limit: number }) => number) =>
    Float64Array.from({ length: 36 }, (_, i) => {
      const low = Math.floor(i / 6);
      const high = i % 6;
      const spread = low && high && low !== high ? spreadMm(player.hand, low, high) : null;
      return spread ? value(spread) : Infinity;
    });
  const weights = preferred.weights.map((weight, i) => weight * (strategy?.weights[TERMS[i]!] ?? 1));
  return {
    player,
    costs: preferred.costs,
    openBias: preferred.openBias + (strategy?.openBias ?? 0),
    stayBelow: preferred.stayBelow,
    upper: isUpper(kind),
    covers: kind !== 'bass',
    weights,
    mostRefund: mostRefund(preferred.costs, weights),
    mm: byStop((stop) => stopMm(lengthMm, stop)),
    widthMm: byStop((stop) => targetWidthMm(lengthMm, stop)),
    centsPerMm: byStop((stop) => centsPerMm(lengthMm, stop)),
    comfortableMm: byPair((spread) => spread.comfortable),
    limitMm: byPair((spread) => spread.limit),
  };
}

/** Strings apart at most, and the greatest risk of landing that is counted (`shiftTerms`). */
const MOST_STRINGS = 4;
const MOST_RISK = 9;

/**
 * What a move can pay back at most, from the table that is in force: the relief of one finger over what a shift costs at least, and
 * whatever else somebody has set below nothing. Infinite where a price that grows without bound is negative: then nothing is pruned.
 */
function mostRefund(costs: LeftHandCosts, weights: Float64Array): number {
  const unbounded = [costs.shiftDifficulty, costs.secondsPerBit, costs.startHeight, costs.stretch];
  if (unbounded.some((price) => price < 0)) return Infinity;
  const below = (...prices: number[]) => Math.max(0, -Math.min(...prices));
  const refunds: Array<[term: number, refund: number]> = [
    [SHIFT, below(Math.min(costs.shiftHeard, costs.shiftAcrossOpen) - costs.sameFingerRelief, costs.shiftInRest) + below(costs.shiftInSlur)],
    [LONG_SHIFT, MOST_RISK * below(costs.landingRisk)],
    [LANDING, below(costs.landOn2, costs.landOn3, costs.landOn4)],
    [SLIDE, below(costs.slideSameLetter, costs.slideOtherLetter) + below(costs.slideOnFourth)],
    [CROSSING, below(costs.crossing, costs.crossingInSlur, costs.crossingLow)],
    [LEAP, MOST_STRINGS * below(costs.leap, costs.leapInSlur)],
    [HOP, below(costs.hopEqualStop, costs.cover, costs.hopNearStop) + below(costs.squeeze)],
    [FRAME, below(costs.oddSpacing)],
    [EXTENSION, below(costs.extensionChange)],
    [THUMB_TERM, below(costs.thumbChange)],
    // Out of reach of these fingers, and of any hand.
    [REACH, 2 * below(costs.beyondReach)],
  ];
  return refunds.reduce((sum, [term, refund]) => sum + refund * weights[term]!, 0);
}

/** More stops than any fingerboard has; below 0 lies the extension of a bass. */
const STOPS = 72;
const LOWEST_STOP = -8;

/** Half steps above the open string at which the first finger lies in second position, low and high. */
const SECOND_POSITION: ReadonlySet<number> = new Set([3, 4]);

const scratch = new Float64Array(TERMS.length);

/** Cost of a grip in itself, wherever the hand comes from. */
export function ownCost(grip: Grip, moment: Moment, weighing: Weighing, terms: Float64Array | null = null): number {
  const { costs } = weighing;
  const into = terms ?? scratch.fill(0);
  const seconds = moment.endS - moment.onsetS;
  const long = clamp((seconds - costs.longSeconds * 0.5) / (costs.longSeconds * 0.5), 0, 1);
  const quick = seconds < costs.quickSeconds;
  for (const place of grip.places) {
    if (place.finger === 0) {
      into[OPEN]! += costs.openAny + weighing.openBias + costs.openLong * long + (quick ? costs.openQuick : 0) + (moment.trillStep ? costs.trillOnOpen : 0);
      continue;
    }
    const over = Math.max(0, place.stop - 5);
    into[HEIGHT]! += (place.string === 1 || place.shape === 'thumb' ? costs.heightTopString : costs.height) * over * over;
    into[EXTENSION]! += place.extensionCost;
    into[FRAME]! += place.frameCost;
    if (weighing.upper && place.shape !== 'thumb' && SECOND_POSITION.has(place.hand!)) into[POSITION]! += costs.secondPosition;
    if (place.finger === 4) {
      into[WEAK]! += (weighing.upper ? costs.fourthFinger : costs.fourthFingerLow) + (moment.leftPlucked ? costs.trillOnFourth : 0);
      into[LONG_FOURTH]! += (weighing.upper ? costs.fourthFingerLong : costs.fourthFingerLongLow) * long;
    }
    if (weighing.stayBelow !== null && place.hand! < weighing.stayBelow) into[POSITION]! += costs.belowPosition;
    if (moment.trillStep) into[WEAK]! += trillCost(place, moment.trillStep, weighing.player.instrument.kind, costs);
    if (weighing.stayBelow !== null && place.hand! > weighing.stayBelow)
      into[POSITION]! += costs.beyondPosition + costs.beyondPositionStep * (place.hand! - weighing.stayBelow);
    if (place.shape === 'thumb') into[THUMB_TERM]! += costs.thumb;
    if (place.harmonic !== null && !place.asked) into[HARMONIC]! += costs.harmonic;
  }
  into[REACH]! += grip.togetherCost;
  into[UNLIKE]! += costs.alike * grip.unlike;
  return terms ? 0 : weighed(into, weighing);
}

/** Cost of the first grip: a cold start high up is harder to place. */
export function startCost(grip: Grip, weighing: Weighing, terms: Float64Array | null = null): number {
  const value = grip.open ? 0 : weighing.costs.startHeight * Math.max(0, (grip.lead.hand ?? 0) - 2);
  if (terms) {
    terms[START]! += value;
    return 0;
  }
  return value * weighing.weights[START]!;
}

/**
 * @param from the event before
 * @param carried the last stopped grip, which is `from` itself unless that is open; null at the start
 */
export function moveCost(from: Grip, carried: Carried | null, to: Grip, moment: Moment, weighing: Weighing, terms: Float64Array | null = null): number {
  const into = terms ?? scratch.fill(0);
  const { costs } = weighing;
  const strings = Math.abs(from.string - to.string);
  if (strings > 0) {
    into[CROSSING]! += weighing.upper ? (moment.slurredFromLast ? costs.crossingInSlur : costs.crossing) : costs.crossingLow;
    if (strings > 1) into[LEAP]! += (moment.slurredFromLast ? costs.leapInSlur : costs.leap) * (strings - 1);
  }
  if (!to.open && carried) handMove(from, carried, to, moment, weighing, into);
  else if (!to.open) into[START]! += costs.startHeight * Math.max(0, (to.lead.hand ?? 0) - 2);
  return terms ? 0 : weighed(into, weighing);
}

function handMove(from: Grip, carried: Carried, to: Grip, moment: Moment, weighing: Weighing, into: Float64Array): void {
  const { costs } = weighing;
  const old = carried.grip.lead;
  const target = to.lead;
  const acrossOpen = from.open;
  const sameFinger = old.finger === target.finger;
  if (sameFinger && old.string === target.string && Math.abs(old.stop - target.stop) === 1 && !acrossOpen) {
    // Of a hand that stays where it was set the first finger bends back to the nut and forth.
    const bends = weighing.stayBelow !== null && old.finger === 1 && Math.max(old.stop, target.stop) <= weighing.stayBelow;
    into[SLIDE]! += (old.letter === target.letter || bends ? costs.slideSameLetter : costs.slideOtherLetter) + (target.finger === 4 ? costs.slideOnFourth : 0);
    if (old.letter !== target.letter) into[LANDING]! += landing(target, costs);
  } else if (isShift(old, target)) {
    shiftTerms(old, target, acrossOpen, carried, moment, weighing, into);
  } else {
    if (!acrossOpen && old.string === target.string && old.stop !== target.stop && rank(old) > rank(target) !== old.stop > target.stop) {
      into[FRAME]! += 2;
    }
    if (sameFinger && old.stop !== target.stop && old.string === target.string) into[SLIDE]! += costs.slideOtherLetter;
    if (!acrossOpen) reachTerm(old, target, weighing, into);
    if (weighing.upper && isOddlySpaced(old, target)) into[FRAME]! += costs.oddSpacing;
    if (weighing.covers && isSqueezed(old, target)) into[HOP]! += costs.squeeze;
    if (isOverwide(old, target)) into[REACH]! += costs.beyondReach;
  }
  if (sameFinger && !acrossOpen && old.string !== target.string && !hidesShift(moment)) {
    const apart = Math.abs(old.stop - target.stop);
    const strings = Math.abs(old.string - target.string);
    if (apart === 0) into[HOP]! += weighing.covers && target.finger !== 4 && strings === 1 ? costs.cover : costs.hopEqualStop;
    else if (apart <= 1) into[HOP]! += costs.hopNearStop;
  }
  if (target.extension && old.shape !== target.shape) into[EXTENSION]! += costs.extensionChange * (target.extensionCost > 0.2 ? 0 : 1);
  if ((target.shape === 'thumb') !== (old.shape === 'thumb')) into[THUMB_TERM]! += costs.thumbChange;
}

function shiftTerms(old: Place, target: Place, acrossOpen: boolean, carried: Carried, moment: Moment, weighing: Weighing, into: Float64Array): void {
  const { costs } = weighing;
  const distance = Math.abs(old.handMm - target.handMm);
  const time = shiftSeconds(carried, moment, costs);
  const bits = difficultyBits(distance, weighing.widthMm[target.stop - LOWEST_STOP]!);
  const inRest = hidesShift(moment);
  // A harmonic rings on while the hand leaves it, and forgives where it is touched.
  const rings = acrossOpen || carries(old) || carries(target);
  const base = inRest ? costs.shiftInRest : rings ? costs.shiftAcrossOpen : costs.shiftHeard;
  const spread = costs.landingSpread * (distance / time) * weighing.centsPerMm[target.stop - LOWEST_STOP]!;
  into[SHIFT]! +=
    base +
    costs.shiftDifficulty * bits * clamp((costs.secondsPerBit * bits) / time, 0.25, 3) +
    (moment.slurredFromLast && !acrossOpen ? costs.shiftInSlur : 0) -
    (old.finger === target.finger && old.string === target.string && !inRest ? costs.sameFingerRelief : 0);
  into[LONG_SHIFT]! += costs.landingRisk * Math.min(MOST_RISK, (spread / 15) ** 2);
  if (target.harmonic === null) into[LANDING]! += landing(target, costs);
}

/** A harmonic that the music asks for; one in place of a stopped note would be a cheap way out. */
const carries = (place: Place): boolean => place.harmonic !== null && place.asked;

/** A weak finger finds a new place less surely. */
const landing = ({ finger }: Place, costs: LeftHandCosts): number =>
  finger === 2 ? costs.landOn2 : finger === 3 ? costs.landOn3 : finger === 4 ? costs.landOn4 : 0;

/** Free time of a shift: silence and open strings since the last stopped note, plus what may be stolen from it. */
export function shiftSeconds(carried: Carried, moment: Moment, costs: LeftHandCosts): number {
  return gapSeconds(Math.max(0, moment.onsetS - carried.endS), carried.durationS, costs.stolenSeconds);
}

/** Gap of a shift: free time plus what is taken from the last note. */
export function gapSeconds(freeS: number, lastS: number, stolenSeconds: number): number {
  return freeS + stolenFrom(lastS, stolenSeconds);
}

/** Of a long note a shift may take more: this share of it (judgement). */
const STOLEN_SHARE = 0.25;

/** Seconds taken from the note before a shift: half of a short one, at most `stolenSeconds`, more only of a long one. */
export function stolenFrom(lastS: number, stolenSeconds: number): number {
  return Math.max(0.01, Math.min(stolenSeconds, lastS / 2), lastS * STOLEN_SHARE);
}

function reachTerm(a: Place, b: Place, weighing: Weighing, into: Float64Array): void {
  if (a.finger === b.finger) return;
  const pair = a.finger * 6 + b.finger;
  const comfortable = weighing.comfortableMm[pair]!;
  const distance = Math.abs(weighing.mm[a.stop - LOWEST_STOP]! - weighing.mm[b.stop - LOWEST_STOP]!);
  if (distance <= comfortable) return;
  const limit = weighing.limitMm[pair]!;
  into[REACH]! += distance > limit ? weighing.costs.beyondReach : (weighing.costs.stretch * (distance - comfortable)) / (limit - comfortable);
}

const rank = (place: Place): number => (place.finger === THUMB ? 0.5 : place.finger);

export function weighed(terms: Float64Array, weighing: Weighing): number {
  let sum = 0;
  for (let i = 0; i < terms.length; i++) sum += terms[i]! * weighing.weights[i]!;
  return sum;
}

function clamp(value: number, low: number, high: number): number {
  return value < low ? low : value > high ? high : value;
}

/** Terms as they count, that is with their weights. */
export function termsRecord(terms: Float64Array, weighing: Weighing): Partial<Record<Term, number>> {
  const record: Partial<Record<Term, number>> = {};
  TERMS.forEach((term, i) => {
    const value = terms[i]! * weighing.weights[i]!;
    if (Math.abs(value) > 1e-9) record[term] = Math.round(value * 1000) / 1000;
  });
  return record;
}
