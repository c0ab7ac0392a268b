/**
 * The analyst: holds one part and answers what the Desk asks about it, off the main thread. It runs the
 * same core as the server and the headless door.
 */
import { noteById } from '../core/score/find';
import { linesOf, partOfLine } from '../core/instruments/lines';
import { ticksOf, type BarRange } from '../core/score/bars';
import type { Passage } from '../core/score/passages';
import type { Part } from '../core/score/score';
import { clockFor } from '../core/score/time';
import { correctedPart } from '../core/formats/musicxml/corrected';
import { readPartDocument } from '../core/formats/musicxml/part-document';
import type { ReadScore } from '../core/formats/musicxml/read';
import { toldOrGuessed } from '../core/instruments/play-on';
import { asTold } from '../core/instruments/as-told';
import { usualPlayer, playerFrom, type Player, type PlayerDescription } from '../core/instruments/player';
import { editedPart } from '../core/marking/print-edits';
import { splitKey, type Marking } from '../core/marking/mark';
import { MARKS } from '../core/marking/kinds';
import { withoutSuggestions } from '../core/suggest/suggestion';
import { applyChanges, type Change } from '../core/marking/change';
import { choicesForNote, type NoteChoice } from '../core/left-hand/choices';
import { fingerPart } from '../core/left-hand/part';
import { planFingering, type FingeredNote, type FingeringMemory } from '../core/left-hand/fingering';
import { handAdvice, type HandAdvice } from '../core/left-hand/advice';
import { planBowingNear, preparedAtoms, type BowingRequest } from '../core/bow-arm/bowing';
import type { Stroke } from '../core/bow-arm/describe';
import { bowChoicesInSteps, type BowChoice } from '../core/bow-arm/choices';
import { openStringVersion, type StringOf } from '../core/bow-arm/crossings';
import { hemiolasOf } from '../core/bow-arm/hemiola';
import { SHIFT_BITS_PER_S } from '../core/checks/tables';
import { stringsOf } from '../core/left-hand/strings';
import type { Steps } from '../core/util/steps';
import type { ReadingAid } from '../core/reading/aid';
import { knownAids } from '../core/checks/music';
import { checked, checkedInSteps, type Checked, type CheckRequest, type Report } from '../core/checks/check';
import { checkedNear, type NearReport } from '../core/checks/near';
import { tempiInSteps, type QuickMemories, type Tempi } from '../core/checks/tempi';
import { forkedPlanMemory, newPlanMemory, planNear, type PlanMemory } from '../core/plan/plan';
import type { Around } from '../core/ensemble/around';
import type { OtherPart } from '../core/ensemble/ensemble';
import type { Entry } from '../core/ensemble/entries';
import type { Finding } from '../core/checks/finding';
import { changesFor, fitOf, type FitRequest, type FitRow, type ForPlayer } from '../core/checks/fit';
import { remediesInSteps, type TriedRemedy } from '../core/checks/remedies';
import { aroundNote, cueAmong, entriesAmong, wantedTempi } from './among-others';
import { current, givingWay } from './giving-way';
import { BOW_KINDS, bowingChoices, FINGER_KINDS, fingeringChoices, lineAt } from './suggesting';
import type { Conditions, OtherMusic, OpenPart, WantedTempi, FingeringChoice, BowingChoice, BowOfPassage } from './questions';

export class Analyst {
  private read: ReadScore | null = null;
  /** Plans of both hands as they were last made, for each line: a change is planned in the time of the bars around it. */
  private memories: readonly PlanMemory[] = [];
  private others: OtherPart[] = [];
  /** Wanted tempi of the other string parts, quarters per minute. */
  private tempiOfOthers: Array<{ name: string; tempo: number }> = [];
  /** The last whole check. */
  private last: Checked | null = null;
  /** What it was made for. */
  private lastFor = '';
  /** Of the plans for quicker tempi. */
  private quick: QuickMemories = [];
  /** What the passage on view was checked for last, and how often that changed: what is worked out for something older is given up. */
  private now = '';
  private turn = 0;
  /** Strings of the notes by the last fingering, and what it was for. */
  private strings: { key: string; stringOf: StringOf } | null = null;

