import { demoScore } from '../../tests/support/demo';
import { realScores } from '../../tests/support/real-scores';
import { readScoreBytes } from '../formats/read';
import { makeScore, TICKS } from '../testing/make';
import { middleOf, staffOf } from './staff';

const clef = (sign: string, line: number, octave = 0) => ({ sign, line, octave });

test('what lies on the middle line by the clef: B4, C4, A3 and D3 (textbook), an octave lower under a small 8', () => {
  expect([clef('G', 2), clef('C', 3), clef('C', 4), clef('F', 4), clef('G', 2, -1)].map(middleOf)).toEqual([34, 28, 26, 22, 27]);
});

test('heads by their place, values, dots and stems; beams within the beat, none over a rest or a longer note', () => {
  const { part } = makeScore('violin', 'B4/1 E5/1.5 F4/.5 C6/1 | D5/.5 E5/.5 F5/.25 G5/.25 A5/.5 r/1 A4/.5 r/.5 | G4+B4/4');
  const { notes, rests } = staffOf(part);
  expect(notes.slice(0, 4).map(({ heads, value, dots, stem, beam }) => [heads[0]!.place, value, dots, stem, beam])).toEqual([
    [0, 4, 0, 'down', null],
    [3, 4, 1, 'down', null],
    [-3, 8, 0, 'up', null],
    [8, 4, 0, 'down', null],
  ]);
  expect(notes.slice(4, 10).map(({ beam }) => beam)).toEqual([0, 0, 1, 1, 1, null]);
  expect(notes.at(-1)!).toMatchObject({ value: 1, stem: null, heads: [{ place: -2 }, { place: 0 }] });
  expect(rests.map(({ onset, value }) => [onset / TICKS, value])).toEqual([
    [6, 4],
    [7.5, 8],
  ]);
});

test('the clefs of a part: a cello in tenor clef lies higher on the staff', () => {
  const cello = demoScore('mill-race-serenade').score.parts[3]!;
  const { clefs, notes } = staffOf(cello);
  expect(clefs.map(({ clef: { sign } }) => sign)).toEqual(['F', 'C', 'F']);
  const inTenor = notes.find(({ onset }) => onset >= clefs[1]!.tick)!;
  expect(inTenor.heads[0]!.place).toBe(1);
});

test('every written note of the first voice stands once, in order (demo and real scores)', () => {
  const real = realScores(/(Mozart|Telemann|Actor).*\.xml$/).flatMap(([, bytes]) => {
    const read = readScoreBytes(bytes);
    return read.ok ? [read.value.score] : [];
  });
  const all = [demoScore('mill-race-serenade').score, ...real];
  for (const { parts } of all)
    for (const part of parts) {
      const { notes } = staffOf(part);
      const voice = part.notes.find(({ staff, cue }) => staff === 1 && !cue)?.voice;
      const wanted = part.notes.filter((note) => note.voice === voice && note.staff === 1 && !note.grace);
      expect(notes.reduce((sum, { heads }) => sum + heads.length, 0)).toBe(wanted.length);
      notes.slice(1).forEach(({ onset }, i) => expect(onset).toBeGreaterThan(notes[i]!.onset));
      for (const { value, stem, beam } of notes) {
        expect(stem === null).toBe(value < 2);
        if (beam !== null) expect(value).toBeGreaterThanOrEqual(8);
      }
    }
});
