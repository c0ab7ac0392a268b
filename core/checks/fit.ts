/** The same marking against every player: up to which tempo each passage works for each of them, and what to change for whom. */
import type { PlayerDescription } from '../instruments/player';
import { playerFrom } from '../instruments/player';
import type { Change } from '../marking/change';
import { applyChanges, sameMark, squashed } from '../marking/change';
import { markKey } from '../marking/mark';
import { checked, type CheckRequest, type Report } from './check';
import { isSpot, type Finding } from './finding';
import { FINDINGS } from './kinds';
import { remediesFor, type TriedRemedy } from './remedies';
import { tempiOverPlans, type Tempi, type TempoRange } from './tempi';

export interface FitCell extends Pick<TempoRange, 'ceiling' | 'floor' | 'none'> {
  /** The worst finding of a hand, null where there is none. */
  worst: Pick<Finding, 'kind' | 'bar' | 'beat' | 'severity' | 'text' | 'noteIds'> | null;
  spots: number;
}

export interface FitRow {
  passages: FitCell[];
  whole: FitCell;
}

export type FitRequest = Omit<CheckRequest, 'player'>;

/** How a marking fits one player; null where the description makes no player. */
export function fitOf(request: FitRequest, described: PlayerDescription): FitRow | null {
  const player = playerFrom(described);
  if (!player.ok) return null;
  const asked = { ...request, player: player.value };
  const made = checked(asked);
  return fitted(made.report.findings, tempiOverPlans(asked, made).tempi);
}

export function fitted(findings: readonly Finding[], tempi: Tempi): FitRow {
  const spots = findings.filter(isSpot);
  const cell = (from: number, to: number, range: Pick<FitCell, 'ceiling' | 'floor' | 'none'>): FitCell => {
    const own = spots.filter(({ barIndex }) => barIndex >= from && barIndex <= to);
    const worst = own.reduce<Finding | null>((most, finding) => (!most || finding.severity > most.severity ? finding : most), null);
    return {
      ceiling: range.ceiling,
      floor: range.floor,
      none: range.none,
      worst: worst && { kind: worst.kind, bar: worst.bar, beat: worst.beat, severity: worst.severity, text: worst.text, noteIds: worst.noteIds },
      spots: own.length,
    };
  };
  return {
    passages: tempi.passages.map((passage) => cell(passage.fromBar, passage.toBar, passage)),
    whole: cell(0, Infinity, tempi.tempo),
  };
}

export interface ForPlayer {
  /** Marks that differ for this player, and nothing else. */
  changes: Change[];
  /** What they mend, a line for each. */
  mended: Array<{ bar: string; kind: string; text: string }>;
  /** Spots of each severity (watch, risk, will fail) before and with the changes. */
  before: SpotCounts;
  left: SpotCounts;
}

export type SpotCounts = readonly [watch: number, risk: number, fail: number];

const countsOf = (spots: readonly Finding[]): SpotCounts => {
  const of = (severity: number) => spots.filter((finding) => finding.severity === severity).length;
  return [of(1), of(2), of(3)];
};

/** One spot that fails outweighs two to watch. */
const weightOf = (report: Report): number => report.findings.filter(isSpot).reduce((sum, { severity }) => sum + severity ** 2, 0);

const worthChanging = ({ severity, kind }: Finding): boolean => severity > 1 || FINDINGS[kind].ofThePlayer;

/** Spots that are mended at most in one go. */
const MOST_CHANGES = 12;

/**
 * What to change for one player: the worst spots first, each with the first remedy that solves it and is a matter of marks; every
 * later spot is tried with the changes made so far.
 */
export function changesFor(request: FitRequest, described: PlayerDescription): ForPlayer | null {
  const made = playerFrom(described);
  if (!made.ok) return null;
  let marking = request.marking;
  const asked = () => ({ ...request, marking, player: made.value });
  let { report, memories } = checked(asked());
  const before = countsOf(report.findings.filter(isSpot));
  const taken: Array<{ mended: ForPlayer['mended'][number]; changes: Change[] }> = [];
  const given = new Set<string>();
  for (let round = 0; round < MOST_CHANGES; round++) {
    const next = report.findings
      .filter((finding) => isSpot(finding) && worthChanging(finding) && !given.has(finding.id))
      .sort((a, b) => b.severity - a.severity || a.barIndex - b.barIndex)[0];
    if (!next) break;
    given.add(next.id);
    const remedy = remediesFor(asked(), next, memories[Math.min(request.line ?? 0, memories.length - 1)]).find(isMark);
    if (!remedy) continue;
    const tried = applyChanges(marking, remedy.changes!).marking;
    const after = checked({ ...asked(), marking: tried }, memories);
    // What only moves the trouble to another place is no change for anybody.
    if (weightOf(after.report) >= weightOf(report)) continue;
    taken.push({ mended: { bar: next.bar, kind: next.kind, text: remedy.text }, changes: remedy.changes! });
    marking = tried;
    ({ report, memories } = after);
  }
  const changes = squashed(taken.flatMap((each) => each.changes));
  const inForce = ({ target, kind, to }: Change) => sameMark(marking[markKey(target, kind)], to);
  const mended = taken.filter((each) => each.changes.every(inForce)).map((each) => each.mended);
  return { changes, mended, before, left: countsOf(report.findings.filter(isSpot)) };
}

const isMark = ({ kind, solved, changes }: TriedRemedy): boolean => solved && kind !== 'marks' && kind !== 'tempo' && Boolean(changes?.length);
