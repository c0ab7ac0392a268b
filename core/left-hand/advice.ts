/**
 * What a teacher says about a fingering besides the fingers: what one finger covers on two strings, what to leave down, to set
 * before playing or to damp, where to move early, what comes back on the next string, and where the same music lies otherwise.
 */
import { midiOf, pitchName } from '../score/pitch';
import { noteById } from '../score/find';
import type { Note } from '../score/score';
import { isUpper, stringName } from '../instruments/instrument';
import { fingerName, THUMB } from '../instruments/player';
import { explain, preferredBy, prepareFingering, type FingeredNote, type Fingering, type FingeringRequest, type Prepared } from './fingering';
import type { TickRange } from '../score/bars';
import type { UnlikeFingers } from './alike';
import { cheapestPath } from './search';
import { isShift, SAME_PLACE_MM } from './shift';
import { weighingFor } from './transition';
import { STRATEGIES } from './costs';

export const ADVICE_KINDS = ['covered interval', 'leave down', 'set before', 'damp', 'move early', 'same pattern', 'fingered otherwise'] as const;
export type AdviceKind = (typeof ADVICE_KINDS)[number];

export interface HandAdvice {
  kind: AdviceKind;
  barIndex: number;
  noteIds: string[];
  text: string;
  /** A finger and string that do it, where it is more than a word. */
  take: { noteId: string; finger: string; string: number } | null;
}

/** Notes later that still make a finger worth leaving down. */
const DOWN_REACH = 4;
/** Seconds of rest in which fingers can be set, and in which a string goes on ringing to no purpose (judgement). */
const SETTING_S = 0.5;
const RINGING_S = 0.4;
/** Half steps from which an interval under one hand is worth setting both fingers for: a sixth (judgement). */
const WIDE = 8;
/** Up there the finger is rocked across rather than pressed flat: the curve of the fingerboard (common practice; the stop by judgement). */
const CURVED_FROM = 12;
/** A shift from which it is worth looking for an earlier moment, bits per second over what the player manages (judgement). */
const EARLY_FROM = 0.75;
/** How much easier it must get. */
const EARLY_GAIN = 0.75;
/** Notes back that are looked at. */
const EARLY_REACH = 8;

/**
 * @param bitsPerS what the player manages in a shift
 */
export function handAdvice(request: FingeringRequest, way: Fingering, unlike: readonly UnlikeFingers[], bitsPerS: number, within: TickRange): HandAdvice[] {
  const prepared = prepareFingering(request);
  const inLine = new Set(request.line.events.flatMap((event) => event.ids));
  const own = { ...way, notes: way.notes.filter(({ id }) => inLine.has(id)) };
  const steps = stepsOf(request, own, within);
  return [
    ...covered(request, steps),
    ...leftDown(request, steps),
    ...setBefore(request, steps),
    ...damped(request, steps),
    ...movedEarly(request, prepared, own, bitsPerS, within),
    ...samePattern(request, steps),
    ...otherwise(request, unlike),
  ].sort((a, b) => a.barIndex - b.barIndex);
}

/** One fingered note with its note; the lowest of a chord. */
interface Step {
  fingered: FingeredNote;
  note: Note;
}

function stepsOf({ part }: FingeringRequest, way: Fingering, within: TickRange): Step[] {
  const steps: Step[] = [];
  let event = -1;
  for (const fingered of way.notes) {
    const note = noteById(part, fingered.id)!;
    if (fingered.event === event || note.onset < within.from || note.onset >= within.to) continue;
    event = fingered.event;
    steps.push({ fingered, note });
  }
  return steps;
}

