/** A passage without the left hand: the same strokes on the strings that the fingering takes (common practice: crossings are learned there first). */
import type { FingeredNote } from '../left-hand/fingering';

/** The same notes, each as the open string that it lies on; played, they sound as it. */
export const onOpenStrings = (notes: readonly FingeredNote[]): FingeredNote[] =>
  notes.map((note) => ({
    ...note,
    place: {
      ...note.place,
      stop: 0,
      finger: 0,
      hand: null,
      handMm: 0,
      position: null,
      shape: 'open',
      extension: false,
      harmonic: null,
      asked: false,
      frameCost: 0,
      extensionCost: 0,
    },
    shift: null,
    covered: null,
  }));
