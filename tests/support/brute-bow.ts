/** Bowings found the slow way, written without the planner's search: every cut and every direction, and a fine grid of places. */
import type { Atom } from '../../core/bow-arm/atoms';
import type { Part } from '../../core/score/score';
import { driftCost, driftWeight, hookCost, isLegato, loudnessCost, placeCost, retakePrice, changeCost } from '../../core/bow-arm/costs';
import type { PlannedSpan } from '../../core/bow-arm/search';
import { GRID, gridPlace, RETAKE_CELLS } from '../../core/bow-arm/step-tables';
import type { StrokeSpan } from '../../core/bow-arm/stroke';
import { REST_SECONDS, type BowCosts } from '../../core/bow-arm/tables';

export interface Problem {
  part: Part;
  atoms: readonly Atom[];
  spansEndingAt: ReadonlyArray<readonly StrokeSpan[]>;
  hairCm: number;
  costs: BowCosts;
}

type Way = 'down' | 'up';

/** Every way to cut the line into candidate strokes. */
function* cuts({ atoms, spansEndingAt }: Problem, end = atoms.length): Generator<StrokeSpan[]> {
  if (end === 0) yield [];
  for (const span of spansEndingAt[end] ?? []) for (const before of cuts({ atoms, spansEndingAt } as Problem, span.from)) yield [...before, span];
}

/** The cheapest bowing by trying all cuts and all directions; with the cost of the best one that differs from it. */
export function bruteBowing(problem: Problem): { cost: number; ways: string; tried: number } {
  let best = { cost: Infinity, ways: '' };
  let tried = 0;
  for (const spans of cuts(problem)) {
    for (let bits = 0; bits < 2 ** spans.length; bits++) {
      tried++;
      const ways = spans.map((_, i): Way => ((bits >> i) & 1 ? 'up' : 'down'));
      const cost = placed(problem, spans, ways, best.cost);
      if (cost < best.cost) best = { cost, ways: spans.map((span, i) => `${span.from}${ways[i]}`).join(' ') };
    }
  }
  return { ...best, tried };
}

/** The cheapest places on the grid for given strokes and directions; given up once every state costs more than the limit (no cost is negative). */
function placed({ atoms, hairCm, costs }: Problem, spans: readonly StrokeSpan[], ways: readonly Way[], limit: number): number {
  let states: Array<{ from: number; to: number; cost: number }> = [];
  for (const [i, span] of spans.entries()) {
    const way = ways[i]!;
    if (i > 0 && states.every((state) => state.cost >= limit)) return Infinity;
    const own: typeof states = [];
    for (let from = 0; from < GRID; from++)
      for (let to = 0; to < GRID; to++)
        if (from !== to && to > from === (way === 'down'))
          own.push({
            from,
            to,
            cost: placeCost(span, gridPlace(from), gridPlace(to), hairCm, costs) + (way === 'down' ? span.downCost : span.upCost) + span.slurCost,
          });
    if (i === 0) {
      states = own;
      continue;
    }
    const before = spans[i - 1]!;
    const lastWay = ways[i - 1]!;
    const atom = atoms[span.from]!;
    const lastAtom = atoms[span.from - 1]!;
    const inRest = atom.silenceS >= REST_SECONDS;
    const repeats = way === lastWay;
    const must = atom.mustHook && !inRest;
    const next: typeof states = [];
    const loudness = loudnessTable(before, span, GRID, inRest ? 0 : costs.loudness * costs.distribution);
    const turn = inRest
      ? repeats
        ? costs.retakeInRest
        : 0
      : repeats
        ? hookCost(before, span, lastAtom, atom, costs)[way === 'down' ? 0 : 1]
        : changeCost(before, span, atoms, costs);
    const drift = inRest || repeats ? 0 : driftWeight(before, span, atoms, costs);
    const prices = Array.from({ length: GRID }, (_, cells) =>
      retakePrice(gridPlace(cells) - gridPlace(0), inRest, lastAtom, atom, costs, isLegato(before, span)),
    );
    for (const state of own) {
      let least = Infinity;
      for (const last of states) {
        if (last.cost >= least) continue;
        const sum = last.cost + loudness[Math.abs(last.to - last.from) * GRID + Math.abs(state.to - state.from)]!;
        const there = last.to === state.from;
        const drifts = drift && there ? driftCost(drift, Math.abs(last.to - last.from), Math.abs(state.to - state.from)) : 0;
        if (there && !atom.mustRetake && (!must || repeats)) least = Math.min(least, sum + turn + drifts);
        if (must) continue;
        const back = repeats && RETAKE_CELLS.includes(state.from) && !there && last.to > state.from === (way === 'down');
        if (inRest) least = Math.min(least, sum + (there && !atom.mustRetake ? Infinity : prices[Math.abs(last.to - state.from)]!));
        else if (back) least = Math.min(least, sum + prices[Math.abs(last.to - state.from)]!);
      }
      if (least < Infinity) next.push({ ...state, cost: state.cost + least });
    }
    states = next;
  }
  return states.reduce((least, state) => Math.min(least, state.cost), Infinity);
}

