/**
 * Remedies that are computed, not proverbs: other fingers, other bows, an earlier move, a split slur, a slower tempo, each tried
 * on the music around the finding. Those that help are kept, with the finding's own number before and after.
 */
import { noteById } from '../score/find';
import { linesOf, type Line } from '../score/lines';
import type { Note } from '../score/score';
import { clockFor } from '../score/time';
import { fingerName } from '../instruments/player';
import { stringName } from '../instruments/instrument';
import { applyChanges, changeTo, type Change } from '../marking/change';
import type { Mark, Marking } from '../marking/mark';
import { handAdvice } from '../left-hand/advice';
import { choicesForNote } from '../left-hand/choices';
import { newFingeringMemory, planFingering, type Fingering, type FingeringMemory } from '../left-hand/fingering';
import { stringsOf } from '../left-hand/strings';
import { forkedMemory, newBowMemory, planBowing, type BowMemory } from '../bow-arm/bowing';
import { choicesForBow } from '../bow-arm/choices';
import { bowFindings } from './bow';
import { placeOf, type CheckRequest, type LineContext } from './check';
import type { Finding, Remedy } from './finding';
import { handFindings } from './hand';
import { SHIFT_BITS_PER_S } from './tables';

export interface TriedRemedy extends Remedy {
  kind: 'fingering' | 'bowing' | 'earlier' | 'tempo' | 'marks';
  /** The finding is gone, not only milder. */
  solved: boolean;
  /** Findings nearby that it brings, in a few words each. */
  brings: string[];
}

/** Ways to finger and to bow that are tried. */
const TRIED_FINGERS = 5;
const TRIED_BOWS = 5;
/** Bars around the finding that a remedy may disturb. */
const WINDOW_BARS = 2;

const HAND_KINDS: readonly Finding['kind'][] = ['shift late', 'reach', 'out-of-tune risk', 'colour break', 'audible shift', 'unplayable', 'contradiction'];
const BOW_KINDS: readonly Finding['kind'][] = [
  'bow runs out',
  'bow must race back',
  'retake late',
  'stroke too quick',
  'string change too quick',
  'string leap in a slur',
  'level out of reach',
  'wish not met',
  'bowed differently elsewhere',
  'repeat does not come round',
];
/** Crossings are made by the fingers as much as by the bow. */
const BOTH_KINDS: readonly Finding['kind'][] = ['string change too quick', 'string leap in a slur'];

/** The number that a finding is about: the greater, the worse. */
export function burden({ kind, numbers, severity }: Finding): number {
  const n = (name: string) => Number(numbers[name] ?? 0);
  switch (kind) {
    case 'shift late':
      return n('load');
    case 'reach':
      return n('mm') / n('limitMm');
    case 'out-of-tune risk':
      return n('chance');
    case 'audible shift':
      return n('mm');
    case 'bow runs out':
      return n('neededCm') / n('hairCm');
    default:
      return severity;
  }
}

/** The burden in words and in the finding's own unit. */
export function burdenInWords(finding: Finding): string {
  const value = burden(finding);
  switch (finding.kind) {
    case 'out-of-tune risk':
      return `${Math.round(value * 100)} %`;
    case 'shift late':
      return `${value.toFixed(1)} × the time`;
    case 'reach':
      return `${Math.round(value * 100)} % of the limit`;
    case 'audible shift':
      return `${Math.round(value)} mm`;
    case 'bow runs out':
      return `${value.toFixed(1)} bows`;
    default:
      return ['solved', 'watch', 'risk', 'will fail'][Math.round(value)] ?? '';
  }
}

interface Tried {
  findings: Finding[];
}

export interface RemedyMemory {
  hand: FingeringMemory;
  bow: BowMemory;
}

/**
 * @param memory of the last check of this line; it is copied, never changed
 */
export function remediesFor(
  request: CheckRequest,
  finding: Finding,
  memory: RemedyMemory = { hand: newFingeringMemory(), bow: newBowMemory() },
): TriedRemedy[] {
  const { score, part, player, marking, preferences } = request;
  const note = noteById(part, finding.noteIds.at(-1)!);
  const line = note && linesOf(part).find((each) => each.events.some(({ ids }) => ids.includes(note.id)));
  if (!note || !line) return fixed(finding);
  const clock = clockFor(part, score.ticksPerQuarter, request.tempo);
  const shared = { score, part, line, player, clock, preferences, marking };
  const trial = new Trial(request, line, memory, finding);
  const found: TriedRemedy[] = [];
  const keep = (kind: TriedRemedy['kind'], text: string, changes: Change[]) => {
    const made = changes.length ? trial.of(kind, text, changes) : null;
    if (made) found.push(made);
  };
  const ofHand = HAND_KINDS.includes(finding.kind) || BOTH_KINDS.includes(finding.kind);
  if (ofHand && finding.kind !== 'unplayable') {
    for (const target of handTargets(finding, note, line)) {
      for (const { place } of choicesForNote(shared, target, { ...memory.hand }).slice(0, TRIED_FINGERS)) {
        keep(
          'fingering',
          `${fingerName(place.finger)} on ${stringName(player.instrument, place.string)}${target.id === note.id ? '' : ' on the note before'}.`,
          fingerChanges(marking, target.id, fingerName(place.finger), place.string),
        );
      }
    }
    if (finding.kind === 'shift late' || finding.kind === 'out-of-tune risk') {
      const way = trial.fingering();
      const within = { from: Math.max(0, note.onset - part.ticksPerQuarter * 8), to: note.onset + 1 };
      for (const { kind, take, text } of way ? handAdvice(shared, way, [], SHIFT_BITS_PER_S[player.level] / 2, within) : [])
        if (kind === 'move early' && take) keep('earlier', `${text.split(':')[0]}.`, fingerChanges(marking, take.noteId, take.finger, take.string));
    }
  }
  if (BOW_KINDS.includes(finding.kind)) {
    const first = finding.noteIds[0]!;
    const stringOf = stringsOf(trial.fingering());
    for (const { name, changes } of choicesForBow({ ...shared, stringOf }, first, forkedMemory(memory.bow)).slice(1, 1 + TRIED_BOWS))
      keep('bowing', `${name}.`, changes);
  }
  found.sort((a, b) => Number(b.solved) - Number(a.solved) || a.brings.length - b.brings.length || (a.after ?? 0) - (b.after ?? 0));
  return [...unique(found), ...fixed(finding)];
}