const on = ({ player }: FingeringRequest, { fingered }: Step): string => stringName(player.instrument, fingered.place.string);
const finger = ({ fingered }: Step): string => (fingered.place.finger === THUMB ? 'the thumb' : fingerName(fingered.place.finger));
const label = ({ part }: FingeringRequest, barIndex: number): string => part.bars[barIndex]!.label;
const samePlace = (a: Step, b: Step): boolean =>
  a.fingered.place.string === b.fingered.place.string && a.fingered.place.finger === b.fingered.place.finger && a.fingered.place.stop === b.fingered.place.stop;

/** Once for each stretch in which the hand stays: the finger lies there from then on. */
function covered(request: FingeringRequest, steps: readonly Step[]): HandAdvice[] {
  const set = new Set<string>();
  return steps.flatMap((step, i) => {
    if (step.fingered.shift) set.clear();
    const other = steps.slice(i + 1, i + 1 + 6).find(({ fingered }) => step.fingered.covered?.includes(fingered.id));
    if (!other) return [];
    const { finger: which, stop, string } = step.fingered.place;
    const where = `${which} ${stop} ${Math.min(string, other.fingered.place.string)}`;
    if (set.has(where)) return [];
    set.add(where);
    const apart = other.fingered.event - step.fingered.event;
    const rocked = step.fingered.place.stop >= CURVED_FROM ? ' So high the finger is rocked across rather than pressed flat.' : '';
    return [
      {
        kind: 'covered interval' as const,
        barIndex: step.note.barIndex,
        noteIds: [step.fingered.id, other.fingered.id],
        text: `Set ${finger(step)} on ${on(request, step)} and ${on(request, other)} at once, for ${pitchName(step.note.pitch)} and ${pitchName(other.note.pitch)}${apart > 1 ? ` ${apart} notes later` : ''}: no hop.${rocked}`,
        take: null,
      },
    ];
  });
}

function leftDown(request: FingeringRequest, steps: readonly Step[]): HandAdvice[] {
  const found: HandAdvice[] = [];
  const held = new Set<number>();
  steps.forEach((step, i) => {
    const { place } = step.fingered;
    if (place.finger === 0 || held.has(i)) return;
    for (let k = i + 1; k <= i + DOWN_REACH && k < steps.length; k++) {
      const next = steps[k]!.fingered;
      if (next.shift || isShiftBetween(step, steps[k]!)) return;
      if (samePlace(step, steps[k]!)) {
        // On one string a finger stays down of itself; it is worth a word where the bow goes elsewhere in between.
        if (steps.slice(i + 1, k).every(({ fingered }) => fingered.place.string === place.string)) return;
        for (let j = i; j <= k; j++) held.add(j);
        found.push({
          kind: 'leave down',
          barIndex: step.note.barIndex,
          noteIds: [step.fingered.id, next.id],
          text: `Leave ${finger(step)} down on ${on(request, step)} (${pitchName(step.note.pitch)}): it comes back ${k - i} notes later.`,
          take: null,
        });
        return;
      }
      if (next.place.finger === place.finger) return;
      // On the same string only what lies above a finger lets it stay.
      if (next.place.string === place.string && next.place.stop < place.stop) return;
    }
  });
  return found;
}

const isShiftBetween = (a: Step, b: Step): boolean => b.fingered.place.finger !== 0 && isShift(a.fingered.place, b.fingered.place);

/** Seconds of rest before an event of the line; the start counts as a long one. */
function restBefore({ line, clock }: FingeringRequest, event: number): number {
  const before = line.events[event - 1];
  return before ? clock.secondsAt(line.events[event]!.onset) - clock.secondsAt(before.end) : Infinity;
}

function setBefore(request: FingeringRequest, steps: readonly Step[]): HandAdvice[] {
  return steps.flatMap((step, i) => {
    const next = steps[i + 1];
    if (!next || restBefore(request, step.fingered.event) < SETTING_S) return [];
    const [a, b] = [step.fingered.place, next.fingered.place];
    if (a.finger === 0 || b.finger === 0 || a.finger === b.finger || a.string === b.string || isShift(a, b)) return [];
    if (Math.abs(midiOf(step.note.pitch) - midiOf(next.note.pitch)) < WIDE) return [];
    return [
      {
        kind: 'set before' as const,
        barIndex: step.note.barIndex,
        noteIds: [step.fingered.id, next.fingered.id],
        text: `Set ${finger(step)} on ${on(request, step)} and ${finger(next)} on ${on(request, next)} before the first of them sounds: the leap lies under one hand.`,
        take: null,
      },
    ];
  });
}