/** What the places of a plan cost, its directions and cuts aside. */
export function placesCost(strokes: readonly PlannedSpan[], { atoms, hairCm, costs }: Problem): number {
  return strokes.reduce((sum, stroke, i) => {
    const before = strokes[i - 1];
    return sum + placeCost(stroke.span, stroke.from, stroke.to, hairCm, costs) + (before ? joint(before, stroke, atoms, hairCm, costs) : 0);
  }, 0);
}

function joint(before: PlannedSpan, stroke: PlannedSpan, atoms: readonly Atom[], hairCm: number, costs: BowCosts): number {
  const atom = atoms[stroke.span.from]!;
  const inRest = atom.silenceS >= REST_SECONDS;
  const loud = inRest
    ? 0
    : loudnessCost(
        before.span,
        Math.abs(before.to - before.from) * hairCm,
        stroke.span,
        Math.abs(stroke.to - stroke.from) * hairCm,
        costs.loudness * costs.distribution,
      );
  const weight = inRest || stroke.start !== 'change' ? 0 : driftWeight(before.span, stroke.span, atoms, costs);
  const drifts = weight ? driftCost(weight, Math.abs(before.to - before.from), Math.abs(stroke.to - stroke.from)) : 0;
  return loud + drifts + (stroke.start === 'retake' ? retakePrice(before.to - stroke.from, inRest, atoms[stroke.span.from - 1]!, atom, costs) : 0);
}

/** The least that the same strokes, directions and ways to begin can cost on a grid of so many places. */
export function finestCost(strokes: readonly PlannedSpan[], problem: Problem, places: number): number {
  const { atoms, hairCm, costs } = problem;
  const at = (k: number) => 0.005 + (0.99 * k) / (places - 1);
  /** Cost by start·places + end. */
  let states = new Float64Array(places * places);
  strokes.forEach((stroke, i) => {
    const down = stroke.to > stroke.from;
    const before = strokes[i - 1];
    const next = new Float64Array(places * places).fill(Infinity);
    const atom = atoms[stroke.span.from]!;
    const inRest = atom.silenceS >= REST_SECONDS;
    const loudness = before ? loudnessTable(before.span, stroke.span, places, inRest ? 0 : costs.loudness * costs.distribution) : [];
    const drift = before && !inRest && stroke.start === 'change' ? driftWeight(before.span, stroke.span, atoms, costs) : 0;
    const prices = before
      ? Array.from({ length: places }, (_, cells) => retakePrice(at(cells) - at(0), inRest, atoms[stroke.span.from - 1]!, atom, costs))
      : [];
    for (let from = 0; from < places; from++) {
      // The stroke before counts by its length alone: for each the cheapest that gets the bow here.
      const byLength = new Float64Array(places).fill(before ? Infinity : 0);
      if (before) {
        for (let cell = 0; cell < states.length; cell++) {
          const last = cell % places;
          if (stroke.start !== 'retake' && last !== from) continue;
          const length = Math.abs(last - Math.floor(cell / places));
          const cost = states[cell]! + (stroke.start === 'retake' ? prices[Math.abs(last - from)]! : 0);
          if (cost < byLength[length]!) byLength[length] = cost;
        }
      }
      for (let to = down ? from + 1 : 0; to < (down ? places : from); to++) {
        let least = before ? Infinity : 0;
        if (before)
          for (let length = 1; length < places; length++) {
            const cost = byLength[length]! + loudness[length * places + Math.abs(to - from)]! + (drift ? driftCost(drift, length, Math.abs(to - from)) : 0);
            if (cost < least) least = cost;
          }
        if (least < Infinity) next[from * places + to] = least + placeCost(stroke.span, at(from), at(to), hairCm, costs);
      }
    }
    states = next;
  });
  return Math.min(...states);
}

/** Loudness coupling by the lengths before and after, in cells of the grid. */
function loudnessTable(before: StrokeSpan, after: StrokeSpan, places: number, weight: number): number[] {
  return Array.from({ length: places * places }, (_, i) => {
    const [a, b] = [Math.floor(i / places), i % places];
    return a && b && weight ? loudnessCost(before, a, after, b, weight) : 0;
  });
}
