/** A part as the coach says it is: another instrument than the name tells, another sound than the file gives. */
import { midiOf, transposed } from '../score/pitch';
import type { InstrumentKind, Note, Part } from '../score/score';

/**
 * How the written notes sound. `file`: as the file says, or as is usual for the instrument where it says nothing.
 * `tone-higher`: a solo-tuned bass part that is written for the fingers, so it sounds an octave lower and a tone higher.
 */
export const SOUNDS = ['file', 'written', 'octave-lower', 'tone-higher'] as const;
export type Sounds = (typeof SOUNDS)[number];

export interface Told {
  /** Null where the file's own name is right. */
  instrument: InstrumentKind | null;
  sounds: Sounds;
  /** Null where the file's own name is right. */
  section: boolean | null;
}

export const NOTHING_TOLD: Told = { instrument: null, sounds: 'file', section: null };

/** Written E2: the open E string of the bass as players read it. */
const LOWEST_WRITTEN_BASS = 40;
/** The lowest string can be tuned down this far. */
const LOWER_STRINGS = 5;

/**
 * Half steps from written to sounding where the file says nothing: a bass part is written an octave above its sound
 * (common practice); one whose notes would then lie far below the instrument is taken as written at pitch.
 */
export function usualTransposition(kind: InstrumentKind | null, notes: readonly Pick<Note, 'written'>[]): 0 | -12 {
  if (kind !== 'bass' || notes.length === 0) return 0;
  return notes.some((note) => midiOf(note.written) < LOWEST_WRITTEN_BASS - LOWER_STRINGS) ? 0 : -12;
}

/** Letters that go with a transposition in half steps. */
const LETTERS: Readonly<Record<number, number>> = { 0: 0, [-12]: -7, [-10]: -6 };

const kept = new WeakMap<Part, Map<string, Part>>();

/** The very same part where nothing is told; else one with the same notes, sounding otherwise. */
export function asTold(part: Part, told: Told): Part {
  if (told.instrument === null && told.sounds === 'file' && told.section === null) return part;
  const key = JSON.stringify(told);
  const known = kept.get(part) ?? new Map<string, Part>();
  kept.set(part, known);
  const found = known.get(key);
  if (found) return found;
  const made = retold(part, told);
  known.set(key, made);
  return made;
}

function retold(part: Part, told: Told): Part {
  const instrument = told.instrument ?? part.instrument;
  const instrumentBecause = told.instrument === null ? part.instrumentBecause : 'you said so';
  const named = { ...part, instrument, instrumentBecause, section: told.section ?? part.section };
  const halfSteps =
    told.sounds === 'file'
      ? part.transposesItself
        ? null
        : usualTransposition(instrument, part.notes)
      : told.sounds === 'written'
        ? 0
        : told.sounds === 'octave-lower'
          ? -12
          : -10;
  if (halfSteps === null || halfSteps === part.soundsHalfSteps) return named;
  const notes = part.notes.map((note) => ({ ...note, pitch: transposed(note.written, LETTERS[halfSteps]!, halfSteps) }));
  return { ...named, soundsHalfSteps: halfSteps, notes };
}
