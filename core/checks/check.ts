/**
 * The report for one line of a part: what the marks and the best plan around them come to for this player
 * at this tempo. A pure function of its request, so it can be computed anywhere and cached by content.
 */
import type { BarRange } from '../score/bars';
import type { Passage } from '../score/passages';
import type { Note, Part } from '../score/score';
import { clockFor } from '../score/time';
import type { Player } from '../instruments/player';
import type { Marking } from '../marking/mark';
import type { Fingering } from '../left-hand/fingering';
import type { HandPreferences } from '../left-hand/preferences';
import type { Bowing } from '../bow-arm/describe';
import { finished, type Steps } from '../util/steps';
import { asShown, lineShown, linesInSteps, type PlanMemory, type PlanRequest } from '../plan/plan';
import { aimOf, placeOf, type NoteRisk } from './context';
import { acrossFindings, consistencyFindings, readingFindings } from './music';
import type { OtherPart } from '../ensemble/ensemble';
import type { IntonationSettings } from './target';
import type { Finding, TempoLimit } from './finding';
import { foundIn } from './found';
import { FINDINGS } from './kinds';
import { FASTEST_TEMPO } from '../score/time';

export interface CheckRequest {
  part: Part;
  marking: Marking;
  player: Player;
  /** Quarters per minute at the first tempo mark; null takes the printed tempo. */
  tempo: number | null;
  passages: readonly Passage[];
  /** How the left hand likes to play; the usual way otherwise. */
  preferences?: HandPreferences | undefined;
  /** Single constants of the models that were changed by name. */
  costs?: PlanRequest['costs'];
  /** How in tune it is wanted: cents off that are minded (by the level otherwise), and the pitch that is aimed at. */
  intonation?: IntonationSettings | undefined;
  /** The other parts of the score, as they are marked: chords, cues and bows that should go together. */
  others?: readonly OtherPart[] | undefined;
  /** The part with the edits of another marking in force; without it no edits are tried as remedies. */
  edited?: ((marking: Marking) => Part) | undefined;
  /** Which line of a divided part the bow plan is for; the first otherwise. */
  line?: number;
}

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

export interface Report {
  /** Bars that it knows of; null for the whole part. Of others it says nothing, neither that something was found nor that nothing was. */
  about: BarRange | null;
  tempo: TempoRange & { wanted: number };
  passages: PassageTempo[];
  findings: Finding[];
  /** The plan that was checked: marks, and the best way around them. */
  fingering: Fingering | null;
  bowing: Bowing | null;
  risks: NoteRisk[];
}

/** The report alone. */
export const check = (request: CheckRequest): Report => checked(request).report;

/** A report, and what to remember for the next one of the same part. */
export interface Checked {
  report: Report;
  /** Every tempo at which something begins, of all lines. */
  limits: TempoLimit[];
  /** One for each line. */
  memories: PlanMemory[];
}

/** @param memories of an earlier check, one for each line; they are not changed */
export const checked = (request: CheckRequest, memories: readonly PlanMemory[] = []): Checked => finished(checkedInSteps(request, memories));

export function* checkedInSteps(request: CheckRequest, memories: readonly PlanMemory[] = []): Steps<Checked> {
  const { part, marking, player, preferences, costs } = request;
  const clock = clockFor(part, request.tempo);
  const planned = yield* linesInSteps({ part, marking, player, clock, preferences, costs }, memories);
  const findings: Finding[] = [];
  const limits: TempoLimit[] = [];
  const risks: NoteRisk[] = [];
  const seen = new Set<string>();
  const isNew = (noteId: string) => !seen.has(noteId);
  const place = (note: Note) => placeOf(part, note);
  for (const { line, plan } of planned.lines) {
    yield;
    const found = foundIn(plan, { part, line, player, clock, marking, preferences, ...aimOf(request), place, isNew });
    findings.push(...found.findings);
    limits.push(...found.limits);
    risks.push(...found.risks);
    for (const event of line.events) for (const id of event.ids) seen.add(id);
  }
  yield;
  const { line: shown } = lineShown(planned.lines, request.line);
  findings.push(
    ...readingFindings(part, player, marking, place, request.others ?? []),
    ...consistencyFindings(part, shown, marking, place),
    ...acrossFindings(part, shown, marking, request.others ?? [], place),
  );
  findings.sort((a, b) => a.barIndex - b.barIndex || a.beat - b.beat || b.severity - a.severity);
  const report: Report = { about: null, ...tempiOf(request, clock.tempo, limits, findings), findings, ...asShown(planned.lines, request.line), risks };
  return { report, limits, memories: planned.memories };
}

/** The tempi of the whole and of its passages. @param wanted quarters per minute */
export function tempiOf(
  { part, passages }: CheckRequest,
  wanted: number,
  limits: readonly TempoLimit[],
  findings: readonly Finding[],
): Pick<Report, 'tempo' | 'passages'> {
  const unplayable = findings.filter(({ kind }) => kind === 'unplayable');
  const range = (from: number, to: number) => {
    const inRange = ({ barIndex }: { barIndex: number }) => barIndex >= from && barIndex <= to;
    return tempoRange(limits.filter(inRange), unplayable.find(inRange) ?? null);
  };
  return {
    tempo: { wanted, ...range(0, part.bars.length) },
    passages: passages.map((passage) => ({ ...passage, ...range(passage.fromBar, passage.toBar) })),
  };
}

/** The tempi between which none of the limits is passed: slurs set the floor, all others the ceiling. */
function tempoRange(limits: readonly TempoLimit[], unplayable: Finding | null): TempoRange {
  const floors = limits.filter(({ kind }) => FINDINGS[kind].limits === 'below');
  const ceilings = limits.filter(({ kind, tempo }) => FINDINGS[kind].limits === 'above' && tempo < FASTEST_TEMPO);
  const lowest = ceilings.reduce<TempoLimit | null>((best, limit) => (best === null || limit.tempo < best.tempo ? limit : best), null);
  const highest = floors.reduce<TempoLimit | null>((best, limit) => (best === null || limit.tempo > best.tempo ? limit : best), null);
  const [ceiling, floor] = [lowest && Math.floor(lowest.tempo), highest && Math.ceil(highest.tempo)];
  if (unplayable) {
    const { kind, barIndex, beat, noteIds } = unplayable;
    return { ceiling: null, floor, limitedBy: { tempo: 0, kind, barIndex, beat, noteIds }, next: lowest, none: 'unplayable' };
  }
  return {
    ceiling,
    floor,
    none: ceiling !== null && floor !== null && floor > ceiling ? 'too slow and too quick' : null,
    limitedBy: lowest ?? highest,
    next: lowest && nextAfter(lowest, ceilings),
  };
}

/** The lowest limit of another spot: further than a beat away, or of another kind. */
function nextAfter(lowest: TempoLimit, ceilings: readonly TempoLimit[]): TempoLimit | null {
  return ceilings.reduce<TempoLimit | null>((best, limit) => {
    const same =
      limit.barIndex === lowest.barIndex && (limit.noteIds[0] === lowest.noteIds[0] || (limit.kind === lowest.kind && Math.abs(limit.beat - lowest.beat) <= 1));
    return same || (best && best.tempo <= limit.tempo) ? best : limit;
  }, null);
}