function damped(request: FingeringRequest, steps: readonly Step[]): HandAdvice[] {
  const { player, line, clock } = request;
  if (isUpper(player.instrument.kind)) return [];
  return steps.flatMap((step) => {
    if (step.fingered.place.finger !== 0) return [];
    const next = line.events[step.fingered.event + 1];
    const rest = next ? clock.secondsAt(next.onset) - clock.secondsAt(line.events[step.fingered.event]!.end) : 0;
    if (rest < RINGING_S) return [];
    return [
      {
        kind: 'damp' as const,
        barIndex: step.note.barIndex,
        noteIds: [step.fingered.id],
        text: `Damp the open ${on(request, step)} in the rest: it would ring through it.`,
        take: null,
      },
    ];
  });
}

/** Consecutive notes on one string without a shift. */
function runsOf(steps: readonly Step[]): Step[][] {
  const runs: Step[][] = [];
  for (const step of steps) {
    const run = runs.at(-1);
    const last = run?.at(-1);
    if (last && last.fingered.place.string === step.fingered.place.string && !step.fingered.shift && step.fingered.event === last.fingered.event + 1)
      run!.push(step);
    else runs.push([step]);
  }
  return runs;
}

/** Fewer notes make no pattern. */
const PATTERN_NOTES = 3;

function samePattern(request: FingeringRequest, steps: readonly Step[]): HandAdvice[] {
  const runs = runsOf(steps);
  const row = (run: readonly Step[]) => run.map(({ fingered }) => `${fingered.place.finger}/${fingered.place.stop}`).join(' ');
  return runs.flatMap((run, i) => {
    const last = runs[i - 1];
    if (!last || run.length < PATTERN_NOTES || run[0]!.fingered.event !== last.at(-1)!.fingered.event + 1) return [];
    const away = last[0]!.fingered.place.string - run[0]!.fingered.place.string;
    if (Math.abs(away) !== 1 || row(last) !== row(run)) return [];
    const fingers = run.map(({ fingered }) => fingerName(fingered.place.finger)).join(' ');
    return [
      {
        kind: 'same pattern' as const,
        barIndex: run[0]!.note.barIndex,
        noteIds: run.map(({ fingered }) => fingered.id),
        text: `The same fingers again, ${fingers}, one string ${away > 0 ? 'higher' : 'lower'}, on ${on(request, run[0]!)}.`,
        take: null,
      },
    ];
  });
}

function otherwise(request: FingeringRequest, unlike: readonly UnlikeFingers[]): HandAdvice[] {
  return unlike.map(({ barIndex, likeBar, noteId, why }) => ({
    kind: 'fingered otherwise' as const,
    barIndex,
    noteIds: [noteId],
    text:
      barIndex === likeBar
        ? `The sequence in bar ${label(request, barIndex)} does not keep its fingers: ${why}.`
        : `Bar ${label(request, barIndex)} is not fingered like the same music in bar ${label(request, likeBar)}: ${why}.`,
    take: null,
  }));
}

