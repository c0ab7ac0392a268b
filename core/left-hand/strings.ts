/** Which string each note is on, by a fingering. */
import type { Fingering } from './fingering';

/** String of a note, 1 the highest; null where the fingering does not say. */
export function stringsOf(fingering: Fingering | null): (noteId: string) => number | null {
  const strings = new Map(fingering?.notes.map((note) => [note.id, note.place.string]));
  return (noteId) => strings.get(noteId) ?? null;
}