  /** Reads the part; a stored part always can be read. */
  open(music: string): OpenPart {
    const read = readPartDocument(music);
    if (!read.ok) throw new Error(read.problem.what);
    this.read = read.value;
    this.memories = [];
    this.quick = [];
    this.last = null;
    this.others = [];
    this.now = '';
    this.strings = null;
    return { part: this.part };
  }

  report(conditions: Conditions, passages: readonly Passage[]): Report {
    return this.keep(conditions, checked(this.checkRequest(conditions, passages), this.memories));
  }

  /**
   * The report in steps: other questions are answered in between.
   * @returns null where it was given up, since by then the part was marked otherwise
   */
  async reportInSteps(conditions: Conditions, passages: readonly Passage[]): Promise<Report | null> {
    const last = await this.inSteps(conditions, checkedInSteps(this.checkRequest(conditions, passages), this.memories));
    return last && this.keep(conditions, last);
  }

  /** Null where it was given up, since the part was marked otherwise meanwhile. */
  private inSteps<T>(conditions: Conditions, steps: Steps<T>): Promise<T | null> {
    const { turn } = this;
    const key = JSON.stringify(conditions);
    return givingWay(steps, () => this.turn === turn || this.now === key);
  }

  /**
   * The tempi of the part and its passages, the best over plans, after the report for the same conditions.
   * @returns null where the part was marked otherwise since
   */
  async tempi(conditions: Conditions, passages: readonly Passage[]): Promise<Tempi | null> {
    if (!this.last || this.lastFor !== JSON.stringify(conditions)) return null;
    const made = await this.inSteps(conditions, tempiInSteps(this.checkRequest(conditions, passages), this.last, this.quick));
    if (made) this.quick = made.memories;
    return made && made.tempi;
  }

  private keep(conditions: Conditions, last: Checked): Report {
    this.last = last;
    this.lastFor = JSON.stringify(conditions);
    this.memories = last.memories;
    return last.report;
  }

  /** The passage on view alone, within what is known of the rest: an answer at once, which the next report may correct. */
  near(conditions: Conditions, passages: readonly Passage[], range: BarRange): NearReport {
    const key = JSON.stringify(conditions);
    if (key !== this.now) this.turn++;
    this.now = key;
    const before = this.last && { ...this.last, memories: [...this.memories] };
    const { near, memories } = checkedNear(this.checkRequest(conditions, passages), range, before);
    this.memories = memories;
    return near;
  }

  private checkRequest(conditions: Conditions, passages: readonly Passage[]): CheckRequest {
    const { marking, tempo, intonation, preferences, line } = conditions;
    return { part: this.edited(conditions), line, marking, player: this.player(conditions), tempo, passages, preferences, intonation, others: this.others };
  }

  /** The other parts of the piece: chords, cues before entries, bows that should go together. One that cannot be read is left out. */
  join(others: readonly OtherMusic[]): void {
    this.others = others.flatMap(({ id, name, markingId, music, marking, told }) => {
      const read = readPartDocument(music);
      return read.ok ? [{ id, name, markingId, marking, part: editedPart(asTold(correctedPart(read.value, marking), told), marking) }] : [];
    });
    this.tempiOfOthers = this.others.flatMap(({ id, name, part }) =>
      part.instrument === null ? [] : [{ name, tempo: clockFor(part, others.find((each) => each.id === id)!.tempo).tempo }],
    );
  }

  /** Marks that were written into another part. */
  joined(partId: string, changes: readonly Change[]): void {
    this.others = this.others.map((other) => (other.id === partId ? { ...other, marking: applyChanges(other.marking, changes).marking } : other));
  }

  suggestFingering(conditions: Conditions, range: BarRange): FingeringChoice[] {
    const marking = withoutSuggestions(conditions.marking, FINGER_KINDS, this.idsIn(conditions, range));
    const question = { ...this.request({ ...conditions, marking }), within: ticksOf(this.edited(conditions), range), others: this.others };
    return fingeringChoices(question, conditions, this.idsIn(conditions, range), this.memory(conditions.line).hand);
  }

