/**
 * Directions and distribution planned together: exact dynamic programming over where each stroke starts and ends on a
 * grid of the bow, with the loudness coupling of neighbouring strokes. What was found for an earlier version of the same
 * line can be kept (`SearchMemory`): then only the strokes around a change are searched anew, with the same result.
 */
import { finished, type Steps } from '../util/steps';
import { atomKey, type Atom } from './atoms';
import { LONGEST_FIGURE } from './costs';
import type { StrokeSpan } from './stroke';
import { openedLayer, type Layer, type StepInput } from './step';
import { CELLS, GRID, gridPlace, HOPELESS, Tables } from './step-tables';
import { REST_SECONDS } from './tables';

export interface PlannedSpan {
  span: StrokeSpan;
  from: number;
  to: number;
  /** How it begins. */
  start: 'first' | 'change' | 'hook' | 'retake';
  /** An even number of tremolo strokes: the bow is back where it began, and goes the other way last. */
  back: boolean;
}

export interface BowSearchInput extends StepInput {
  /** Candidate strokes by the atom after their last; `spans[b]` end at atom b − 1. */
  spansEndingAt: ReadonlyArray<readonly StrokeSpan[]>;
}

/** What is kept from one search to the next on the same line; `kept` is never changed, only replaced. */
export interface SearchMemory {
  kept: {
    readonly keys: readonly string[];
    readonly settings: string;
    readonly endingAt: ReadonlyArray<readonly Layer[]>;
    /** What the costs at each end are short of the true ones. */ readonly offsets: readonly number[];
  } | null;
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

export const cheapestBowing = (input: BowSearchInput, memory: SearchMemory = newSearchMemory()): FoundBowing => finished(bowingInSteps(input, memory));

/** Ends that are searched before whoever waits may do something else. */
const ENDS_A_STEP = 24;

/** The same in steps of a few milliseconds. */
export function* bowingInSteps(input: BowSearchInput, memory: SearchMemory): Steps<FoundBowing> {
  const { atoms } = input;
  const count = atoms.length;
  if (count === 0) return { strokes: [], cost: 0, searched: 0 };
  const settings = JSON.stringify([input.hairCm, input.costs, input.notFirst ?? null]);
  const keys = atoms.map(atomKey);
  const old = memory.kept?.settings === settings && memory.kept.keys.length === count ? memory.kept : null;
  const stale = staleEnds(atoms, keys, old?.keys ?? null);
  const endingAt: Array<readonly Layer[]> = [[]];
  const offsets = [0];
  /** How much more everything costs than before, while layers follow as they are. */
  let more = 0;
  let searched = 0;
  /** Everything that ends here is as it was. */
  let asBefore = old !== null;
  for (let end = 1; end <= count; end++) {
    if (asBefore && !stale[end]) {
      endingAt.push(old!.endingAt[end]!);
      offsets.push(old!.offsets[end]! + more);
      continue;
    }
    asBefore = false;
    if (++searched % ENDS_A_STEP === 0) yield;
    const layers = input.spansEndingAt[end]!.map((span) => openedLayer(span, endingAt[span.from]!, input, memory.tables));
    endingAt.push(layers);
    offsets.push(offsets[end - 1]!);
    if (!old || stale[end] || !beginsAnew(atoms[end])) continue;
    const difference = constantDifference(layers, old.endingAt[end]!);
    if (difference === null) continue;
    // From here on everything costs as much more as this: told apart once, so that the old layers can follow as they are.
    for (const layer of layers) lower(layer, difference);
    offsets[end]! += difference;
    more = offsets[end]! - old.offsets[end]!;
    asBefore = true;
  }
  memory.kept = { keys, settings, endingAt, offsets };
  const found = readBack(endingAt, atoms);
  return { strokes: found.strokes, cost: found.cost + offsets[count]!, searched };
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
