/**
 * Remedies that are computed, not proverbs: other fingers, other bows, an earlier move, a split slur, a slower tempo, each tried
 * on the music around the finding. Those that help are kept, with the finding's own number before and after.
 */
import { rounded } from '../util/round';
import { finished, type Steps } from '../util/steps';
import { noteById } from '../score/find';
import { linesOf, type Line } from '../instruments/lines';
import { ticksOf, type TickRange } from '../score/bars';
import type { Note, Part } from '../score/score';
import { clockFor } from '../score/time';
import { fingerName } from '../instruments/player';
import { stringName } from '../instruments/instrument';
import { applyChanges, changeTo, type Change } from '../marking/change';
import type { Mark, Marking } from '../marking/mark';
import { MARKS } from '../marking/kinds';
import { handAdvice } from '../left-hand/advice';
import { choicesForNote, type NoteChoice } from '../left-hand/choices';
import type { Fingering, FingeringRequest } from '../left-hand/fingering';
import { forkedPlanMemory, newPlanMemory, planBow, planBowNear, planHand, type HandPlan, type PlanMemory, type PlanRequest } from '../plan/plan';
import { bowOptions } from '../bow-arm/choices';
import type { Bowing } from '../bow-arm/describe';
import { bowOf } from '../bow-arm/bow';
import type { CheckRequest } from './check';
import { aimOf, placeOf, type LineContext, type NoteRisk } from './context';
import { foundIn } from './found';
import { isSpot, type Finding, type Remedy } from './finding';
import { burdenOf, FINDINGS, inUnit } from './kinds';
import { FASTEST_TEMPO, SLOWEST_TEMPO } from '../score/time';
import { SHIFT_BITS_PER_S } from './tables';
import { isEdit, marksToTry, type Tryable } from './to-try';
import { TICKS_PER_QUARTER } from '../score/ticks';

export interface TriedRemedy extends Remedy {
  /** `advice`: what is known to help, where nothing that can be tried does. */
  kind: 'fingering' | 'bowing' | 'earlier' | 'edit' | 'tempo' | 'marks' | 'advice';
  /** The finding is gone, not only milder. */
  solved: boolean;
  /** Findings nearby that it brings, in a few words each. */
  brings: string[];
}

/** Ways to finger a note that are tried. */
const TRIED_FINGERS = 5;
/** Other ways to finger a note than the planned one, the cheapest first. */
const othersFor = (request: FingeringRequest, note: Note, memory: PlanMemory): NoteChoice[] =>
  choicesForNote(request, note, forkedPlanMemory(memory).hand)
    .filter(({ now }) => !now)
    .slice(0, TRIED_FINGERS);

/** Bars around the finding that a remedy may disturb. */
const WINDOW_BARS = 2;
/** Bars to either side in which the bow is planned anew for it. */
const PLANNED_BARS = 6;

/** The number that a finding is about: the greater, the worse. */
export const burden = (finding: Finding): number => burdenOf(finding) ?? finding.severity;

/** The burden in words and in the finding's own unit. */
export const burdenInWords = (finding: Finding): string => inUnit(finding.kind, burden(finding));

interface Tried {
  findings: Finding[];
  risks: NoteRisk[];
}

/**
 * @param memory of the last check of this line; it is copied, never changed
 */
export const remediesFor = (request: CheckRequest, finding: Finding, memory?: PlanMemory): TriedRemedy[] => finished(remediesInSteps(request, finding, memory));

