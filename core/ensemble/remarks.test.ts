import { makeScore } from '../testing/make';
import { remarksOn } from './remarks';

const four = makeScore('violin', 'A4/4 | A4/4 | A4/4 | A4/4').part;
const two = makeScore('cello', 'A3/4 | A3/4').part;

test('parts of different lengths, and bars that are called otherwise, are said; else nothing is', () => {
  const called = { ...four, bars: four.bars.map((bar, i) => ({ ...bar, label: String(i + 101) })) };
  expect(
    remarksOn([
      { name: 'Violin I', part: four },
      { name: 'Violin II', part: called },
      { name: 'Cello', part: two },
    ]),
  ).toEqual([
    'Bars of Violin II are numbered otherwise (101 where Violin I has 1): they are compared by their place.',
    'Cello has 2 bars, Violin I 4: behind that it is compared with nobody.',
  ]);
  const one = { ...four, bars: four.bars.map((bar, i) => (i === 3 ? { ...bar, label: '4a' } : bar)) };
  expect(
    remarksOn([
      { name: 'A', part: four },
      { name: 'B', part: four },
    ]),
  ).toEqual([]);
  expect(
    remarksOn([
      { name: 'A', part: one },
      { name: 'B', part: { ...four, bars: [...four.bars, ...four.bars, ...four.bars].map((bar, index) => ({ ...bar, index })) } },
    ]),
  ).toEqual(['A has 4 bars, B 12: behind that it is compared with nobody.']);
  expect(remarksOn([])).toEqual([]);
});