/** What the finding offers of itself: marks to copy or to take, a tempo. */
function fixed({ remedies }: Finding): TriedRemedy[] {
  return remedies.map((remedy) => ({
    ...remedy,
    kind: remedy.tempo ? 'tempo' : 'marks',
    solved: remedy.tempo !== undefined || (remedy.changes?.length ?? 0) > 0,
    brings: [],
  }));
}

function unique(found: readonly TriedRemedy[]): TriedRemedy[] {
  const seen = new Set<string>();
  return found.filter(({ changes }) => {
    const key = JSON.stringify(changes);
    return !seen.has(key) && seen.add(key);
  });
}

/** The note itself, and the one before where the way between them is the trouble. */
function handTargets({ kind }: Finding, note: Note, line: Line): Note[] {
  const at = line.events.findIndex(({ ids }) => ids.includes(note.id));
  const before = line.events[at - 1]?.notes[0];
  return before && kind !== 'out-of-tune risk' && kind !== 'contradiction' ? [note, before] : [note];
}

function fingerChanges(marking: Marking, noteId: string, finger: string, string: number): Change[] {
  const mark = (value: string): Mark => ({ value, origin: 'coach' });
  return [changeTo(marking, noteId, 'finger', mark(finger)), changeTo(marking, noteId, 'string', mark(String(string)))].filter((change) => change !== null);
}

/** Tries marks on the music around a finding. */
class Trial {
  private readonly context: Omit<LineContext, 'marking'>;
  private readonly before: Tried;
  private planned: Fingering | null = null;

  constructor(
    private readonly request: CheckRequest,
    private readonly line: Line,
    private readonly memory: RemedyMemory,
    private readonly finding: Finding,
  ) {
    const { score, part, player, preferences, toleranceCents, tempo } = request;
    this.context = {
      score,
      part,
      line,
      player,
      clock: clockFor(part, score.ticksPerQuarter, tempo),
      preferences,
      toleranceCents,
      place: (note) => placeOf(part, note, score.ticksPerQuarter),
      isNew: () => true,
    };
    this.before = this.check(request.marking);
  }

  fingering(): Fingering | null {
    return this.planned;
  }

  /** Null where it does not help. */
  of(kind: TriedRemedy['kind'], text: string, changes: Change[]): TriedRemedy | null {
    const { marking } = applyChanges(this.request.marking, changes);
    const { findings } = this.check(marking);
    const same = this.still(findings);
    const [before, after] = [burden(this.finding), same ? burden(same) : 0];
    if (same && after >= before * 0.97) return null;
    const known = new Set(this.before.findings.map(({ id }) => id));
    const brings = findings.filter(({ id, severity }) => !known.has(id) && severity > 0).map((each) => `${each.kind}, bar ${each.bar}`);
    // What it brings must weigh less than what it takes away.
    if (weight(findings) >= weight(this.before.findings)) return null;
    return { kind, text, before: round(before), after: round(after), changes, solved: !same, brings };
  }

  /** The same trouble at the same place, whatever it is called now. */
  private still(findings: readonly Finding[]): Finding | null {
    return (
      findings.find(({ id }) => id === this.finding.id) ??
      findings.find(({ kind, noteIds }) => kind === this.finding.kind && noteIds.some((noteId) => this.finding.noteIds.includes(noteId))) ??
      null
    );
  }

  private check(marking: Marking): Tried {
    const { barIndex } = this.finding;
    const near = (each: Finding) => Math.abs(each.barIndex - barIndex) <= WINDOW_BARS;
    const request = { ...this.context, marking, alternatives: 1, costs: this.request.costs?.hand };
    const hand = planFingering(request, forked(this.memory.hand));
    const way = hand.alternatives[0] ?? null;
    this.planned ??= way;
    const context: LineContext = { ...this.context, marking };
    const window = way && { ...way, notes: way.notes.filter(({ id }) => Math.abs(noteById(this.context.part, id)!.barIndex - barIndex) <= WINDOW_BARS + 1) };
    const findings = window ? handFindings(window, context).findings : [];
    if (HAND_KINDS.includes(this.finding.kind)) return { findings: findings.filter(near) };
    const stringOf = stringsOf(way);
    const { costs: _, ...bowRequest } = request;
    const bow = planBowing({ ...bowRequest, stringOf }, forkedMemory(this.memory.bow))[0];
    if (bow) findings.push(...bowFindings(bow, { ...context, stringOf }).findings);
    return { findings: findings.filter(near) };
  }
}

/** Squares: one spot that fails outweighs two to watch. */
const weight = (findings: readonly Finding[]): number => findings.reduce((sum, finding) => sum + finding.severity ** 2 + burden(finding) * 0.01, 0);

/** Copies that may be moved on without touching what is remembered. */
const forked = (memory: FingeringMemory): FingeringMemory => ({ ...memory, path: { ...memory.path }, alike: { ...memory.alike } });

const round = (value: number): number => Math.round(value * 1000) / 1000;