export function* remediesInSteps(request: CheckRequest, finding: Finding, memory: PlanMemory = newPlanMemory()): Steps<TriedRemedy[]> {
  const { part, player, marking, preferences } = request;
  const note = noteById(part, finding.noteIds.at(-1)!);
  const line = note && linesOf(part).find((each) => each.events.some(({ ids }) => ids.includes(note.id)));
  if (!note || !line || !isSpot(finding)) return fixed(finding);
  const clock = clockFor(part, request.tempo);
  const shared = { part, line, player, clock, preferences, marking };
  const trial = new Trial(request, line, memory, finding);
  yield;
  const found: TriedRemedy[] = [];
  function* keep(kind: TriedRemedy['kind'], text: string, changes: Change[]): Steps<void> {
    const made = changes.length ? trial.of(kind, text, changes) : null;
    if (made) found.push(made);
    yield;
  }
  const { tries } = FINDINGS[finding.kind];
  if (tries.fingers && !isOfBow(finding)) {
    for (const target of handTargets(tries.noteBefore, note, line)) {
      for (const { place } of othersFor(shared, target, memory)) {
        yield* keep(
          'fingering',
          `${fingerName(place.finger)} on ${stringName(player.instrument, place.string)}${target.id === note.id ? '' : ' on the note before'}.`,
          fingerChanges(marking, target.id, fingerName(place.finger), place.string),
        );
      }
    }
    if (tries.earlier) {
      const way = trial.fingering();
      const within = { from: Math.max(0, note.onset - TICKS_PER_QUARTER * 8), to: note.onset + 1 };
      for (const { kind, take, text } of way ? handAdvice(shared, way, [], SHIFT_BITS_PER_S[player.level] / 2, within) : [])
        if (kind === 'move early' && take) yield* keep('earlier', `${text.split(':')[0]}.`, fingerChanges(marking, take.noteId, take.finger, take.string));
    }
  }
  for (const { kind, text, changes } of marksToTry(finding, trial.tryable())) yield* keep(kind, text, changes);
  if (tries.bow || isOfBow(finding)) {
    const first = finding.noteIds[0]!;
    const now = trial.bowing();
    const stroke = now?.strokes.find(({ noteIds }) => noteIds.includes(first));
    for (const { name, changes } of now && stroke ? bowOptions(now, stroke, noteById(part, first)!, marking) : []) yield* keep('bowing', `${name}.`, changes);
  }
  found.sort((a, b) => Number(b.solved) - Number(a.solved) || a.brings.length - b.brings.length || (a.after ?? 0) - (b.after ?? 0));
  const tried = unique(found);
  return [...tried, ...fixed(finding, tried.length > 0)];
}

/** What the finding offers of itself: a tempo, marks that make an end of it; words only where nothing that was tried helps. */
function fixed({ remedies }: Finding, helped = false): TriedRemedy[] {
  return remedies
    .filter(({ tempo, changes, elsewhere }) =>
      tempo === undefined ? elsewhere || changes?.length || !helped : tempo >= SLOWEST_TEMPO && tempo <= FASTEST_TEMPO,
    )
    .map((remedy) => {
      const marks = (remedy.changes?.length ?? 0) > 0 || remedy.elsewhere !== undefined;
      const kind = remedy.tempo !== undefined ? 'tempo' : marks ? 'marks' : 'advice';
      return { ...remedy, ...(marks && remedy.after === null ? { before: 1, after: 0 } : {}), kind, solved: kind !== 'advice', brings: [] };
    });
}

function unique(found: readonly TriedRemedy[]): TriedRemedy[] {
  const seen = new Set<string>();
  return found.filter(({ changes }) => {
    const key = JSON.stringify(changes);
    return !seen.has(key) && seen.add(key);
  });
}

/** The note itself, and the one before where the way between them is the trouble. */
function handTargets(noteBefore: boolean, note: Note, line: Line): Note[] {
  const at = line.events.findIndex(({ ids }) => ids.includes(note.id));
  const before = line.events[at - 1]?.notes[0];
  return before && noteBefore ? [note, before] : [note];
}

function fingerChanges(marking: Marking, noteId: string, finger: string, string: number): Change[] {
  const mark = (value: string): Mark => ({ value, origin: 'coach' });
  return [changeTo(marking, noteId, 'finger', mark(finger)), changeTo(marking, noteId, 'string', mark(String(string)))].filter((change) => change !== null);
}

/** Tries marks on the music around a finding. */
class Trial {
  private readonly context: Omit<LineContext, 'marking'>;
  private readonly before: Tried;
  private hand: HandPlan | null = null;
  private bowed: Bowing | null = null;

  constructor(
    private readonly request: CheckRequest,
    private readonly line: Line,
    private readonly memory: PlanMemory,
    private readonly finding: Finding,
  ) {
    const { part, player, preferences, tempo } = request;
    this.context = {
      part,
      line,
      player,
      clock: clockFor(part, tempo),
      preferences,
      ...aimOf(request),
      place: (note) => placeOf(part, note),
      isNew: () => true,
    };
    this.before = this.check(request.marking);
  }

  fingering(): Fingering | null {
    return this.hand?.fingering ?? null;
  }

  /** The plan as it is. */
  bowing(): Bowing | null {
    return this.bowed;
  }

  tryable(): Tryable {
    const { part, marking, player } = this.request;
    const sayPlace = (note: Note) => {
      const { bar, beat } = this.context.place(note);
      return `${bar}/${Math.round(beat * 100) / 100}`;
    };
    return { part, marking, strokes: this.bowed?.strokes ?? [], hairCm: bowOf(player.instrument).hairCm, sayPlace };
  }

