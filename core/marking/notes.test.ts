import fc from 'fast-check';
import { runs } from '../testing/runs';
import { makeScore, TICKS } from '../testing/make';
import { applyChanges } from './change';
import { markKey, type Marking } from './mark';
import { WORD_KINDS, type WordKind } from './kinds';
import { notesFromText, notesText, playerNotes, targetAt } from './notes';
import { barsTarget, barTarget, barOfTarget, placeTarget, targetOf } from './target';

const { part } = makeScore('violin', Array.from({ length: 12 }, () => 'A4 B4/0.5 C5/0.5 D5/2').join(' | '));
const word = (target: string, kind: WordKind, value: string): Marking => ({ [markKey(target, kind)]: { value, origin: 'coach' } });
const read = (text: string, marking: Marking = {}) => {
  const changes = notesFromText(part, marking, text);
  if (!changes.ok) throw new Error(`${changes.problem.place}: ${changes.problem.what} ${changes.problem.remedy}`);
  return applyChanges(marking, changes.value).marking;
};

test('notes in the order of the music, as people say where', () => {
  const marking = {
    ...word(part.notes[5]!.id, 'listen', 'the cellos'),
    ...word(barTarget(1), 'words', 'Two bows if you must.'),
    ...word(barsTarget({ fromBar: 1, toBar: 4 }), 'character', 'like a lullaby'),
    ...word(part.notes[2]!.id, 'goal', 'here'),
    ...word('n-99-1-0-A4-0', 'words', 'lost its place'),
    'x|finger': { value: '1', origin: 'coach' as const },
  };
  expect(notesText(part, marking).split('\n')).toEqual([
    '1/2.5 goes to: here',
    '2–5 character: like a lullaby',
    '2: Two bows if you must.',
    '2/2 listen: the cellos',
  ]);
});

test('a list is read back into the same notes, whatever they say', () => {
  const targets = fc.oneof(
    fc.nat(part.notes.length - 1).map((i) => part.notes[i]!.id),
    fc.nat(11).map(barTarget),
    fc.tuple(fc.nat(5), fc.integer({ min: 6, max: 11 })).map(([fromBar, toBar]) => barsTarget({ fromBar, toBar })),
  );
  const text = fc.string({ minLength: 1, maxLength: 40 }).filter((s) => s.trim() === s && s !== '' && !/[\n\r\u2028\u2029]/.test(s));
  fc.assert(
    fc.property(fc.array(fc.tuple(targets, fc.constantFrom(...WORD_KINDS), text), { maxLength: 8 }), (entries) => {
      const marking = Object.assign({}, ...entries.map(([target, kind, value]) => word(target, kind, value))) as Marking;
      expect(read(notesText(part, marking))).toEqual(marking);
    }),
    { numRuns: runs(200) },
  );
});

test('what people type', () => {
  const marking = read('upbeat to 3: lighter\nlast note of 4 listen: violas\n\n5-8 Character: dance\nbar 9: breathe', word(barTarget(8), 'words', 'warm'));
  expect(playerNotes(part, marking).map(({ at, kind, text }) => `${at} ${kind} ${text}`)).toEqual([
    '2/3 words lighter',
    '4/3 listen violas',
    '5–8 character dance',
    '9 words warm\nbreathe',
  ]);
});

test.each([
  ['5: ok\n47: too far', /line 2, "47": There is no bar 47/],
  ['just words', /line 1: There is no colon/],
  ['5:', /no words after the colon/],
  ['5/1.75: between', /No note begins there/],
  [`5: ${'x'.repeat(700)}`, /700 characters/],
])('%s is refused and says where', (text, message) => expect(() => read(text)).toThrow(message));

test('targets', () => {
  expect([targetOf(placeTarget(3, TICKS)), targetOf(barTarget(3)), targetOf(barsTarget({ fromBar: 1, toBar: 2 })), targetOf('n-3-1-0-A4-0')]).toEqual([
    { on: 'place', barIndex: 3, tick: TICKS },
    { on: 'bar', barIndex: 3 },
    { on: 'bars', fromBar: 1, toBar: 2 },
    { on: 'note', id: 'n-3-1-0-A4-0' },
  ]);
  expect(['at-3-1_2', 'bar-3', 'bars-3-5', 'n-3-1-0-A4-0'].map(barOfTarget)).toEqual([3, 3, 3, 3]);
  expect(targetAt(part, '2/2')).toEqual({ ok: true, value: part.notes[5]!.id });
});
