/**
 * Time in whole ticks, the same for every file: what a note is called, and where a mark stands, depends on the music and never on
 * the divisions that a program happened to write.
 */

/**
 * Ticks to the quarter note: 4 · lcm(1, …, 16), so that 256th notes and tuplets of up to 16 are whole. What is finer, or odd
 * (17 in the time of 16), is rounded from its exact place and so is the same in every file too.
 */
export const TICKS_PER_QUARTER = 2_882_880;

/** @example quartersOf(TICKS_PER_QUARTER / 2) === 0.5 */
export const quartersOf = (ticks: number): number => ticks / TICKS_PER_QUARTER;

export const ticksOfQuarters = (quarters: number): number => Math.round(quarters * TICKS_PER_QUARTER);

/**
 * A length as a reduced fraction of a quarter note, fit to stand in an XML id.
 * @param ticks not negative, whole
 * @example `fractionText(TICKS_PER_QUARTER * 3 / 2) === '3_2'`, `fractionText(0) === '0'`
 */
export function fractionText(ticks: number): string {
  const known = fractions.get(ticks);
  if (known !== undefined) return known;
  const text = reduced(ticks);
  // A score has few places in a bar; a file that has thousands is not worth keeping them.
  if (fractions.size < 10_000) fractions.set(ticks, text);
  return text;
}

const fractions = new Map<number, string>();

function reduced(ticks: number): string {
  const common = gcd(ticks, TICKS_PER_QUARTER);
  const below = TICKS_PER_QUARTER / common;
  return below === 1 ? String(ticks / common) : `${ticks / common}_${below}`;
}

/** The ticks of such a fraction; null for any other text. */
export function ticksOfFraction(text: string): number | null {
  const [, above, below = '1'] = /^(\d{1,12})(?:_([1-9]\d{0,11}))?$/.exec(text) ?? [];
  return above === undefined ? null : Math.round((Number(above) / Number(below)) * TICKS_PER_QUARTER);
}

export function gcd(a: number, b: number): number {
  while (b) [a, b] = [b, a % b];
  return a;
}
