/**
 * The answer at once: a passage checked within what lies around it, while the whole part is still to be checked after a mark. What only
 * the whole part can tell (the same music elsewhere, repeats, traps for the reader) stays as it was last found.
 */
import { ticksOf, type BarRange, type TickRange } from '../score/bars';
import type { Note } from '../score/score';
import { clockFor } from '../score/time';
import { linesOf, type Line } from '../instruments/lines';
import type { FingeredNote, Fingering } from '../left-hand/fingering';
import type { Bowing, Stroke } from '../bow-arm/describe';
import { lineShown, newPlanMemory, planNear, type PlanMemory } from '../plan/plan';
import type { Checked, CheckRequest, Report } from './check';
import { aimOf, placeOf } from './context';
import type { Finding, TempoLimit } from './finding';
import { foundIn } from './found';
import { FINDINGS } from './kinds';
import { tempiOf } from './tempi';

export interface NearReport extends Pick<Report, 'tempo' | 'passages' | 'findings' | 'risks'> {
  range: BarRange;
  /** Notes that it is about: those of one line. */
  covers: string[];
  notes: FingeredNote[];
  strokes: Stroke[];
  changes: Bowing['changes'];
}

/** Events around a passage of which nothing is known yet. */
const CONTEXT_EVENTS = 12;

const isOfTheWhole = ({ kind }: Finding): boolean => FINDINGS[kind].ofTheWhole;

/**
 * @param range of bars, both included @param before the last whole check of the part, whatever was marked since, with the memories that are there now
 * @returns the passage, and the memories to go on from
 */
export function checkedNear(request: CheckRequest, range: BarRange, before: Checked | null): { near: NearReport; memories: PlanMemory[] } {
  const { part, marking, player, preferences, costs } = request;
  const clock = clockFor(part, request.tempo);
  const lines = linesOf(part);
  const within = ticksOf(part, range);
  const index = Math.min(request.line ?? 0, lines.length - 1);
  const whole = lineShown(lines, index);
  const { line, first } = before ? { line: whole, first: 0 } : aroundOf(whole, within);
  const memories = lines.map((_, i) => before?.memories[i] ?? newPlanMemory());
  const { plan, memory } = planNear({ part, marking, player, clock, preferences, costs, line, within }, memories[index]);
  if (before) memories[index] = memory;
  const inRange = (tick: number) => tick >= within.from && tick < within.to;
  const covers = new Set(line.events.filter(({ onset }) => inRange(onset)).flatMap(({ ids }) => ids));
  const isNew = (noteId: string) => covers.has(noteId);
  const place = (note: Note) => placeOf(part, note);
  const found = foundIn(plan, { part, line, player, clock, marking, preferences, ...aimOf(request), place, isNew });
  const limits: TempoLimit[] = [...(before?.limits.filter(({ noteIds }) => !isNew(noteIds[0]!)) ?? []), ...found.limits];
  const near: NearReport = {
    range,
    ...tempiOf(request, clock.tempo, [
      { limits, findings: [...(before?.report.findings.filter(({ noteIds }) => !isNew(noteIds[0]!)) ?? []), ...found.findings] },
    ]),
    findings: found.findings.filter((finding) => !isOfTheWhole(finding)),
    risks: found.risks,
    covers: [...covers],
    notes: plan.fingering?.notes.filter(({ id }) => isNew(id)).map((note) => ({ ...note, event: note.event + first })) ?? [],
    strokes: plan.bowing?.strokes.filter(({ onset }) => inRange(onset)) ?? [],
    changes: plan.bowing?.changes.filter(({ noteId }) => isNew(noteId)) ?? [],
  };
  return { near, memories };
}

/** Of a part that was never planned: the passage, and a little before and after it; and which event of the line is the first of it. */
function aroundOf(line: Line, within: TickRange): { line: Line; first: number } {
  const from = line.events.findIndex(({ onset }) => onset >= within.from);
  const first = Math.max(0, from - CONTEXT_EVENTS);
  const last = line.events.findLastIndex(({ onset }) => onset < within.to);
  return { line: { ...line, events: from < 0 ? [] : line.events.slice(first, last + 1 + CONTEXT_EVENTS) }, first };
}

/** A report with a passage that was checked since. @param report null where none holds any more: then it is about the passage alone */
export function withNear(report: Report | null, near: NearReport): Report {
  const { tempo, passages } = near;
  const covers = new Set(near.covers);
  const kept = report?.findings.filter((finding) => !covers.has(finding.noteIds[0]!) || isOfTheWhole(finding)) ?? [];
  const bowing = report?.bowing ?? EMPTY_BOWING;
  const fingering = report?.fingering ?? EMPTY_FINGERING;
  return {
    about: report ? report.about && near.range : near.range,
    tempo,
    passages,
    findings: [...kept, ...near.findings].sort((a, b) => a.barIndex - b.barIndex || a.beat - b.beat || b.severity - a.severity),
    risks: renewed(report?.risks ?? [], near.risks, ({ noteId }) => covers.has(noteId)),
    fingering: { ...fingering, notes: renewed(fingering.notes, near.notes, ({ id }) => covers.has(id)) },
    bowing: {
      ...bowing,
      strokes: renewed(bowing.strokes, near.strokes, ({ noteIds }) => covers.has(noteIds[0]!)),
      changes: renewed(bowing.changes, near.changes, ({ noteId }) => covers.has(noteId)),
    },
  };
}

/** What is told anew stands where the old was. */
function renewed<T>(old: readonly T[], fresh: readonly T[], isOld: (each: T) => boolean): T[] {
  const first = old.findIndex(isOld);
  const rest = old.filter((each) => !isOld(each));
  const at = first < 0 ? rest.length : first;
  return [...rest.slice(0, at), ...fresh, ...rest.slice(at)];
}

const EMPTY_FINGERING: Fingering = { strategy: '', aim: '', total: 0, terms: {}, notes: [] };
const EMPTY_BOWING: Bowing = { strategy: '', aim: '', total: 0, terms: {}, feasible: true, strokes: [], changes: [], unlike: [], resets: [], phrases: [] };
