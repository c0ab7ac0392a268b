/** The check sheet: a tempo verdict in the beat that is felt, and the spots that matter most, in bar order. */
import { feltUnitOf, type BeatUnit } from '../score/beat-unit';
import type { Part } from '../score/score';
import type { Tempi, TempoRange } from './tempi';
import { isQuiet, type Finding } from './finding';

export interface TempoVerdict {
  wanted: number;
  /** In the beat that is felt at the beginning. */
  unit: BeatUnit;
  /** Tempi at which nothing passes its threshold, quarters per minute; null where nothing limits. */
  floor: number | null;
  ceiling: number | null;
  none: TempoRange['none'];
  /** With the plan that is shown. */
  works: boolean;
  /** It does with another plan, as far as is known. */
  otherwise: boolean;
  /** What limits it, and what would be next. */
  limitedBy: Spot | null;
  next: Spot | null;
  /** Where to practise: from well below the limit to just under it (judgement: 70 and 95 %). */
  practise: { from: number; to: number } | null;
}

export interface Spot {
  kind: string;
  bar: string;
  beat: number;
  tempo: number;
}

/** @param planned of the plan that is shown @param best over plans */
export function tempoVerdict(planned: TempoRange, best: Tempi['tempo'], part: Part): TempoVerdict {
  const { wanted, floor, ceiling, limitedBy, next, none } = best;
  const works = worksAt(wanted, planned);
  const spot = (limit: typeof limitedBy): Spot | null =>
    limit && { kind: limit.kind, bar: part.bars[limit.barIndex]!.label, beat: limit.beat, tempo: Math.floor(limit.tempo) };
  return {
    wanted,
    unit: feltUnitOf(part),
    floor,
    ceiling,
    none,
    works,
    otherwise: !works && worksAt(wanted, best),
    limitedBy: spot(limitedBy),
    next: spot(next),
    practise: none === null && ceiling !== null && ceiling < wanted ? { from: Math.max(20, Math.round(ceiling * 0.7)), to: Math.round(ceiling * 0.95) } : null,
  };
}

const worksAt = (tempo: number, { none, ceiling, floor }: TempoRange): boolean =>
  none === null && (ceiling === null || tempo <= ceiling) && (floor === null || tempo >= floor);

export interface SheetSpot {
  finding: Finding;
  /** What else is wrong at the same note, milder. */
  also: Finding['kind'][];
}

/** The spots that a page holds: the worst, one for each note and one of a kind for each bar, in bar order; traps for the eye only where there is room. */
export function spotsFor(findings: readonly Finding[], most: number): SheetSpot[] {
  const spots: SheetSpot[] = [];
  const worstFirst = [...findings].sort((a, b) => Number(isQuiet(a)) - Number(isQuiet(b)) || b.severity - a.severity || a.barIndex - b.barIndex);
  for (const finding of worstFirst) {
    const there = spots.find((spot) => spot.finding.noteIds.at(-1) === finding.noteIds.at(-1));
    if (there && !isQuiet(finding)) there.also.push(finding.kind);
    else if (!there && !spots.some((spot) => spot.finding.kind === finding.kind && spot.finding.barIndex === finding.barIndex))
      spots.push({ finding, also: [] });
  }
  return spots.slice(0, most).sort((a, b) => a.finding.barIndex - b.finding.barIndex || a.finding.beat - b.finding.beat);
}
