/**
 * Stored records and their versions. In the first version notes and places were named by ticks of the file they had been read from;
 * since the second by fractions of a quarter note (`core/score/identity.ts`). What was stored earlier is brought forward when it is met.
 */
import { noteId } from '../score/identity';
import { fractionText, gcd, TICKS_PER_QUARTER } from '../score/ticks';
import type { Change } from './change';
import { markKey, splitKey, type Mark, type Marking } from './mark';
import type { MarkKind } from './kinds';

/** What a marking, a change set, a marks file and an accepted finding are written as today. */
export const RECORD_VERSION = 2;

/** Ticks to a quarter of the first version: the least common multiple of all divisions in the document that was read. */
export function resolutionBefore(document: string): number {
  let common = 1;
  for (const [, said] of document.matchAll(/<divisions\b[^>]*>\s*(\d+)\s*<\/divisions>/g)) {
    const divisions = Number(said);
    if (divisions > 0) common = (common / gcd(common, divisions)) * divisions;
  }
  return common;
}

const NOTE_BEFORE = /\bn-[A-Za-z0-9_.]+-(\d+)-([A-Za-z0-9_.]+)-(\d+)-([A-G][A-Za-z0-9]*)-(\d+)\b/g;
const PLACE_BEFORE = /\bat-(\d+)-(\d+)\b(?!_)/g;
const HAIRPIN_BEFORE = /^(crescendo|diminuendo) (\d+) (\d+)$/;

/**
 * Names of notes and places in a text of the first version (a target, also one that has lost its place; the id of a finding).
 * @param resolution ticks to a quarter that they were written with
 * @example with 2 ticks to a quarter, `n-P1-0-1-3-Fs4-0` is `n-0-1-3_2-Fs4-0`
 */
export function namesForward(text: string, resolution: number): string {
  const tick = (ticks: string) => Math.round((Number(ticks) / resolution) * TICKS_PER_QUARTER);
  return text
    .replace(NOTE_BEFORE, (_, bar: string, voice: string, ticks: string, pitch: string, ordinal: string) =>
      noteId({ barIndex: Number(bar), voice, tick: tick(ticks), pitch, ordinal: Number(ordinal) }),
    )
    .replace(PLACE_BEFORE, (_, bar: string, ticks: string) => `at-${bar}-${fractionText(tick(ticks))}`);
}

/** A mark of the first version: only hairpins hold a place in their value. */
export function markForward<M extends Pick<Mark, 'value'> | null>(kind: MarkKind, mark: M, resolution: number): M {
  const [, shape, bar, ticks] = (kind === 'hairpin' && mark && HAIRPIN_BEFORE.exec(mark.value)) || [];
  if (!mark || ticks === undefined) return mark;
  return { ...mark, value: `${shape} ${bar} ${fractionText(Math.round((Number(ticks) / resolution) * TICKS_PER_QUARTER))}` };
}

export const markingForward = (marking: Marking, resolution: number): Marking =>
  Object.fromEntries(
    Object.entries(marking).map(([key, mark]) => {
      const { target, kind } = splitKey(key);
      return [markKey(namesForward(target, resolution), kind), markForward(kind, mark, resolution)];
    }),
  );

export const changesForward = (changes: readonly Change[], resolution: number): Change[] =>
  changes.map(({ target, kind, from, to }) => ({
    target: namesForward(target, resolution),
    kind,
    from: markForward(kind, from, resolution),
    to: markForward(kind, to, resolution),
  }));
