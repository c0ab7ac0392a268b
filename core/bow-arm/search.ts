/**
 * Directions and distribution planned together: dynamic programming over where each stroke starts and
 * ends on a grid of the bow, with the loudness coupling of neighbouring strokes exact, and a local
 * refinement of the turning points afterwards.
 */
import type { Atom } from './atoms';
import type { StrokeSpan } from './stroke';
import { QUICK_HOOK_S, REST_SECONDS, retakeSeconds, type BowCosts } from './tables';

/** Places on the bow. */
export const GRID = 17;
const CELLS = GRID * GRID;

export interface PlannedSpan {
  span: StrokeSpan;
  from: number;
  to: number;
  /** How it begins. */
  start: 'first' | 'change' | 'hook' | 'retake';
}

export const gridPlace = (cell: number): number => 0.02 + (0.96 * cell) / (GRID - 1);

interface Layer {
  span: StrokeSpan;
  /** Cost up to and with this stroke, by start·GRID + end. */
  cost: Float64Array;
  backLayer: Int32Array;
  backCell: Int32Array;
}

export interface BowSearchInput {
  atoms: readonly Atom[];
  /** Candidate strokes by the atom after their last; `spans[b]` end at atom b − 1. */
  spansEndingAt: ReadonlyArray<readonly StrokeSpan[]>;
  hairCm: number;
  costs: BowCosts;
  /** Direction that the first stroke must not take (for the reversed strategy). */
  notFirst?: 'down' | 'up' | null;
}

export function cheapestBowing(input: BowSearchInput): { strokes: PlannedSpan[]; cost: number } {
  const { atoms, spansEndingAt, costs } = input;
  const count = atoms.length;
  if (count === 0) return { strokes: [], cost: 0 };
  const layers: Layer[] = [];
  const layersEndingAt: number[][] = Array.from({ length: count + 1 }, () => []);
  for (let end = 1; end <= count; end++) {
    for (const span of spansEndingAt[end]!) {
      const layer = openLayer(span, input);
      if (span.from === 0) {
        if (input.notFirst) forbidDirection(layer, input.notFirst);
        layers.push(layer);
        layersEndingAt[end]!.push(layers.length - 1);
        continue;
      }
      const own = layer.cost;
      layer.cost = new Float64Array(CELLS).fill(IMPOSSIBLE);
      const hopeful = leastCost(layers, layersEndingAt[span.from]!) + MOST_BEHIND;
      for (const before of layersEndingAt[span.from]!) relax(layers[before]!, before, layer, own, atoms, costs, hopeful);
      layers.push(layer);
      layersEndingAt[end]!.push(layers.length - 1);
    }
  }
  return readBack(layers, layersEndingAt[count]!, atoms);
}

/**
 * A state that costs this much more than the cheapest at the same moment cannot win any more: a retake brings
 * the bow from the cheapest state to any place for less (it is `infeasible`-priced at worst).
 */
const MOST_BEHIND = 6;

function leastCost(layers: readonly Layer[], which: readonly number[]): number {
  let least = Infinity;
  for (const index of which) for (const value of layers[index]!.cost) if (value < least) least = value;
  return least;
}

/** Own cost of a stroke for every start and end. */
function openLayer(span: StrokeSpan, { hairCm, costs }: BowSearchInput): Layer {
  const cost = new Float64Array(CELLS);
  for (let start = 0; start < GRID; start++) {
    for (let end = 0; end < GRID; end++) {
      cost[start * GRID + end] = start === end ? IMPOSSIBLE : spanCost(span, gridPlace(start), gridPlace(end), hairCm, costs);
    }
  }
  return { span, cost, backLayer: new Int32Array(CELLS).fill(-1), backCell: new Int32Array(CELLS).fill(-1) };
}

/** Cost of one stroke from x to y, without its neighbours. */
export function spanCost(span: StrokeSpan, from: number, to: number, hairCm: number, costs: BowCosts): number {
  const cm = Math.abs(to - from) * hairCm;
  const off = Math.log2(cm / span.preferredCm);
  let distribution = off * off;
  if (cm < span.leastCm) distribution += costs.infeasible * (1 + Math.log2(span.leastCm / cm));
  if (cm > span.mostCm) distribution += costs.infeasible * (1 + Math.log2(cm / span.mostCm));
  const middle = (from + to) / 2 - span.home;
  distribution += costs.homePull * middle * middle * 8;
  const { zone } = span.row;
  if (zone) {
    const place = span.row.zoneAtStart ? from : (from + to) / 2;
    const miss = Math.max(0, zone.from - place, place - zone.to);
    distribution += 12 * miss * miss;
  }
  return distribution * costs.distribution + (to > from ? span.downCost : span.upCost) + span.splitCost;
}

