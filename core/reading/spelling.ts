/** Spellings that the hand thinks otherwise: B sharp as C, a double sharp, an augmented second that lies as a minor third. */
import { letterIndex, midiOf, spelled, type Pitch } from '../score/pitch';
import { linesOf } from '../instruments/lines';
import type { Note, Part } from '../score/score';
import type { ReadingAid } from './aid';
import { noteName } from './words';

export function spellingAids(part: Part): ReadingAid[] {
  const aids: ReadingAid[] = [];
  const seen = new Set<string>();
  for (const line of linesOf(part)) {
    let before: Note | null = null;
    for (const event of line.events) {
      for (const note of event.notes) {
        const plain = plainly(note.written);
        const once = `${note.barIndex}/${midiOf(note.written)}`;
        if (plain && !seen.has(once))
          aids.push(aid('reads as', [note], `${noteName(note.written)}: reads as ${noteName(plain)}, and lies where ${noteName(plain)} lies.`));
        if (plain) seen.add(once);
      }
      const note = event.notes[0]!;
      if (before && event.notes.length === 1) {
        const letters = Math.abs(letterIndex(note.written) - letterIndex(before.written));
        const halfSteps = Math.abs(midiOf(note.written) - midiOf(before.written));
        const interval =
          letters === 1 && halfSteps === 3
            ? (['augmented second', 'minor third'] as const)
            : letters === 3 && halfSteps === 4
              ? (['diminished fourth', 'major third'] as const)
              : null;
        const once = `${note.barIndex}/${before.id}/${note.id}`;
        if (interval && !seen.has(once)) {
          seen.add(once);
          aids.push(
            aid(
              'sounds as',
              [note, before],
              `${noteName(before.written)} to ${noteName(note.written)}: ${article(interval[0])}, but it sounds and lies as a ${interval[1]}.`,
            ),
          );
        }
      }
      before = event.notes.length === 1 ? note : null;
    }
  }
  return aids;
}

const article = (interval: string): string => (/^[aeiou]/.test(interval) ? `an ${interval}` : `a ${interval}`);

const aid = (kind: ReadingAid['kind'], notes: Note[], text: string): ReadingAid => ({
  id: `${kind} ${notes[0]!.id}`,
  kind,
  noteIds: notes.map((note) => note.id),
  barIndex: notes[0]!.barIndex,
  onset: notes[0]!.onset,
  text,
  count: null,
  remedy: null,
});

/** The pitch as most hands think it; null where it is written so already. */
function plainly(pitch: Pitch): Pitch | null {
  const { step, alter } = pitch;
  const odd = Math.abs(alter) === 2 || (alter === 1 && (step === 'B' || step === 'E')) || (alter === -1 && (step === 'C' || step === 'F'));
  return odd ? spelled(midiOf(pitch), alter) : null;
}
