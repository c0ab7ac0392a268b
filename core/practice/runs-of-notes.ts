/** Parts of a passage that drills are made from. */
import type { MadeNote } from '../formats/musicxml/made-part';
import { plainHead, type Passage, type PassageNote } from './passage';

/** A note of the passage as it is, with its rest behind it. */
export function asPlayed(note: PassageNote, change: Partial<MadeNote> = {}): MadeNote[] {
  const made: MadeNote = { heads: note.heads.map(plainHead), ticks: note.ticks, slurred: note.slurred, ...change };
  const rest = note.until - note.ticks;
  return rest > 1 && change.ticks === undefined ? [made, { heads: [], ticks: rest, slurred: false }] : [made];
}

export const restOf = (ticks: number): MadeNote => ({ heads: [], ticks, slurred: false });

/** Least notes that make a run. */
const RUN = 6;

/** The longest run of single notes of one value, shorter than a beat, without rests; null where there is none of six. */
export function runOf({ notes, beat }: Passage): PassageNote[] | null {
  let best: PassageNote[] = [];
  let run: PassageNote[] = [];
  for (const note of notes) {
    const goesOn = run.length === 0 || Math.abs(note.ticks - run[0]!.ticks) < 2;
    const isSmall = note.ticks <= beat / 2 + 1 && note.until - note.ticks < 2 && note.heads.length === 1;
    if (!isSmall) run = [];
    else run = goesOn ? [...run, note] : [note];
    if (run.length > best.length) best = run;
  }
  return best.length >= RUN ? best : null;
}

/** Notes in rows of so many; the last may be shorter. */
export const inRows = <T>(list: readonly T[], size: number): T[][] =>
  Array.from({ length: Math.ceil(list.length / size) }, (_, i) => list.slice(i * size, (i + 1) * size));

/** The same notes slurred in such groups, again and again; the last may be shorter. @example [3, 1]: three and one */
export function slurredBy(notes: readonly PassageNote[], groups: readonly number[], dots = false): MadeNote[] {
  const made: MadeNote[] = [];
  let group = 0;
  let left = groups[0]!;
  notes.forEach((note, i) => {
    left--;
    made.push(...asPlayed(note, { slurred: left > 0 && i < notes.length - 1, dot: dots && groups[group % groups.length] === 1 ? true : undefined }));
    if (left === 0) left = groups[++group % groups.length]!;
  });
  return made;
}

/** As it is, on the fingers of the plan. */
export const asWritten = (notes: readonly PassageNote[]): MadeNote[] => notes.flatMap((note) => asPlayed(note));

/** Everything separate. */
export const separate = (notes: readonly PassageNote[]): MadeNote[] => notes.flatMap((note) => asPlayed(note, { slurred: false }));