/** Loudness step beyond the wanted one: `0.6·(max(0, |ΔdB − wanted| − 2)/6)²`. */
export function loudnessCost(before: StrokeSpan, beforeCm: number, after: StrokeSpan, afterCm: number, weight: number): number {
  const step = 20 * Math.log10(afterCm / after.seconds / (beforeCm / before.seconds));
  const wanted = 20 * Math.log10(after.wantedSpeed / before.wantedSpeed);
  const over = Math.max(0, Math.abs(step - wanted) - 2) / 6;
  return weight * over * over;
}

function forbidDirection(layer: Layer, direction: 'down' | 'up'): void {
  for (let start = 0; start < GRID; start++) {
    for (let end = 0; end < GRID; end++) if (end > start === (direction === 'down')) layer.cost[start * GRID + end] = IMPOSSIBLE;
  }
}

/** Best way to reach every start and end of `after` from every start and end of `before`. */
function relax(before: Layer, beforeIndex: number, after: Layer, own: Float64Array, atoms: readonly Atom[], costs: BowCosts, hopeful: number): void {
  const atom = atoms[after.span.from]!;
  const lastAtom = atoms[after.span.from - 1]!;
  const inRest = atom.silenceS >= REST_SECONDS;
  const coupling = inRest ? NO_COUPLING : couplingTable(before.span, after.span, costs);
  const again = inRest ? ([costs.retakeInRest, costs.retakeInRest] as const) : hookCost(before.span, after.span, lastAtom, atom, costs);
  const mustRepeat = atom.mustHook && !inRest;
  const change = inRest ? 0 : unevenCost(before.span, after.span, atoms, costs);
  if (!atom.mustRetake) relaxTurning(before, beforeIndex, after, own, coupling, again, change, mustRepeat, hopeful);
  if (mustRepeat) return;
  const prices = Float64Array.from({ length: GRID }, (_, cells) => retakePrice((0.96 * cells) / (GRID - 1), inRest, lastAtom, atom, costs));
  if (inRest) relaxInRest(before, beforeIndex, after, own, prices);
  else relaxRetake(before, beforeIndex, after, own, coupling, prices, hopeful);
}

/** The bow stays on the string: the next stroke begins where the last one ended. */
function relaxTurning(
  before: Layer,
  beforeIndex: number,
  after: Layer,
  own: Float64Array,
  coupling: Float64Array,
  again: readonly [down: number, up: number],
  change: number,
  mustRepeat: boolean,
  hopeful: number,
): void {
  const { cost, backLayer, backCell } = after;
  const from = before.cost;
  for (let turn = 0; turn < GRID; turn++) {
    for (let startBefore = 0; startBefore < GRID; startBefore++) {
      const cell = startBefore * GRID + turn;
      const base = from[cell]!;
      if (base > hopeful) continue;
      const wasDown = turn > startBefore;
      const row = (wasDown ? turn - startBefore : startBefore - turn) * GRID;
      for (let end = 0; end < GRID; end++) {
        const goesDown = end > turn;
        if (end === turn || (mustRepeat && goesDown !== wasDown)) continue;
        const at = turn * GRID + end;
        const value = base + own[at]! + coupling[row + (goesDown ? end - turn : turn - end)]! + (goesDown !== wasDown ? change : again[goesDown ? 0 : 1]);
        if (value < cost[at]!) {
          cost[at] = value;
          backLayer[at] = beforeIndex;
          backCell[at] = cell;
        }
      }
    }
  }
}

