/**
 * One step of the bow search: what it costs to come from every start and end of one stroke to every start and end of the next, by
 * turning round, by going on, by a lift, and in a rest. Exact; cells of the grid are start·GRID + end.
 */
import type { Atom } from './atoms';
import { changeCost, driftWeight, hookCost, isLegato, retakePrice } from './costs';
import type { StrokeSpan } from './stroke';
import { REST_SECONDS, type BowCosts } from './tables';
import { GRID, CELLS, NO_COUPLING, IMPOSSIBLE, HOPELESS, RETAKE_CELLS, Tables } from './step-tables';

/** One candidate stroke with the cheapest way to every start and end of it. */
export interface Layer {
  span: StrokeSpan;
  /** Cost up to and with this stroke, by start·GRID + end. */
  cost: Float64Array;
  /** The same by the start and end of its last stroke: another order where a tremolo repeats the stroke. */
  exit: Float64Array;
  /** Which of the candidates that end where it begins comes before it, and at which cell. */
  backLayer: Int16Array;
  backCell: Int16Array;
  /** Worked out when a stroke is first tried after it: see `turnsOf`, `landingAt` and `leastOf`. */
  turns?: Turns;
  landings?: Landing[];
  least?: number;
}

/** What a step asks about the search that it is part of. */
export interface StepInput {
  atoms: readonly Atom[];
  hairCm: number;
  costs: BowCosts;
  /** Direction that the first stroke must not take (for the reversed strategy). */
  notFirst?: 'down' | 'up' | null;
}

/** A candidate stroke after all that end where it begins. */
export function openedLayer(span: StrokeSpan, before: readonly Layer[], input: StepInput, tables: Tables): Layer {
  const own = tables.own(span, input);
  const layer: Layer = {
    span,
    cost: own,
    exit: own,
    backLayer: new Int16Array(CELLS).fill(-1),
    backCell: new Int16Array(CELLS),
  };
  if (span.from === 0) {
    if (input.notFirst) layer.cost = withoutDirection(own, input.notFirst);
  } else {
    layer.cost = new Float64Array(CELLS).fill(IMPOSSIBLE);
    before.forEach((each, index) => relax(each, index, layer, own, input, tables));
  }
  layer.exit = exitOf(layer);
  return layer;
}

/** Costs by the last stroke of a tremolo: turned round for an even number, the better of both where nobody counts. */
function exitOf({ span, cost }: Layer): Float64Array {
  if (span.strokes % 2 === 1) return cost;
  const exit = new Float64Array(CELLS);
  for (let start = 0; start < GRID; start++) {
    for (let end = 0; end < GRID; end++) {
      const turned = cost[end * GRID + start]!;
      exit[start * GRID + end] = span.strokes === 0 ? Math.min(cost[start * GRID + end]!, turned) : turned;
    }
  }
  return exit;
}

function withoutDirection(own: Float64Array, direction: 'down' | 'up'): Float64Array {
  const cost = own.slice();
  for (let start = 0; start < GRID; start++) {
    for (let end = 0; end < GRID; end++) if (end > start === (direction === 'down')) cost[start * GRID + end] = IMPOSSIBLE;
  }
  return cost;
}

/** Best way to reach every start and end of `after` from every start and end of `before`. */
function relax(before: Layer, beforeIndex: number, after: Layer, own: Float64Array, { atoms, costs }: StepInput, tables: Tables): void {
  const atom = atoms[after.span.from]!;
  const lastAtom = atoms[after.span.from - 1]!;
  const inRest = atom.silenceS >= REST_SECONDS;
  const coupling = inRest ? NO_COUPLING : tables.coupling(before.span, after.span, costs);
  const drift = inRest ? 0 : driftWeight(before.span, after.span, atoms, costs);
  const turning = drift ? tables.coupling(before.span, after.span, costs, drift) : coupling;
  const again = inRest ? ([costs.retakeInRest, costs.retakeInRest] as const) : hookCost(before.span, after.span, lastAtom, atom, costs);
  const mustRepeat = atom.mustHook && !inRest;
  const legato = isLegato(before.span, after.span);
  const change = inRest ? 0 : changeCost(before.span, after.span, atoms, costs);
  if (!atom.mustRetake) relaxTurning(before, beforeIndex, after, own, [turning, coupling], again, change, mustRepeat);
  if (mustRepeat) return;
  const prices = retakePrices(inRest, lastAtom, atom, costs, legato);
  if (inRest) relaxInRest(before.exit, beforeIndex, after, own, prices, atom.mustRetake);
  else relaxRetake(before, legato, prices, beforeIndex, after, own, coupling);
}

