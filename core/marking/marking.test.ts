import fc from 'fast-check';
import { firstLine, makeScore } from '../testing/make';
import { applyChanges, changeTo, difference, reversed, sameMark, squashed, type Change, type ChangeSet, written } from './change';
import { noStacks, pushed, stacksOf, undoing, type Stacks } from './history';
import { slurLinks } from './links';
import { bowInForce, fingerInForce, markKey, splitKey, stringInForce, type Mark, type Marking } from './mark';
import { valuesOf, MARK_KINDS, valueProblem } from './kinds';
import { changesFor } from '../suggest/suggestion';

const mark: fc.Arbitrary<Mark> = fc.record({ value: fc.constantFrom('1', '2', 'down'), origin: fc.constantFrom('coach' as const, 'suggestion' as const) });
const marking: fc.Arbitrary<Marking> = fc.dictionary(
  fc.tuple(fc.constantFrom('a', 'b', 'c'), fc.constantFrom(...MARK_KINDS)).map(([target, kind]) => markKey(target, kind)),
  mark,
);

describe('changes', () => {
  test('the difference leads from one marking to another, and its reverse back', () => {
    fc.assert(
      fc.property(marking, marking, (from, to) => {
        const changes = difference(from, to);
        const there = applyChanges(from, changes);
        expect(there).toEqual({ marking: to, conflicts: [] });
        expect(applyChanges(to, reversed(changes)).marking).toEqual(from);
      }),
    );
  });
  test('squashing keeps what they come to', () => {
    fc.assert(
      fc.property(marking, marking, marking, (a, b, c) => {
        const squash = squashed([...difference(a, b), ...difference(b, c)]);
        expect(applyChanges(a, squash).marking).toEqual(c);
        expect(new Set(squash.map((change) => markKey(change.target, change.kind))).size).toBe(squash.length);
      }),
    );
  });
  test('a mark that is no longer what it was is a conflict, and nothing is applied', () => {
    const one: Mark = { value: '1', origin: 'coach' };
    const two: Mark = { value: '2', origin: 'coach' };
    const changes: Change[] = [
      { target: 'b', kind: 'finger', from: null, to: one },
      { target: 'a', kind: 'finger', from: null, to: two },
    ];
    const stored = { [markKey('a', 'finger')]: one };
    expect(applyChanges(stored, changes)).toEqual({ marking: stored, conflicts: [{ change: changes[1], stored: one }] });
  });
  test('written whatever was there: the last of a mark counts, others stay', () => {
    const mark = (value: string) => ({ value, origin: 'coach' as const });
    const there = { [markKey('a', 'finger')]: mark('1'), [markKey('b', 'bow')]: mark('up') };
    const set = (to: string | null) => ({ target: 'a', kind: 'finger' as const, from: mark('9'), to: to === null ? null : mark(to) });
    expect(written(there, [set('2'), set('3')])).toEqual({ ...there, [markKey('a', 'finger')]: mark('3') });
    expect(written(there, [set('2'), set(null)])).toEqual({ [markKey('b', 'bow')]: mark('up') });
  });
  test('setting what is set already changes nothing', () => {
    const stored = { [markKey('a', 'bow')]: { value: 'up', origin: 'coach' as const } };
    expect(changeTo(stored, 'a', 'bow', { value: 'up', origin: 'coach' })).toBeNull();
    expect(changeTo(stored, 'a', 'bow', null)).toEqual({ target: 'a', kind: 'bow', from: stored[markKey('a', 'bow')], to: null });
    expect(sameMark(undefined, null)).toBe(true);
    expect(splitKey(markKey('n-1|x', 'bow'))).toEqual({ target: 'n-1|x', kind: 'bow' });
  });
});

