import fc from 'fast-check';
import { tempoForAll, withMore, type PartTempo } from './tempo-for-all';

const part = (name: string, floor: number | null, ceiling: number | null, none = false): PartTempo => ({ name, floor, ceiling, none });

test('who decides, in words', () => {
  expect(tempoForAll([]).text).toBe('At any tempo.');
  expect(tempoForAll([part('Violin I', null, 120.9), part('Violin II', 60.2, 140)]).text).toBe('All together from 61 on (Violin II), up to 120 (Violin I).');
  expect(tempoForAll([part('Violin I', null, 75.4), part('Violin II', 75.6, null)])).toMatchObject({
    none: true,
    text: 'No common tempo: Violin II needs 76, Violin I stops at 75.',
  });
  expect(tempoForAll([part('Violin I', null, 80), part('Viola', null, 20, true)])).toMatchObject({
    none: true,
    ceiling: 80,
    text: 'No common tempo: Viola cannot play it at any.',
  });
  expect(tempoForAll([part('Violin I', null, 80), part('Viola', 80, null)]).none).toBe(false);
  expect(tempoForAll(['I', 'II', 'III'].map((name) => part(name, null, null, true))).text).toBe('No common tempo: I, II and III cannot play it at any.');
});

test('people who come later change it as if they had been there', () => {
  const tempo = fc.integer({ min: 20, max: 240 });
  const parts = fc.array(fc.record({ floor: fc.option(tempo), ceiling: fc.option(tempo), none: fc.boolean() }), { maxLength: 5 });
  fc.assert(
    fc.property(parts, parts, (first, later) => {
      const named = (list: typeof first, from: number): PartTempo[] => list.map((each, i) => ({ name: String(from + i), ...each }));
      const [a, b] = [named(first, 0), named(later, first.length)];
      const { floor, ceiling, floorBy, ceilingBy, none, never } = tempoForAll([...a, ...b]);
      expect(withMore(tempoForAll(a), b)).toMatchObject({ floor, ceiling, floorBy, ceilingBy, none, never });
    }),
  );
});

test('a tempo suits all exactly where it suits each', () => {
  const tempo = fc.integer({ min: 20, max: 240 });
  const parts = fc.array(fc.record({ floor: fc.option(tempo), ceiling: fc.option(tempo), none: fc.boolean() }), { maxLength: 6 });
  fc.assert(
    fc.property(parts, tempo, (list, at) => {
      const all = tempoForAll(list.map((each, i) => ({ name: String(i), ...each })));
      const suits = ({ floor, ceiling }: Pick<PartTempo, 'floor' | 'ceiling'>) => (floor === null || at >= floor) && (ceiling === null || at <= ceiling);
      const each = list.every((one) => !one.none && suits(one));
      expect(!all.none && suits(all)).toBe(each);
    }),
  );
});
