/** The same problems as graphs for a general-purpose shortest-path library (ngraph.path), as a check and a yardstick. */
import createGraph, { type Graph } from 'ngraph.graph';
import { aStar } from 'ngraph.path';
import type { Atom } from '../../core/bow-arm/atoms';
import { usualBow } from '../../core/bow-arm/bow';
import { driftCost, driftWeight, hookCost, loudnessCost, retakePrice, spanCost, changeCost } from '../../core/bow-arm/costs';
import { newSearchMemory, cheapestBowing } from '../../core/bow-arm/search';
import { GRID, gridPlace, RETAKE_CELLS } from '../../core/bow-arm/step-tables';
import { strokeSpan, type StrokeSpan } from '../../core/bow-arm/stroke';
import { HAIR_CM, type BowCosts } from '../../core/bow-arm/tables';
import type { Grip } from '../../core/left-hand/grip';
import { carriedBy } from '../../core/left-hand/search';
import { moveCost, ownCost, startCost, type Carried, type Moment, type Weighing } from '../../core/left-hand/transition';

type Weighted = Graph<unknown, number>;
const START = 'start';
const END = 'end';

/** Cost of the cheapest way from start to end; the graph's links carry costs that are lifted to be positive. */
export function shortest(graph: Weighted, lift: number): number {
  const path = aStar<unknown, number>(graph, { oriented: true, distance: (_from, _to, link) => link.data }).find(START, END);
  const nodes = path.reverse();
  let cost = 0;
  for (let i = 1; i < nodes.length; i++) cost += graph.getLink(nodes[i - 1]!.id, nodes[i]!.id)!.data - lift;
  return cost;
}

/** Every cost is lifted by this much, once per link, so that relief never makes a link negative. */
export const LIFT = 8;

/** Fingering: one node per event and grip; where the grip is open, also per stopped grip that came last. */
export function fingeringGraph(grips: ReadonlyArray<readonly Grip[]>, moments: readonly Moment[], weighing: Weighing): Weighted {
  const graph = createGraph<unknown, number>();
  type Node = { id: string; grip: Grip; carried: Carried | null; last: string };
  const nodeOf = (i: number, g: number, before: Node | null): Node => {
    const grip = grips[i]![g]!;
    const last = grip.open ? (before?.last ?? '') : `${i}/${g}`;
    return { id: `${i}/${g} after ${last}`, grip, carried: grip.open ? (before?.carried ?? null) : carriedBy(grip, moments[i]!).carried, last };
  };
  let layer: Node[] = grips[0]!.map((grip, g) => {
    const node = nodeOf(0, g, null);
    graph.addLink(START, node.id, ownCost(grip, moments[0]!, weighing) + startCost(grip, weighing) + LIFT);
    return node;
  });
  for (let i = 1; i < grips.length; i++) {
    const next = new Map<string, Node>();
    for (const from of layer) {
      grips[i]!.forEach((to, t) => {
        const node = nodeOf(i, t, from);
        next.set(node.id, node);
        graph.addLink(from.id, node.id, moveCost(from.grip, from.carried, to, moments[i]!, weighing) + ownCost(to, moments[i]!, weighing) + LIFT);
      });
    }
    layer = [...next.values()];
  }
  for (const node of layer) graph.addLink(node.id, END, LIFT);
  return graph;
}

/** Single strokes without rests: one node per stroke, start and end on the grid of the bow. */
export function bowGraph(atoms: readonly Atom[], instrument: keyof typeof HAIR_CM, costs: BowCosts): Weighted {
  const graph = createGraph<unknown, number>();
  const hairCm = HAIR_CM[instrument];
  const spans: StrokeSpan[] = atoms.map((_, i) => strokeSpan(atoms, i, i, usualBow(instrument), costs));
  const own = spans.map((span) => (start: number, end: number) => spanCost(span, gridPlace(start), gridPlace(end), hairCm, costs));
  const cells = (visit: (start: number, end: number) => void) => {
    for (let start = 0; start < GRID; start++) for (let end = 0; end < GRID; end++) if (start !== end) visit(start, end);
  };
  cells((start, end) => graph.addLink(START, `0/${start}/${end}`, own[0]!(start, end) + LIFT));
  for (let i = 1; i < atoms.length; i++) {
    const [before, after] = [spans[i - 1]!, spans[i]!];
    const again = hookCost(before, after, atoms[i - 1]!, atoms[i]!, costs);
    const change = changeCost(before, after, atoms, costs);
    const drift = driftWeight(before, after, atoms, costs);
    cells((startBefore, turn) => {
      const coupling = (start: number, end: number) =>
        loudnessCost(before, Math.abs(turn - startBefore), after, Math.abs(end - start), costs.loudness * costs.distribution);
      const down = turn > startBefore;
      for (let end = 0; end < GRID; end++) {
        if (end === turn) continue;
        graph.addLink(
          `${i - 1}/${startBefore}/${turn}`,
          `${i}/${turn}/${end}`,
          own[i]!(turn, end) +
            coupling(turn, end) +
            (end > turn === down ? again[down ? 0 : 1] : change + (drift ? driftCost(drift, Math.abs(turn - startBefore), Math.abs(end - turn)) : 0)) +
            LIFT,
        );
      }
      for (const start of RETAKE_CELLS) {
        if (start === turn || turn > start !== down) continue;
        const price = retakePrice((0.96 * Math.abs(turn - start)) / (GRID - 1), false, atoms[i - 1]!, atoms[i]!, costs);
        for (let end = 0; end < GRID; end++) {
          if (end === start || end > start !== down) continue;
          graph.addLink(`${i - 1}/${startBefore}/${turn}`, `${i}/${start}/${end}`, own[i]!(start, end) + coupling(start, end) + price + LIFT);
        }
      }
    });
  }
  cells((start, end) => graph.addLink(`${atoms.length - 1}/${start}/${end}`, END, LIFT));
  return graph;
}

/** The same strokes by our own search. */
export function ownBowSearch(atoms: readonly Atom[], instrument: keyof typeof HAIR_CM, costs: BowCosts, memory = newSearchMemory()): number {
  const spansEndingAt: StrokeSpan[][] = [[], ...atoms.map((_, i) => [strokeSpan(atoms, i, i, usualBow(instrument), costs)])];
  return cheapestBowing({ atoms, spansEndingAt, hairCm: HAIR_CM[instrument], costs }, memory).cost;
}
