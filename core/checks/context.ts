/** What the findings of one line need to know, and the findings that are there before anything is planned. */
import { beatOf } from '../score/beat';
import { pitchName, type Pitch } from '../score/pitch';
import type { Line } from '../instruments/lines';
import type { Note, Part } from '../score/score';
import type { Clock } from '../score/time';
import type { Player } from '../instruments/player';
import type { Marking } from '../marking/mark';
import type { Unplayable } from '../left-hand/fingering';
import type { HandPreferences } from '../left-hand/preferences';
import { pitchOf } from '../ensemble/chord';
import type { OtherPart } from '../ensemble/ensemble';
import { chordAt, harmonyOf } from '../ensemble/harmony';
import type { Finding } from './finding';
import { tonicOf, type IntonationSettings, type PitchSchool } from './target';
import * as remedy from './remedy-words';
import { heldText, unplayableText } from './words';

export interface NoteRisk {
  noteId: string;
  chance: number;
  errorCents: number;
  cause: string;
}

/** The pitch that is aimed at, and how far off is minded. */
export interface Aim {
  /** Null: nothing is said about it. */
  school: PitchSchool | null;
  toleranceCents: number | undefined;
  /** Root of the chord that sounds with a note as the whole score is read (`harmonyOf`), else the tonic. */
  rootAt(note: Note): Pitch;
}

interface AimAsked {
  part: Part;
  intonation?: IntonationSettings | undefined;
  others?: readonly OtherPart[] | undefined;
}

export function aimOf({ part, intonation, others }: AimAsked): { aim: Aim } {
  const sounding = others?.length ? [part, ...others.map((other) => other.part)] : null;
  return {
    aim: {
      school: intonation?.school ?? null,
      toleranceCents: intonation?.toleranceCents ?? undefined,
      rootAt(note) {
        const chord = sounding && chordAt(harmonyOf(sounding), note.onset);
        return chord ? pitchOf(chord.root) : tonicOf(part.bars[note.barIndex]!.fifths);
      },
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
        text: contradiction ? remedy.TAKE_ONE_AWAY : reason === 'no hand can hold it' ? remedy.DIVIDE : remedy.OTHER_INSTRUMENT,
        before: null,
        after: null,
      },
    ],
  };
}
