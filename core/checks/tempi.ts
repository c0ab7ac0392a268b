/**
 * Up to which tempo, and from which, a passage works. With a plan held fixed each finding that depends on the tempo begins at a tempo of its
 * own; which plan is the best depends on the tempo that it is made for, so the tempi of a passage are the best over the plan for
 * the wanted tempo and two for quicker ones, which spare wherever they can.
 */
import type { Passage } from '../score/passages';
import type { Part } from '../score/score';
import { clockFor, FASTEST_TEMPO, firstTempo } from '../score/time';
import { linesInSteps, type PlanMemory } from '../plan/plan';
import { finished, type Steps } from '../util/steps';
import type { Checked, CheckRequest } from './check';
import { aimOf } from './context';
import type { Finding, TempoLimit } from './finding';
import { foundInLines } from './found';
import { FINDINGS } from './kinds';

/** The tempi at which nothing passes its threshold, in quarters per minute. */
export interface TempoRange {
  /** Fastest and slowest; null where nothing limits. */
  ceiling: number | null;
  floor: number | null;
  limitedBy: TempoLimit | null;
  /** What would limit it next, were that solved. */
  next: TempoLimit | null;
  /** Why there is no tempo at all: something cannot be played, or what is too slow for one spot is too quick for another. */
  none: 'unplayable' | 'too slow and too quick' | null;
}

export interface PassageTempo extends TempoRange {
  name: string;
  fromBar: number;
  toBar: number;
}

export interface Tempi {
  tempo: TempoRange & { wanted: number };
  passages: PassageTempo[];
}

/** What limits a plan, and what was found in it. */
interface PlanLimits {
  limits: readonly TempoLimit[];
  findings: readonly Finding[];
}

/**
 * How many times the printed or guessed tempo the quick plans are made for. Measured over 92 passages of the demo and of real scores, each wanted at eleven
 * tempi from half to 2.8 times the printed one: with the plan for the wanted tempo alone the ceilings of a passage lie 12 % apart on the average
 * (22 passages by more than 3 %), with these two beside it .2 % (2 passages).
 */
const QUICK = [1.4, 2.8] as const;

/** The tempi of the quick plans: of the part alone, whatever is wanted. @returns quarters per minute */
export const quickTempi = (part: Part): number[] => QUICK.map((times) => Math.min(FASTEST_TEMPO, times * firstTempo(part).quartersPerMinute));

/** What is remembered of the quick plans, for each a memory of every line. */
export type QuickMemories = readonly (readonly PlanMemory[])[];

export interface TempiFound {
  tempi: Tempi;
  memories: QuickMemories;
}

/** The tempi of a part and of its passages, the best over plans. @param memories of an earlier call for the same part; they are not changed */
export const tempiOverPlans = (request: CheckRequest, made: Checked, memories: QuickMemories = []): TempiFound =>
  finished(tempiInSteps(request, made, memories));

export function* tempiInSteps(request: CheckRequest, made: Checked, memories: QuickMemories = []): Steps<TempiFound> {
  const { part, marking, player, preferences, costs } = request;
  const plans: PlanLimits[] = [{ limits: made.limits, findings: made.report.findings }];
  const after: PlanMemory[][] = [];
  for (const [i, tempo] of quickTempi(part).entries()) {
    const clock = clockFor(part, tempo);
    const planned = yield* linesInSteps({ part, marking, player, clock, preferences, costs }, memories[i] ?? []);
    plans.push(yield* foundInLines(planned.lines, { part, player, clock, marking, preferences, ...aimOf(request) }));
    after.push(planned.memories);
  }
  return { tempi: tempiOf(request, made.report.tempo.wanted, plans), memories: after };
}

/** The tempi of the whole and of its passages, the best over some plans. @param wanted quarters per minute */
export function tempiOf({ part, passages }: { part: Part; passages: readonly Passage[] }, wanted: number, plans: readonly PlanLimits[]): Tempi {
  const range = (from: number, to: number) => {
    const inRange = ({ barIndex }: { barIndex: number }) => barIndex >= from && barIndex <= to;
    return bestRange(
      plans.map(({ limits, findings }) => tempoRange(limits.filter(inRange), findings.find((each) => each.kind === 'unplayable' && inRange(each)) ?? null)),
    );
  };
  const parts = stretches(part.bars.length, passages).map(([from, to]) => range(from, to));
  return {
    tempo: { wanted, ...together(parts) },
    passages: passages.map((passage) => ({ ...passage, ...range(passage.fromBar, passage.toBar) })),
  };
}

