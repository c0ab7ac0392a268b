/** Accidentals that hold, that do not, and that were cancelled. */
import { sayNote } from '../score/address';
import { accidentalStates } from '../score/accidentals';
import { keyAlter, letterIndex } from '../score/pitch';
import type { Note, Part } from '../score/score';
import type { ReadingAid } from './aid';
import { fullName, noteName, signName } from './words';

/** Notes of one staff in bar after bar; a reader's memory is about one bar long. */
export function accidentalAids(part: Part): ReadingAid[] {
  const states = accidentalStates(part);
  const say = (note: Note) => sayNote(part, note, part.ticksPerQuarter);
  const aids: ReadingAid[] = [];
  const add = (kind: ReadingAid['kind'], note: Note, other: Note, text: string, reminder: boolean) =>
    aids.push({
      id: `${kind} ${note.id}`,
      kind,
      noteIds: [note.id, other.id],
      barIndex: note.barIndex,
      onset: note.onset,
      text,
      count: null,
      remedy: reminder ? { text: `Put a reminder: ${signName(note.written.alter)} in brackets`, target: note.id, kind: 'accidental', value: 'bracket' } : null,
    });
  for (const staff of staves(part)) {
    const bars = byBar(staff);
    const reminded = new Set<string>();
    for (const [barIndex, notes] of bars) {
      const key = keyAt(part, notes[0]!.onset);
      notes.forEach((note, i) => {
        if (note.accidental || note.tiedFrom || note.grace) return;
        const line = `${barIndex}/${letterIndex(note.written)}`;
        if (reminded.has(line)) return;
        const state = states.get(note.id)!;
        const { from } = state;
        const alter = note.written.alter;
        const sameLine = notes.slice(0, i).filter((other) => letterIndex(other.written) === letterIndex(note.written));
        if (from) {
          const signs = sameLine.filter((other) => other.accidental);
          const cancelled = signs.find((other) => other.written.alter !== alter && other !== from);
          if (cancelled && from.written.alter === alter) {
            add(
              'sign cancelled',
              note,
              from,
              `${fullName(note.written)}: the ${signName(cancelled.written.alter)} at ${say(cancelled)} was cancelled at ${say(from)}.`,
              true,
            );
            reminded.add(line);
          } else if (alter !== keyAlter(key, note.written.step) && notes.indexOf(from) < i - 1 && notes[i - 1] !== sameLine.at(-1)) {
            add('sign still holds', note, from, `${noteName(note.written)}: the ${signName(alter)} at ${say(from)} still holds.`, true);
            reminded.add(line);
          }
          return;
        }
        const octave = notes.slice(0, i).find((other) => other.accidental && other.written.step === note.written.step && other.written.alter !== alter);
        if (octave) {
          const where = letterIndex(octave.written) > letterIndex(note.written) ? 'an octave or more higher' : 'an octave or more lower';
          add(
            'other octave',
            note,
            octave,
            `${fullName(note.written)}, or ${noteName(octave.written)}? The ${signName(octave.written.alter)} at ${say(octave)} stands ${where} and holds only there.`,
            true,
          );
          reminded.add(line);
          return;
        }
        const before = bars.get(barIndex - 1) ?? [];
        const last = before.findLast((other) => other.written.step === note.written.step);
        if (!last || last.written.alter === alter) return;
        if (letterIndex(last.written) === letterIndex(note.written)) {
          const tied = last.tiedTo ? `, even where the tie carries it over the bar line` : '';
          add('old sign gone', note, last, `${fullName(note.written)}: the ${signName(last.written.alter)} of ${say(last)} ended with its bar${tied}.`, true);
        } else {
          add(
            'cross-relation',
            note,
            last,
            `${fullName(note.written)} against the ${noteName(last.written)} at ${say(last)} in another octave: a cross-relation, meant so?`,
            true,
          );
        }
        reminded.add(line);
      });
    }
  }
  return aids;
}

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
