/**
 * The report for one line of a part: what the marks and the best plan around them come to for this player
 * at this tempo. A pure function of its request, so it can be computed anywhere and cached by content.
 */
import { beatOf } from '../score/beat';
import { pitchName, type Pitch } from '../score/pitch';
import type { Line } from '../score/lines';
import { linesOf } from '../score/lines';
import type { Passage } from '../score/passages';
import { type Note, type Part } from '../score/score';
import { clockFor, type Clock } from '../score/time';
import type { Player } from '../instruments/player';
import type { Marking } from '../marking/mark';
import { forkedFingering, newFingeringMemory, planFingering, type Fingering, type FingeringMemory, type Unplayable } from '../left-hand/fingering';
import { forkedMemory, newBowMemory, planBowing, type BowMemory } from '../bow-arm/bowing';
import type { LeftHandCosts } from '../left-hand/costs';
import type { HandPreferences } from '../left-hand/preferences';
import { stringsOf } from '../left-hand/strings';
import type { Bowing } from '../bow-arm/describe';
import type { BowCosts } from '../bow-arm/tables';
import { bowFindings } from './bow';
import { handFindings } from './hand';
import { ornamentFindings } from './ornaments';
import { acrossFindings, consistencyFindings, readingFindings } from './music';
import { rootOf, soundingAt, type OtherPart } from './ensemble';
import { tonicOf, type IntonationSettings, type PitchSchool } from './target';
import type { Finding, TempoLimit } from './finding';
import { FASTEST_TEMPO } from './tables';
import { heldText, unplayableText } from './words';
import { TICKS_PER_QUARTER } from '../score/ticks';

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
  costs?: { hand?: LeftHandCosts; bow?: Partial<BowCosts> } | undefined;
  /** How in tune it is wanted: cents off that are minded (by the level otherwise), and the pitch that is aimed at. */
  intonation?: IntonationSettings | undefined;
  /** The other parts of the score, as they are marked: chords, cues and bows that should go together. */
  others?: readonly OtherPart[] | undefined;
  /** The part with the edits of another marking in force; without it no edits are tried as remedies. */
  edited?: ((marking: Marking) => Part) | undefined;
  /** Which line of a divided part the bow plan is for; the first otherwise. */
  line?: number;
  /** Kept from one check of the part to the next, one for each line. */
  memories?: CheckMemory[];
}

export interface CheckMemory {
  hand: FingeringMemory;
  bow: BowMemory;
}

export interface PassageTempo {
  name: string;
  fromBar: number;
  toBar: number;
  /** Fastest and slowest quarters per minute without a finding that depends on the tempo; null where nothing limits. */
  ceiling: number | null;
  floor: number | null;
  limitedBy: TempoLimit | null;
  /** What would limit it next, were that solved. */
  next: TempoLimit | null;
}

export interface NoteRisk {
  noteId: string;
  chance: number;
  errorCents: number;
  cause: string;
}

export interface Report {
  tempo: { wanted: number; floor: number | null; ceiling: number | null; limitedBy: TempoLimit | null; next: TempoLimit | null };
  passages: PassageTempo[];
  findings: Finding[];
  /** The plan that was checked: marks, and the best way around them. */
  fingering: Fingering | null;
  bowing: Bowing | null;
  risks: NoteRisk[];
}

export function check(request: CheckRequest): Report {
  const { part, marking, player, preferences } = request;
  const clock = clockFor(part, request.tempo);
  const findings: Finding[] = [];
  const limits: TempoLimit[] = [];
  const risks: NoteRisk[] = [];
  /** One per line, without the notes that an earlier line has. */
  const fingerings: Fingering[] = [];
  let bowing: Bowing | null = null;
  const seen = new Set<string>();
  const memories = request.memories ?? [];
  const lines = linesOf(part);
  for (const [index, line] of lines.entries()) {
    const isNew = (noteId: string) => !seen.has(noteId);
    const shared = { part, line, player, clock, marking, preferences };
    const memory = (memories[index] ??= memoryAfter(memories[index - 1]));
    const hand = planFingering({ ...shared, costs: request.costs?.hand, alternatives: 1 }, memory.hand);
    const best = hand.alternatives[0] ?? null;
    const stringOf = stringsOf(best);
    const bow = planBowing({ ...shared, ...(request.costs?.bow ? { costs: request.costs.bow } : {}), alternatives: 1, stringOf }, memory.bow)[0] ?? null;
    const context: LineContext = { ...shared, ...aimOf(request), place: (note) => placeOf(part, note), isNew };
    findings.push(...hand.unplayable.filter(({ event }) => isNew(event.ids[0]!)).map((trouble) => unplayableFinding(trouble, context)));
    if (best) {
      const found = handFindings(best, context);
      findings.push(...found.findings);
      limits.push(...found.limits);
      risks.push(...found.risks);
    }
    const ornaments = ornamentFindings(best, context);
    findings.push(...ornaments.findings);
    limits.push(...ornaments.limits);
    if (bow) {
      const found = bowFindings(bow, { ...context, stringOf });
      findings.push(...found.findings);
      limits.push(...found.limits);
    }
    if (index === Math.min(request.line ?? 0, lines.length - 1)) bowing = bow;
    if (best) fingerings.push({ ...best, notes: best.notes.filter((note) => isNew(note.id)) });
    for (const event of line.events) for (const id of event.ids) seen.add(id);
  }
  const place = (note: Note) => placeOf(part, note);
  const shownLine = lines[Math.min(request.line ?? 0, lines.length - 1)]!;
  findings.push(
    ...readingFindings(part, player, marking, place, request.others ?? []),
    ...consistencyFindings(part, shownLine, marking, place),
    ...acrossFindings(part, shownLine, marking, request.others ?? [], place),
  );
  findings.sort((a, b) => a.barIndex - b.barIndex || a.beat - b.beat || b.severity - a.severity);
  const range = (from: number, to: number) => tempoRange(limits.filter((limit) => limit.barIndex >= from && limit.barIndex <= to));
  return {
    tempo: { wanted: clock.tempo, ...range(0, part.bars.length) },
    passages: request.passages.map((passage) => ({ ...passage, ...range(passage.fromBar, passage.toBar) })),
    findings,
    fingering: fingerings[0] ? { ...fingerings[0], notes: fingerings.flatMap((each) => each.notes) } : null,
    bowing,
    risks,
  };
}

