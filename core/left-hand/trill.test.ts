import { makeScore } from '../testing/make';
import type { InstrumentKind, Note } from '../score/score';
import { DEFAULT_COSTS } from './costs';
import type { Shape } from './places';
import { isTrilled, trillCost, upperStep } from './trill';

const { trillOnFourth: none, trillOnThird: weak } = DEFAULT_COSTS;

/** Fingers above a finger, as hands have them (common practice): the third is followed by the weak fourth, the fourth by none. */
test.each<[InstrumentKind, Shape, finger: number, halfSteps: number, cost: number]>([
  ['violin', 'closed', 1, 2, 0],
  ['violin', 'closed', 2, 1, 0],
  ['violin', 'closed', 3, 2, weak],
  ['viola', 'closed', 4, 1, none],
  ['cello', 'closed', 1, 1, 0],
  ['cello', 'closed', 1, 2, 0],
  ['cello', 'closed', 2, 2, 0],
  ['cello', 'closed', 3, 1, weak],
  ['cello', 'closed', 3, 2, none],
  ['cello', 'closed', 4, 1, none],
  ['cello', 'upper', 2, 2, 0],
  ['cello', 'upper', 3, 1, none],
  ['bass', 'closed', 1, 1, 0],
  ['bass', 'closed', 1, 2, weak],
  ['bass', 'closed', 2, 1, weak],
  ['bass', 'closed', 2, 2, none],
  ['bass', 'thumb', 1, 2, 0],
])('%s, %s hand, finger %i, %i half steps: %d', (kind, shape, finger, halfSteps, cost) => {
  expect(trillCost({ finger, shape }, halfSteps, kind, DEFAULT_COSTS)).toBe(cost);
});

test.each<[pitch: string, fifths: number, above: number | null, halfSteps: number]>([
  ['E5', 0, null, 1],
  ['E5', 1, null, 2],
  ['A4', 0, null, 2],
  ['A4', -1, null, 1],
  ['A4', 0, -1, 1],
  ['B4', 0, null, 1],
])('%s in a key of %i fifths with the sign %p: %i half steps', (pitch, fifths, above, halfSteps) => {
  const note: Note = { ...makeScore('violin', `${pitch}/1`).part.notes[0]!, ornaments: [{ kind: 'trill', above }] as Note['ornaments'] };
  expect(upperStep(note, { fifths })).toBe(halfSteps);
});

test('a trill is a sign or an ornament of that kind; a turn is none', () => {
  const [note] = makeScore('violin', 'A4/1').part.notes;
  const with_ = (kind: string): Note => ({ ...note!, ornaments: [{ kind, above: null }] as unknown as Note['ornaments'] });
  expect([isTrilled(note!), isTrilled({ ...note!, trill: true }), isTrilled(with_('trill')), isTrilled(with_('turn'))]).toEqual([false, true, true, false]);
});
