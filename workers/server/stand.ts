/** A part as it lies on the music stand: its systems, how long one has at each bar line to turn, the coach's notes. */
import { correctedPart, corrected } from '../../core/formats/musicxml/corrected';
import { barOfId, wholePart } from '../../core/formats/musicxml/whole';
import { asTold, readsAsItSounds, type Told } from '../../core/instruments/as-told';
import { linesOf } from '../../core/instruments/lines';
import type { PlayerDescription } from '../../core/instruments/player';
import type { Density } from '../../core/left-hand/worth-writing';
import { toldOrGuessed } from '../../core/instruments/play-on';
import type { Marking } from '../../core/marking/mark';
import { editedPart } from '../../core/marking/print-edits';
import { playerNotes, type PlayerNote } from '../../core/marking/notes';
import { targetsOn } from '../../core/editions/anchor';
import { changesInWords, type ChangedBar, type Reading } from '../../core/handout/in-words';
import { passings, type Passing } from '../../core/stand/turns';
import { clockFor } from '../../core/score/time';
import { engrave } from './engraver';
import { handSigns, type ShiftSign } from './hand-signs';
import { partFrom } from './parts';
import type { System } from './picture';

/** A frozen part as one player is to read it. */
export interface ReadAs {
  music: string;
  marking: Marking;
  told: Told;
  tempo: number | null;
  line: number | null;
}

export interface StandSystem extends System {
  /** Bars by index, in the order in which they are drawn; several that are one long rest are told by the first. */
  barIndices: number[];
  firstBar: number;
  lastBar: number;
}

export interface StandPart {
  systems: StandSystem[];
  passings: Passing[];
  notes: Array<Pick<PlayerNote, 'target' | 'kind' | 'at' | 'barIndex' | 'toBar' | 'text'>>;
  /** Bars as people say them, by index. */
  labels: string[];
  /** Where the hand shifts, if that is asked for. */
  shifts: ShiftSign[];
}

/** What a reader wants to see of the hand's work. */
export interface HandShown {
  /** Which of the written fingers. */
  fingers: Density;
  shifts: boolean;
  player: PlayerDescription | null;
}

/** All of it, engraved. */
export async function engraveStand({ widthPx, hand, ...asked }: ReadAs & { widthPx: number; hand?: HandShown }): Promise<StandPart> {
  const { music, marking, told, tempo, line } = asked;
  const { read } = corrected(partFrom(music).read, { [partFrom(music).part.id]: marking });
  const part = read.score.parts[0]!;
  const as = toldOrGuessed(part, told);
  const played = editedPart(asTold(part, as), marking);
  const moved = { concert: readsAsItSounds(part, as), octaves: as.octaves };
  const clock = clockFor(played, tempo);
  const instrument = as.instrument ?? part.instrument;
  const isPlanned = hand && instrument && (hand.shifts || hand.fingers !== 'every note');
  const signs = isPlanned ? handSigns({ part: played, marking, line, clock, player: hand.player, instrument }) : null;
  const shown = signs && hand ? signs.marksFor(hand.fingers) : marking;
  const { systems } = await engrave(wholePart(read.document, part, shown, line), widthPx, moved);
  const lines = linesOf(played);
  const events = line === null ? lines.flatMap((each) => each.events).sort((a, b) => a.onset - b.onset) : lines[Math.min(line, lines.length - 1)]!.events;
  return {
    systems: withBars(systems, part.bars.length),
    passings: passings(played, events, clock),
    shifts: hand?.shifts ? (signs?.shifts ?? []) : [],
    notes: playerNotes(played, marking).map(({ target, kind, at, barIndex, toBar, text }) => ({ target, kind, at, barIndex, toBar, text })),
    labels: part.bars.map(({ label }) => label),
  };
}

function withBars(systems: readonly System[], bars: number): StandSystem[] {
  const indices = systems.map(({ svg }) => [...svg.matchAll(/<g id="(bar-\d+)" class="measure"/g)].map(([, id]) => barOfId(id!)!));
  return systems.map((system, i) => ({
    ...system,
    barIndices: indices[i]!,
    firstBar: indices[i]![0] ?? 0,
    lastBar: (indices[i + 1]?.[0] ?? bars) - 1,
  }));
}

/** What one player reads otherwise than before, bar by bar. */
export function changedForReader({ before, after }: { before: ReadAs; after: ReadAs }): ChangedBar[] {
  return changesInWords(readingOf(before), readingOf(after));
}

/** Where what a player pencilled stands on another hand-out: targets of the one as targets of the other, null where there is none. */
export function targetsOnNext({ before, after, targets }: { before: ReadAs; after: ReadAs; targets: readonly string[] }): Array<[string, string | null]> {
  const read = ({ music, marking }: ReadAs) => correctedPart(partFrom(music).read, marking);
  return [...targetsOn(targets, read(before), read(after))];
}

function readingOf({ music, marking, told, tempo, line }: ReadAs): Reading {
  const { read, part: file } = partFrom(music);
  return { music, file: asTold(file, toldOrGuessed(file, told)), part: asTold(correctedPart(read, marking), told), marking, tempo, line };
}
