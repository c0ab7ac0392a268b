/** Accidentals that hold, that do not, and that were cancelled. */
import { sayNote } from '../score/address';
import { accidentalStates } from '../score/accidentals';
import { keyAlter, letterIndex } from '../score/pitch';
import type { Note, Part } from '../score/score';
import type { AidKind, ReadingAid } from './aid';
import { fullName, noteName, signName } from './words';

/** Notes of one staff in bar after bar; a reader's memory is about one bar long. One aid for each line of the staff in a bar. */
export function accidentalAids(part: Part): ReadingAid[] {
  const states = accidentalStates(part);
  // A file may leave signs out that the reader will see all the same.
  const signed = (note: Note) => note.accidental !== null || states.get(note.id)!.needed;
  const aids: ReadingAid[] = [];
  for (const staff of staves(part)) {
    const bars = byBar(staff);
    for (const [barIndex, notes] of bars) {
      const seen = new Set<number>();
      notes.forEach((note, i) => {
        const line = letterIndex(note.written);
        if (signed(note) || note.tiedFrom || note.grace || seen.has(line)) return;
        const trap = trapAt({ part, note, earlier: notes.slice(0, i), lastBar: bars.get(barIndex - 1) ?? [], from: states.get(note.id)!.from, signed });
        if (!trap) return;
        seen.add(line);
        aids.push(aidFor(note, trap));
      });
    }
  }
  return aids;
}

interface Reading {
  part: Part;
  /** A note without a sign of its own. */
  note: Note;
  /** What stands before it in its bar, on the same staff. */
  earlier: readonly Note[];
  lastBar: readonly Note[];
  /** The note in this bar whose sign still holds for it. */
  from: Note | null;
  signed(note: Note): boolean;
}

interface Trap {
  kind: AidKind;
  other: Note;
  text: string;
}

function trapAt(reading: Reading): Trap | null {
  return reading.from ? whereASignHolds(reading, reading.from) : (anotherOctave(reading) ?? fromTheLastBar(reading));
}

/** A sign earlier in the bar counts for the note: it may be forgotten, or the one before it may be remembered. */
function whereASignHolds({ part, note, earlier, signed }: Reading, from: Note): Trap | null {
  const { alter, step } = note.written;
  const onLine = earlier.filter((other) => letterIndex(other.written) === letterIndex(note.written));
  const cancelled = onLine.find((other) => signed(other) && other.written.alter !== alter && other !== from);
  if (cancelled && from.written.alter === alter) {
    const text = `${fullName(note.written)}: the ${signName(cancelled.written.alter)} at ${say(part, cancelled)} was cancelled at ${say(part, from)}.`;
    return { kind: 'sign cancelled', other: from, text };
  }
  const rightAfter = earlier.at(-1) === onLine.at(-1) || earlier.indexOf(from) >= earlier.length - 1;
  if (alter === keyAlter(keyAt(part, note.onset), step) || rightAfter) return null;
  return { kind: 'sign still holds', other: from, text: `${noteName(note.written)}: the ${signName(alter)} at ${say(part, from)} still holds.` };
}

function anotherOctave({ part, note, earlier, signed }: Reading): Trap | null {
  const other = earlier.find((each) => signed(each) && each.written.step === note.written.step && each.written.alter !== note.written.alter);
  if (!other) return null;
  const where = letterIndex(other.written) > letterIndex(note.written) ? 'an octave or more higher' : 'an octave or more lower';
  const text = `${fullName(note.written)}, or ${noteName(other.written)}? The ${signName(other.written.alter)} at ${say(part, other)} stands ${where} and holds only there.`;
  return { kind: 'other octave', other, text };
}

/** A sign of the bar before, which ended with it. What the key signature said there is no sign. */
function fromTheLastBar({ part, note, lastBar }: Reading): Trap | null {
  const last = lastBar.findLast((other) => other.written.step === note.written.step);
  if (!last || last.written.alter === note.written.alter || last.written.alter === keyAlter(keyAt(part, last.onset), last.written.step)) return null;
  if (letterIndex(last.written) === letterIndex(note.written)) {
    const tied = last.tiedTo ? ', even where the tie carries it over the bar line' : '';
    const text = `${fullName(note.written)}: the ${signName(last.written.alter)} of ${say(part, last)} ended with its bar${tied}.`;
    return { kind: 'old sign gone', other: last, text };
  }
  const text = `${fullName(note.written)} against the ${noteName(last.written)} at ${say(part, last)} in another octave: a cross-relation, meant so?`;
  return { kind: 'cross-relation', other: last, text };
}

const say = (part: Part, note: Note): string => sayNote(part, note);

const aidFor = (note: Note, { kind, other, text }: Trap): ReadingAid => ({
  id: `${kind} ${note.id}`,
  kind,
  noteIds: [note.id, other.id],
  barIndex: note.barIndex,
  onset: note.onset,
  text,
  count: null,
  remedy: { text: `Put a reminder: ${signName(note.written.alter)} in brackets`, target: note.id, kind: 'accidental', value: 'bracket' },
});

function staves(part: Part): Note[][] {
  const found = new Map<number, Note[]>();
  for (const note of part.notes) {
    if (note.cue) continue;
    const staff = found.get(note.staff);
    if (staff) staff.push(note);
    else found.set(note.staff, [note]);
  }
  return [...found.values()].map((notes) => [...notes].sort((a, b) => a.onset - b.onset));
}

function byBar(notes: readonly Note[]): Map<number, Note[]> {
  const bars = new Map<number, Note[]>();
  for (const note of notes) {
    const bar = bars.get(note.barIndex);
    if (bar) bar.push(note);
    else bars.set(note.barIndex, [note]);
  }
  return bars;
}

function keyAt(part: Part, tick: number): number {
  let fifths = 0;
  for (const key of part.keys) {
    if (key.tick > tick) break;
    fifths = key.fifths;
  }
  return fifths;
}