/** The bow stays on the string: the next stroke begins where the last one ended. */
function relaxTurning(
  before: Layer,
  beforeIndex: number,
  after: Layer,
  own: Float64Array,
  couplings: readonly [turning: Float64Array, goingOn: Float64Array],
  againCost: readonly [down: number, up: number],
  change: number,
  mustRepeat: boolean,
): void {
  const { cost, backLayer, backCell } = after;
  const from = before.exit;
  const { order, downs, ups } = turnsOf(before);
  for (let turn = 0; turn < GRID; turn++) {
    const row = turn * GRID;
    for (let end = 0; end < GRID; end++) {
      if (end === turn) continue;
      const goesDown = end > turn;
      const at = row + end;
      const length = goesDown ? end - turn : turn - end;
      let best = cost[at]!;
      let bestCell = -1;
      // First the bow that turns round, then the one that goes on the same way. Cheapest beginnings first: once one costs too
      // much before the loudness is counted, so do all after it.
      for (let again = mustRepeat ? 1 : 0; again < 2; again++) {
        const wasDown = goesDown === (again === 1);
        const coupling = couplings[again]!;
        const ownCost = own[at]! + (again ? againCost[goesDown ? 0 : 1] : change);
        const first = wasDown ? row : row + turn;
        const last = first + (wasDown ? downs[turn]! : ups[turn]!);
        for (let i = first; i < last; i++) {
          const startBefore = order[i]!;
          const cell = startBefore * GRID + turn;
          const base = from[cell]! + ownCost;
          if (base >= best) break;
          const value = base + coupling[(wasDown ? turn - startBefore : startBefore - turn) * GRID + length]!;
          if (value < best) {
            best = value;
            bestCell = cell;
          }
        }
      }
      if (bestCell < 0) continue;
      cost[at] = best;
      backLayer[at] = beforeIndex;
      backCell[at] = bestCell;
    }
  }
}

/**
 * For each place where strokes end, in a row of its own: beginnings of down-bows in order of their cost, from the place's own
 * number on those of up-bows; and how many of each there are.
 */
interface Turns {
  order: Int8Array;
  downs: Int8Array;
  ups: Int8Array;
}

function turnsOf(layer: Layer): Turns {
  if (layer.turns) return layer.turns;
  const order = new Int8Array(CELLS);
  const downs = new Int8Array(GRID);
  const ups = new Int8Array(GRID);
  for (let turn = 0; turn < GRID; turn++) {
    const row = turn * GRID;
    downs[turn] = inOrder(layer.exit, turn, 0, turn, order, row);
    ups[turn] = inOrder(layer.exit, turn, turn + 1, GRID, order, row + turn);
  }
  return (layer.turns = { order, downs, ups });
}

/** Puts the possible beginnings from `first` up to `last` in order of their cost; returns how many there are. */
function inOrder(from: Float64Array, turn: number, first: number, last: number, order: Int8Array, into: number): number {
  let end = into;
  for (let start = first; start < last; start++) {
    const value = from[start * GRID + turn]!;
    if (value > HOPELESS) continue;
    let at = end++;
    for (; at > into && from[order[at - 1]! * GRID + turn]! > value; at--) order[at] = order[at - 1]!;
    order[at] = start;
  }
  return end - into;
}

/** What a stroke offers to one that begins after a lift, at one place and in one direction. */
interface Landing {
  /** Lengths of the last stroke for which there is a way, cheapest first. */
  count: number;
  order: Int8Array;
  /** By length: the cheapest cost, and the cell that it comes from. */
  least: Float64Array;
  cells: Int16Array;
}

/**
 * What follows a lift depends on the stroke before only by its direction and length, so for each of these the cheapest place to
 * come from is found first; the same for every stroke that may follow, but for the price between slurs.
 */
