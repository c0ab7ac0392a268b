/**
 * The places of a plan between the points of the grid: with directions and cuts as they are, every turning point may move
 * in a corridor around where the search put it, and the best of all is found exactly, in ever finer steps.
 */
import { placeCost, retakePrice } from './costs';
import type { Atom } from './atoms';
import type { PlannedSpan } from './search';
import { REST_SECONDS, retakeSeconds, type BowCosts } from './tables';

/** Steps to either side and their width, as a share of the bow. */
const CORRIDORS = [
  { steps: 5, width: 0.03 },
  { steps: 3, width: 0.012 },
  { steps: 3, width: 0.004 },
] as const;

const LEAST = 0.005;

type Places = ReadonlyArray<{ from: number; to: number }>;

/** Places found earlier, by the strokes that they are for; forgotten all at once when the descriptions grow too long. */
export class Refinements {
  private readonly known = new Map<string, Places>();
  private characters = 0;

  find(key: string, make: () => Places): Places {
    let places = this.known.get(key);
    if (!places) {
      if (this.characters > MOST_CHARACTERS) {
        this.known.clear();
        this.characters = 0;
      }
      this.known.set(key, (places = make()));
      this.characters += key.length;
    }
    return places;
  }
}

const MOST_CHARACTERS = 8_000_000;

export function refined(strokes: readonly PlannedSpan[], atoms: readonly Atom[], hairCm: number, costs: BowCosts, known = new Refinements()): PlannedSpan[] {
  const settings = JSON.stringify([hairCm, costs]);
  return stretches(strokes, atoms).flatMap((stretch) => {
    const key =
      settings +
      JSON.stringify(stretch.map(({ span: { from, to: _, ...span }, ...stroke }) => [span, stroke, stroke.start === 'retake' && timeBefore(atoms, from)]));
    const places = known.find(key, () => CORRIDORS.reduce<PlannedSpan[]>((row, corridor) => followed(row, atoms, hairCm, costs, corridor), stretch));
    return stretch.map((stroke, i) => ({ ...stroke, from: places[i]!.from, to: places[i]!.to }));
  });
}

/** What the price of a retake depends on besides its distance. */
const timeBefore = (atoms: readonly Atom[], at: number) => [
  atoms[at - 1]?.seconds,
  atoms[at]!.silenceS,
  atoms[at]!.mustRetake,
  atoms[at]!.lock,
  atoms[at - 1]?.lock,
];

/** Where the bow is set anew in a rest nothing depends on the places before it, as long as there is time. */
function stretches(strokes: readonly PlannedSpan[], atoms: readonly Atom[]): PlannedSpan[][] {
  const result: PlannedSpan[][] = [];
  for (const stroke of strokes) {
    const free = stroke.start === 'retake' && atoms[stroke.span.from]!.silenceS >= WHOLE_BOW_BACK_S;
    if (free || result.length === 0) result.push([stroke]);
    else result.at(-1)!.push(stroke);
  }
  return result;
}

const WHOLE_BOW_BACK_S = retakeSeconds(1);

/** Where a place comes to lie at the edge of its corridor, the corridor moves with it. */
function followed(row: PlannedSpan[], atoms: readonly Atom[], hairCm: number, costs: BowCosts, corridor: (typeof CORRIDORS)[number]): PlannedSpan[] {
  const edge = corridor.steps * corridor.width - 1e-9;
  let before = row;
  for (let times = 0; times < MOST_MOVES; times++) {
    const after = settled(before, atoms, hairCm, costs, corridor);
    const atEdge = after.some(({ from, to }, i) => Math.abs(from - before[i]!.from) >= edge || Math.abs(to - before[i]!.to) >= edge);
    before = after;
    if (!atEdge) break;
  }
  return before;
}

const MOST_MOVES = 5;

interface Column {
  /** Candidate places of its start and its end. */
  starts: readonly number[];
  ends: readonly number[];
  /** Cheapest cost by start·ends + end. */
  cost: Float64Array;
  back: Int32Array;
  lengthDb: Float64Array;
}

