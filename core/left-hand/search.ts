/**
 * The exact search: the cheapest way through all grips of a line, by dynamic programming.
 * A stopped grip is a state of its own. An open string carries the hand with it: its state also says
 * which stopped grip came last, so that the time across a run of open strings is exact and the
 * problem stays a shortest path.
 */
import type { Grip } from './grip';
import { hidesShift, moveCost, ownCost, startCost, stolenFrom, type Carried, type Moment, type Weighing } from './transition';

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

export interface State {
  grip: number;
  cost: number;
  back: number;
  carried: Carried | null;
  /** Identifies the place of the carried hand, whatever the event. */
  carriedKey: string;
}

/** What is kept from one search of a line to the next; `kept` is never changed, only replaced. */
export interface PathMemory {
  /** Costs of moves that were asked for before, under the same weighing. */
  moves?: MoveTables;
  kept: {
    readonly grips: SearchInput['grips'];
    readonly moments: readonly Moment[];
    readonly columns: ReadonlyArray<readonly State[]>;
    /** What the costs of each column are short of the true ones. */
    readonly offsets: readonly number[];
  } | null;
}

/**
 * With a memory only the events around what changed are searched anew, with the same result: columns are taken over up to a
 * change, and again from where after it every state costs more by one constant than it did. Grips that did not change must be
 * the very same arrays, and the weighing the same as before.
 */
export function cheapestPath({ grips, moments, weighing }: SearchInput, memory: PathMemory = { kept: null }): SearchResult {
  const count = grips.length;
  if (count === 0) return { choice: [], cost: 0 };
  const old = memory.kept && memory.kept.grips.length === count ? memory.kept : null;
  const moves = (memory.moves ??= new MoveTables());
  const columns: Array<readonly State[]> = [];
  const offsets: number[] = [];
  /** How much more everything costs than before, while columns follow as they are. */
  let more = 0;
  let asBefore = old !== null;
  for (let i = 0; i < count; i++) {
    const same = old !== null && old.grips[i] === grips[i] && sameMoment(old.moments[i]!, moments[i]!);
    if (asBefore && same) {
      columns.push(old.columns[i]!);
      offsets.push(old.offsets[i]! + more);
      continue;
    }
    asBefore = false;
    let offset = offsets[i - 1] ?? 0;
    let column =
      i === 0
        ? firstColumn(grips[0]!, moments[0]!, weighing)
        : nextColumn(columns[i - 1]!, grips[i - 1]!, grips[i]!, moments[i - 1]!, moments[i]!, weighing, moves);
    const difference = same ? constantDifference(column, old.columns[i]!) : null;
    if (difference !== null) {
      column = column.map((state) => ({ ...state, cost: exact(state.cost - difference) }));
      offset += difference;
      more = offset - old!.offsets[i]!;
      asBefore = true;
    }
    columns.push(column);
    offsets.push(offset);
  }
  memory.kept = { grips, moments, columns, offsets };
  return { ...readBack(columns, count), cost: leastOf(columns.at(-1)!).cost + offsets.at(-1)! };
}

/** Costs in whole billionths: of two ways that cost the same, the same one is taken whatever was searched before. */
const exact = (cost: number): number => Math.round(cost * 1e9) / 1e9;

const sameMoment = (a: Moment, b: Moment): boolean =>
  a.onsetS === b.onsetS &&
  a.endS === b.endS &&
  a.slurredFromLast === b.slurredFromLast &&
  a.restBeforeS === b.restBeforeS &&
  a.grace === b.grace &&
  a.trillStep === b.trillStep &&
  a.leftPlucked === b.leftPlucked;

/** By how much all states of a column cost more than they did, where they are the same ones; else null. */
function constantDifference(fresh: readonly State[], old: readonly State[]): number | null {
  if (fresh.length !== old.length) return null;
  const difference = fresh[0]!.cost - old[0]!.cost;
  for (let s = 0; s < fresh.length; s++) {
    const [a, b] = [fresh[s]!, old[s]!];
    if (a.grip !== b.grip || a.carriedKey !== b.carriedKey || Math.abs(a.cost - b.cost - difference) > 1e-9) return null;
    if (a.carried?.endS !== b.carried?.endS || a.carried?.durationS !== b.carried?.durationS) return null;
  }
  return difference;
}

function leastOf(column: readonly State[]): { at: number; cost: number } {
  let at = 0;
  column.forEach((state, s) => {
    if (state.cost < column[at]!.cost) at = s;
  });
  return { at, cost: column[at]!.cost };
}

function readBack(columns: ReadonlyArray<readonly State[]>, count: number): { choice: number[] } {
  let { at } = leastOf(columns.at(-1)!);
  const choice = new Array<number>(count);
  for (let i = count - 1; i >= 0; i--) {
    const state = columns[i]![at]!;
    choice[i] = state.grip;
    at = state.back;
  }
  return { choice };
}

