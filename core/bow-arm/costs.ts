/** What a stroke at a place costs, and what one stroke after another costs. */
import type { Atom } from './atoms';
import type { StrokeSpan } from './stroke';
import { QUICK_HOOK_S, retakeSeconds, type BowCosts } from './tables';

/** Cost of one stroke from x to y (0 frog to 1 tip), without its neighbours. */
export function spanCost(span: StrokeSpan, from: number, to: number, hairCm: number, costs: BowCosts): number {
  return placeCost(span, from, to, hairCm, costs) + (to > from ? span.downCost : span.upCost) + span.slurCost;
}

/** The part of it that the distribution decides. */
export function placeCost(span: StrokeSpan, from: number, to: number, hairCm: number, costs: BowCosts): number {
  const cm = Math.abs(to - from) * hairCm;
  const off = Math.log2(cm / span.preferredCm);
  const { wish, zone } = span;
  let cost = off * off * (wish?.length ? WISHED_LENGTH : 1);
  if (cm < span.leastCm) cost += costs.infeasible * (1 + Math.log2(span.leastCm / cm));
  if (cm > span.mostCm) cost += costs.infeasible * (1 + Math.log2(cm / span.mostCm));
  const middle = (from + to) / 2;
  const away = middle - span.home;
  if (!wish?.zone) cost += costs.homePull * away * away * 8;
  if (zone && !wish?.zone) {
    const miss = outside(span.zoneAtStart ? from : middle, zone);
    cost += ZONE * miss * miss;
  }
  if (span.arrive && !wish?.to) {
    const miss = outside(to, span.arrive);
    cost += costs.arrive * miss * miss;
  }
  if (wish) {
    let miss = 0;
    if (wish.zone) miss += outside(from, wish.zone) ** 2 + outside(to, wish.zone) ** 2;
    if (wish.from) miss += outside(from, wish.from) ** 2;
    if (wish.to) miss += outside(to, wish.to) ** 2;
    cost += costs.wish * miss;
  }
  return cost * costs.distribution;
}

/** Price of missing the zone of a stroke by the whole bow (trial). */
const ZONE = 12;

/** A wished length counts this many times as much as the table's (judgement). */
const WISHED_LENGTH = 4;

const outside = (place: number, zone: { from: number; to: number }): number => Math.max(0, zone.from - place, place - zone.to);

/** Loudness step beyond the wanted one: `0.6·(max(0, |ΔdB − wanted| − 2)/6)²`. */
export function loudnessCost(before: StrokeSpan, beforeCm: number, after: StrokeSpan, afterCm: number, weight: number): number {
  const step = 20 * Math.log10(afterCm / after.seconds / (beforeCm / before.seconds));
  const wanted = 20 * Math.log10(after.wantedSpeed / before.wantedSpeed);
  const over = Math.max(0, Math.abs(step - wanted) - 2) / 6;
  return weight * over * over;
}

/** Price of bringing the bow back: cheap in a rest, else it takes time from the note before, at most half of it. */
export function retakePrice(distance: number, inRest: boolean, lastAtom: Atom, atom: Atom, costs: BowCosts, legato = false): number {
  if (atom.mustRetake) return 0;
  const needed = retakeSeconds(distance);
  const free = (atom.silenceS === Infinity ? 10 : atom.silenceS) + lastAtom.seconds / 2;
  const plain = markedDownTwice(lastAtom, atom) ? Math.min(costs.retake, costs.retakeMarked) : costs.retake + (legato ? costs.retakeLegato : 0);
  const price = inRest ? costs.retakeInRest : plain;
  return price + (inRest ? 0 : unlikeStart(atom, 'retake', costs)) + (needed > free ? costs.infeasible * (needed / free) : 0);
}

/** Between slurs a lift is heard as a hole. */
export const isLegato = (before: StrokeSpan, after: StrokeSpan): boolean =>
  (before.from !== before.to || after.from !== after.to) && before.kind !== 'portato' && after.kind !== 'chord';