  suggestBowing(conditions: Conditions, range: BarRange): BowingChoice[] {
    const marking = withoutSuggestions(conditions.marking, BOW_KINDS, this.idsIn(conditions, range));
    const question = { ...this.bowRequest({ ...conditions, marking }), within: ticksOf(this.edited(conditions), range) };
    return bowingChoices(question, conditions, this.idsIn(conditions, range), this.memory(conditions.line).bow);
  }

  /** How the marking fits one player. @param line the one this player has of a divided part; null: all of them */
  fit(conditions: Conditions, passages: readonly Passage[], player: PlayerDescription, line: number | null = null): FitRow | null {
    const request = this.fitRequest(conditions, passages);
    return fitOf(line === null ? request : { ...request, part: partOfLine(request.part, line), line: 0 }, player);
  }

  /** What to change for one player: marks that differ, and what they mend. */
  changesFor(conditions: Conditions, player: PlayerDescription): ForPlayer | null {
    return changesFor(this.fitRequest(conditions, []), player);
  }

  private fitRequest(conditions: Conditions, passages: readonly Passage[]): FitRequest {
    const { marking, preferences, tempo, line, intonation } = conditions;
    return { part: this.edited(conditions), marking, preferences, tempo, line, passages, intonation };
  }

  /** What helps against a finding, tried on the music around it. */
  async remedies(conditions: Conditions, finding: Finding): Promise<TriedRemedy[]> {
    const part = this.edited(conditions);
    const line = linesOf(part).findIndex((each) => each.events.some(({ ids }) => ids.includes(finding.noteIds.at(-1)!)));
    const { player, marking, preferences } = this.request(conditions);
    const edited = (tried: Marking) => this.edited({ ...conditions, marking: tried });
    const { tempo, intonation } = conditions;
    const request = { part, player, marking, preferences, tempo, intonation, passages: [], edited };
    return current(await this.inSteps(conditions, remediesInSteps(request, finding, this.memory(Math.max(0, line)))));
  }

  /** Both hands of a passage with marks that are only being tried. */
  tried(conditions: Conditions, changes: readonly Change[], range: BarRange): { notes: FingeredNote[]; strokes: Stroke[] } {
    const marking = applyChanges(conditions.marking, changes).marking;
    const request = this.request({ ...conditions, marking });
    const within = ticksOf(request.part, range);
    const inside = (onset: number) => onset >= within.from && onset < within.to;
    const line = lineAt(request.part, conditions.line);
    const { plan } = planNear({ ...request, line, within }, this.memory(conditions.line));
    return {
      notes: plan.fingering?.notes.filter(({ event }) => inside(line.events[event]!.onset)) ?? [],
      strokes: plan.bowing?.strokes.filter(({ onset }) => inside(onset)) ?? [],
    };
  }

  /** What else the bow could do at a note; the numbers are about the passage around it. */
  async bowChoices(conditions: Conditions, noteId: string, range: BarRange): Promise<BowChoice[]> {
    const request = { ...this.bowRequest(conditions), within: ticksOf(this.edited(conditions), range) };
    return current(await this.inSteps(conditions, bowChoicesInSteps(request, noteId, this.memory(conditions.line).bow)));
  }

  /** The strokes of a passage with a mark that is only being tried. */
  triedBow(conditions: Conditions, range: BarRange): Stroke[] {
    const within = ticksOf(this.edited(conditions), range);
    const strokes = planBowingNear({ ...this.bowRequest(conditions), within }, this.memory(conditions.line).bow)?.strokes ?? [];
    return strokes.filter(({ onset }) => onset >= within.from && onset < within.to);
  }

  bowOfPassage(conditions: Conditions, range: BarRange): BowOfPassage {
    const request = this.bowRequest(conditions);
    const within = ticksOf(this.edited(conditions), range);
    const hemiolas = hemiolasOf(request.part, preparedAtoms(request)).filter(({ barIndex }) => barIndex >= range.fromBar && barIndex < range.toBar);
    const openStrings = openStringVersion(request.line, request.stringOf!, within).map(({ noteId, strings }) => ({ noteId, strings }));
    return { hemiolas, openStrings };
  }

