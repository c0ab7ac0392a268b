import fc from 'fast-check';
import { NOTHING_TOLD } from '../instruments/as-told';
import { makeScore } from '../testing/make';
import { everyMark } from '../testing/marks';
import { withVariant } from '../marking/variant';
import type { Mark, Marking } from '../marking/mark';
import { runs } from '../testing/runs';
import { changesBetween, withChanges } from './changes';
import { forPlayer, frozenOf, frozenText, markingOf, type Frozen } from './frozen';

const { part } = makeScore('viola', 'C4 D4 E4 F4 | (G4 A4) B4 C5 | D5 C5 B4 A4');
const keys = Object.keys(everyMark(part, 1)).slice(0, 40);
const players = ['ada', 'bo', 'cy'];

const mark: fc.Arbitrary<Mark> = fc.record(
  {
    value: fc.constantFrom('1', '2', 'up', 'none'),
    origin: fc.constantFrom('coach' as const, 'suggestion' as const),
    why: fc.string({ maxLength: 4 }),
    off: fc.constant(true as const),
  },
  { requiredKeys: ['value', 'origin'] },
);
const marking: fc.Arbitrary<Marking> = fc.dictionary(fc.constantFrom(...keys), mark, { maxKeys: 15 });
const state: fc.Arbitrary<Frozen> = fc
  .record({
    title: fc.constantFrom('Mill Race', 'Low Tide'),
    composer: fc.constantFrom(null, 'A. Nyström-Vale'),
    part: fc.constantFrom('Viola', 'Viola II'),
    music: fc.constantFrom('aa', 'bb', 'cc'),
    marking,
    variants: fc.dictionary(fc.constantFrom(...players), marking, { maxKeys: 3 }),
    lines: fc.dictionary(fc.constantFrom(...players), fc.nat(2), { maxKeys: 3 }),
    tempo: fc.constantFrom(null, 72, 96),
    told: fc.constantFrom(NOTHING_TOLD, { ...NOTHING_TOLD, octaves: -1 }),
  })
  .map(frozenOf);

test('difference = difference: what leads from one hand-out to the next, applied to the one, gives exactly the other', () => {
  fc.assert(
    fc.property(state, state, (before, after) => {
      const changes = changesBetween(before, after);
      expect(frozenText(withChanges(before, changes))).toBe(frozenText(after));
      expect(changes.length === 0).toBe(frozenText(before) === frozenText(after));
      // No change that changes nothing, and none twice.
      expect(new Set(changes.map((change) => JSON.stringify(change))).size).toBe(changes.length);
    }),
    { numRuns: runs(300) },
  );
});

test('a change that is not about what is there is refused', () => {
  const frozen = frozenOf({ title: 'T', composer: null, part: 'Viola', music: 'aa', marking: {}, variants: {}, lines: {}, tempo: 72, told: NOTHING_TOLD });
  expect(() => withChanges(frozen, [{ of: 'tempo', from: 80, to: 96 }])).toThrow(RangeError);
  expect(() => withChanges(frozen, [{ of: 'mark', key: `${part.notes[0]!.id}|finger`, from: '1', to: null }])).toThrow(RangeError);
});

test('what a player reads is what the coach had there, without what is set aside', () => {
  fc.assert(
    fc.property(marking, marking, (base, own) => {
      const frozen = frozenOf({
        title: 'T',
        composer: null,
        part: 'P',
        music: 'aa',
        marking: base,
        variants: { ada: own },
        lines: { ada: 1 },
        tempo: null,
        told: NOTHING_TOLD,
      });
      const said = (each: Marking) =>
        Object.fromEntries(
          Object.entries(each)
            .filter(([, { off }]) => !off)
            .map(([key, { value }]) => [key, value]),
        );
      expect(said(markingOf(frozen, 'ada'))).toEqual(said(withVariant(base, own)));
      expect(said(markingOf(frozen, null))).toEqual(said(base));
      expect(JSON.stringify(frozen)).not.toMatch(/suggestion|"why"|"off"/);
    }),
    { numRuns: runs(200) },
  );
});

test('a player is sent nobody else’s marks and lines', () => {
  const [first] = part.notes;
  const own = (value: string): Marking => ({ [`${first!.id}|words`]: { value, origin: 'coach' } });
  const frozen = frozenOf({
    title: 'T',
    composer: null,
    part: 'P',
    music: 'aa',
    marking: {
      [`${first!.id}|apart`]: { value: 'the tune is in the violas', origin: 'coach', why: 'between us' },
      [`${first!.id}|text`]: { value: 'set aside', origin: 'coach', off: true },
    },
    variants: { ada: own('for Ada'), bo: own('for Bo') },
    lines: { ada: 0, bo: 1 },
    tempo: null,
    told: NOTHING_TOLD,
  });
  const sent = JSON.stringify(forPlayer(frozen, 'ada'));
  expect(sent).toContain('for Ada');
  expect(sent).toContain('the tune is in the violas');
  expect(sent).not.toContain('for Bo');
  expect(sent).not.toMatch(/between us|set aside/);
  expect(forPlayer(frozen, 'bo').line).toBe(1);
  expect(forPlayer(frozen, 'cy').line).toBeNull();
});
