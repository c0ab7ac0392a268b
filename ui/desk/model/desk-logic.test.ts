import { makeScore } from '@/core/testing/make';
import { markKey, type Marking } from '@/core/marking/mark';
import fc from 'fast-check';
import { commandFor, isOwn, KEY_LIST, keyOf, withKey, type OwnKeys } from './keys';
import { cleared, marksInWords, nextString, toggled } from '@/ui/part/mark-changes';
import { addressOf, passageAsked } from './passage-asked';
import { Row } from '@/ui/score/layout';

const coach = (value: string) => ({ value, origin: 'coach' as const });
describe('keys', () => {
  const press = (key: string, more: Partial<KeyboardEvent> = {}) =>
    commandFor({ key, code: /^\d$/.test(key) ? `Digit${key}` : '', shiftKey: false, ctrlKey: false, metaKey: false, altKey: false, ...more });
  test.each([
    ['3', {}, { do: 'mark', kind: 'finger', value: '3' }],
    ['t', {}, { do: 'mark', kind: 'finger', value: 'T' }],
    ['d', {}, { do: 'mark', kind: 'bow', value: 'down' }],
    ['"', { code: 'Digit2', shiftKey: true }, { do: 'mark', kind: 'string', value: '2' }],
    ['x', {}, { do: 'mark', kind: 'slur', value: 'split' }],
    ['z', { ctrlKey: true }, { do: 'undo' }],
    ['Z', { ctrlKey: true, shiftKey: true }, { do: 'redo' }],
    ['k', { metaKey: true }, { do: 'go to' }],
    ['ArrowRight', { shiftKey: true }, { do: 'step', by: 1, extend: true }],
    ['?', { shiftKey: true }, { do: 'help' }],
    ['PageDown', {}, { do: 'passage', by: 1 }],
  ])('%s %o', (key, more, command) => expect(press(key, more)).toEqual(command));
  test.each([
    ['7', {}],
    ['d', { altKey: true }],
    ['c', { ctrlKey: true }],
    ['Tab', {}],
    ['D', { shiftKey: true }],
  ])('%s %o is left to the browser', (key, more) => expect(press(key, more)).toBeNull());
  describe('of one’s own', () => {
    const on = (own: OwnKeys, key: string, shiftKey = false) => commandFor({ key, code: '', shiftKey, ctrlKey: false, metaKey: false, altKey: false }, own);
    test('a command goes to another letter, and what was there to the one that is free', () => {
      const own = withKey({}, 'd', 'u');
      expect(own).toEqual({ d: 'u', u: 'd' });
      expect([on(own, 'u'), on(own, 'd')]).toEqual([
        { do: 'mark', kind: 'bow', value: 'down' },
        { do: 'mark', kind: 'bow', value: 'up' },
      ]);
      expect(withKey(own, 'd', 'd')).toEqual({});
      const free = withKey({}, 'f', 'ö');
      expect([on(free, 'f'), on(free, 'Ö'.toLowerCase()), on(free, 'ö', true), on(free, 'f', true)]).toEqual([
        null,
        { do: 'finding', by: 1 },
        { do: 'finding', by: -1 },
        null,
      ]);
    });
    test('whatever is changed, every command has one letter of its own', () => {
      const letters = [...'abcdefghijklmnopqrstuvwxyz'];
      const usual = letters.filter(isOwn);
      const changes = fc.array(fc.tuple(fc.constantFrom(...usual), fc.constantFrom(...letters)), { maxLength: 12 });
      fc.assert(
        fc.property(changes, (list) => {
          const own = list.reduce<OwnKeys>((now, [letter, to]) => withKey(now, letter, to), {});
          expect(new Set(usual.map((letter) => keyOf(letter, own))).size).toBe(usual.length);
          for (const letter of usual) expect(on(own, keyOf(letter, own))).toEqual(on({}, letter));
        }),
      );
    });
  });
  test('every kind of mark has its line in the list', () => expect(KEY_LIST.length).toBeGreaterThan(20));
});

describe('what a key changes', () => {
  const { part } = makeScore('violin', 'A4 B4 C5');
  const [first, second] = part.notes as [(typeof part.notes)[0] & object, (typeof part.notes)[0] & object];
  const printed = { ...first, printed: { finger: '2', string: null, bow: null } };
  test('the same key again takes the mark away; on several notes it first sets all', () => {
    const stored: Marking = { [markKey(first.id, 'finger')]: coach('3') };
    expect(toggled(stored, [first], 'finger', '3')).toMatchObject([{ to: null }]);
    expect(toggled(stored, [first, second], 'finger', '3')).toMatchObject([{ target: second.id, to: coach('3') }]);
  });
  test('a printed finger is struck out, not deleted', () => {
    expect(toggled({}, [printed], 'finger', '2')).toMatchObject([{ from: null, to: coach('none') }]);
    expect(cleared({ [markKey(printed.id, 'bow')]: coach('up') }, [printed])).toMatchObject([
      { kind: 'finger', to: coach('none') },
      { kind: 'bow', to: null },
    ]);
  });
  test('strings go round from the highest to none', () => {
    expect(nextString(first, {}, 4)).toMatchObject([{ to: coach('1') }]);
    expect(nextString(first, { [markKey(first.id, 'string')]: coach('4') }, 4)).toMatchObject([{ to: null }]);
  });
  test('in words', () => {
    expect(marksInWords(first, {})).toBe('unmarked');
    expect(
      marksInWords(first, { [markKey(first.id, 'finger')]: coach('T'), [markKey(first.id, 'bow')]: coach('up'), [markKey(first.id, 'slur')]: coach('split') }),
    ).toBe('thumb, up-bow, slur split here');
    expect(marksInWords({ ...first, printed: { finger: '3', string: null, bow: 'down' } }, {})).toBe('finger 3 (the edition’s), down-bow (the edition’s)');
  });
});

test('an address names a passage by its printed bars, or by a note in it', () => {
  const labels = ['0', '1', '2', '3', '4'];
  const passages = [
    { name: 'Opening', fromBar: 0, toBar: 2 },
    { name: 'A', fromBar: 3, toBar: 4 },
  ];
  expect(addressOf(labels, passages[1]!)).toBe('3-4');
  expect([
    passageAsked(passages, labels, { bars: '3-4', note: null, at: null }),
    passageAsked(passages, labels, { bars: '2', note: null, at: null }),
    passageAsked(passages, labels, { bars: null, note: 'n-4-1-0-A4-0', at: null }),
    passageAsked(passages, labels, { bars: 'x', note: null, at: null }),
    passageAsked(passages, labels, { bars: null, note: null, at: '4/1' }),
  ]).toEqual([1, 0, 1, 0, 1]);
});

test('labels of one row never lie on one another', () => {
  const row = new Row();
  expect([row.claim({ from: 0, to: 50 }), row.claim({ from: 52, to: 80 }), row.claim({ from: 60, to: 90 })]).toEqual([true, false, true]);
});