  /** What a teacher says about the fingering of a passage besides the fingers. */
  handAdvice(conditions: Conditions, range: BarRange): HandAdvice[] {
    const request = { ...this.request(conditions), line: lineAt(this.edited(conditions), conditions.line), alternatives: 1 };
    const { alternatives, unlike } = planFingering(request, this.memory(conditions.line).hand);
    const [way] = alternatives;
    if (!way) return [];
    const inRange = unlike.filter(({ barIndex }) => barIndex >= range.fromBar && barIndex <= range.toBar);
    return handAdvice(request, way, inRange, SHIFT_BITS_PER_S[request.player.level], ticksOf(request.part, range));
  }

  choices(conditions: Conditions, noteId: string): NoteChoice[] {
    const part = this.edited(conditions);
    const note = noteById(part, noteId);
    if (!note) return [];
    const line = linesOf(part).find((candidate) => candidate.events.some((event) => event.ids.includes(noteId)));
    return line
      ? choicesForNote({ ...this.request(conditions), line }, note, this.memory(linesOf(part).findIndex((each) => each.name === line.name)).hand)
      : [];
  }

  /** What a reader may trip over. */
  reading(conditions: Conditions): ReadingAid[] {
    return knownAids(this.edited(conditions), this.player(conditions));
  }

  /** What the others do at a note. */
  around(conditions: Conditions, noteId: string): Around | null {
    return aroundNote(noteId, this.edited(conditions), this.others);
  }

  /** Entries of the part after a bar of silence or more, with what is heard before them. */
  entries(conditions: Conditions): Entry[] {
    return entriesAmong(this.edited(conditions), this.others);
  }

  cue(conditions: Conditions, noteId: string, index: number): Change[] {
    return cueAmong(noteId, index, this.edited(conditions), conditions.marking, this.others);
  }

  wantedTempi(conditions: Conditions): WantedTempi | null {
    return wantedTempi(clockFor(this.edited(conditions), conditions.tempo).tempo, this.tempiOfOthers);
  }

  private request(conditions: Conditions) {
    const part = this.edited(conditions);
    return {
      score: this.opened.score,
      part,
      player: this.player(conditions),
      clock: clockFor(part, conditions.tempo),
      marking: conditions.marking,
      preferences: conditions.preferences,
    };
  }

  /** The bow's question, with the strings that the fingering takes. */
  private bowRequest(conditions: Conditions): BowingRequest {
    const request = this.request(conditions);
    const { player, tempo, told, line, preferences } = conditions;
    const ofHand = Object.entries(conditions.marking).filter(([key]) => MARKS[splitKey(key).kind].fingers);
    const key = JSON.stringify([player, tempo, told, line, preferences, ofHand]);
    if (this.strings?.key !== key) {
      const fingering = fingerPart({ ...request, alternatives: 1 }, line, this.handMemories()).alternatives[0] ?? null;
      this.strings = { key, stringOf: stringsOf(fingering) };
    }
    return { ...request, line: lineAt(request.part, line), stringOf: this.strings.stringOf };
  }

  /** What is remembered of a line, as a copy: asking aside does not move what the report goes on from. */
  private memory(line: number): PlanMemory {
    return forkedPlanMemory(this.memories[line] ?? newPlanMemory());
  }

  private handMemories(): FingeringMemory[] {
    return this.memories.map((_, line) => this.memory(line).hand);
  }

  /** The part as the coach says it is, with the edits in force. */
  private edited({ told, marking }: Conditions): Part {
    const part = this.corrected(marking);
    return editedPart(asTold(part, toldOrGuessed(part, told)), marking);
  }

  /** The part with its notes and clefs as they are corrected. */
  corrected(marking: Marking): Part {
    return correctedPart(this.opened, marking);
  }

  private player({ player, told }: Conditions): Player {
    const made = player ? playerFrom(player) : null;
    if (made?.ok) return made.value;
    return usualPlayer(told.instrument ?? this.part.instrument ?? 'violin');
  }

  private idsIn({ marking }: Conditions, { fromBar, toBar }: BarRange): ReadonlySet<string> {
    return new Set(
      this.corrected(marking)
        .notes.filter((note) => note.barIndex >= fromBar && note.barIndex <= toBar)
        .map((note) => note.id),
    );
  }

  private get opened(): ReadScore {
    if (!this.read) throw new Error('no part is open');
    return this.read;
  }

  private get part(): Part {
    return this.opened.score.parts[0]!;
  }
}
