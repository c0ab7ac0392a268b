/** A part as the coach says it is: another instrument than the name tells, another sound than the file gives. */
import { accidentalStates } from '../score/accidentals';
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
  /** Octaves that a part for something else is moved by, to be played on a string instrument. */
  octaves: number;
  /** The only staff that is played, of a part with several; null for all. */
  staff: number | null;
}

export const NOTHING_TOLD: Told = { instrument: null, sounds: 'file', section: null, octaves: 0, staff: null };

/** What is told about a part, out of all that is set for it. */
export const toldOf = ({ instrument, sounds, section, octaves, staff }: Told): Told => ({ instrument, sounds, section, octaves, staff });

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

const NOTHING = JSON.stringify(NOTHING_TOLD);

const kept = new WeakMap<Part, Map<string, Part>>();

/** The very same part where nothing is told; else one with the same notes, sounding otherwise. */
export function asTold(part: Part, told: Told): Part {
  const key = JSON.stringify(toldOf(told));
  if (key === NOTHING) return part;
  const known = kept.get(part) ?? new Map<string, Part>();
  kept.set(part, known);
  const found = known.get(key);
  if (found) return found;
  const made = moved(retold(onStaff(part, told.staff), told), readsAsItSounds(part, told), told.octaves);
  known.set(key, made);
  return made;
}

/** One staff of a part for the piano or the like. */
function onStaff(part: Part, staff: number | null): Part {
  const notes = staff === null ? part.notes : part.notes.filter((note) => note.staff === staff);
  if (notes.length === part.notes.length || notes.length === 0) return part;
  const ids = new Set(notes.map(({ id }) => id));
  return { ...part, notes, slurs: part.slurs.filter(({ from, to }) => ids.has(from) && ids.has(to)), clefs: part.clefs.filter((clef) => clef.staff === staff) };
}

/** A part for something else as a string player reads it: written as it sounds, and in the octave that is told. */
function moved(part: Part, concert: boolean, octaves: number): Part {
  if (!concert && octaves === 0) return part;
  const by = <P extends Note['pitch']>(pitch: P): P => ({ ...pitch, octave: pitch.octave + octaves });
  const fifths = concert ? fifthsOf(part.soundsHalfSteps) : 0;
  const made = {
    ...part,
    soundsHalfSteps: concert ? 0 : part.soundsHalfSteps,
    bars: fifths === 0 ? part.bars : part.bars.map((bar) => ({ ...bar, fifths: bar.fifths + fifths })),
    keys: part.keys.map((key) => ({ ...key, fifths: key.fifths + fifths })),
    notes: part.notes.map((note) => ({ ...note, pitch: by(note.pitch), written: by(concert ? note.pitch : note.written) })),
  };
  if (!concert) return made;
  // Signs are those that the key of the sounding notes asks for.
  const states = accidentalStates(made);
  return {
    ...made,
    notes: made.notes.map((note) => ({ ...note, accidental: states.get(note.id)!.needed ? { alter: note.written.alter, courtesy: false } : null })),
  };
}

/** A transposing part for something else, played on strings: it is read as it sounds. @param part as it was read */
export const readsAsItSounds = (part: Pick<Part, 'instrument' | 'transposesItself' | 'soundsHalfSteps'>, told: Pick<Told, 'instrument'>): boolean =>
  told.instrument !== null && part.instrument === null && part.transposesItself && part.soundsHalfSteps !== 0;

/** Sharps more in the key when music is moved by half steps, spelled with the fewest signs. @example two half steps down: two flats more */
function fifthsOf(halfSteps: number): number {
  const fifths = (((halfSteps * 7) % 12) + 12) % 12;
  return fifths > 6 ? fifths - 12 : fifths;
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
