/**
 * Both hands of one line: the best fingering around the marks, the strings that it takes, and the best bow around those. Whatever
 * plans or checks does it here, so that all screens see the same plan. Nothing that is passed in is changed: what was learned comes
 * back as a memory, for the next plan of the same line.
 */
import { finished, type Steps } from '../util/steps';
import { linesOf, type Line } from '../instruments/lines';
import type { Part } from '../score/score';
import type { TickRange } from '../score/bars';
import type { Clock } from '../score/time';
import type { Player } from '../instruments/player';
import type { Marking } from '../marking/mark';
import { forkedFingering, newFingeringMemory, planFingering, type Fingering, type FingeringMemory, type FingeringResult } from '../left-hand/fingering';
import type { LeftHandCosts } from '../left-hand/costs';
import type { HandPreferences } from '../left-hand/preferences';
import { stringsOf } from '../left-hand/strings';
import { bowingsInSteps, forkedMemory, newBowMemory, planBowing, planBowingNear, type BowingRequest, type BowMemory } from '../bow-arm/bowing';
import type { StringOf } from '../bow-arm/crossings';
import type { Bowing } from '../bow-arm/describe';
import type { BowCosts } from '../bow-arm/tables';

export interface PlanRequest {
  part: Part;
  player: Player;
  clock: Clock;
  marking: Marking;
  /** How the left hand likes to play; the usual way otherwise. */
  preferences?: HandPreferences | undefined;
  /** Single constants of the models that were changed by name. */
  costs?: { hand?: LeftHandCosts | undefined; bow?: Partial<BowCosts> | undefined } | undefined;
  /** Only this passage is returned, in ticks of the part; the end is not included. */
  within?: TickRange | undefined;
  /** How many ways at most; one otherwise. */
  alternatives?: number;
  /** Directions of the bow that are tried, by note; they are no marks. */
  directions?: BowingRequest['directions'];
}

/** What is remembered of a plan: a change is planned in the time of the bars around it. */
export interface PlanMemory {
  readonly hand: FingeringMemory;
  readonly bow: BowMemory;
}

export const newPlanMemory = (): PlanMemory => ({ hand: newFingeringMemory(), bow: newBowMemory() });

/** A memory of its own with the same in it. */
export const forkedPlanMemory = ({ hand, bow }: PlanMemory): PlanMemory => ({ hand: forkedFingering(hand), bow: forkedMemory(bow) });

export interface HandPlan {
  hand: FingeringResult;
  /** The best way; null where nothing can be played. */
  fingering: Fingering | null;
  stringOf: StringOf;
}

export interface Plan extends HandPlan {
  /** Null where nothing is bowed. */
  bowing: Bowing | null;
}

/** The left hand alone. @param memory of an earlier plan of the line; it is not changed */
export function planHand(request: PlanRequest & { line: Line }, memory: PlanMemory = newPlanMemory()): { plan: HandPlan; memory: PlanMemory } {
  const after = forkedPlanMemory(memory);
  const { costs, within, alternatives = 1, directions: _, ...shared } = request;
  const hand = planFingering({ ...shared, ...(within ? { within } : {}), costs: costs?.hand, alternatives }, after.hand);
  const fingering = hand.alternatives[0] ?? null;
  return { plan: { hand, fingering, stringOf: stringsOf(fingering) }, memory: after };
}

function bowingAsked({ costs, within, alternatives = 1, ...shared }: PlanRequest & { line: Line }, { stringOf }: Pick<HandPlan, 'stringOf'>): BowingRequest {
  return { ...shared, ...(within ? { within } : {}), ...(costs?.bow ? { costs: costs.bow } : {}), alternatives, stringOf };
}

