import fc from 'fast-check';
import { runs } from '../testing/runs';
import { applyChanges, sameMark, type Change, type ChangeSet } from './change';
import { markKey, type Mark, type Marking } from './mark';
import { rebased, rewound, type Whose } from './rebase';

const mark = (value: string): Mark => ({ value, origin: 'coach' });
const key = (target: string) => markKey(target, 'finger');
const step = (target: string, from: string | null, to: string | null): Change => ({
  target,
  kind: 'finger',
  from: from ? mark(from) : null,
  to: to ? mark(to) : null,
});
const set = (id: string, changes: Change[], undoes: string | null = null): ChangeSet => ({ id, at: '2030-01-01T00:00:00.000Z', reason: id, changes, undoes });
const ids = () => {
  let n = 0;
  return () => `new${++n}`;
};

const sets = [set('1', [step('a', null, '1'), step('b', null, '2')]), set('2', [step('a', '1', '3')]), set('3', [step('c', '4', null)])];
const theirs: Marking = { [key('a')]: mark('4'), [key('c')]: mark('4') };

test('theirs: their mark stays, mine to that mark are left out, everything else of mine stays', () => {
  const { sets: left, marking } = rebased(sets, theirs, () => 'theirs', ids());
  expect(marking).toEqual({ [key('a')]: mark('4'), [key('b')]: mark('2') });
  expect(left.map(({ id, changes }) => [id, changes.map(({ target }) => target)])).toEqual([
    ['new1', ['b']],
    ['3', ['c']],
  ]);
});
test('mine: put on top of theirs', () => {
  const { sets: left, marking } = rebased(sets, theirs, () => 'mine', ids());
  expect(marking).toEqual({ [key('a')]: mark('3'), [key('b')]: mark('2') });
  expect(left.map(({ id }) => id)).toEqual(['new1', '2', '3']);
  expect(left[0]!.changes[0]).toEqual(step('a', '4', '1'));
});
test('decided mark by mark', () => {
  const both: Marking = { ...theirs, [key('b')]: mark('1') };
  const { marking } = rebased(sets, both, (each) => (each === key('a') ? 'mine' : 'theirs'), ids());
  expect(marking).toEqual({ [key('a')]: mark('3'), [key('b')]: mark('1') });
});
test('both did the same: nothing of it is left to send', () => {
  expect(rebased([set('1', [step('a', null, '1')])], { [key('a')]: mark('1') }, () => 'mine', ids())).toEqual({ sets: [], marking: { [key('a')]: mark('1') } });
});
test('an undo follows the set that it takes back; of a set that is gone it takes nothing back', () => {
  const pair = [set('1', [step('a', null, '1')]), set('2', [step('a', '1', null)], '1'), set('3', [step('d', null, '1')], '0')];
  expect(rebased(pair, theirs, () => 'mine', ids()).sets.map(({ id, undoes }) => [id, undoes])).toEqual([
    ['new1', null],
    ['new2', 'new1'],
    ['3', '0'],
  ]);
  expect(rebased(pair, theirs, () => 'theirs', ids()).sets.map(({ id }) => id)).toEqual(['3']);
});
test('rewound to what they were made on', () => {
  expect(rewound({ [key('a')]: mark('3'), [key('b')]: mark('2'), [key('d')]: mark('1') }, sets)).toEqual({ [key('c')]: mark('4'), [key('d')]: mark('1') });
});

test('whatever was made and whatever is stored: what is left fits, and each mark ends as it was decided', () => {
  const targets = ['a', 'b', 'c', 'd'];
  const value = fc.constantFrom('1', '2', '3', null);
  const marking = fc.dictionary(fc.constantFrom(...targets.map(key)), fc.constantFrom('1', '2', '3').map(mark)) as fc.Arbitrary<Marking>;
  const wishes = fc.array(fc.array(fc.tuple(fc.constantFrom(...targets), value), { minLength: 1, maxLength: 4 }), { maxLength: 6 });
  fc.assert(
    fc.property(
      marking,
      marking,
      wishes,
      fc.dictionary(fc.constantFrom(...targets.map(key)), fc.constantFrom<Whose>('mine', 'theirs')),
      (mine, stored, made, decided) => {
        let now = mine;
        const pending = made.map((steps, i) => {
          const changes = steps.map(([target, to]) => {
            const change = { target, kind: 'finger' as const, from: now[key(target)] ?? null, to: to ? mark(to) : null };
            now = applyChanges(now, [change]).marking;
            return change;
          });
          return set(`s${i}`, changes);
        });
        expect(rewound(now, pending)).toEqual(mine);
        const result = rebased(pending, stored, (each) => decided[each] ?? 'mine', ids());
        let check = stored;
        for (const { changes } of result.sets) {
          const applied = applyChanges(check, changes);
          expect(applied.conflicts).toEqual([]);
          check = applied.marking;
        }
        expect(check).toEqual(result.marking);
        for (const target of targets.map(key)) {
          const touched = pending.some(({ changes }) => changes.some((change) => markKey(change.target, change.kind) === target));
          const clashes = !sameMark(mine[target], stored[target]);
          const wanted = touched && !(clashes && decided[target] === 'theirs') ? now[target] : stored[target];
          expect(sameMark(result.marking[target], wanted)).toBe(true);
        }
      },
    ),
    { numRuns: runs(400) },
  );
});
