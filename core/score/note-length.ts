/** Written lengths of notes and rests: a note value, dots, and the tuplet it stands in. */
import { TICKS_PER_QUARTER } from './ticks';

export interface NoteLength {
  /** Part of a whole note: 4 is a quarter; a breve is one half. */
  of: number;
  dots: number;
  /** So many in the time of so many; 1 and 1 outside a tuplet. */
  actual: number;
  normal: number;
}

/** Note values by the part of a whole note that they are, with their names in MusicXML (note-type-value). */
const VALUES: ReadonlyArray<readonly [of: number, name: string]> = [
  [0.5, 'breve'],
  [1, 'whole'],
  [2, 'half'],
  [4, 'quarter'],
  [8, 'eighth'],
  [16, '16th'],
  [32, '32nd'],
  [64, '64th'],
  [128, '128th'],
];
export const MOST_DOTS = 3;
/** Tuplets beyond this many are no rhythm that is read. */
const MOST_IN_TUPLET = 16;

export const valueName = (of: number): string | null => VALUES.find(([value]) => value === of)?.[1] ?? null;
export const valueNamed = (name: string): number | null => VALUES.find(([, each]) => each === name)?.[0] ?? null;

export const plain = (of: number, dots = 0): NoteLength => ({ of, dots, actual: 1, normal: 1 });
export const isTuplet = ({ actual, normal }: NoteLength): boolean => actual !== normal;
export const sameLength = (a: NoteLength, b: NoteLength): boolean => a.of === b.of && a.dots === b.dots && a.actual * b.normal === b.actual * a.normal;

/** Ticks of a length; not whole where no file could say it exactly. @example a dotted quarter lasts 1.5 quarters */
export const ticksOfLength = ({ of, dots, actual, normal }: NoteLength): number => (((TICKS_PER_QUARTER * 4) / of) * (2 - 2 ** -dots) * normal) / actual;

/** @example "4", "8.", "8t", "16(5:4)" */
export function lengthText({ of, dots, actual, normal }: NoteLength): string {
  const tuplet = actual === normal ? '' : actual === 3 && normal === 2 ? 't' : `(${actual}:${normal})`;
  return `${of === 0.5 ? '1/2' : of}${'.'.repeat(dots)}${tuplet}`;
}

/** Null for what is no length. */
export function parseLength(text: string): NoteLength | null {
  const [, value, dots, triplet, actual = '1', normal = '1'] = /^(\d{1,3}|1\/2)(\.{0,3})(?:(t)|\((\d{1,2}):(\d{1,2})\))?$/.exec(text) ?? [];
  if (value === undefined) return null;
  const of = value === '1/2' ? 0.5 : Number(value);
  const ratio = triplet ? [3, 2] : [Number(actual), Number(normal)];
  if (valueName(of) === null || ratio.some((count) => count < 1 || count > MOST_IN_TUPLET)) return null;
  return { of, dots: dots!.length, actual: ratio[0]!, normal: ratio[1]! };
}

/** One written length that lasts so long, the plainest first: without a tuplet, then a triplet; null where there is none. */
export function lengthOf(ticks: number): NoteLength | null {
  for (const [actual, normal] of [
    [1, 1],
    [3, 2],
  ] as const)
    for (let dots = 0; dots <= 2; dots++)
      for (const [of] of VALUES) {
        const length = { of, dots, actual, normal };
        if (Math.abs(ticksOfLength(length) - ticks) < 0.5) return length;
      }
  return null;
}

/** Lengths that last so long one after the other, the longest first; null where note values cannot say it. */
export function lengthsOf(ticks: number): NoteLength[] | null {
  const one = lengthOf(ticks);
  if (one) return [one];
  const longest = VALUES.map(([of]) => plain(of)).find((length) => ticksOfLength(length) < ticks);
  const rest = longest && lengthsOf(ticks - ticksOfLength(longest));
  return rest ? [longest, ...rest] : null;
}