describe('undo and redo', () => {
  const set = (id: string): ChangeSet => ({ id, at: '2030-01-01T00:00:00Z', reason: `Finger ${id}`, changes: [], undoes: null });
  test('the stacks after a reload are those before it, whatever was done', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('do', 'undo', 'redo'), { maxLength: 30 }), (steps) => {
        let stacks: Stacks = noStacks();
        const history: ChangeSet[] = [];
        steps.forEach((step, i) => {
          const source = step === 'do' ? set(String(i)) : (step === 'undo' ? stacks.undo : stacks.redo).at(-1);
          if (!source) return;
          const next = step === 'do' ? source : undoing(source, `${step}${i}`, source.at);
          stacks = pushed(stacks, next);
          history.push(next);
        });
        expect(stacksOf(history)).toEqual(stacks);
      }),
    );
  });
  test('undo says what it takes back, redo says it again; a new change ends the redo', () => {
    const first = set('1');
    const undo = undoing(first, 'u', first.at);
    expect(undo.reason).toBe('Undo: Finger 1');
    const redo = undoing(undo, 'r', first.at);
    expect(redo.reason).toBe('Finger 1');
    expect(stacksOf([first, undo, redo]).undo.map((each) => each.id)).toEqual(['r']);
    expect(stacksOf([first, undo, set('2')])).toEqual({ undo: [set('2')], redo: [], freshAt: set('2').at });
  });
  test('a set is taken back out of order from elsewhere; a boundary ends what can be taken back', () => {
    const undo = undoing(set('1'), 'u', '2030-01-01T00:00:01Z');
    expect(stacksOf([set('1'), set('2'), undo])).toEqual({ undo: [set('2')], redo: [undo], freshAt: set('2').at });
    // Its log is read from the middle on.
    expect(stacksOf([undo, set('2')])).toEqual({ undo: [set('2')], redo: [], freshAt: set('2').at });
    const boundary = { ...set('b'), at: '2030-01-02T00:00:00Z', boundary: true as const };
    expect(stacksOf([set('1'), boundary])).toEqual({ undo: [], redo: [], freshAt: boundary.at });
    expect(undoing({ ...set('1'), together: 't', fromPart: 'p' }, 'u', '')).toMatchObject({ together: 't', fromPart: 'p', undoes: '1' });
  });
});

describe('what is in force', () => {
  const { part } = makeScore('violin', '(A4 B4 C5) D5');
  const note = { ...part.notes[0]!, printed: { finger: '2', string: 3, bow: 'up' as const } };
  test('the edition shows through, a mark replaces it, "none" strikes it out', () => {
    expect([fingerInForce(note, {}), stringInForce(note, {}), bowInForce(note, {})]).toEqual(['2', 3, 'up']);
    const coach = (kind: 'finger' | 'string' | 'bow', value: string): Marking => ({ [markKey(note.id, kind)]: { value, origin: 'coach' } });
    expect(fingerInForce(note, coach('finger', '4'))).toBe('4');
    expect(stringInForce(note, coach('string', 'none'))).toBeNull();
    expect(bowInForce(note, coach('bow', 'down'))).toBe('down');
  });
  test('a slur can be split and joined', () => {
    const line = firstLine(part);
    const slur = (i: number, value: string): Marking => ({ [markKey(part.notes[i]!.id, 'slur')]: { value, origin: 'coach' } });
    expect(slurLinks(part, line)).toEqual([false, true, true, false]);
    expect(slurLinks(part, line, slur(2, 'split'))).toEqual([false, true, false, false]);
    expect(slurLinks(part, line, slur(3, 'join'))).toEqual([false, true, true, true]);
  });
  test('every listed value is valid, and what is not listed is refused', () => {
    for (const kind of MARK_KINDS) {
      for (const value of valuesOf(kind) ?? []) expect(valueProblem(kind, value)).toBeNull();
      expect(valueProblem(kind, '')).toMatch(/^Use /);
    }
  });
});

test("taking a suggestion leaves the coach's marks alone and replaces an earlier suggestion", () => {
  const stored: Marking = {
    [markKey('a', 'finger')]: { value: '4', origin: 'coach' },
    [markKey('b', 'finger')]: { value: '2', origin: 'suggestion' },
    [markKey('c', 'bow')]: { value: 'up', origin: 'suggestion' },
  };
  const wanted = [
    { target: 'a', kind: 'finger' as const, mark: { value: '1', origin: 'suggestion' as const } },
    { target: 'd', kind: 'finger' as const, mark: { value: '3', origin: 'suggestion' as const } },
  ];
  expect(applyChanges(stored, changesFor(stored, wanted, { kinds: ['finger'], targets: new Set(['a', 'b', 'c', 'd']) })).marking).toEqual({
    [markKey('a', 'finger')]: { value: '4', origin: 'coach' },
    [markKey('c', 'bow')]: { value: 'up', origin: 'suggestion' },
    [markKey('d', 'finger')]: { value: '3', origin: 'suggestion' },
  });
});
