/** Shapes of a hand that counts in half steps: which finger lies how many half steps over the first (cello and bass). */
import { THUMB, type Player } from '../instruments/player';
import type { Shape } from './places';

interface ChromaticShape {
  shape: Shape;
  /** finger → half steps from the hand. */
  offsets: ReadonlyArray<readonly [finger: number, offset: number]>;
  from: number;
  to: number;
  extension: boolean;
}

/** Cello: closed and extended in the neck, 1-2-3 above it, thumb to 3 a fourth, the thumb not below where the player sets it first (common practice). */
const CELLO_SHAPES: readonly ChromaticShape[] = [
  {
    shape: 'closed',
    offsets: [
      [1, 0],
      [2, 1],
      [3, 2],
      [4, 3],
    ],
    from: 1,
    to: 8,
    extension: false,
  },
  {
    shape: 'extended',
    offsets: [
      [2, 2],
      [3, 3],
      [4, 4],
    ],
    from: 1,
    to: 8,
    extension: true,
  },
  { shape: 'extended back', offsets: [[1, -1]], from: 2, to: 8, extension: true },
  {
    shape: 'upper',
    offsets: [
      [1, 0],
      [2, 1],
      [2, 2],
      [3, 3],
      [3, 4],
    ],
    from: 9,
    to: 28,
    extension: false,
  },
  {
    shape: 'thumb',
    offsets: [
      [THUMB, -2],
      [1, 0],
      [1, -1],
      [2, 1],
      [2, 2],
      [3, 3],
    ],
    from: 6,
    to: 29,
    extension: false,
  },
];

/** Bass, three-finger school: 1-2-4 a tone in the neck (common practice). */
const THREE_FINGERS: ChromaticShape = {
  shape: 'closed',
  offsets: [
    [1, 0],
    [2, 1],
    [4, 2],
  ],
  from: 1,
  to: 9,
  extension: false,
};

/** Bass, four-finger school: 1-2-3-4 a minor third, a finger for each half step (common practice). */
const FOUR_FINGERS: ChromaticShape = {
  shape: 'closed',
  offsets: [
    [1, 0],
    [2, 1],
    [3, 2],
    [4, 3],
  ],
  from: 1,
  to: 9,
  extension: false,
};

/** Bass above the neck: 1-2-3 from about VI, then thumb to 3 (common practice). */
const BASS_UPPER_SHAPES: readonly ChromaticShape[] = [
  {
    shape: 'upper',
    offsets: [
      [1, 0],
      [2, 1],
      [3, 2],
    ],
    from: 10,
    to: 24,
    extension: false,
  },
  {
    shape: 'thumb',
    offsets: [
      [THUMB, -2],
      [1, 0],
      [2, 1],
      [2, 2],
      [3, 2],
      [3, 3],
    ],
    from: 6,
    to: 26,
    extension: false,
  },
];

const BASS_SHAPES: Readonly<Record<Player['bassFingers'], readonly ChromaticShape[]>> = {
  three: [THREE_FINGERS, ...BASS_UPPER_SHAPES],
  four: [FOUR_FINGERS, ...BASS_UPPER_SHAPES],
};

export const shapesOf = ({ instrument, bassFingers }: Player): readonly ChromaticShape[] =>
  instrument.kind === 'cello' ? CELLO_SHAPES : BASS_SHAPES[bassFingers];
