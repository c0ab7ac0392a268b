/** The whole score: which parts play together and what they do differently, off the main thread. */
import { fitOf, type FitRow } from '../core/checks/fit';
import { checkedInSteps, type Checked } from '../core/checks/check';
import { tempiInSteps, type QuickMemories, type Tempi } from '../core/checks/tempi';
import { phrasesOf, tuneIn } from '../core/ensemble/around';
import { carried, type Carried } from '../core/ensemble/carry';
import { chordName, chordSign } from '../core/ensemble/chord';
import type { OtherPart } from '../core/ensemble/ensemble';
import { cueChanges, entriesOf, hasCue, withoutCue, type Entry } from '../core/ensemble/entries';
import { leftChanges, playedBows, rhythmGroups, writtenBows, type BowsOf, type Direction, type Member, type RhythmGroup } from '../core/ensemble/groups';
import { harmonyOf } from '../core/ensemble/harmony';
import { notesInChord } from '../core/ensemble/in-chord';
import { remarksOn } from '../core/ensemble/remarks';
import { staffOf } from '../core/ensemble/staff';
import { bowedTogether, type Agreed, type PlannedPart } from '../core/ensemble/together';
import { correctedPart } from '../core/formats/musicxml/corrected';
import { readPartDocument } from '../core/formats/musicxml/part-document';
import type { ReadScore } from '../core/formats/musicxml/read';
import { asTold } from '../core/instruments/as-told';
import { linesOf, partOfLine } from '../core/instruments/lines';
import { toldOrGuessed } from '../core/instruments/play-on';
import { usualPlayer, type PlayerDescription } from '../core/instruments/player';
import { slurLinks } from '../core/marking/links';
import { correctionsOf } from '../core/marking/corrections';
import { isEditKind } from '../core/marking/kinds';
import { splitKey, type Marking } from '../core/marking/mark';
import { editedPart } from '../core/marking/print-edits';
import type { PlanMemory } from '../core/plan/plan';
import { rehearsalPage, sectionPassages, type CheckedPart, type PartOfScore, type RehearsalPage } from '../core/rehearsal/page';
import { sayNote } from '../core/score/address';
import { DYNAMIC_LEVELS } from '../core/score/dynamics';
import { noteById } from '../core/score/find';
import { loudnessOf } from '../core/score/loudness';
import type { Bar, Part } from '../core/score/score';
import { clockFor } from '../core/score/time';
import { givingWay } from './giving-way';
import type { CarriedTo, EntryShown, LaneShown, ScoreMusic, ScoreShown, ScoreTempo, StaffShown, StrokeShown } from './score-questions';

interface Own {
  music: ScoreMusic;
  read: ReadScore;
  marking: Marking;
  /** As told, with corrections and edits in force; the very same while they are the same. */
  part: Part;
  /** What its corrections and edits say. */
  said: string;
  memories: readonly PlanMemory[];
  /** Of the marking that it has; null until it is planned. */
  checked: Checked | null;
  /** The best over plans, worked out once all parts are planned; null until then. */
  tempi: Tempi | null;
  quick: QuickMemories;
}

export class ScoreAnalyst {
  private parts: Own[] = [];
  private turn = 0;

  /** Reads the parts. One that cannot be read is left out, and named. */
  open(all: readonly ScoreMusic[], markings: Readonly<Record<string, Marking>>): { unread: string[] } {
    const unread: string[] = [];
    this.parts = all.flatMap((music): Own[] => {
      const read = readPartDocument(music.music);
      if (!read.ok) {
        unread.push(music.name);
        return [];
      }
      const marking = markings[music.id] ?? {};
      const own = { music, read: read.value, marking, said: editsOf(marking), memories: [], checked: null, tempi: null, quick: [] };
      return [{ ...own, part: partOf(own, marking) }];
    });
    return { unread };
  }

  /** The marks and wanted tempi as they are now. */
  mark(markings: Readonly<Record<string, Marking>>, tempi: Readonly<Record<string, number | null>> = {}): ScoreShown {
    this.turn++;
    for (const own of this.parts) {
      const tempo = tempi[own.music.id];
      if (tempo !== undefined && tempo !== own.music.tempo) {
        own.music = { ...own.music, tempo };
        own.checked = null;
        own.tempi = null;
      }
      const marking = markings[own.music.id] ?? own.marking;
      if (marking === own.marking || sameMarks(marking, own.marking)) continue;
      own.marking = marking;
      own.checked = null;
      own.tempi = null;
      const said = editsOf(marking);
      if (said === own.said) continue;
      own.said = said;
      own.part = partOf(own, marking);
    }
    return this.shown();
  }

