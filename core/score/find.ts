/** Lookups in a part by note id. */
import type { Note, Part } from './score';

const cache = new WeakMap<Part, Map<string, Note>>();

/** Note of a part by its id; parts are immutable, so the index is made once. */
export function noteById(part: Part, id: string): Note | undefined {
  let index = cache.get(part);
  if (!index) {
    index = new Map(part.notes.map((note) => [note.id, note]));
    cache.set(part, index);
  }
  return index.get(id);
}
