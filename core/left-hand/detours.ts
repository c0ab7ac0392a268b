/**
 * Other ways that are nearly as good: the best way's fingers are forbidden one by one where it shifts, then those of the ways
 * found so, the cheapest first (after Lawler's way to the k best, cut off after so many searches).
 */
import type { Prepared } from './fingering';
import type { Grip } from './grip';
import { cheapestPath, type PathMemory } from './search';
import { isShift } from './shift';
import type { Weighing } from './transition';

interface Node {
  choice: readonly number[];
  cost: number;
  /** Fingers that may not be used, by event. */
  forbidden: ReadonlyMap<number, ReadonlySet<string>>;
  /** Event that made it another way; -1 for the best one. */
  at: number;
}

export interface Detour {
  choice: readonly number[];
  /** Event at which it leaves the way it came from. */
  at: number;
}

/** Searches that are made at most: each takes a fraction of the first one. */
const SEARCHES = 18;
/** Places of one way that are forbidden. */
const SPOTS = 6;

const visible = (grip: Grip): string => grip.places.map((place) => `${place.string}.${place.finger}`).join('+');

/**
 * @param path the search that found the best way, so that the others are searched only around what is forbidden
 * @returns choices of grips of `prepared`, the cheapest first; not the best way itself
 */
export function detours(prepared: Prepared, best: readonly number[], weighing: Weighing, path: PathMemory): Detour[] {
  const { grips, moments } = prepared;
  const found: Node[] = [];
  const seen = new Set([rowOf(best, grips)]);
  const open: Node[] = [{ choice: best, cost: 0, forbidden: new Map(), at: -1 }];
  let left = SEARCHES;
  while (left > 0 && open.length > 0) {
    open.sort((a, b) => a.cost - b.cost);
    const node = open.shift()!;
    for (const at of spotsOf(node, grips)) {
      if (left-- <= 0) break;
      const own = new Set([...(node.forbidden.get(at) ?? []), visible(grips[at]![node.choice[at]!]!)]);
      const forbidden = new Map(node.forbidden).set(at, own);
      const allowed = grips.map((list, i) => (forbidden.has(i) ? list.filter((grip) => !forbidden.get(i)!.has(visible(grip))) : list));
      if (allowed[at]!.length === 0) continue;
      const { choice, cost } = cheapestPath({ grips: allowed, moments, weighing }, { ...path });
      const made = choice.map((g, i) => (forbidden.has(i) ? grips[i]!.indexOf(allowed[i]![g]!) : g));
      const row = rowOf(made, grips);
      if (seen.has(row)) continue;
      seen.add(row);
      const next: Node = { choice: made, cost, forbidden, at };
      found.push(next);
      open.push(next);
    }
  }
  return found.sort((a, b) => a.cost - b.cost).map(({ choice, at }) => ({ choice, at }));
}

const rowOf = (choice: readonly number[], grips: Prepared['grips']): string => choice.map((g, i) => visible(grips[i]![g]!)).join(' ');

/** Where another finger is most likely to be worth a thought: at shifts and just before them, then from the start on. */
function spotsOf({ choice }: Node, grips: Prepared['grips']): number[] {
  const spots = new Set<number>();
  let last: Grip | null = null;
  choice.forEach((g, i) => {
    const grip = grips[i]![g]!;
    if (grips[i]!.length > 1 && last && !grip.open && isShift(last.lead, grip.lead)) spots.add(i).add(i - 1);
    if (!grip.open) last = grip;
  });
  for (let i = 0; i < choice.length && spots.size < SPOTS; i++) if (grips[i]!.length > 1) spots.add(i);
  return [...spots].slice(0, SPOTS);
}
