/**
 * Directions and distribution planned together: exact dynamic programming over where each stroke starts and ends on a
 * grid of the bow, with the loudness coupling of neighbouring strokes. What was found for an earlier version of the same
 * line can be kept (`SearchMemory`): then only the strokes around a change are searched anew, with the same result.
 */
import { atomKey, type Atom } from './atoms';
import { changeCost, hookCost, isLegato, LONGEST_FIGURE, retakePrice, spanCost } from './costs';
import type { StrokeSpan } from './stroke';
import { REST_SECONDS, type BowCosts } from './tables';

/** Places on the bow. */
export const GRID = 17;
const CELLS = GRID * GRID;

export interface PlannedSpan {
  span: StrokeSpan;
  from: number;
  to: number;
  /** How it begins. */
  start: 'first' | 'change' | 'hook' | 'retake';
  /** An even number of tremolo strokes: the bow is back where it began, and goes the other way last. */
  back: boolean;
}

export const gridPlace = (cell: number): number => 0.02 + (0.96 * cell) / (GRID - 1);

/** One candidate stroke with the cheapest way to every start and end of it. */
interface Layer {
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

export interface BowSearchInput {
  atoms: readonly Atom[];
  /** Candidate strokes by the atom after their last; `spans[b]` end at atom b − 1. */
  spansEndingAt: ReadonlyArray<readonly StrokeSpan[]>;
  hairCm: number;
  costs: BowCosts;
  /** Direction that the first stroke must not take (for the reversed strategy). */
  notFirst?: 'down' | 'up' | null;
}

/** What is kept from one search to the next on the same line; `kept` is never changed, only replaced. */
export interface SearchMemory {
  kept: { readonly keys: readonly string[]; readonly settings: string; readonly endingAt: ReadonlyArray<readonly Layer[]>; readonly offset: number } | null;
  tables: Tables;
}

export const newSearchMemory = (): SearchMemory => ({ kept: null, tables: new Tables() });

/** The memory that has the most atoms in common with these. */
export function nearest(memories: readonly SearchMemory[], atoms: readonly Atom[]): SearchMemory {
  const keys = atoms.map(atomKey);
  const common = ({ kept }: SearchMemory) => (kept?.keys.length === keys.length ? keys.filter((key, i) => key === kept.keys[i]).length : -1);
  return memories.reduce((best, memory) => (common(memory) > common(best) ? memory : best));
}

export interface FoundBowing {
  strokes: PlannedSpan[];
  cost: number;
  /** Atoms whose strokes were searched: all, or those around a change. */
  searched: number;
}

export function cheapestBowing(input: BowSearchInput, memory: SearchMemory = newSearchMemory()): FoundBowing {
  const { atoms } = input;
  const count = atoms.length;
  if (count === 0) return { strokes: [], cost: 0, searched: 0 };
  const settings = JSON.stringify([input.hairCm, input.costs, input.notFirst ?? null]);
  const keys = atoms.map(atomKey);
  const old = memory.kept?.settings === settings && memory.kept.keys.length === count ? memory.kept : null;
  const stale = staleEnds(atoms, keys, old?.keys ?? null);
  const endingAt: Array<readonly Layer[]> = [[]];
  let offset = old?.offset ?? 0;
  let searched = 0;
  /** Everything that ends here is as it was. */
  let asBefore = old !== null;
  for (let end = 1; end <= count; end++) {
    if (asBefore && !stale[end]) {
      endingAt.push(old!.endingAt[end]!);
      continue;
    }
    asBefore = false;
    searched++;
    const layers = input.spansEndingAt[end]!.map((span) => openedLayer(span, endingAt[span.from]!, input, memory.tables));
    endingAt.push(layers);
    if (!old || stale[end] || !beginsAnew(atoms[end])) continue;
    const difference = constantDifference(layers, old.endingAt[end]!);
    if (difference === null) continue;
    // From here on everything costs as much more as this: told apart once, so that the old layers can follow as they are.
    for (const layer of layers) lower(layer, difference);
    offset += difference;
    asBefore = true;
  }
  memory.kept = { keys, settings, endingAt, offset };
  const found = readBack(endingAt, atoms);
  return { strokes: found.strokes, cost: found.cost + offset, searched };
}

/** How far the costs of a stroke look to either side, in atoms: the figure before and the one after. */
const LOOK = LONGEST_FIGURE * 2;

/** Ends near a changed atom, from the beginning of a bar on, since slurs are cut as a whole; all where nothing is known. */
function staleEnds(atoms: readonly Atom[], keys: readonly string[], old: readonly string[] | null): Uint8Array {
  const stale = new Uint8Array(keys.length + 1).fill(old ? 0 : 1);
  if (!old) return stale;
  let done = 0;
  keys.forEach((key, changed) => {
    if (key === old[changed]) return;
    let from = Math.max(0, changed - LOOK);
    while (from > done && !(beginsAnew(atoms[from]) && keys[from] === old[from])) from--;
    done = Math.min(keys.length, changed + LOOK);
    for (let end = from + 1; end <= done; end++) stale[end] = 1;
  });
  return stale;
}

/** No stroke reaches over it: the first note of a bar, not slurred to the one before. */
const beginsAnew = (atom: Atom | undefined): boolean => atom !== undefined && atom.onBar && !atom.linked;

function lower(layer: Layer, by: number): void {
  const less = (value: number) => (value > HOPELESS ? value : value - by);
  const { cost, exit } = layer;
  delete layer.turns;
  delete layer.landings;
  delete layer.least;
  layer.cost = cost.map(less);
  layer.exit = exit === cost ? layer.cost : exit.map(less);
}

/** By how much the new layers cost more than the old ones, where that is the same for every cell; else null. */
function constantDifference(fresh: readonly Layer[], old: readonly Layer[]): number | null {
  if (fresh.length !== old.length) return null;
  let difference: number | null = null;
  for (let i = 0; i < fresh.length; i++) {
    const [a, b] = [fresh[i]!.exit, old[i]!.exit];
    if (fresh[i]!.span.from !== old[i]!.span.from) return null;
    for (let cell = 0; cell < CELLS; cell++) {
      if (a[cell]! > HOPELESS || b[cell]! > HOPELESS) {
        if (a[cell]! > HOPELESS !== b[cell]! > HOPELESS) return null;
        continue;
      }
      const here = a[cell]! - b[cell]!;
      difference ??= here;
      if (Math.abs(here - difference) > 1e-7) return null;
    }
  }
  return difference;
}

function openedLayer(span: StrokeSpan, before: readonly Layer[], input: BowSearchInput, tables: Tables): Layer {
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
function relax(before: Layer, beforeIndex: number, after: Layer, own: Float64Array, { atoms, costs }: BowSearchInput, tables: Tables): void {
  const atom = atoms[after.span.from]!;
  const lastAtom = atoms[after.span.from - 1]!;
  const inRest = atom.silenceS >= REST_SECONDS;
  const coupling = inRest ? NO_COUPLING : tables.coupling(before.span, after.span, costs);
  const again = inRest ? ([costs.retakeInRest, costs.retakeInRest] as const) : hookCost(before.span, after.span, lastAtom, atom, costs);
  const mustRepeat = atom.mustHook && !inRest;
  const legato = isLegato(before.span, after.span);
  const change = inRest ? 0 : changeCost(before.span, after.span, atoms, costs);
  if (!atom.mustRetake) relaxTurning(before, beforeIndex, after, own, coupling, again, change, mustRepeat);
  if (mustRepeat) return;
  const prices = retakePrices(inRest, lastAtom, atom, costs, legato);
  if (inRest) relaxInRest(before.exit, beforeIndex, after, own, prices);
  else relaxRetake(before, legato, prices, beforeIndex, after, own, coupling);
}

/** The bow stays on the string: the next stroke begins where the last one ended. */
function relaxTurning(
  before: Layer,
  beforeIndex: number,
  after: Layer,
  own: Float64Array,
  coupling: Float64Array,
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

/** In a rest the bow may be set anywhere and go either way; loudness starts afresh. */
function relaxInRest(from: Float64Array, beforeIndex: number, after: Layer, own: Float64Array, prices: Float64Array): void {
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
      const value = best[turn]! + (turn === start ? 0 : prices[turn > start ? turn - start : start - turn]!);
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

const NO_COUPLING = new Float64Array(CELLS);

const IMPOSSIBLE = Number.MAX_VALUE;

/** More than any real cost, even with a thousand unmet locks. */
const HOPELESS = 1e12;

/** Where a retake in mid-line may land: frog, lower half, middle, upper half. */
export const RETAKE_CELLS = [1, 4, 8, 12];

/** Tables that many strokes share, by what they depend on. */
class Tables {
  private readonly owns = new Map<string, Float64Array>();
  private readonly couplings = new Map<string, Float64Array>();

  /** Own cost of a stroke for every start and end. */
  own(span: StrokeSpan, { hairCm, costs }: BowSearchInput): Float64Array {
    const { seconds, preferredCm, home, zone, zoneAtStart, arrive, wish, slurCost, downCost, upCost, leastCm, mostCm } = span;
    const key = `${seconds} ${preferredCm} ${home} ${leastCm} ${mostCm} ${zone?.from} ${zone?.to} ${zoneAtStart} ${slurCost} ${downCost} ${upCost} ${hairCm} ${costs.distribution} ${costs.infeasible} ${costs.homePull}${arrive ? `arrive ${costs.arrive}` : ''}${wish ? JSON.stringify([wish, costs.wish]) : ''}`;
    return kept(this.owns, key, () => {
      const table = new Float64Array(CELLS);
      for (let start = 0; start < GRID; start++) {
        for (let end = 0; end < GRID; end++) {
          table[start * GRID + end] = start === end ? IMPOSSIBLE : spanCost(span, gridPlace(start), gridPlace(end), hairCm, costs);
        }
      }
      return table;
    });
  }

  /** Loudness coupling by the lengths of the stroke before and after, in cells. */
  coupling(before: StrokeSpan, after: StrokeSpan, costs: BowCosts): Float64Array {
    const weight = costs.loudness * costs.distribution;
    const wanted = 20 * Math.log10(after.wantedSpeed / before.wantedSpeed);
    const times = 20 * Math.log10(before.seconds / after.seconds);
    const shift = Math.round((times - wanted) * 1e6) / 1e6;
    return kept(this.couplings, `${shift} ${weight}`, () => {
      const table = new Float64Array(CELLS);
      for (let a = 1; a < GRID; a++) {
        for (let b = 1; b < GRID; b++) {
          const over = Math.max(0, Math.abs(LENGTH_DB[b]! - LENGTH_DB[a]! + shift) - 2) / 6;
          table[a * GRID + b] = weight * over * over;
        }
      }
      return table;
    });
  }
}

/** Tables kept at most; a piece has some hundred different strokes. */
const MOST_TABLES = 4000;

function kept(tables: Map<string, Float64Array>, key: string, make: () => Float64Array): Float64Array {
  let table = tables.get(key);
  if (!table) {
    if (tables.size >= MOST_TABLES) tables.clear();
    tables.set(key, (table = make()));
  }
  return table;
}

const LENGTH_DB = Float64Array.from({ length: GRID }, (_, cells) => (cells ? 20 * Math.log10(cells) : 0));

function readBack(endingAt: ReadonlyArray<readonly Layer[]>, atoms: readonly Atom[]): { strokes: PlannedSpan[]; cost: number } {
  let best = Infinity;
  let layer: Layer | undefined;
  let exitCell = -1;
  for (const each of endingAt.at(-1)!) {
    for (let c = 0; c < CELLS; c++) {
      if (each.exit[c]! < best) {
        best = each.exit[c]!;
        layer = each;
        exitCell = c;
      }
    }
  }
  const strokes: PlannedSpan[] = [];
  while (layer) {
    const { span, exit } = layer;
    const turned = (exitCell % GRID) * GRID + Math.floor(exitCell / GRID);
    const back = span.strokes === 0 ? layer.cost[exitCell]! > exit[exitCell]! : span.strokes % 2 === 0;
    const cell = back ? turned : exitCell;
    const start = Math.floor(cell / GRID);
    const end = cell % GRID;
    const previous: Layer | undefined = layer.backLayer[cell]! < 0 ? undefined : endingAt[span.from]![layer.backLayer[cell]!];
    const previousExit = layer.backCell[cell]!;
    let how: PlannedSpan['start'] = 'first';
    if (previous) {
      const turn = previousExit % GRID;
      const wasDown = turn > Math.floor(previousExit / GRID);
      const again = end > start === wasDown;
      const inRest = atoms[span.from]!.silenceS >= REST_SECONDS;
      how = inRest ? (turn !== start || again ? 'retake' : 'change') : turn !== start ? 'retake' : again ? 'hook' : 'change';
    }
    strokes.push({ span, from: gridPlace(start), to: gridPlace(end), start: how, back });
    layer = previous;
    exitCell = previousExit;
  }
  return { strokes: strokes.reverse(), cost: best };
}
