import fc from 'fast-check';
import { stringLetters } from './string-letters';

const at = (x: number, y: number, open = false) => ({ x, y, open });

test('above a finger, below an open string; elsewhere where something is in the way', () => {
  expect(stringLetters([at(100, 60)], [at(100, 60)], 8, [])).toEqual([{ x: 100, y: 49 }]);
  expect(stringLetters([at(100, 60, true)], [at(100, 60)], 8, [])).toEqual([{ x: 100, y: 79 }]);
  const name = { from: 90, to: 120, top: 38, bottom: 50 };
  expect(stringLetters([at(100, 60)], [at(100, 60)], 8, [name])).toEqual([{ x: 100, y: 79 }]);
  const under = at(100, 76);
  expect(stringLetters([at(100, 60)], [at(100, 60), under], 8, [name])).toEqual([{ x: 115, y: 64 }]);
  expect(stringLetters([at(100, 60)], [at(100, 60), under, at(116, 60)], 8, [name])).toEqual([{ x: 85, y: 64 }]);
});

test('where there is room no letter lies on another, whatever the fingers', () => {
  const finger = fc.record({ gap: fc.integer({ min: 24, max: 60 }), y: fc.integer({ min: 20, max: 90 }), open: fc.boolean() });
  fc.assert(
    fc.property(fc.array(finger, { maxLength: 12 }), (list) => {
      const asked = list.map(({ gap, y, open }, i) => at(gap + list.slice(0, i).reduce((sum, each) => sum + each.gap, 0), y, open));
      const letters = stringLetters(asked, asked, 8, []);
      letters.forEach((a, i) => letters.slice(i + 1).forEach((b) => expect(Math.abs(a.x - b.x) >= 9 || Math.abs(a.y - b.y) >= 9).toBe(true)));
    }),
  );
});