  /** Null where it does not help. */
  of(kind: TriedRemedy['kind'], text: string, changes: Change[]): TriedRemedy | null {
    const { marking } = applyChanges(this.request.marking, changes);
    const edited = isEdit(changes);
    if (edited && !this.request.edited) return null;
    const fingersStay = !edited && changes.every(({ kind: changed }) => !MARKS[changed].fingers);
    const { findings, risks } = this.check(marking, edited ? this.request.edited!(marking) : this.context.part, fingersStay);
    const same = this.still(findings);
    const [before, after] = [burden(this.finding), same ? burden(same) : this.left(risks)];
    if (same && after >= before * 0.97) return null;
    const known = new Set(this.before.findings.map(({ id }) => id));
    const brings = findings.filter(({ id, severity }) => !known.has(id) && severity > 0).map((each) => `${each.kind}, bar ${each.bar}`);
    // What it brings must weigh less than what it takes away.
    if (weight(findings, this.finding) >= weight(this.before.findings, this.finding)) return null;
    return { kind, text, before: round(before), after: round(after), changes, solved: !same, brings };
  }

  /** What is left below the threshold: a chance, for a note that is in tune more surely now. */
  private left(risks: readonly NoteRisk[]): number {
    const { kind, noteIds } = this.finding;
    return kind === 'out-of-tune risk' ? (risks.find(({ noteId }) => noteId === noteIds[0])?.chance ?? 0) : 0;
  }

  /** The same trouble at the same place, whatever it is called now. */
  private still(findings: readonly Finding[]): Finding | null {
    return (
      findings.find(({ id }) => id === this.finding.id) ??
      findings.find(({ kind, noteIds }) => kind === this.finding.kind && noteIds.some((noteId) => this.finding.noteIds.includes(noteId))) ??
      null
    );
  }

  /** Planned anew around the finding; the whole line where only that tells. */
  private bowOf(request: PlanRequest & { line: Line }, hand: HandPlan): Bowing | null {
    if (FINDINGS[this.finding.kind].ofTheWhole) return planBow(request, hand, this.memory).bowing;
    return planBowNear({ ...request, within: this.around(request.part) }, hand, this.memory);
  }

  /** What the bow is planned anew in: what is done here is paid for not far away. */
  private around(part: Part): TickRange {
    const { barIndex } = this.finding;
    return ticksOf(part, { fromBar: Math.max(0, barIndex - PLANNED_BARS), toBar: Math.min(part.bars.length - 1, barIndex + PLANNED_BARS) });
  }

  /** @param fingersStay the marks that are tried are none that the fingers know of */
  private check(marking: Marking, part = this.context.part, fingersStay = false): Tried {
    const { barIndex } = this.finding;
    const near = (each: Finding) => Math.abs(each.barIndex - barIndex) <= WINDOW_BARS;
    const isNear = (note: Note) => Math.abs(note.barIndex - barIndex) <= WINDOW_BARS + 1;
    const line = part === this.context.part ? this.line : (linesOf(part).find(({ name }) => name === this.line.name) ?? linesOf(part)[0]!);
    const context: LineContext = { ...this.context, part, line, marking };
    const request = { part, line, player: context.player, clock: context.clock, marking, preferences: context.preferences, costs: this.request.costs };
    const hand = fingersStay && this.hand ? this.hand : planHand(request, this.memory).plan;
    this.hand ??= hand;
    const { tries } = FINDINGS[this.finding.kind];
    const ofHandAlone = (tries.fingers && !tries.bow && !isOfBow(this.finding)) || this.finding.kind === 'unplayable';
    const bowing = ofHandAlone ? null : this.bowOf(request, hand);
    this.bowed ??= bowing;
    const fingering = hand.fingering && { ...hand.fingering, notes: hand.fingering.notes.filter(({ id }) => isNear(noteById(part, id)!)) };
    const { findings, risks } = foundIn({ ...hand, fingering, bowing }, context, { barIndex, bars: WINDOW_BARS });
    return { findings: findings.filter(near), risks };
  }
}

/** A clash of bow marks is called a contradiction too; that of fingers says why it cannot be played. */
const isOfBow = ({ kind, numbers }: Finding): boolean => kind === 'contradiction' && !('reason' in numbers);

/** Squares: one spot that fails outweighs two to watch. */
const weight = (findings: readonly Finding[], { kind: own }: Finding): number =>
  findings.reduce((sum, finding) => (finding.kind !== own && FINDINGS[finding.kind].likeness ? sum : sum + finding.severity ** 2 + burden(finding) * 0.01), 0);

const round = (value: number): number => rounded(value, 3);
