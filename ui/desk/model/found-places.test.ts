import { demoScore } from '@/tests/support/demo';
import { automaticPassages } from '@/core/score/passages';
import { foundPlaces, type Sources } from './found-places';

const part = demoScore('mill-race-serenade').score.parts[0]!;
const sources: Sources = {
  part,
  passages: automaticPassages(part),
  players: [
    { id: 'p1', name: 'Tobi' },
    { id: 'p2', name: 'Ines Tobler' },
  ],
  parts: [
    { id: 'a', name: 'Violin I' },
    { id: 'b', name: 'Viola' },
  ],
  partId: 'a',
};
const names = (text: string) => foundPlaces(text, sources).map(({ sort, name }) => `${sort}: ${name}`);

test('places as people say them, bars to select, and letters with their passage', () => {
  expect(foundPlaces('47', sources)[0]).toMatchObject({ sort: 'place', aim: { to: 'place', place: { barIndex: 47 } } });
  expect(foundPlaces('17-24', sources)[0]).toMatchObject({ sort: 'bars', name: 'Select bars 17–24', aim: { bars: { fromBar: 17, toBar: 24 } } });
  expect(names('E').slice(0, 2)).toEqual(['place: Go to E', 'passage: E, bars 81–96']);
});
test('whatever has the word, where a word begins with it first', () => {
  expect(names('tob')).toEqual(['player: Check for Tobi', 'player: Check for Ines Tobler']);
  expect(names('viola')).toEqual(['part: Viola']);
  expect(names('violin i')).toEqual([]);
  expect(names('retake')).toEqual(['command: retake']);
  expect(foundPlaces('suggest bow', sources)[0]!.aim).toEqual({ to: 'command', command: { do: 'suggest bowing' } });
  expect(foundPlaces('check sheet', sources)[0]!.aim).toEqual({ to: 'page', href: '/desk/a/check' });
});
test('nothing typed: the passages first, not everything; nothing found, nothing', () => {
  const all = foundPlaces('  ', sources);
  expect(all[0]!.sort).toBe('passage');
  expect(all.length).toBe(12);
  expect(names('zzz')).toEqual([]);
  expect(foundPlaces('47', { ...sources, part: null })).toEqual([]);
});
