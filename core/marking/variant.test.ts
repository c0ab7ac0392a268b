import fc from 'fast-check';
import { applyChanges, changeTo, sameMark, type Change } from './change';
import type { Mark, Marking } from './mark';
import type { MarkKind } from './kinds';
import { changedVariant, variantChanges, variantForAll, withVariant } from './variant';

const mark = (value: string, more: Partial<Mark> = {}): Mark => ({ value, origin: 'coach', ...more });

test('a mark in its place, a mark taken out, and everything else as for everybody', () => {
  const base: Marking = { 'a|finger': mark('3'), 'b|finger': mark('1'), 'c|bow': mark('up') };
  const variant: Marking = { 'a|finger': mark('4'), 'c|bow': mark('up', { off: true }), 'd|string': mark('2') };
  expect(withVariant(base, variant)).toEqual({ 'a|finger': mark('4'), 'b|finger': mark('1'), 'd|string': mark('2') });
  expect(withVariant(base, {})).toBe(base);
});

test('what is said for everybody later shows through where the variant says nothing', () => {
  const variant = changedVariant({}, {}, [{ target: 'a', kind: 'finger', from: null, to: mark('2') }]);
  expect(withVariant({ 'b|finger': mark('1') }, variant)).toEqual({ 'a|finger': mark('2'), 'b|finger': mark('1') });
});

test('back to what everybody has, and the variant says nothing of it any more', () => {
  const base: Marking = { 'a|finger': mark('3') };
  const other = changedVariant(base, {}, [{ target: 'a', kind: 'finger', from: mark('3'), to: mark('4') }]);
  expect(other).toEqual({ 'a|finger': mark('4') });
  expect(changedVariant(base, other, [{ target: 'a', kind: 'finger', from: mark('4'), to: mark('3') }])).toEqual({});
});

const kinds = fc.constantFrom<MarkKind>('finger', 'string', 'bow');
const marks = fc.record({ value: fc.constantFrom('1', '2', '3'), origin: fc.constantFrom<Mark['origin']>('coach', 'suggestion') });
const markings = fc.dictionary(
  fc.tuple(fc.constantFrom('a', 'b', 'c', 'd'), kinds).map(([target, kind]) => `${target}|${kind}`),
  marks,
) as fc.Arbitrary<Marking>;
const asked = fc.array(fc.record({ target: fc.constantFrom('a', 'b', 'c', 'd'), kind: kinds, to: fc.option(marks, { nil: null }) }), { maxLength: 8 });

/** One after another, each against what is there by then. */
function inTurn(marking: Marking, wanted: ReadonlyArray<Pick<Change, 'target' | 'kind' | 'to'>>): { changes: Change[]; marking: Marking } {
  const changes: Change[] = [];
  for (const { target, kind, to } of wanted) {
    const change = changeTo(marking, target, kind, to);
    if (!change) continue;
    changes.push(change);
    marking = applyChanges(marking, [change]).marking;
  }
  return { changes, marking };
}

const equal = (a: Marking, b: Marking) => [...new Set([...Object.keys(a), ...Object.keys(b)])].every((key) => sameMark(a[key], b[key]));

test('whatever is changed in the player’s marking, the variant makes it so, and holds no more than what differs', () => {
  fc.assert(
    fc.property(markings, asked, (base, wanted) => {
      const mine = inTurn(base, wanted);
      let variant: Marking = {};
      for (const change of mine.changes) {
        const made = applyChanges(variant, variantChanges(base, variant, [change]));
        expect(made.conflicts).toEqual([]);
        variant = made.marking;
      }
      expect(equal(withVariant(base, variant), mine.marking)).toBe(true);
      for (const key of Object.keys(variant)) expect(sameMark(base[key], mine.marking[key])).toBe(false);
    }),
  );
});

test('given to everybody, all have what the one player had', () => {
  fc.assert(
    fc.property(markings, asked, (base, wanted) => {
      const mine = inTurn(base, wanted);
      const variant = mine.changes.reduce<Marking>((made, change) => changedVariant(base, made, [change]), {});
      const given = applyChanges(base, variantForAll(base, variant));
      expect(given.conflicts).toEqual([]);
      expect(equal(given.marking, mine.marking)).toBe(true);
    }),
  );
});