/** The bow is lifted and begins the same way again, further back. */
function relaxRetake(before: Layer, beforeIndex: number, after: Layer, own: Float64Array, coupling: Float64Array, prices: Float64Array, hopeful: number): void {
  const { cost, backLayer, backCell } = after;
  const from = before.cost;
  for (const start of RETAKE_CELLS) {
    for (let turn = 0; turn < GRID; turn++) {
      if (turn === start) continue;
      const wasDown = turn > start;
      const price = prices[wasDown ? turn - start : start - turn]!;
      const firstStart = wasDown ? 0 : turn + 1;
      const lastStart = wasDown ? turn - 1 : GRID - 1;
      const firstEnd = wasDown ? start + 1 : 0;
      const lastEnd = wasDown ? GRID - 1 : start - 1;
      for (let startBefore = firstStart; startBefore <= lastStart; startBefore++) {
        const cell = startBefore * GRID + turn;
        const base = from[cell]! + price;
        if (base > hopeful) continue;
        const row = (wasDown ? turn - startBefore : startBefore - turn) * GRID;
        for (let end = firstEnd; end <= lastEnd; end++) {
          const at = start * GRID + end;
          const value = base + own[at]! + coupling[row + (wasDown ? end - start : start - end)]!;
          if (value < cost[at]!) {
            cost[at] = value;
            backLayer[at] = beforeIndex;
            backCell[at] = cell;
          }
        }
      }
    }
  }
}

/** In a rest the bow may be set anywhere and go either way; loudness starts afresh. */
function relaxInRest(before: Layer, beforeIndex: number, after: Layer, own: Float64Array, prices: Float64Array): void {
  const { cost, backLayer, backCell } = after;
  for (let start = 0; start < GRID; start++) {
    let best = HOPELESS;
    let bestCell = -1;
    for (let cell = 0; cell < CELLS; cell++) {
      const turn = cell % GRID;
      const value = before.cost[cell]! + (turn === start ? 0 : prices[turn > start ? turn - start : start - turn]!);
      if (value < best) {
        best = value;
        bestCell = cell;
      }
    }
    if (bestCell < 0) continue;
    for (let end = 0; end < GRID; end++) {
      const at = start * GRID + end;
      const value = best + own[at]!;
      if (value < cost[at]!) {
        cost[at] = value;
        backLayer[at] = beforeIndex;
        backCell[at] = bestCell;
      }
    }
  }
}

const NO_COUPLING = new Float64Array(CELLS);

const IMPOSSIBLE = Number.MAX_VALUE;

/** More than any real cost, even with a thousand unmet locks. */
const HOPELESS = 1e12;

/** Where a retake in mid-line may land: frog, lower half, middle, upper half. */
export const RETAKE_CELLS = [1, 4, 8, 12];

/** Price of bringing the bow back: cheap in a rest, else it takes time from the note before, at most half of it. */
export function retakePrice(distance: number, inRest: boolean, lastAtom: Atom, atom: Atom, costs: BowCosts): number {
  if (atom.mustRetake) return 0;
  const needed = retakeSeconds(distance);
  const free = (atom.silenceS === Infinity ? 10 : atom.silenceS) + lastAtom.seconds / 2;
  return (inRest ? costs.retakeInRest : costs.retake) + (needed > free ? costs.infeasible * (needed / free) : 0);
}

/** Price of a second note in the same direction with a stop between, for down-bow and for up-bow: rows of stopped notes lie better up-bow. */
export function hookCost(before: StrokeSpan, after: StrokeSpan, lastAtom: Atom, atom: Atom, costs: BowCosts): readonly [down: number, up: number] {
  const quick = lastAtom.seconds < QUICK_HOOK_S ? costs.hookQuick : 0;
  const either = (price: number, moreDown = 0) => [price + moreDown + quick, price + quick] as const;
  if (atom.mustHook) return [0, 0];
  if (atom.onBar) return either(costs.hookOverBar);
  if (before.from !== before.to || after.from !== after.to) return either(costs.hookSlurred);
  if (lastAtom.dots && atom.dots) return either(costs.hookStaccato, costs.hookDown);
  const ratio = lastAtom.seconds / atom.seconds;
  const dotted = ratio > 1.8 && ratio < 3.6 && !atom.onBeat && atom.endsOnBeat;
  return dotted ? either(costs.hookDotted) : either(costs.hook, costs.hookDown);
}

/**
 * A repeated long-short figure in separate bows drifts along the bow until it ends; over a finite passage
 * that looks free. So it is charged what it costs in the steady state, where both strokes have one length.
 */
export function unevenCost(before: StrokeSpan, after: StrokeSpan, atoms: readonly Atom[], costs: BowCosts): number {
  if (before.from !== before.to || after.from !== after.to || before.seconds < 1.4 * after.seconds) return 0;
  const at = after.from;
  const same = (i: number, k: number) =>
    atoms[i] !== undefined && atoms[k] !== undefined && Math.abs(atoms[i].seconds - atoms[k].seconds) < 0.02 * atoms[k].seconds;
  if (!(same(at - 2, at) && same(at - 3, at - 1)) && !(same(at + 1, at - 1) && same(at + 2, at))) return 0;
  const ratio = Math.log2(before.preferredCm / after.preferredCm);
  const { seconds } = after;
  return costs.distribution * 0.5 * ratio * ratio + loudnessCost(before, seconds, after, seconds, costs.loudness * costs.distribution);
}

