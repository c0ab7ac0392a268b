/** A passage as drills take it apart: what is played, with the fingers and strings of its plan. */
import type { BarRange } from '../score/bars';
import { feltBeat } from '../score/beat';
import { keyAlter, midiOf, naturalAt, letterIndex, type Pitch } from '../score/pitch';
import type { Bar, Clef, Note, Part } from '../score/score';
import type { Line } from '../instruments/lines';
import { fingerName, type Player } from '../instruments/player';
import { slurLinks } from '../marking/links';
import type { Marking } from '../marking/mark';
import type { FingeredNote, Fingering } from '../left-hand/fingering';
import type { MadeHead } from '../formats/musicxml/made-part';

export interface PassageHead extends MadeHead {
  /** Half steps above the open string; null where nothing is planned. */
  stop: number | null;
  planned: FingeredNote | null;
}

/** A note, a double stop or a chord, with the ticks until it ends. */
export interface PassageNote {
  heads: readonly PassageHead[];
  onset: number;
  ticks: number;
  /** Ticks until the next one begins; what is over is rest. */
  until: number;
  slurred: boolean;
  barIndex: number;
  /** Of the first head, as the file has it. */
  source: Note;
}

export interface Passage {
  notes: readonly PassageNote[];
  bar: Bar;
  fifths: number;
  clef: Clef;
  beat: number;
  part: Part;
  player: Player;
}

export interface PassageAsked {
  part: Part;
  line: Line;
  range: BarRange;
  marking: Marking;
  player: Player;
  /** Null where nothing can be played. */
  fingering: Fingering | null;
}

/** Null where nothing sounds in these bars. */
export function passageOf({ part, line, range, marking, player, fingering }: PassageAsked): Passage | null {
  const bar = part.bars[range.fromBar];
  if (!bar) return null;
  const links = slurLinks(part, line, marking);
  const planned = new Map((fingering?.notes ?? []).map((note) => [note.id, note]));
  const end = part.bars[Math.min(range.toBar, part.bars.length - 1)]!;
  const inside = line.events.flatMap((event, i) => {
    const at = event.notes[0]!.barIndex;
    return event.grace || at < range.fromBar || at > range.toBar ? [] : [{ event, slurred: links[i + 1] === true }];
  });
  if (inside.length === 0) return null;
  const notes = inside.map(({ event, slurred }, i): PassageNote => {
    const next = inside[i + 1]?.event.onset ?? end.onset + end.ticks;
    return {
      heads: stopped(event.notes.map((note) => headOf(note, planned.get(note.id) ?? null))),
      onset: event.onset,
      ticks: Math.max(1, Math.min(event.end, next) - event.onset),
      until: Math.max(1, next - event.onset),
      slurred: slurred && i < inside.length - 1,
      barIndex: event.notes[0]!.barIndex,
      source: event.notes[0]!,
    };
  });
  const key = part.keys.findLast(({ tick }) => tick <= bar.onset)?.fifths ?? bar.fifths;
  const clef = part.clefs.findLast(({ tick }) => tick <= bar.onset)?.clef ?? part.clefs[0]?.clef ?? { sign: 'G', line: 2, octave: 0 };
  return { notes, bar, fifths: key, clef, beat: feltBeat(bar), part, player };
}

/** Of an artificial harmonic the note that is stopped: what is touched above it is no voice of its own. */
const stopped = (heads: PassageHead[]): PassageHead[] => {
  const isTouched = heads.length > 1 && heads.some(({ planned }) => (planned?.place.harmonic ?? null) !== null);
  return isTouched ? heads.slice(0, 1) : heads;
};

function headOf(note: Note, planned: FingeredNote | null): PassageHead {
  return {
    pitch: note.written,
    finger: planned ? fingerName(planned.place.finger) : null,
    string: null,
    stop: planned?.place.stop ?? null,
    planned,
  };
}

/** A head with its string said, too. */
export const onString = (head: PassageHead): MadeHead => ({ ...plainHead(head), string: head.planned?.place.string ?? null });

export const plainHead = ({ pitch, finger }: MadeHead): MadeHead => ({ pitch, finger, string: null });

/** The next letter above in the key. */
export function stepAbove(pitch: Pitch, fifths: number): Pitch {
  const natural = naturalAt(letterIndex(pitch) + 1);
  return { ...natural, alter: keyAlter(fifths, natural.step) };
}

/** The open string that a planned note lies on, as it is written in this part; null where nothing is planned. */
export function openStringOf(head: PassageHead, { player, part }: Passage): MadeHead | null {
  const string = head.planned?.place.string;
  const open = string === undefined ? undefined : player.instrument.strings[string - 1];
  if (!open || string === undefined) return null;
  return { pitch: writtenAs(open, part), finger: '0', string };
}

/** A sounding pitch as this part writes it: only octaves are told apart, other transpositions by half steps. */
export function writtenAs(pitch: Pitch, { soundsHalfSteps }: Pick<Part, 'soundsHalfSteps'>): Pitch {
  if (soundsHalfSteps % 12 === 0) return { ...pitch, octave: pitch.octave - soundsHalfSteps / 12 };
  const midi = midiOf(pitch) - soundsHalfSteps;
  return { step: pitch.step, alter: pitch.alter + (midi - midiOf(pitch)), octave: pitch.octave };
}
