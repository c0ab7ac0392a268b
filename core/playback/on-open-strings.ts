/** A passage without the left hand: the same strokes on the strings that the fingering takes (common practice: crossings are learned there first). */
import type { FingeredNote } from '../left-hand/fingering';
import { OPEN } from '../left-hand/places';

/** The same notes, each as the open string that it lies on; played, they sound as it. */
export const onOpenStrings = (notes: readonly FingeredNote[]): FingeredNote[] =>
  notes.map((note) => ({ ...note, place: { ...note.place, ...OPEN }, shift: null, covered: null }));