function settled(
  strokes: readonly PlannedSpan[],
  atoms: readonly Atom[],
  hairCm: number,
  costs: BowCosts,
  corridor: (typeof CORRIDORS)[number],
): PlannedSpan[] {
  const weight = costs.loudness * costs.distribution;
  const columns: Column[] = [];
  strokes.forEach((stroke, k) => {
    const before = strokes[k - 1];
    const column = openColumn(stroke, before, columns[k - 1], hairCm, costs, corridor);
    const last = columns[k - 1];
    if (before && last) {
      const atom = atoms[stroke.span.from]!;
      const own = column.cost;
      column.cost = new Float64Array(own.length).fill(Infinity);
      const inRest = atom.silenceS >= REST_SECONDS;
      const bias = 20 * Math.log10((before.span.seconds * before.span.wantedSpeed) / (stroke.span.seconds * stroke.span.wantedSpeed));
      const chained = stroke.start !== 'retake';
      const cheapest = inRest && !chained ? cheapestCells(last, before) : null;
      for (let s = 0; s < column.starts.length; s++) {
        const from = cheapest ?? cellsThatEndAt(last, before, chained ? s : null);
        for (let e = 0; e < column.ends.length; e++) {
          const at = s * column.ends.length + e;
          if (own[at] === Infinity) continue;
          for (const cell of from) {
            let value = last.cost[cell]! + own[at]!;
            if (value >= column.cost[at]!) continue;
            if (!inRest) {
              const over = (Math.abs(column.lengthDb[at]! - last.lengthDb[cell]! + bias) - 2) / 6;
              if (over > 0) value += weight * over * over;
            }
            if (!chained) value += retakePrice(placeOfExit(last, before, cell) - column.starts[s]!, inRest, atoms[stroke.span.from - 1]!, atom, costs);
            if (value < column.cost[at]!) {
              column.cost[at] = value;
              column.back[at] = cell;
            }
          }
        }
      }
    }
    columns.push(column);
  });
  return readBack(strokes, columns);
}

function openColumn(
  stroke: PlannedSpan,
  before: PlannedSpan | undefined,
  last: Column | undefined,
  hairCm: number,
  costs: BowCosts,
  { steps, width }: (typeof CORRIDORS)[number],
): Column {
  const around = (place: number): number[] => {
    const places: number[] = [];
    for (let i = -steps; i <= steps; i++) places.push(Math.min(1 - LEAST, Math.max(LEAST, place + i * width)));
    return places;
  };
  const chained = before && last && stroke.start !== 'retake';
  const starts = chained ? (before.back ? last.starts : last.ends) : around(stroke.from);
  const ends = around(stroke.to);
  const cost = new Float64Array(starts.length * ends.length).fill(Infinity);
  const lengthDb = new Float64Array(cost.length);
  const down = stroke.to > stroke.from;
  starts.forEach((from, s) =>
    ends.forEach((to, e) => {
      if (to > from !== down || Math.abs(to - from) < LEAST) return;
      const at = s * ends.length + e;
      cost[at] = placeCost(stroke.span, from, to, hairCm, costs);
      lengthDb[at] = 20 * Math.log10(Math.abs(to - from));
    }),
  );
  return { starts, ends, cost, back: new Int32Array(cost.length).fill(-1), lengthDb };
}

const placeOfExit = ({ starts, ends }: Column, { back }: PlannedSpan, cell: number): number =>
  back ? starts[Math.floor(cell / ends.length)]! : ends[cell % ends.length]!;

/** Cells of a column that leave the bow at the n-th of its exit places; all that are possible for null. */
function cellsThatEndAt(column: Column, stroke: PlannedSpan, exit: number | null): number[] {
  const cells: number[] = [];
  for (let cell = 0; cell < column.cost.length; cell++) {
    if (column.cost[cell] === Infinity) continue;
    const index = stroke.back ? Math.floor(cell / column.ends.length) : cell % column.ends.length;
    if (exit === null || exit === index) cells.push(cell);
  }
  return cells;
}

/** For each exit place the one cheapest cell: enough where loudness starts afresh. */
function cheapestCells(column: Column, stroke: PlannedSpan): number[] {
  const best = new Map<number, number>();
  for (const cell of cellsThatEndAt(column, stroke, null)) {
    const index = stroke.back ? Math.floor(cell / column.ends.length) : cell % column.ends.length;
    const known = best.get(index);
    if (known === undefined || column.cost[cell]! < column.cost[known]!) best.set(index, cell);
  }
  return [...best.values()];
}

function readBack(strokes: readonly PlannedSpan[], columns: readonly Column[]): PlannedSpan[] {
  const result = strokes.map((stroke) => ({ ...stroke }));
  const end = columns.at(-1);
  if (!end) return result;
  let cell = end.cost.reduce((best, value, i) => (value < end.cost[best]! ? i : best), 0);
  for (let k = columns.length - 1; k >= 0; k--) {
    const { starts, ends, back, cost } = columns[k]!;
    if (cell < 0 || cost[cell] === Infinity) return [...strokes];
    result[k]!.from = starts[Math.floor(cell / ends.length)]!;
    result[k]!.to = ends[cell % ends.length]!;
    cell = back[cell]!;
  }
  return result;
}
