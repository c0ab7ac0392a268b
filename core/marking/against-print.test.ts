import { makeScore, TICKS } from '../testing/make';
import { againstPrint } from './against-print';
import { slurLinks } from './links';
import { firstLine } from '../testing/make';
import { markKey, type Mark, type Marking } from './mark';
import type { MarkKind } from './kinds';
import { placeTarget } from './target';

const made = makeScore('violin', '(F#4 G4.) A4 B4 | C5/4', { dynamic: 'f', words: [{ quarter: 0, text: 'dolce' }] }).part;
const part = { ...made, hairpins: [{ kind: 'crescendo' as const, from: 2 * TICKS, to: 4 * TICKS }] };
const set = (target: string, kind: MarkKind, value: string, more: Partial<Mark> = {}): Marking => ({
  [markKey(target, kind)]: { value, origin: 'coach', ...more },
});
const note = (i: number) => part.notes[i]!.id;

test('what is printed, what it becomes, where and why', () => {
  const marking = {
    ...set('n-70-1-0-A4-0', 'pitch', 'B4'),
    ...set(placeTarget(0, 0), 'dynamic', 'mp', { why: 'the tune is in the violas' }),
    ...set(placeTarget(0, 0), 'printed-text', 'none'),
    ...set(placeTarget(0, 2 * TICKS), 'hairpin', 'diminuendo 1 4'),
    ...set(placeTarget(1, 0), 'tempo', 'Andante, quarter = 72'),
    ...set(placeTarget(1, 0), 'text', 'warm'),
    ...set(note(0), 'pitch', 'F4'),
    ...set(note(1), 'articulation:staccato', 'none'),
    ...set(note(1), 'slur', 'split'),
    ...set(note(3), 'articulation:accent', 'yes', { off: true }),
    ...set(note(0), 'accidental', 'bracket'),
    ...set(note(0), 'finger', '2'),
    ...set(note(0), 'listen', 'no edit'),
  };
  expect(againstPrint(part, marking).map(({ at, kind, print, now, mark }) => [at, kind, print, now, mark.why ?? (mark.off ? 'off' : '')])).toEqual([
    ['1/1', 'dynamic', 'f', 'mp', 'the tune is in the violas'],
    ['1/1', 'printed-text', '“dolce”', 'nothing', ''],
    ['1/1', 'pitch', 'F#4', 'F4', ''],
    ['1/1', 'accidental', 'sign', 'sign in brackets', ''],
    ['1/2', 'articulation:staccato', 'staccato', 'nothing', ''],
    ['1/2', 'slur', 'slurred', 'new bow here', ''],
    ['1/3', 'hairpin', 'crescendo to the end of 1', 'diminuendo to the end of 2', ''],
    ['1/4', 'articulation:accent', 'nothing', 'accent', 'off'],
    ['2/1', 'tempo', 'nothing', 'Andante, quarter = 72', ''],
    ['2/1', 'text', 'nothing', '“warm”', ''],
    [null, 'pitch', '', 'B4', ''],
  ]);
});

test('a slur that is set aside is as printed', () => {
  const line = firstLine(part);
  expect(slurLinks(part, line, set(note(1), 'slur', 'split'))[1]).toBe(false);
  expect(slurLinks(part, line, set(note(1), 'slur', 'split', { off: true }))[1]).toBe(true);
});