/** The bow for fingers that are known. @param memory of an earlier plan of the line; it is not changed */
export function planBow(
  request: PlanRequest & { line: Line },
  { stringOf }: Pick<HandPlan, 'stringOf'>,
  memory: PlanMemory = newPlanMemory(),
): { bowing: Bowing | null; bowings: Bowing[]; memory: PlanMemory } {
  const after = forkedPlanMemory(memory);
  const bowings = planBowing(bowingAsked(request, { stringOf }), after.bow);
  return { bowing: bowings[0] ?? null, bowings, memory: after };
}

/**
 * Both hands of a passage, for an answer at once: the fingers of the whole line, the bow of the passage within what lies around it.
 * @param memory of an earlier plan of the line; it is not changed
 */
export function planNear(request: PlanRequest & { line: Line; within: TickRange }, memory: PlanMemory = newPlanMemory()): { plan: Plan; memory: PlanMemory } {
  const { within, ...whole } = request;
  const { plan, memory: after } = planHand({ ...whole, alternatives: 1 }, memory);
  const bowing = planBowingNear({ ...bowingAsked(whole, plan), within }, after.bow);
  return { plan: { ...plan, bowing }, memory: after };
}

/** The bow of a passage for fingers that are known. @param memory of a plan of the whole line; it is not changed */
export const planBowNear = (request: PlanRequest & { line: Line; within: TickRange }, hand: Pick<HandPlan, 'stringOf'>, memory: PlanMemory): Bowing | null =>
  planBowingNear({ ...bowingAsked(request, hand), within: request.within }, forkedPlanMemory(memory).bow);

/** Both hands. @param memory of an earlier plan of the line; it is not changed */
export const planBoth = (request: PlanRequest & { line: Line }, memory: PlanMemory = newPlanMemory()): { plan: Plan; memory: PlanMemory } =>
  finished(bothInSteps(request, memory));

function* bothInSteps(request: PlanRequest & { line: Line }, memory: PlanMemory = newPlanMemory()): Steps<{ plan: Plan; memory: PlanMemory }> {
  const { plan, memory: after } = planHand(request, memory);
  yield;
  // The hand has made a memory of its own.
  const bowings = yield* bowingsInSteps(bowingAsked(request, plan), after.bow);
  return { plan: { ...plan, bowing: bowings[0] ?? null }, memory: after };
}

/** Every line of a part, in their order. @param memories of an earlier plan of the part, one for each line; they are not changed */
export const planLines = (request: PlanRequest, memories: readonly PlanMemory[] = []): PlannedLines => finished(linesInSteps(request, memories));

export function* linesInSteps(request: PlanRequest, memories: readonly PlanMemory[]): Steps<PlannedLines> {
  const after: PlanMemory[] = [];
  const planned: PlannedLine[] = [];
  for (const [index, line] of linesOf(request.part).entries()) {
    // The line before has most of the notes of this one.
    const { plan, memory } = yield* bothInSteps({ ...request, line }, memories[index] ?? after[index - 1]);
    after.push(memory);
    planned.push({ line, plan });
  }
  return { lines: planned, memories: after };
}

export interface PlannedLines {
  lines: PlannedLine[];
  memories: PlanMemory[];
}

export interface PlannedLine {
  line: Line;
  plan: Plan;
}

/** The plan of a part as it is shown: the fingers of all lines, of a note that several have those of the first; the bow of one line. */
export function asShown(lines: readonly PlannedLine[], bowedLine = 0): { fingering: Fingering | null; bowing: Bowing | null } {
  const seen = new Set<string>();
  const own = lines.flatMap(({ line, plan: { fingering } }) => {
    const notes = fingering?.notes.filter(({ id }) => !seen.has(id)) ?? [];
    for (const { ids } of line.events) for (const id of ids) seen.add(id);
    return notes;
  });
  const first = lines.find(({ plan }) => plan.fingering)?.plan.fingering ?? null;
  return { fingering: first && { ...first, notes: own }, bowing: lineShown(lines, bowedLine).plan.bowing };
}

/** The line that is asked for, the last where there are fewer. */
export const lineShown = <T>(lines: readonly T[], index = 0): T => lines[Math.min(index, lines.length - 1)]!;
