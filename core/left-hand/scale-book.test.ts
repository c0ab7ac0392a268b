import { firstLine, makeScore } from '../testing/make';
import { SCALE_BOOK, type BookScale } from '../../tests/support/scale-book';
import { clockFor } from '../score/time';
import { fingerName, usualPlayer } from '../instruments/player';
import { planFingering } from './fingering';

/** Which choice has the book's fingers: 0 the first; -1 none of five. */
function choice({ kind, fifths, music, fingers }: BookScale): number {
  const { score, part } = makeScore(kind, music, { fifths, tempo: 88 });
  const clock = clockFor(part, score.ticksPerQuarter, null);
  const { alternatives } = planFingering({ score, part, line: firstLine(part), player: usualPlayer(kind), clock, marking: {}, alternatives: 5 });
  return alternatives.findIndex((way) => way.notes.map((note) => fingerName(note.place.finger)).join('') === fingers);
}

test('the book has a finger for every note, and at least sixty scales and arpeggios', () => {
  expect(SCALE_BOOK.length).toBeGreaterThanOrEqual(60);
  for (const { music, fingers } of SCALE_BOOK) expect(fingers).toHaveLength(music.split(' ').length);
});
test.each(SCALE_BOOK.map((scale) => [scale.name, scale] as const))('within the first five: %s', (_, scale) => expect(choice(scale)).toBeGreaterThanOrEqual(0));
test('the first choice agrees in at least nine of ten', () => {
  const misses = SCALE_BOOK.filter((scale) => choice(scale) !== 0).map((scale) => scale.name);
  expect(misses.length / SCALE_BOOK.length).toBeLessThanOrEqual(0.1);
});
