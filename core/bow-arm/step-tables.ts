/** What a step costs by where a stroke starts and ends, worked out once for all strokes that are alike in it. */
import { driftCost, spanCost } from './costs';
import type { StrokeSpan } from './stroke';
import type { BowCosts } from './tables';
import type { StepInput } from './step';

/** Places on the bow. */
export const GRID = 17;

export const CELLS = GRID * GRID;

export const gridPlace = (cell: number): number => 0.02 + (0.96 * cell) / (GRID - 1);

export const NO_COUPLING = new Float64Array(CELLS);

export const IMPOSSIBLE = Number.MAX_VALUE;

/** More than any real cost, even with a thousand unmet locks. */
export const HOPELESS = 1e12;

/** Where a retake in mid-line may land: frog, lower half, middle, upper half. */
export const RETAKE_CELLS = [1, 4, 8, 12];

/** Tables that many strokes share, by what they depend on. */
export class Tables {
  private readonly owns = new Map<string, Float64Array>();
  private readonly couplings = new Map<string, Float64Array>();

  /** Own cost of a stroke for every start and end. */
  own(span: StrokeSpan, { hairCm, costs }: StepInput): Float64Array {
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

  /** Loudness coupling by the lengths of the stroke before and after, in cells; with the drift of a figure where it has a weight. */
  coupling(before: StrokeSpan, after: StrokeSpan, costs: BowCosts, drift = 0): Float64Array {
    const weight = costs.loudness * costs.distribution;
    const wanted = 20 * Math.log10(after.wantedSpeed / before.wantedSpeed);
    const times = 20 * Math.log10(before.seconds / after.seconds);
    const shift = Math.round((times - wanted) * 1e6) / 1e6;
    return kept(this.couplings, `${shift} ${weight} ${drift}`, () => {
      const table = new Float64Array(CELLS);
      for (let a = 1; a < GRID; a++) {
        for (let b = 1; b < GRID; b++) {
          const over = Math.max(0, Math.abs(LENGTH_DB[b]! - LENGTH_DB[a]! + shift) - 2) / 6;
          table[a * GRID + b] = weight * over * over + (drift ? driftCost(drift, a, b) : 0);
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
