/** Random short phrases with signs, slurs, rests and marks, as problems for the bow search. */
import fc from 'fast-check';
import { firstLine, makeScore } from '../../core/testing/make';
import { clockFor } from '../../core/score/time';
import type { DynamicLevel } from '../../core/score/score';
import { markKey, type Mark } from '../../core/marking/mark';
import { atomsOf } from '../../core/bow-arm/atoms';
import { usualBow } from '../../core/bow-arm/bow';
import { candidateSpans } from '../../core/bow-arm/candidates';
import { BOW_COSTS, HAIR_CM } from '../../core/bow-arm/tables';
import type { Problem } from './brute-bow';

const note = fc.record({
  pitch: fc.constantFrom('A4', 'B4', 'C5', 'D5'),
  sign: fc.constantFrom('', '', '!', '.', '-'),
  length: fc.constantFrom(0.25, 0.5, 0.75, 1, 1.5, 2),
  rest: fc.constantFrom(0, 0, 0, 0.25, 1),
  slur: fc.boolean(),
  mark: fc.constantFrom('', '', '', '', 'down', 'up', 'hook', 'retake', 'frog', 'tip', 'little'),
});
type RandomNote = typeof note extends fc.Arbitrary<infer T> ? T : never;

function problemOf(notes: readonly RandomNote[], tempo: number, dynamic: DynamicLevel): Problem {
  let open = false;
  const music = notes.map(({ pitch, sign, length, rest, slur }, i) => {
    const begins = slur && !open && rest === 0 && i + 1 < notes.length;
    const ends = open;
    if (begins) open = true;
    else if (ends) open = false;
    return `${begins ? '(' : ''}${pitch}${sign}/${length}${ends && !begins ? ')' : ''}${rest && !begins ? ` r/${rest}` : ''}`;
  });
  const { part } = makeScore('violin', music.join(' '), { tempo, dynamic });
  const marking: Record<string, Mark> = {};
  notes.forEach(({ mark }, i) => {
    if (mark === '' || i === 0) return;
    const [kind, value] =
      mark === 'down' || mark === 'up'
        ? (['bow', mark] as const)
        : mark === 'frog' || mark === 'tip'
          ? (['bow-from', mark] as const)
          : mark === 'little'
            ? (['bow-amount', 'little'] as const)
            : ([mark as 'hook' | 'retake', 'yes'] as const);
    marking[markKey(part.notes[i]!.id, kind)] = { value, origin: 'coach' };
  });
  const atoms = atomsOf(part, firstLine(part), clockFor(part, null), marking);
  return { atoms, spansEndingAt: candidateSpans(atoms, usualBow('violin'), BOW_COSTS, false), hairCm: HAIR_CM.violin, costs: BOW_COSTS, part };
}

/** Phrases of so many notes, at several tempi and dynamics. */
export const bowProblems = (notes: { minLength: number; maxLength: number }): fc.Arbitrary<Problem> =>
  fc
    .record({
      notes: fc.array(note, notes),
      tempo: fc.constantFrom(46, 72, 104, 152),
      dynamic: fc.constantFrom<DynamicLevel>('pp', 'p', 'mf', 'f', 'ff'),
    })
    .map(({ notes, tempo, dynamic }) => problemOf(notes, tempo, dynamic));
