/** Which spots have to be mended so that everybody can play at one tempo: as few as there can be. */
import type { TempoLimit } from '../checks/finding';
import { FINDINGS } from '../checks/kinds';

/** What limits a part, with its plan held as it is. */
export interface PartLimits {
  partId: string;
  name: string;
  limits: readonly TempoLimit[];
}

export interface SpotToMend extends TempoLimit {
  partId: string;
  name: string;
}

export interface Opening {
  /** Quarters per minute. */
  tempo: number;
  spots: SpotToMend[];
}

const isCeiling = ({ kind }: TempoLimit): boolean => FINDINGS[kind].limits === 'above';

/** The spots that stand in the way of a tempo, in the order of the bars. @param tempo quarters per minute */
export function spotsAgainst(parts: readonly PartLimits[], tempo: number): SpotToMend[] {
  return parts
    .flatMap(({ partId, name, limits }) =>
      limits.filter((limit) => (isCeiling(limit) ? limit.tempo < tempo : limit.tempo > tempo)).map((limit) => ({ ...limit, partId, name })),
    )
    .sort((a, b) => a.barIndex - b.barIndex || a.beat - b.beat);
}

/**
 * The tempo at which the fewest spots have to be mended; of several the one that lies nearest to the wanted one.
 * @param wanted quarters per minute
 */
export function cheapestOpening(parts: readonly PartLimits[], wanted: number): Opening {
  // Between two limits the count does not change: they, and the wanted tempo, are all that can be best.
  const tempi = [...new Set([wanted, ...parts.flatMap(({ limits }) => limits.map(({ tempo }) => tempo))])];
  const best = tempi
    .map((tempo) => ({ tempo, count: countAgainst(parts, tempo) }))
    .reduce((a, b) => (b.count < a.count || (b.count === a.count && Math.abs(b.tempo - wanted) < Math.abs(a.tempo - wanted)) ? b : a));
  return { tempo: best.tempo, spots: spotsAgainst(parts, best.tempo) };
}

const countAgainst = (parts: readonly PartLimits[], tempo: number): number =>
  parts.reduce((sum, { limits }) => sum + limits.filter((limit) => (isCeiling(limit) ? limit.tempo < tempo : limit.tempo > tempo)).length, 0);