const { abs, max } = Math;

function couplingTable(before: StrokeSpan, after: StrokeSpan, costs: BowCosts): Float64Array {
  const table = new Float64Array(CELLS);
  const weight = costs.loudness * costs.distribution;
  const wanted = 20 * Math.log10(after.wantedSpeed / before.wantedSpeed);
  const times = 20 * Math.log10(before.seconds / after.seconds);
  for (let a = 1; a < GRID; a++) {
    for (let b = 1; b < GRID; b++) {
      const over = max(0, abs(LENGTH_DB[b]! - LENGTH_DB[a]! + times - wanted) - 2) / 6;
      table[a * GRID + b] = weight * over * over;
    }
  }
  return table;
}

const LENGTH_DB = Float64Array.from({ length: GRID }, (_, cells) => (cells ? 20 * Math.log10(cells) : 0));

function readBack(layers: readonly Layer[], last: readonly number[], atoms: readonly Atom[]): { strokes: PlannedSpan[]; cost: number } {
  let best = Infinity;
  let layerIndex = -1;
  let cell = -1;
  for (const index of last) {
    const { cost } = layers[index]!;
    for (let c = 0; c < CELLS; c++) {
      if (cost[c]! < best) {
        best = cost[c]!;
        layerIndex = index;
        cell = c;
      }
    }
  }
  const strokes: PlannedSpan[] = [];
  while (layerIndex >= 0) {
    const layer = layers[layerIndex]!;
    const start = Math.floor(cell / GRID);
    const end = cell % GRID;
    const previous = layer.backLayer[cell]!;
    const previousCell = layer.backCell[cell]!;
    let how: PlannedSpan['start'] = 'first';
    if (previous >= 0) {
      const turn = previousCell % GRID;
      const wasDown = turn > Math.floor(previousCell / GRID);
      const again = end > start === wasDown;
      const inRest = atoms[layer.span.from]!.silenceS >= REST_SECONDS;
      how = inRest ? (turn !== start || again ? 'retake' : 'change') : turn !== start ? 'retake' : again ? 'hook' : 'change';
    }
    strokes.push({ span: layer.span, from: gridPlace(start), to: gridPlace(end), start: how });
    layerIndex = previous;
    cell = previousCell;
  }
  return { strokes: strokes.reverse(), cost: best };
}

/** Moves each turning point off the grid while that lowers the cost; directions stay. Returns the new places. */
export function refined(strokes: readonly PlannedSpan[], hairCm: number, costs: BowCosts): PlannedSpan[] {
  const moved = strokes.map((stroke) => ({ ...stroke }));
  const weight = costs.loudness * costs.distribution;
  const local = (i: number): number => {
    let sum = 0;
    for (let k = Math.max(0, i - 1); k <= Math.min(moved.length - 1, i + 2); k++) {
      const stroke = moved[k]!;
      sum += spanCost(stroke.span, stroke.from, stroke.to, hairCm, costs);
      const before = moved[k - 1];
      if (before && k > i - 1 && stroke.start !== 'first') {
        sum += loudnessCost(before.span, Math.abs(before.to - before.from) * hairCm, stroke.span, Math.abs(stroke.to - stroke.from) * hairCm, weight);
      }
    }
    return sum;
  };
  for (const step of [1 / 48, 1 / 96, 1 / 192]) {
    for (let i = 0; i < moved.length; i++) {
      const stroke = moved[i]!;
      const next = moved[i + 1];
      const chained = next && next.from === stroke.to;
      for (const delta of [step, -step]) {
        const old = stroke.to;
        const place = old + delta;
        if (place < 0.005 || place > 0.995) continue;
        if (place > stroke.from !== old > stroke.from || Math.abs(place - stroke.from) < 0.005) continue;
        if (chained && (next.to > place !== next.to > old || Math.abs(next.to - place) < 0.005)) continue;
        const before = local(i);
        stroke.to = place;
        if (chained) next.from = place;
        if (local(i) < before - 1e-9) continue;
        stroke.to = old;
        if (chained) next.from = old;
      }
    }
  }
  return moved;
}
