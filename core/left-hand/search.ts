/**
 * The exact search: the cheapest way through all grips of a line, by dynamic programming.
 * A stopped grip is a state of its own. An open string carries the hand with it: its state also says
 * which stopped grip came last, so that the time across a run of open strings is exact and the
 * problem stays a shortest path.
 */
import type { Grip } from './grip';
import { moveCost, ownCost, startCost, type Carried, type Moment, type Weighing } from './transition';

export interface SearchInput {
  /** Grips per event; none may be empty. */
  grips: ReadonlyArray<readonly Grip[]>;
  moments: readonly Moment[];
  weighing: Weighing;
}

export interface SearchResult {
  /** Index of the chosen grip per event. */
  choice: number[];
  cost: number;
}

interface State {
  grip: number;
  cost: number;
  back: number;
  carried: Carried | null;
  /** Identifies the place of the carried hand, whatever the event. */
  carriedKey: string;
}

export function cheapestPath({ grips, moments, weighing }: SearchInput): SearchResult {
  if (grips.length === 0) return { choice: [], cost: 0 };
  const columns: State[][] = [firstColumn(grips[0]!, moments[0]!, weighing)];
  for (let i = 1; i < grips.length; i++) columns.push(nextColumn(columns[i - 1]!, grips[i - 1]!, grips[i]!, moments[i]!, weighing));
  const last = columns[columns.length - 1]!;
  let at = 0;
  last.forEach((state, s) => {
    if (state.cost < last[at]!.cost) at = s;
  });
  const cost = last[at]!.cost;
  const choice = new Array<number>(grips.length);
  for (let i = grips.length - 1; i >= 0; i--) {
    const state = columns[i]![at]!;
    choice[i] = state.grip;
    at = state.back;
  }
  return { choice, cost };
}

function firstColumn(grips: readonly Grip[], moment: Moment, weighing: Weighing): State[] {
  return grips.map((grip, g) => ({
    grip: g,
    cost: ownCost(grip, moment, weighing) + startCost(grip, weighing),
    back: -1,
    ...carriedBy(grip, moment),
  }));
}

export function carriedBy(grip: Grip, moment: Moment): { carried: Carried | null; carriedKey: string } {
  if (grip.open) return { carried: null, carriedKey: '' };
  const { string, stop, finger, handMm, shape } = grip.lead;
  return {
    carried: { grip, endS: moment.endS, durationS: moment.endS - moment.onsetS },
    carriedKey: `${string}/${stop}/${finger}/${handMm.toFixed(1)}/${shape}`,
  };
}

function nextColumn(last: readonly State[], lastGrips: readonly Grip[], grips: readonly Grip[], moment: Moment, weighing: Weighing): State[] {
  const column: State[] = [];
  const order = last.map((_, s) => s).sort((a, b) => last[a]!.cost - last[b]!.cost);
  grips.forEach((grip, g) => {
    const own = ownCost(grip, moment, weighing);
    if (grip.open) openStates(last, order, lastGrips, grip, g, own, moment, weighing, column);
    else {
      let best = Infinity;
      let back = -1;
      for (const s of order) {
        const state = last[s]!;
        if (state.cost - FREE_RELIEF >= best) break;
        const cost = state.cost + moveCost(lastGrips[state.grip]!, state.carried, grip, moment, weighing);
        if (cost < best) {
          best = cost;
          back = s;
        }
      }
      column.push({ grip: g, cost: best + own, back, ...carriedBy(grip, moment) });
    }
  });
  return column;
}

/** A move never pays back more than this, so a dearer state cannot win any more (same-finger relief is the only refund). */
const FREE_RELIEF = 0.2;

/** One state per carried place; among those with the same place, one that is dearer and later is dropped. */
function openStates(
  last: readonly State[],
  order: readonly number[],
  lastGrips: readonly Grip[],
  grip: Grip,
  g: number,
  own: number,
  moment: Moment,
  weighing: Weighing,
  column: State[],
): void {
  const kept = new Map<string, State[]>();
  for (const s of order) {
    const state = last[s]!;
    const cost = state.cost + own + moveCost(lastGrips[state.grip]!, state.carried, grip, moment, weighing);
    const rivals = kept.get(state.carriedKey) ?? [];
    if (rivals.some((rival) => rival.cost <= cost && freeSince(rival.carried) <= freeSince(state.carried))) continue;
    const next: State = { grip: g, cost, back: s, carried: state.carried, carriedKey: state.carriedKey };
    rivals.push(next);
    kept.set(state.carriedKey, rivals);
    column.push(next);
  }
}

/** The moment from which the hand is free to travel: earlier is never worse. */
function freeSince(carried: Carried | null): number {
  return carried ? carried.endS - Math.min(0.15, carried.durationS / 2) : -Infinity;
}
