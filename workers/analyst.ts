/**
 * The analyst: holds one part and answers what the Desk asks about it, off the main thread. It runs the
 * same core as the server and the headless door.
 */
import { noteById } from '../core/score/find';
import { linesOf, type Line } from '../core/score/lines';
import { ticksOf, type BarRange } from '../core/score/bars';
import type { Passage } from '../core/score/passages';
import type { Part, Score } from '../core/score/score';
import { clockFor } from '../core/score/time';
import { readMusicXml } from '../core/formats/musicxml/read';
import { asTold, type Told } from '../core/instruments/as-told';
import { usualPlayer, playerFrom, type Player, type PlayerDescription } from '../core/instruments/player';
import { slurLinks } from '../core/marking/links';
import { editedPart } from '../core/marking/print-edits';
import type { MarkKind, Marking } from '../core/marking/mark';
import { changesFor, suggestedBowing, suggestedFingering, withoutSuggestions } from '../core/marking/suggestion';
import type { Change } from '../core/marking/change';
import { choicesForNote, type NoteChoice } from '../core/left-hand/choices';
import { fingerPart } from '../core/left-hand/part';
import { costsMore, fingeringNumbers, type FingeringNumbers } from '../core/left-hand/reasons';
import type { Fingering } from '../core/left-hand/fingering';
import { planBowing } from '../core/bow-arm/bowing';
import type { Bowing } from '../core/bow-arm/describe';
import { bowingNumbers, type BowingNumbers } from '../core/bow-arm/reasons';
import type { ReadingAid } from '../core/reading/aid';
import { readingAids } from '../core/reading/reading';
import { check, type Report } from '../core/checks/check';

/** What a plan depends on besides the music. */
export interface Conditions {
  marking: Marking;
  player: PlayerDescription | null;
  tempo: number | null;
  told: Told;
  /** Which line of a divided part is planned. */
  line: number;
}

export interface OpenPart {
  part: Part;
  ticksPerQuarter: number;
}

export interface FingeringChoice {
  way: Fingering;
  numbers: FingeringNumbers;
  more: string[];
  less: string[];
  /** What taking it writes. */
  changes: Change[];
}

export interface BowingChoice {
  plan: Bowing;
  numbers: BowingNumbers;
  changes: Change[];
}

const lineOf = (part: Part, index: number): Line => {
  const lines = linesOf(part);
  return lines[index] ?? lines[0]!;
};

const FINGER_KINDS: readonly MarkKind[] = ['finger', 'string'];
const BOW_KINDS: readonly MarkKind[] = ['bow', 'hook', 'retake', 'slur'];

export class Analyst {
  private score: Score | null = null;

  /** Reads the part; a stored part always can be read. */
  open(music: string): OpenPart {
    const read = readMusicXml(music);
    if (!read.ok) throw new Error(read.problem.what);
    this.score = read.value.score;
    return { part: this.part, ticksPerQuarter: this.score.ticksPerQuarter };
  }

  report(conditions: Conditions, passages: readonly Passage[]): Report {
    const { marking, tempo } = conditions;
    return check({ score: this.opened, part: this.edited(conditions), line: conditions.line, marking, player: this.player(conditions), tempo, passages });
  }

  suggestFingering(conditions: Conditions, range: BarRange): FingeringChoice[] {
    const part = this.edited(conditions);
    const marking = withoutSuggestions(conditions.marking, FINGER_KINDS, this.idsIn(range));
    const { alternatives } = fingerPart({ ...this.request({ ...conditions, marking }), within: ticksOf(part, range), alternatives: 3 }, conditions.line);
    const line = lineOf(part, conditions.line);
    const links = slurLinks(part, line, conditions.marking);
    const best = alternatives[0];
    return alternatives.map((way) => ({
      way,
      numbers: fingeringNumbers(way, line, links),
      ...(best && way !== best ? costsMore(way.terms, best.terms) : { more: [], less: [] }),
      changes: changesFor(conditions.marking, suggestedFingering(way, part), { kinds: FINGER_KINDS, targets: this.idsIn(range) }),
    }));
  }

  suggestBowing(conditions: Conditions, range: BarRange): BowingChoice[] {
    const marking = withoutSuggestions(conditions.marking, BOW_KINDS, this.idsIn(range));
    const request = this.request({ ...conditions, marking });
    const plans = planBowing({ ...request, line: lineOf(request.part, conditions.line), within: ticksOf(this.part, range), alternatives: 3 });
    return plans.map((plan) => ({
      plan,
      numbers: bowingNumbers(plan, request.part),
      changes: changesFor(conditions.marking, suggestedBowing(plan), { kinds: BOW_KINDS, targets: this.idsIn(range) }),
    }));
  }

  choices(conditions: Conditions, noteId: string): NoteChoice[] {
    const part = this.edited(conditions);
    const note = noteById(part, noteId);
    if (!note) return [];
    const line = linesOf(part).find((candidate) => candidate.events.some((event) => event.ids.includes(noteId)));
    return line ? choicesForNote({ ...this.request(conditions), line }, note) : [];
  }

  /** What a reader may trip over. */
  reading(conditions: Conditions): ReadingAid[] {
    return readingAids(this.edited(conditions), this.player(conditions));
  }

  private request(conditions: Conditions) {
    const part = this.edited(conditions);
    return {
      score: this.opened,
      part,
      player: this.player(conditions),
      clock: clockFor(part, this.opened.ticksPerQuarter, conditions.tempo),
      marking: conditions.marking,
    };
  }

  /** The part as the coach says it is, with the edits in force. */
  private edited({ told, marking }: Conditions): Part {
    return editedPart(asTold(this.part, told), marking);
  }

  private player({ player, told }: Conditions): Player {
    const made = player ? playerFrom(player) : null;
    if (made?.ok) return made.value;
    return usualPlayer(told.instrument ?? this.part.instrument ?? 'violin');
  }

  private idsIn({ fromBar, toBar }: BarRange): ReadonlySet<string> {
    return new Set(this.part.notes.filter((note) => note.barIndex >= fromBar && note.barIndex <= toBar).map((note) => note.id));
  }

  private get opened(): Score {
    if (!this.score) throw new Error('no part is open');
    return this.score;
  }

  private get part(): Part {
    return this.opened.parts[0]!;
  }
}
