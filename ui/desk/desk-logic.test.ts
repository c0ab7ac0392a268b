import { makeScore } from '@/core/testing/make';
import type { ChangeSet } from '@/core/marking/change';
import { markKey, type Marking } from '@/core/marking/mark';
import { commandFor, KEY_LIST } from './keys';
import { cleared, marksInWords, nextString, toggled } from './mark-changes';
import { MarkingStore, type Answer, type Surroundings } from './marking-store';
import { addressOf, passageAsked } from './passage-asked';
import { Row } from './tracks/layout';

const coach = (value: string) => ({ value, origin: 'coach' as const });
const finger = (target: string, value: string) => [{ target, kind: 'finger' as const, from: null, to: coach(value) }];

/** A server that answers as told, and a local storage. */
function stage(answers: Answer[], kept: ChangeSet[] = []) {
  const sent: ChangeSet[][] = [];
  const later: Array<() => void> = [];
  let storage = kept;
  let id = 0;
  const around: Surroundings = {
    send: async (sets) => {
      sent.push([...sets]);
      return answers.length ? answers.shift()! : { status: 200, body: { ok: true } };
    },
    load: () => storage,
    keep: (sets) => void (storage = [...sets]),
    later: (task) => void later.push(task),
    newId: () => `id${++id}`,
    now: () => '2030-01-01T00:00:00.000Z',
  };
  return { around, sent, later, kept: () => storage };
}
const settled = () => new Promise((resolve) => setTimeout(resolve, 0));

describe('the marking in the browser', () => {
  test('a change is there at once, then saved', async () => {
    const { around, kept } = stage([]);
    const store = new MarkingStore({}, [], around);
    store.apply('Finger 3', finger('a', '3'));
    expect(store.snapshot()).toMatchObject({ save: 'saving', marking: { 'a|finger': coach('3') } });
    expect(kept()).toHaveLength(1);
    await settled();
    expect(store.snapshot().save).toBe('saved');
    expect(kept()).toEqual([]);
  });
  test('undo and redo are changes too, and are sent', async () => {
    const { around, sent } = stage([]);
    const store = new MarkingStore({}, [], around);
    store.apply('Finger 3', finger('a', '3'));
    store.undo();
    expect(store.snapshot().marking).toEqual({});
    store.redo();
    expect(store.snapshot().marking).toEqual({ 'a|finger': coach('3') });
    store.redo();
    await settled();
    await settled();
    expect(sent.flat().map((set) => set.undoes)).toEqual([null, 'id1', 'id2']);
  });
  test('without an answer it keeps everything and tries again', async () => {
    const { around, later, kept, sent } = stage([null, { status: 500, body: null }]);
    const store = new MarkingStore({}, [], around);
    store.apply('Finger 3', finger('a', '3'));
    await settled();
    expect(store.snapshot().save).toBe('waiting');
    store.apply('Finger 2', finger('b', '2'));
    await settled();
    later.forEach((retry) => retry());
    await settled();
    await settled();
    expect(store.snapshot().save).toBe('saved');
    expect(sent.at(-1)!.length).toBe(2);
    expect(kept()).toEqual([]);
  });
  test('what an earlier visit could not send is there again and is sent', async () => {
    const left: ChangeSet = { id: 'left', at: '2030-01-01T00:00:00.000Z', reason: 'Finger 4', changes: finger('a', '4'), undoes: null };
    const { around, sent } = stage([], [left]);
    const store = new MarkingStore({}, [], around);
    expect(store.snapshot().marking).toEqual({});
    store.restore();
    store.restore();
    expect(store.snapshot().marking).toEqual({ 'a|finger': coach('4') });
    await settled();
    expect(sent).toEqual([[left]]);
  });
  test('what the server has already is not sent again', async () => {
    const left: ChangeSet = { id: 'left', at: '2030-01-01T00:00:00.000Z', reason: 'Finger 4', changes: finger('a', '4'), undoes: null };
    const { around, sent, kept } = stage([], [left]);
    const store = new MarkingStore({ 'a|finger': coach('4') }, [left], around);
    store.restore();
    await settled();
    expect([sent, kept()]).toEqual([[], []]);
    expect(store.snapshot().stacks.undo).toEqual([left]);
  });
  test('a clash is shown, and nothing is overwritten until the coach says so', async () => {
    const theirs: Marking = { [markKey('a', 'finger')]: coach('1') };
    const clash = { status: 409, body: { ok: false, conflicts: [{ change: finger('a', '3')[0], stored: coach('1') }], marking: theirs } };
    for (const keepMine of [true, false]) {
      const { around, sent, kept } = stage([clash]);
      const store = new MarkingStore({}, [], around);
      store.apply('Finger 3', finger('a', '3'));
      await settled();
      expect(store.snapshot().save).toBe('conflict');
      store.apply('Finger 2', finger('b', '2'));
      expect(store.snapshot()).toMatchObject({ save: 'conflict', marking: { 'b|finger': coach('2') } });
      expect([sent.length, kept().length]).toEqual([1, 2]);
      store.settle(keepMine);
      await settled();
      expect(store.snapshot().save).toBe('saved');
      expect(store.snapshot().marking).toEqual(keepMine ? { 'a|finger': coach('3'), 'b|finger': coach('2') } : { 'a|finger': coach('1') });
      if (keepMine) expect(sent.at(-1)!.map((set) => set.changes[0]!.from)).toEqual([coach('1'), null]);
    }
  });
});

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
    passageAsked(passages, labels, { bars: null, note: 'n-P1-4-1-0-A4-0', at: null }),
    passageAsked(passages, labels, { bars: 'x', note: null, at: null }),
    passageAsked(passages, labels, { bars: null, note: null, at: '4/1' }),
  ]).toEqual([1, 0, 1, 0, 1]);
});

test('labels of one row never lie on one another', () => {
  const row = new Row();
  expect([row.claim({ from: 0, to: 50 }), row.claim({ from: 52, to: 80 }), row.claim({ from: 60, to: 90 })]).toEqual([true, false, true]);
});