  /** Plans the next string part that is not planned yet; then, part by part, up to which tempo it works. @returns null where all is there */
  async planNext(): Promise<ScoreShown | null> {
    const { turn } = this;
    const strings = this.strings();
    const own = strings.find(({ checked }) => checked === null) ?? strings.find(({ tempi }) => tempi === null);
    if (!own) return null;
    const { marking, part, music, checked } = own;
    const request = { part, marking, player: usualPlayer(part.instrument!), tempo: music.tempo, passages: sectionPassages(this.bars()) };
    const isNow = () => this.turn === turn;
    if (checked === null) {
      const made = await givingWay(checkedInSteps(request, own.memories), isNow);
      if (made) Object.assign(own, { memories: made.memories, checked: made });
    } else {
      const made = await givingWay(tempiInSteps(request, checked, own.quick), isNow);
      if (made) Object.assign(own, { tempi: made.tempi, quick: made.memories });
    }
    return this.shown();
  }

  carried(what: Carried, group: RhythmGroup, from: Member, to: readonly Member[]): CarriedTo[] {
    return carried(what, group, from, to, this.others(), this.bows());
  }

  /** How a part fits one who sits in it, stretch by stretch; null where it cannot be worked out. @param line the one that they have of a divided part; null: all of them */
  seatedIn(partId: string, player: PlayerDescription, line: number | null = null): FitRow | null {
    const known = this.strings().find(({ music }) => music.id === partId);
    if (!known) return null;
    const { part, marking, music } = known;
    const own = line === null ? part : partOfLine(part, line);
    return fitOf({ part: own, marking, tempo: music.tempo, passages: sectionPassages(this.bars()) }, player);
  }

  /** How a group could bow together, as it suits all best. @returns null where the marks have changed meanwhile */
  async together(group: RhythmGroup): Promise<Agreed | null> {
    const { turn } = this;
    const planned = new Map(
      this.strings().flatMap(({ music, part, checked, memories }): Array<[string, PlannedPart]> => {
        const bowing = checked?.report.bowing;
        const [memory] = memories;
        return bowing && memory ? [[music.id, { player: usualPlayer(part.instrument!), clock: clockFor(part, music.tempo), memory, bowing }]] : [];
      }),
    );
    return givingWay(bowedTogether(group, this.others(), planned), () => this.turn === turn);
  }

  /** Leaves a group as it is, for a reason; null takes that back. */
  left(group: RhythmGroup, because: string | null): CarriedTo[] {
    return leftChanges(group, this.others(), because);
  }

  /** What a cue before an entry writes into its part. */
  cue(partId: string, noteId: string, index: number): CarriedTo[] {
    const own = this.parts.find(({ music }) => music.id === partId);
    const entry = own && this.entriesOf(own).find((each) => each.noteId === noteId);
    const cue = entry?.cues[index];
    const from = this.parts.find(({ music }) => music.id === cue?.partId);
    const changes = own && entry && cue && from ? cueChanges(cue, entry, own.part, own.marking, from.part) : [];
    return changes.length ? [{ partId, changes }] : [];
  }

  withoutCue(partId: string, barIndex: number): CarriedTo[] {
    const own = this.parts.find(({ music }) => music.id === partId);
    return own ? [{ partId, changes: withoutCue({ barIndex }, own.part, own.marking) }] : [];
  }

  /** The notes of a part; null where there is no such part. */
  staff(partId: string): StaffShown | null {
    const own = this.parts.find(({ music }) => music.id === partId);
    if (!own) return null;
    const harmony = harmonyOf(this.parts.map(({ part }) => part));
    const foreign = notesInChord(linesOf(own.part)[0]!, own.part.bars, harmony).flatMap(({ noteId, foreign: what }) => (what ? [{ id: noteId, what }] : []));
    return { line: staffOf(own.part), foreign };
  }

  /** The page for the rehearsal, of the whole score or of one part's section; null until every string part is planned. */
  rehearsal(partId: string | null): RehearsalPage | null {
    const strings = this.checkedParts();
    if (!strings || strings.length === 0) return null;
    const section = strings.find(({ id }) => id === partId);
    const groups = rhythmGroups(this.others(), this.bows());
    return rehearsalPage({ all: this.all(), strings, groups, wanted: this.wanted(), section: section ? { name: section.name, partIds: [section.id] } : null });
  }

  private strings(): Own[] {
    return this.parts.filter(({ part }) => part.instrument !== null);
  }

  private all(): PartOfScore[] {
    return this.parts.map(({ music, part, marking }) => ({ id: music.id, name: music.name, part, marking }));
  }

  private others(): OtherPart[] {
    return this.strings().map(({ music, part, marking }) => ({ id: music.id, name: music.name, markingId: music.markingId, part, marking }));
  }

  /** Null until all are planned, and their tempi known. */
  private checkedParts(): CheckedPart[] | null {
    const strings = this.strings();
    const made = strings.flatMap(({ music, part, marking, checked, tempi }) =>
      checked && tempi ? [{ id: music.id, name: music.name, part, marking, report: { ...checked.report, ...tempi }, limits: checked.limits }] : [],
    );
    return made.length === strings.length ? made : null;
  }