/** What is kept for a line at first: the line before has most of its notes. */
const memoryAfter = (before: CheckMemory | undefined): CheckMemory =>
  before ? { hand: forkedFingering(before.hand), bow: forkedMemory(before.bow) } : { hand: newFingeringMemory(), bow: newBowMemory() };

/** The pitch that is aimed at, and how far off is minded. */
export interface Aim {
  /** Null: nothing is said about it. */
  school: PitchSchool | null;
  toleranceCents: number | undefined;
  /** Root of the chord that sounds with a note, by the whole score, else the tonic. */
  rootAt(note: Note): Pitch;
}

export function aimOf({ part, intonation, others }: Pick<CheckRequest, 'part' | 'intonation' | 'others'>): { aim: Aim } {
  const sounding = others?.length ? [part, ...others.map((other) => other.part)] : null;
  return {
    aim: {
      school: intonation?.school ?? null,
      toleranceCents: intonation?.toleranceCents ?? undefined,
      rootAt: (note) => (sounding && rootOf(soundingAt(sounding, note.onset / TICKS_PER_QUARTER))) ?? tonicOf(part.bars[note.barIndex]!.fifths),
    },
  };
}

/** What the findings of one line need to know. */
export interface LineContext {
  part: Part;
  line: Line;
  player: Player;
  clock: Clock;
  marking: Marking;
  preferences: HandPreferences | undefined;
  aim: Aim;
  place(note: Note): { bar: string; barIndex: number; beat: number };
  /** False for notes that an earlier line has reported on. */
  isNew(noteId: string): boolean;
}

export function placeOf(part: Part, note: Note): { bar: string; barIndex: number; beat: number } {
  const bar = part.bars[note.barIndex]!;
  return { bar: bar.label, barIndex: note.barIndex, beat: beatOf(bar, note.tick) };
}

const namesOf = (notes: readonly Note[]): string => notes.map((note) => pitchName(note.pitch)).join(' and ');

export function unplayableFinding({ event, reason, held }: Unplayable, { place, player }: LineContext): Finding {
  const contradiction = reason === 'the marks contradict';
  const pitches = namesOf(event.notes);
  return {
    id: `unplayable ${event.ids[0]}`,
    kind: contradiction ? 'contradiction' : 'unplayable',
    ...place(event.notes[0]!),
    noteIds: event.ids,
    severity: 3,
    numbers: { pitches, reason, ...(held.length ? { held: namesOf(held) } : {}) },
    text: unplayableText(reason, pitches, player.instrument.kind) + (held.length ? ` ${heldText(namesOf(held))}` : ''),
    hearIt: null,
    remedies: [
      {
        text: contradiction
          ? 'Take one of the marks away.'
          : reason === 'no hand can hold it'
            ? 'Divide the chord between players or break it.'
            : 'Choose another instrument or tuning, or move the note by an octave.',
        before: null,
        after: null,
      },
    ],
  };
}

/** The tempi between which none of the limits is passed: slurs set the floor, all others the ceiling. */
function tempoRange(limits: readonly TempoLimit[]): Pick<PassageTempo, 'ceiling' | 'floor' | 'limitedBy' | 'next'> {
  const floors = limits.filter((limit) => limit.kind === 'bow runs out');
  const ceilings = limits.filter((limit) => limit.kind !== 'bow runs out' && limit.tempo < FASTEST_TEMPO);
  const lowest = ceilings.reduce<TempoLimit | null>((best, limit) => (best === null || limit.tempo < best.tempo ? limit : best), null);
  const highest = floors.reduce<TempoLimit | null>((best, limit) => (best === null || limit.tempo > best.tempo ? limit : best), null);
  return {
    ceiling: lowest && Math.floor(lowest.tempo),
    floor: highest && Math.ceil(highest.tempo),
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
