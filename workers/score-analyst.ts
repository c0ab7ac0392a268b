/** The whole score: which parts play together and what they do differently, off the main thread. */
import { checkedInSteps, type Report } from '../core/checks/check';
import { carried, type Carried } from '../core/ensemble/carry';
import type { OtherPart } from '../core/ensemble/ensemble';
import { playedBows, rhythmGroups, writtenBows, type BowsOf, type Direction, type Member, type RhythmGroup } from '../core/ensemble/groups';
import { tempoForAll, type PartTempo } from '../core/ensemble/tempo-for-all';
import { bowedTogether, type Agreed, type PlannedPart } from '../core/ensemble/together';
import { correctedPart } from '../core/formats/musicxml/corrected';
import { readPartDocument } from '../core/formats/musicxml/part-document';
import type { ReadScore } from '../core/formats/musicxml/read';
import { asTold } from '../core/instruments/as-told';
import { linesOf } from '../core/instruments/lines';
import { toldOrGuessed } from '../core/instruments/play-on';
import { usualPlayer } from '../core/instruments/player';
import { slurLinks } from '../core/marking/links';
import { correctionsOf } from '../core/marking/corrections';
import type { Marking } from '../core/marking/mark';
import { editedPart } from '../core/marking/print-edits';
import type { PlanMemory } from '../core/plan/plan';
import { DYNAMIC_LEVELS } from '../core/score/dynamics';
import { loudnessOf } from '../core/score/loudness';
import type { Part } from '../core/score/score';
import { clockFor } from '../core/score/time';
import { givingWay } from './giving-way';
import type { CarriedTo, LaneShown, ScoreMusic, ScoreShown, StrokeShown } from './score-questions';

interface Own {
  music: ScoreMusic;
  read: ReadScore;
  marking: Marking;
  /** As told, with corrections and edits in force; of these words. */
  part: Part;
  made: string;
  memories: readonly PlanMemory[];
  /** Of the marking that it has; null until it is planned. */
  report: Report | null;
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
      const own = { music, read: read.value, marking: {}, made: '', memories: [], report: null };
      const marking = markings[music.id] ?? {};
      return [{ ...own, marking, part: partOf(own, marking) }];
    });
    return { unread };
  }

  /** The marks as they are now. */
  mark(markings: Readonly<Record<string, Marking>>): ScoreShown {
    this.turn++;
    for (const own of this.parts) {
      const marking = markings[own.music.id] ?? own.marking;
      if (marking === own.marking || sameMarks(marking, own.marking)) continue;
      own.marking = marking;
      own.part = partOf(own, marking);
      own.report = null;
    }
    return this.shown();
  }

  /** Plans the next string part that is not planned yet. @returns null where all are, or the marks have changed meanwhile */
  async planNext(): Promise<ScoreShown | null> {
    const { turn } = this;
    const own = this.strings().find(({ report }) => report === null);
    if (!own) return null;
    const { marking, part, music } = own;
    const request = { part, marking, player: usualPlayer(part.instrument!), tempo: music.tempo, passages: [] };
    const made = await givingWay(checkedInSteps(request, own.memories), () => this.turn === turn);
    if (!made) return this.shown();
    own.memories = made.memories;
    own.report = made.report;
    return this.shown();
  }

  carried(what: Carried, group: RhythmGroup, from: Member, to: readonly Member[]): CarriedTo[] {
    return carried(what, group, from, to, this.others(), this.bows());
  }

  /** How a group could bow together, as it suits all best. @returns null where the marks have changed meanwhile */
  async together(group: RhythmGroup): Promise<Agreed | null> {
    const { turn } = this;
    const planned = new Map(
      this.strings().flatMap(({ music, part, report, memories }): Array<[string, PlannedPart]> => {
        const bowing = report?.bowing;
        const [memory] = memories;
        return bowing && memory ? [[music.id, { player: usualPlayer(part.instrument!), clock: clockFor(part, music.tempo), memory, bowing }]] : [];
      }),
    );
    return givingWay(bowedTogether(group, this.others(), planned), () => this.turn === turn);
  }

  private strings(): Own[] {
    return this.parts.filter(({ part }) => part.instrument !== null);
  }

  private others(): OtherPart[] {
    return this.strings().map(({ music, part, marking }) => ({ id: music.id, name: music.name, markingId: music.markingId, part, marking }));
  }

  private bows(): BowsOf {
    return playedBows(this.others(), (id) => this.parts.find(({ music }) => music.id === id)?.report?.bowing ?? null);
  }

  private shown(): ScoreShown {
    const longest = this.parts.reduce<Part | null>((most, { part }) => (most === null || part.bars.length > most.bars.length ? part : most), null);
    const strings = this.strings();
    const all = strings.every(({ report }) => report !== null);
    return {
      bars: (longest?.bars ?? []).map(({ label, onset, ticks, rehearsal }) => ({ label, onset, ticks, rehearsal })),
      lanes: this.parts.map(laneOf),
      groups: rhythmGroups(this.others(), this.bows()),
      tempo: all && strings.length ? tempoForAll(strings.map(tempoOf)) : null,
    };
  }
}

const tempoOf = ({ music, report }: Own): PartTempo => {
  const { floor, ceiling, none } = report!.tempo;
  return { name: music.name, floor, ceiling, none: none !== null };
};

const sameMarks = (a: Marking, b: Marking): boolean => JSON.stringify(a) === JSON.stringify(b);

function partOf({ music, read }: Pick<Own, 'music' | 'read'>, marking: Marking): Part {
  const part = correctionsOf(marking) ? correctedPart(read, marking) : read.score.parts[0]!;
  // A wind part is none of the strings, whatever else it could be played on: only the coach makes it one.
  const isString = music.told.instrument !== null || part.instrument !== null;
  return editedPart(asTold(part, isString ? toldOrGuessed(part, music.told) : music.told), marking);
}

/** Strokes as planned, else the events as slurs join them. */
function laneOf({ music, part, marking, report }: Own): LaneShown {
  const [row] = linesOf(part);
  const loudness = loudnessOf(part);
  const links = slurLinks(part, row!, marking);
  const plan = report?.bowing ?? null;
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
  return { partId: music.id, name: music.name, instrument: part.instrument, strokes, planned: plan !== null || part.instrument === null };
}