/** The part cut wherever a passage begins or ends: between them one plan may follow another. @returns first and last bar of each */
function stretches(bars: number, passages: readonly Passage[]): Array<readonly [number, number]> {
  const cuts = new Set([0, ...passages.flatMap(({ fromBar, toBar }) => [fromBar, toBar + 1])]);
  const starts = [...cuts].filter((bar) => bar >= 0 && bar < bars).sort((a, b) => a - b);
  return starts.map((from, i) => [from, (starts[i + 1] ?? bars) - 1] as const);
}

/** Whoever can play each stretch can play them all at the tempi that they share. */
function together(parts: readonly TempoRange[]): TempoRange {
  const without = parts.find(({ none }) => none === 'unplayable') ?? parts.find(({ none }) => none !== null);
  const lowest = parts.reduce<TempoRange | null>(
    (least, part) => (part.ceiling !== null && (least === null || part.ceiling < least.ceiling!) ? part : least),
    null,
  );
  const highest = parts.reduce<TempoRange | null>((most, part) => (part.floor !== null && (most === null || part.floor > most.floor!) ? part : most), null);
  const [ceiling, floor] = [lowest?.ceiling ?? null, highest?.floor ?? null];
  if (without?.none === 'unplayable') return { ...without, ceiling: null, floor };
  const others = parts.flatMap((part) => (part === lowest ? [part.next] : [part.limitedBy])).filter((limit) => limit !== null && isCeiling(limit));
  return {
    ceiling,
    floor,
    none: without?.none ?? noneBetween(floor, ceiling),
    limitedBy: lowest?.limitedBy ?? highest?.limitedBy ?? null,
    next: lowest && others.reduce<TempoLimit | null>((next, limit) => (next === null || limit!.tempo < next.tempo ? limit : next), null),
  };
}

/** The quickest of those that work at all, from the slowest at which any of them does. */
function bestRange(ranges: readonly TempoRange[]): TempoRange {
  const works = ranges.filter(({ none }) => none === null);
  if (works.length === 0) return ranges[0]!;
  const quickest = works.reduce((best, range) => ((range.ceiling ?? Infinity) > (best.ceiling ?? Infinity) ? range : best));
  const slowest = works.reduce((best, range) => ((range.floor ?? -Infinity) < (best.floor ?? -Infinity) ? range : best));
  return { ...quickest, floor: slowest.floor, limitedBy: quickest.ceiling === null ? slowest.limitedBy : quickest.limitedBy };
}

const isCeiling = ({ kind }: TempoLimit): boolean => FINDINGS[kind].limits === 'above';

const noneBetween = (floor: number | null, ceiling: number | null): TempoRange['none'] =>
  ceiling !== null && floor !== null && floor > ceiling ? 'too slow and too quick' : null;

/** The tempi between which none of the limits is passed: slurs set the floor, all others the ceiling. */
function tempoRange(limits: readonly TempoLimit[], unplayable: Finding | null): TempoRange {
  const floors = limits.filter(({ kind }) => FINDINGS[kind].limits === 'below');
  const ceilings = limits.filter((limit) => isCeiling(limit) && limit.tempo < FASTEST_TEMPO);
  const lowest = ceilings.reduce<TempoLimit | null>((best, limit) => (best === null || limit.tempo < best.tempo ? limit : best), null);
  const highest = floors.reduce<TempoLimit | null>((best, limit) => (best === null || limit.tempo > best.tempo ? limit : best), null);
  const [ceiling, floor] = [lowest && Math.floor(lowest.tempo), highest && Math.ceil(highest.tempo)];
  if (unplayable) {
    const { kind, barIndex, beat, noteIds } = unplayable;
    return { ceiling: null, floor, limitedBy: { tempo: 0, kind, barIndex, beat, noteIds }, next: lowest, none: 'unplayable' };
  }
  return { ceiling, floor, none: noneBetween(floor, ceiling), limitedBy: lowest ?? highest, next: lowest && nextAfter(lowest, ceilings) };
}

/** The lowest limit of another spot: further than a beat away, or of another kind. */
function nextAfter(lowest: TempoLimit, ceilings: readonly TempoLimit[]): TempoLimit | null {
  return ceilings.reduce<TempoLimit | null>((best, limit) => {
    const same =
      limit.barIndex === lowest.barIndex && (limit.noteIds[0] === lowest.noteIds[0] || (limit.kind === lowest.kind && Math.abs(limit.beat - lowest.beat) <= 1));
    return same || (best && best.tempo <= limit.tempo) ? best : limit;
  }, null);
}