const markedDownTwice = (lastAtom: Atom, atom: Atom): boolean => lastAtom.lock === 'down' && atom.lock === 'down';

/** Price of a second note in the same direction with a stop between, for down-bow and for up-bow: rows of stopped notes lie better up-bow. */
export function hookCost(before: StrokeSpan, after: StrokeSpan, lastAtom: Atom, atom: Atom, costs: BowCosts): readonly [down: number, up: number] {
  if (atom.mustHook) return [0, 0];
  const quick = (lastAtom.seconds < QUICK_HOOK_S ? costs.hookQuick : 0) + unlikeStart(atom, 'hook', costs);
  const either = (price: number, moreDown = 0) => [price + moreDown + quick, price + quick] as const;
  if (atom.onBar) return either(costs.hookOverBar);
  if (before.from !== before.to || after.from !== after.to) return either(costs.hookSlurred);
  if (lastAtom.dots && atom.dots) return either(costs.hookStaccato, costs.hookDown);
  if (isDotted(lastAtom, atom)) return either(costs.hookDotted);
  return either(costs.hook + (atom.onUnit ? costs.hookOnBeat : 0), markedDownTwice(lastAtom, atom) ? costs.retake : costs.hookDown);
}

/** A long note and the short one that fills its beat: three to one, or seven to one. */
function isDotted(long: Atom, short: Atom): boolean {
  const ratio = long.ticks / Math.max(1, short.ticks);
  return ratio > 2.4 && ratio < 8 && !short.onUnit && short.endsOnUnit;
}

/** Price of a plain change of direction: nothing, but for rhythms that lie badly in separate bows. */
export function changeCost(before: StrokeSpan, after: StrokeSpan, atoms: readonly Atom[], costs: BowCosts): number {
  const alone = before.from === before.to && after.from === after.to;
  const dotted = alone && isDotted(atoms[before.to]!, atoms[after.from]!) && before.seconds < LONGEST_DOTTED_S;
  return (dotted ? costs.dottedSeparate : 0) + unlikeStart(atoms[after.from]!, 'change', costs);
}

/** A longer note is no dotted rhythm to the ear any more, in seconds (judgement). */
const LONGEST_DOTTED_S = 1.2;

/**
 * A repeated long-short figure in separate bows drifts along the bow until it ends; over a finite passage that looks free. So its
 * lengths are charged against each other: where both have one length the figure stays in one place.
 * @returns the weight of `driftCost`, 0 where nothing drifts
 */
export function driftWeight(before: StrokeSpan, after: StrokeSpan, atoms: readonly Atom[], costs: BowCosts): number {
  if (before.seconds < 1.4 * after.seconds) return 0;
  const period = after.to - before.from + 1;
  if (period > LONGEST_FIGURE || !(returns(atoms, before.from, period, period) || returns(atoms, before.from, period, -period))) return 0;
  return costs.drift * costs.distribution;
}

/** Of two strokes that turn round: `weight·log2(length/length)²`. */
export const driftCost = (weight: number, before: number, after: number): number => weight * Math.log2(before / after) ** 2;

/** Going on, turning, stopping or lifting otherwise than the same bar beside it. */
const unlikeStart = (atom: Atom, start: 'change' | 'hook' | 'retake', costs: BowCosts): number =>
  atom.beside !== null && atom.beside !== start ? costs.unlikeBeside : 0;

/** Notes in a repeated figure at most. */
export const LONGEST_FIGURE = 8;

/** Whether the rhythm of a figure comes again that many notes away. */
function returns(atoms: readonly Atom[], from: number, count: number, away: number): boolean {
  for (let i = from; i < from + count; i++) {
    const here = atoms[i]!;
    const there = atoms[i + away];
    if (!there || Math.abs(here.seconds - there.seconds) >= 0.02 * there.seconds || (i > from && here.linked !== there.linked)) return false;
  }
  return true;
}
