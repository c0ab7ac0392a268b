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
import { foundInLines } from './found';
import { tempiOf, type PassageTempo, type TempoRange } from './tempi';

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

export interface Report {
  /** Bars that it knows of; null for the whole part. Of others it says nothing, neither that something was found nor that nothing was. */
  about: BarRange | null;
  /** With this plan; what is the best over plans `tempiOverPlans` says. */
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
  const { findings, limits, risks } = yield* foundInLines(planned.lines, { part, player, clock, marking, preferences, ...aimOf(request) });
  yield;
  const { line: shown } = lineShown(planned.lines, request.line);
  const place = (note: Note) => placeOf(part, note);
  findings.push(
    ...readingFindings(part, player, marking, place, request.others ?? []),
    ...consistencyFindings(part, shown, marking, place),
    ...acrossFindings(part, shown, marking, request.others ?? [], place),
  );
  findings.sort((a, b) => a.barIndex - b.barIndex || a.beat - b.beat || b.severity - a.severity);
  const report: Report = { about: null, ...tempiOf(request, clock.tempo, [{ limits, findings }]), findings, ...asShown(planned.lines, request.line), risks };
  return { report, limits, memories: planned.memories };
}
