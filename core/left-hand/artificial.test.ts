import { firstLine, makeScore } from '../testing/make';
import { clockFor } from '../score/time';
import { midiOf } from '../score/pitch';
import type { InstrumentKind, Note } from '../score/score';
import { handOf, THUMB, usualPlayer } from '../instruments/player';
import { planBowing } from '../bow-arm/bowing';
import { artificialOf, TOUCHES } from './artificial';
import { planFingering } from './fingering';

/** A chord of a stop and a touched head, as parts print it. */
function heads(kind: InstrumentKind, music: string, change: (notes: Note[]) => void = () => undefined, hand: 'small' | 'medium' = 'medium') {
  const { score, part } = makeScore(kind, music);
  for (const note of part.notes.filter((each) => each.inChord)) Object.assign(note, { harmonic: 'artificial', harmonicShows: 'touching' });
  change(part.notes);
  const player = { ...usualPlayer(kind), hand: handOf(hand, kind) };
  const request = { score, part, line: firstLine(part), player, clock: clockFor(part, null), marking: {}, alternatives: 1 };
  return { part, request, ...planFingering(request) };
}
const places = (found: ReturnType<typeof heads>) => found.alternatives[0]!.notes.map(({ place }) => [place.string, place.finger, place.stop, place.harmonic]);

test('what sounds: two octaves above the stop for a fourth, a twelfth for a fifth (domain fact 12, physics of the string)', () => {
  for (const { above, partial, sounds } of TOUCHES) {
    // Touching where the string that is left is divided in so many parts.
    expect(Math.abs(-12 * Math.log2(1 - 1 / partial) - above)).toBeLessThan(0.2);
    expect(Math.abs(12 * Math.log2(partial) - sounds)).toBeLessThan(0.15);
  }
});
test('violin: first finger stops, the fourth touches, on one string', () => {
  expect(places(heads('violin', 'B4+E5/2'))).toEqual([
    [2, 1, 2, null],
    [2, 4, 7, 4],
  ]);
  expect(places(heads('violin', 'B4+D#5/2'))[1]).toEqual([2, 3, 6, 5]);
});
test('cello: the thumb stops, the third finger touches', () => {
  const [stop, touch] = places(heads('cello', 'G4+C5/2'));
  expect([stop![1], touch![1]]).toEqual([THUMB, 3]);
  expect(stop![0]).toBe(touch![0]);
  expect(touch![2]! - stop![2]!).toBe(5);
});
test('one head alone shows what sounds: stopped two octaves lower', () => {
  const found = heads('violin', 'E6/2', ([note]) => Object.assign(note!, { harmonic: 'artificial', harmonicShows: 'sounding' }));
  expect(artificialOf(found.part.notes)).toMatchObject({ touch: { above: 5 } });
  expect(midiOf(artificialOf(found.part.notes)!.base)).toBe(midiOf(found.part.notes[0]!.pitch) - 24);
  expect(found.unplayable).toEqual([]);
});
test('heads that make no harmonic are taken for a double stop', () => {
  const sixth = heads('violin', 'B4+G5/2');
  expect(artificialOf(sixth.part.notes)).toBeNull();
  expect(new Set(places(sixth).map(([string]) => string)).size).toBe(2);
});
test('a wide touch costs the smaller hand more', () => {
  const stretch = (hand: 'small' | 'medium') => heads('viola', 'F3+C4/2', () => undefined, hand).alternatives[0]!.terms.reach ?? 0;
  expect(stretch('small')).toBeGreaterThan(stretch('medium'));
});
test('the bow has one string to play, not a chord of three', () => {
  const found = heads('violin', 'B4+E5+B6/2', (notes) => Object.assign(notes[2]!, { harmonicShows: 'sounding' }));
  expect(planBowing(found.request)[0]!.strokes[0]!.kind).toBe('détaché');
  expect(found.alternatives[0]!.notes).toHaveLength(3);
});
