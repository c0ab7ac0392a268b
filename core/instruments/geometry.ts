/**
 * Where notes lie on a string, in mm. Physics of the ideal string in equal temperament; the true
 * string is a few cents sharp when pressed down, which players hear and mend.
 */

/**
 * Distance from the nut of the stop n half steps above the open string: `L·(1 − 2^(−n/12))`.
 * @param lengthMm sounding length of the open string in mm
 * @param stop half steps above the open string, fractions allowed
 */
export function stopMm(lengthMm: number, stop: number): number {
  return lengthMm * (1 - 2 ** (-stop / 12));
}

/** String left to sound at a stop, in mm: `L·2^(−n/12)`. */
export function soundingMm(lengthMm: number, stop: number): number {
  return lengthMm * 2 ** (-stop / 12);
}

/** How many cents one mm is at a stop: `1200/ln 2 / (string left in mm)`. */
export function centsPerMm(lengthMm: number, stop: number): number {
  return 1200 / Math.LN2 / soundingMm(lengthMm, stop);
}

/** Half steps above the open string of a place d mm from the nut; the inverse of `stopMm`. */
export function stopAtMm(lengthMm: number, mm: number): number {
  return -12 * Math.log2(1 - mm / lengthMm);
}

/** Distance in mm between two stops of one string. */
export function spanMm(lengthMm: number, a: number, b: number): number {
  return Math.abs(stopMm(lengthMm, a) - stopMm(lengthMm, b));
}

/** A touch point of a natural harmonic, in half steps above the open string, and the sound above it. */
export interface HarmonicTouch {
  partial: number;
  touch: number;
  sounds: number;
}

/** Every place where the natural harmonics from the 2nd to the given partial lie (nodes k/p of the string). */
export function harmonicTouches(highestPartial: number): HarmonicTouch[] {
  const found: HarmonicTouch[] = [];
  for (let partial = 2; partial <= highestPartial; partial++) {
    for (let k = 1; k < partial; k++) {
      if (commonDivisor(k, partial) !== 1) continue;
      found.push({ partial, touch: -12 * Math.log2(1 - k / partial), sounds: 12 * Math.log2(partial) });
    }
  }
  return found;
}

function commonDivisor(a: number, b: number): number {
  return b === 0 ? a : commonDivisor(b, a % b);
}