function firstColumn(grips: readonly Grip[], moment: Moment, weighing: Weighing): State[] {
  return grips.map((grip, g) => ({
    grip: g,
    cost: exact(ownCost(grip, moment, weighing) + startCost(grip, weighing)),
    back: -1,
    ...carriedBy(grip, moment),
  }));
}

export function carriedBy(grip: Grip, moment: Moment): { carried: Carried | null; carriedKey: string } {
  if (grip.open) return { carried: null, carriedKey: '' };
  return { carried: { grip, endS: moment.endS, durationS: moment.endS - moment.onsetS }, carriedKey: keyOf(grip) };
}

const keys = new WeakMap<Grip, string>();

/** Where the hand is with a grip, as a text. */
function keyOf(grip: Grip): string {
  let key = keys.get(grip);
  if (key === undefined) {
    const { string, stop, finger, handMm, shape } = grip.lead;
    keys.set(grip, (key = `${string}/${stop}/${finger}/${handMm.toFixed(1)}/${shape}`));
  }
  return key;
}

/** The same two notes come again and again in music: what it costs to go from one to the other is worked out once. */
export class MoveTables {
  private readonly tables = new WeakMap<readonly Grip[], Map<readonly Grip[], Map<string, Float64Array>>>();

  /** Costs by `from · count + to`, NaN where nobody asked yet; from stopped grips only, which the hand has just left. */
  between(lastGrips: readonly Grip[], grips: readonly Grip[], last: Moment, moment: Moment): Float64Array {
    const byNext = kept(this.tables, lastGrips, () => new Map<readonly Grip[], Map<string, Float64Array>>());
    const byMoment = kept(byNext, grips, () => new Map<string, Float64Array>());
    const free = Math.max(0, moment.onsetS - last.endS);
    const key = `${free.toFixed(7)} ${(last.endS - last.onsetS).toFixed(7)} ${moment.slurredFromLast} ${hidesShift(moment)}`;
    return kept(byMoment, key, () => new Float64Array(lastGrips.length * grips.length).fill(NaN));
  }
}

function kept<K, V>(map: { get(key: K): V | undefined; set(key: K, value: V): unknown }, key: K, make: () => V): V {
  let value = map.get(key);
  if (value === undefined) map.set(key, (value = make()));
  return value;
}

function nextColumn(
  last: readonly State[],
  lastGrips: readonly Grip[],
  grips: readonly Grip[],
  lastMoment: Moment,
  moment: Moment,
  weighing: Weighing,
  moves: MoveTables,
): State[] {
  const column: State[] = [];
  const table = moves.between(lastGrips, grips, lastMoment, moment);
  const count = grips.length;
  const order = last.map((_, s) => s).sort((a, b) => last[a]!.cost - last[b]!.cost);
  // What the inner loop asks of every state, the cheapest first, in plain rows of numbers.
  const costs = Float64Array.from(order, (s) => last[s]!.cost);
  const gripOf = Int32Array.from(order, (s) => last[s]!.grip);
  const isOpen = Uint8Array.from(order, (s) => (lastGrips[last[s]!.grip]!.open ? 1 : 0));
  const { mostRefund } = weighing;
  grips.forEach((grip, g) => {
    const own = ownCost(grip, moment, weighing);
    if (grip.open) openStates(last, order, lastGrips, grip, g, own, moment, weighing, column);
    else {
      let best = Infinity;
      let back = -1;
      for (let k = 0; k < costs.length; k++) {
        const before = costs[k]!;
        if (before - mostRefund >= best) break;
        const at = gripOf[k]! * count + g;
        let move = isOpen[k] ? NaN : table[at]!;
        if (move !== move) {
          move = moveCost(lastGrips[gripOf[k]!]!, last[order[k]!]!.carried, grip, moment, weighing);
          if (!isOpen[k]) table[at] = move;
        }
        if (before + move < best) {
          best = before + move;
          back = order[k]!;
        }
      }
      column.push({ grip: g, cost: exact(best + own), back, ...carriedBy(grip, moment) });
    }
  });
  return column;
}

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
  const { stolenSeconds } = weighing.costs;
  for (const s of order) {
    const state = last[s]!;
    const cost = exact(state.cost + own + moveCost(lastGrips[state.grip]!, state.carried, grip, moment, weighing));
    const rivals = kept.get(state.carriedKey) ?? [];
    if (rivals.some((rival) => rival.cost <= cost && freeSince(rival.carried, stolenSeconds) <= freeSince(state.carried, stolenSeconds))) continue;
    const next: State = { grip: g, cost, back: s, carried: state.carried, carriedKey: state.carriedKey };
    rivals.push(next);
    kept.set(state.carriedKey, rivals);
    column.push(next);
  }
}

/** The moment from which the hand is free to travel: earlier is never worse. */
function freeSince(carried: Carried | null, stolenSeconds: number): number {
  return carried ? carried.endS - stolenFrom(carried.durationS, stolenSeconds) : -Infinity;
}