  private bows(): BowsOf {
    return playedBows(this.others(), (id) => this.parts.find(({ music }) => music.id === id)?.checked?.report.bowing ?? null);
  }

  private bars(): readonly Bar[] {
    return this.parts.reduce<readonly Bar[]>((most, { part }) => (part.bars.length > most.length ? part.bars : most), []);
  }

  /** What most of the string parts are checked at; quarters per minute. */
  private wanted(): number {
    const counted = new Map<number, number>();
    for (const { part, music } of this.strings()) {
      const { tempo } = clockFor(part, music.tempo);
      counted.set(tempo, (counted.get(tempo) ?? 0) + 1);
    }
    return [...counted].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 0;
  }

  private entriesOf({ music, part }: Own): Entry[] {
    const all = this.all();
    return entriesOf(
      part,
      all.filter(({ id }) => id !== music.id),
      tuneIn(all),
    );
  }

  private shown(): ScoreShown {
    const all = this.all();
    return {
      remarks: remarksOn(all),
      bars: this.bars().map(({ label, onset, ticks, rehearsal }) => ({ label, onset, ticks, rehearsal })),
      lanes: this.parts.map(laneOf),
      groups: rhythmGroups(this.others(), this.bows()),
      phrases: phrasesOf(all),
      chords: harmonyOf(all.map(({ part }) => part)).map(({ from, to, chord }) => ({
        from,
        to,
        name: chord && chordName(chord),
        sign: chord && chordSign(chord),
      })),
      entries: this.strings()
        .flatMap((own) => this.entriesOf(own).map((entry) => entryShown(own, entry)))
        .sort((a, b) => a.onset - b.onset),
      tempo: this.tempo(),
    };
  }

  private tempo(): ScoreTempo | null {
    const page = this.rehearsal(null);
    if (!page) return null;
    const departing = this.strings().flatMap(({ music, part }) => {
      const { tempo } = clockFor(part, music.tempo);
      return tempo === page.wanted ? [] : [{ partId: music.id, name: music.name, tempo }];
    });
    return { all: page.tempo, sections: page.sections, wanted: page.wanted, departing, against: page.against, opening: page.opening };
  }
}

function entryShown({ music, part, marking }: Own, entry: Entry): EntryShown {
  const note = noteById(part, entry.noteId)!;
  return { ...entry, partId: music.id, name: music.name, at: sayNote(part, note), onset: note.onset, printed: hasCue(entry, marking) };
}

const sameMarks = (a: Marking, b: Marking): boolean => JSON.stringify(a) === JSON.stringify(b);

/** What of a marking makes another part of it: corrections and edits. */
const editsOf = (marking: Marking): string => JSON.stringify(Object.entries(marking).filter(([key, { off }]) => !off && isEditKind(splitKey(key).kind)));

function partOf({ music, read }: Pick<Own, 'music' | 'read'>, marking: Marking): Part {
  const part = correctionsOf(marking) ? correctedPart(read, marking) : read.score.parts[0]!;
  // A wind part is none of the strings, whatever else it could be played on: only the coach makes it one.
  const isString = music.told.instrument !== null || part.instrument !== null;
  return editedPart(asTold(part, isString ? toldOrGuessed(part, music.told) : music.told), marking);
}

/** Strokes as planned, else the events as slurs join them. */
function laneOf({ music, part, marking, checked, tempi }: Own): LaneShown {
  const [row] = linesOf(part);
  const loudness = loudnessOf(part);
  const links = slurLinks(part, row!, marking);
  const plan = checked?.report.bowing ?? null;
  const planned = new Map<string, Direction>(plan?.strokes.map(({ noteIds, direction }) => [noteIds[0]!, direction]));
  const inside = new Set(plan?.strokes.flatMap(({ noteIds }) => noteIds));
  const written = writtenBows([{ id: music.id, name: music.name, markingId: music.markingId, part, marking }])(music.id, 0);
  const strokes: StrokeShown[] = [];
  row!.events.forEach(({ grace, ids, onset, end }, i) => {
    if (grace) return;
    const last = strokes.at(-1);
    if (last && !planned.has(ids[0]!) && (links[i] || inside.has(ids[0]!))) {
      last.attacks.push(onset);
      last.end = Math.max(last.end, end);
      return;
    }
    const said = written.get(ids[0]!) ?? null;
    strokes.push({
      onset,
      end,
      direction: planned.get(ids[0]!) ?? said?.direction ?? null,
      written: said !== null,
      attacks: [],
      loud: DYNAMIC_LEVELS.indexOf(loudness.levelAt(onset)),
    });
  });
  return {
    partId: music.id,
    name: music.name,
    instrument: part.instrument,
    strokes,
    planned: plan !== null || part.instrument === null,
    tempoKnown: tempi !== null || part.instrument === null,
  };
}
