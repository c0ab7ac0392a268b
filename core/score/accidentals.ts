/**
 * Accidentals and how long they hold (common practice): to the end of the bar, on the same line of the same staff; the
 * key signature holds otherwise; a tied note needs none of its own.
 */
import { keyAlter, letterIndex, type Step } from './pitch';
import type { Note, Part } from './score';

export interface AccidentalState {
  /** Alteration that the reader assumes at this note without a sign of its own. */
  assumed: number;
  /** The note earlier in the bar whose sign is still in force; null where the key signature is. */
  from: Note | null;
  /** Without a sign the note would be read wrong. */
  needed: boolean;
}

type Written = Pick<Part, 'notes' | 'bars' | 'keys'>;

/** For every note of the part what a reader assumes before it, by note id. */
export function accidentalStates(part: Written): Map<string, AccidentalState> {
  const states = new Map<string, AccidentalState>();
  let barIndex = -1;
  let held = new Map<string, Note>();
  let key = 0;
  let nextKey = 0;
  for (const note of readingOrder(part.notes)) {
    if (note.barIndex !== barIndex) {
      barIndex = note.barIndex;
      held = new Map();
    }
    while (nextKey < part.keys.length && part.keys[nextKey]!.tick <= note.onset) key = part.keys[nextKey++]!.fifths;
    const line = `${note.staff}/${letterIndex(note.written)}`;
    const from = held.get(line) ?? null;
    const assumed = from ? from.written.alter : keyAlter(key, note.written.step as Step);
    const needed = note.written.alter !== assumed && !note.tiedFrom;
    states.set(note.id, { assumed, from, needed });
    if (needed || (note.accidental && !note.tiedFrom)) held.set(line, note);
  }
  return states;
}

/** By time, whatever the voice: a sign in one voice holds in the other (common practice). */
function readingOrder(notes: readonly Note[]): readonly Note[] {
  for (let i = 1; i < notes.length; i++) if (notes[i]!.onset < notes[i - 1]!.onset) return [...notes].sort((a, b) => a.onset - b.onset);
  return notes;
}