function landingAt(from: Float64Array, start: number, down: boolean, prices: Float64Array): Landing {
  const firstTurn = down ? start + 1 : 0;
  const lastTurn = down ? GRID - 1 : start - 1;
  const least = new Float64Array(GRID);
  const cells = new Int16Array(GRID);
  const order = new Int8Array(GRID);
  let count = 0;
  for (let length = 1; length < GRID; length++) {
    let best = HOPELESS;
    let bestCell = 0;
    const first = down ? Math.max(firstTurn, length) : firstTurn;
    const last = down ? lastTurn : Math.min(lastTurn, GRID - 1 - length);
    for (let turn = first; turn <= last; turn++) {
      const cell = (down ? turn - length : turn + length) * GRID + turn;
      const value = from[cell]! + prices[down ? turn - start : start - turn]!;
      if (value < best) {
        best = value;
        bestCell = cell;
      }
    }
    if (best >= HOPELESS) continue;
    least[length] = best;
    cells[length] = bestCell;
    let at = count++;
    for (; at > 0 && least[order[at - 1]!]! > best; at--) order[at] = order[at - 1]!;
    order[at] = length;
  }
  return { count, order, least, cells };
}

/** The bow is lifted and begins the same way again, further back. Landings are looked at only where a lift could pay. */
function relaxRetake(before: Layer, legato: boolean, prices: Float64Array, beforeIndex: number, after: Layer, own: Float64Array, coupling: Float64Array): void {
  const { cost, backLayer, backCell } = after;
  const landings = (before.landings ??= []);
  const cheapest = leastOf(before) + prices[0]!;
  RETAKE_CELLS.forEach((start, place) => {
    for (let down = 0; down < 2; down++) {
      const first = down ? start + 1 : 0;
      const last = down ? GRID - 1 : start - 1;
      let landing: Landing | undefined;
      for (let end = first; end <= last; end++) {
        const at = start * GRID + end;
        const ownCost = own[at]!;
        if (cheapest + ownCost >= cost[at]!) continue;
        landing ??= landings[place * 4 + down * 2 + (legato ? 1 : 0)] ??= landingAt(before.exit, start, down === 1, prices);
        const { count, order, least, cells } = landing;
        const afterLength = down ? end - start : start - end;
        for (let i = 0; i < count; i++) {
          const length = order[i]!;
          const base = least[length]! + ownCost;
          if (base >= cost[at]!) break;
          const value = base + coupling[length * GRID + afterLength]!;
          if (value < cost[at]!) {
            cost[at] = value;
            backLayer[at] = beforeIndex;
            backCell[at] = cells[length]!;
          }
        }
      }
    }
  });
}

/** The cheapest way to end a stroke. */
function leastOf(layer: Layer): number {
  if (layer.least === undefined) {
    let least = IMPOSSIBLE;
    for (const value of layer.exit) if (value < least) least = value;
    layer.least = least;
  }
  return layer.least;
}

/** Prices of lifts by their distance in cells; the shortest is the cheapest. */
function retakePrices(inRest: boolean, lastAtom: Atom, atom: Atom, costs: BowCosts, legato: boolean): Float64Array {
  const prices = new Float64Array(GRID);
  for (let cells = 0; cells < GRID; cells++) prices[cells] = retakePrice((0.96 * cells) / (GRID - 1), inRest, lastAtom, atom, costs, legato);
  return prices;
}

/** In a rest the bow may be set anywhere and go either way; loudness starts afresh. Beginning where it ended is looked at by `relaxTurning`, but where a lift is asked for. */
function relaxInRest(from: Float64Array, beforeIndex: number, after: Layer, own: Float64Array, prices: Float64Array, mustRetake: boolean): void {
  const { cost, backLayer, backCell } = after;
  // For each place only the cheapest way to have ended there counts.
  const best = new Float64Array(GRID).fill(IMPOSSIBLE);
  const bestCell = new Int16Array(GRID);
  for (let cell = 0; cell < CELLS; cell++) {
    const turn = cell % GRID;
    if (from[cell]! < best[turn]!) {
      best[turn] = from[cell]!;
      bestCell[turn] = cell;
    }
  }
  for (let start = 0; start < GRID; start++) {
    let least = HOPELESS;
    let leastCell = -1;
    for (let turn = 0; turn < GRID; turn++) {
      if (turn === start && !mustRetake) continue;
      const value = best[turn]! + prices[turn > start ? turn - start : start - turn]!;
      if (value < least) {
        least = value;
        leastCell = bestCell[turn]!;
      }
    }
    if (leastCell < 0) continue;
    for (let end = 0; end < GRID; end++) {
      const at = start * GRID + end;
      const value = least + own[at]!;
      if (value < cost[at]!) {
        cost[at] = value;
        backLayer[at] = beforeIndex;
        backCell[at] = leastCell;
      }
    }
  }
}