/** Hard shifts whose new position has all of the notes before it as well: there the hand can be where it is needed in time. */
function movedEarly(request: FingeringRequest, prepared: Prepared, way: Fingering, bitsPerS: number, within: TickRange): HandAdvice[] {
  const at = new Map(prepared.eventIndex.map((event, i) => [event, i]));
  const choice = choiceOf(prepared, way, at);
  return way.notes.flatMap((fingered) => {
    const { shift } = fingered;
    const note = noteById(request.part, fingered.id)!;
    const i = at.get(fingered.event);
    if (!shift || i === undefined || note.onset < within.from || note.onset >= within.to || shift.bitsPerS < bitsPerS * EARLY_FROM) return [];
    const best = earlier(request, prepared, choice, i, fingered, within);
    // Only a place that the hand goes to: one that it is in already is no move.
    if (!best?.first.shift) return [];
    const early = noteById(request.part, best.first.id)!;
    const { place } = best.first;
    const notes = i - best.at === 1 ? 'a note' : `${i - best.at} notes`;
    const where = `at ${pitchName(early.pitch)}${early.barIndex < note.barIndex ? ` in bar ${label(request, early.barIndex)}` : ''}`;
    return [
      {
        kind: 'move early' as const,
        barIndex: early.barIndex,
        noteIds: [best.first.id, fingered.id],
        text: `Move ${notes} early, with ${fingerName(place.finger)} on ${stringName(request.player.instrument, place.string)} ${where}: the hand then has ${inSeconds(best.first.shift.gapMs)} for it instead of ${inSeconds(shift.gapMs)}.`,
        take: { noteId: best.first.id, finger: fingerName(place.finger), string: place.string },
      },
    ];
  });
}

const inSeconds = (ms: number): string => `${(ms / 1000).toFixed(2)} s`;

/** Indices of the grips that a fingering takes; -1 where it has none. */
function choiceOf(prepared: Prepared, way: Fingering, at: ReadonlyMap<number, number>): number[] {
  const choice = prepared.grips.map(() => -1);
  for (const { event, place } of way.notes) {
    const i = at.get(event);
    if (i === undefined || choice[i]! >= 0) continue;
    choice[i] = prepared.grips[i]!.findIndex(({ places }) =>
      places.some((each) => each.string === place.string && each.finger === place.finger && each.handMm === place.handMm),
    );
  }
  return choice;
}

interface Earlier {
  /** Event of the new shift, and its hardest shift up to where the hand has to be. */
  at: number;
  bitsPerS: number;
  first: FingeredNote;
}

function earlier(request: FingeringRequest, prepared: Prepared, choice: readonly number[], i: number, target: FingeredNote, within: TickRange): Earlier | null {
  const weighing = weighingFor(request.player, preferredBy(request));
  const there = (event: number) => prepared.grips[event]!.filter(({ lead, open }) => !open && Math.abs(lead.handMm - target.place.handMm) < SAME_PLACE_MM);
  let best: Earlier | null = null;
  let most = target.shift!.bitsPerS * EARLY_GAIN;
  for (let k = i - 1; k >= Math.max(1, i - EARLY_REACH); k--) {
    if (choice[k]! < 0 || choice[k - 1]! < 0 || prepared.events[k]!.onset < within.from || there(k).length === 0) break;
    const from = Math.max(0, k - 3);
    const grips = prepared.grips
      .slice(from, i + 1)
      .map((list, j) => (from + j < k || from + j === i ? list.slice(choice[from + j], choice[from + j]! + 1) : there(from + j)));
    if (grips.some((list) => list.length === 0)) break;
    const slice: Prepared = {
      events: prepared.events.slice(from, i + 1),
      eventIndex: prepared.eventIndex.slice(from, i + 1),
      moments: prepared.moments.slice(from, i + 1),
      grips,
      unplayable: [],
    };
    const planned = explain(request, slice, cheapestPath({ grips, moments: slice.moments, weighing }).choice, STRATEGIES[0]!);
    const since = planned.notes.filter((each) => each.event >= prepared.eventIndex[k]!);
    const hardest = Math.max(0, ...since.map((each) => each.shift?.bitsPerS ?? 0));
    if (hardest === 0 || hardest >= most) continue;
    most = hardest;
    best = { at: k, bitsPerS: hardest, first: since[0]! };
  }
  return best;
}
