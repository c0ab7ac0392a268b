/** Orders worked out by hand from the rules that players know (common practice). */
import { orderInWords, playedOrder } from './played';
import type { PlaySigns } from './score';

const NONE: PlaySigns = { times: null, volta: null, voltaEnd: false, segno: false, coda: false, toCoda: false, fine: false, jump: null };

/** Bars as text: "|:" and ":|" repeats, "1." a volta, "]" its end, S segno, @ coda, > to the coda, F fine, DC, DS, x3 times. */
function bars(text: string) {
  return text.split(' ').map((bar) => {
    const has = (sign: string) => bar.includes(sign);
    const volta = /(\d(?:,\d)*)\./.exec(bar)?.[1]?.split(',').map(Number) ?? null;
    const times = Number(/x(\d)/.exec(bar)?.[1]) || null;
    const signs: PlaySigns = {
      ...NONE,
      times,
      volta,
      voltaEnd: has(']'),
      segno: has('S') && !has('DS'),
      coda: has('@'),
      toCoda: has('>'),
      fine: has('F'),
      jump: has('DC') ? 'da capo' : has('DS') ? 'dal segno' : null,
    };
    return { repeatStart: has('|:'), repeatEnd: has(':|'), signs };
  });
}
const played = (text: string) =>
  playedOrder(bars(text))
    .order.map((i) => i + 1)
    .join(' ');

test.each([
  ['no signs', 'a b c', '1 2 3'],
  ['a repeat to the beginning', 'a b:| c', '1 2 1 2 3'],
  ['a repeat between two signs', 'a |:b c:| d', '1 2 3 2 3 4'],
  ['two repeats in a row', '|:a b:| |:c:|', '1 2 1 2 3 3'],
  ['three times', '|:a:|x3 b', '1 1 1 2'],
  ['two voltas', '|:a 1.b]:| 2.c] d', '1 2 1 3 4'],
  ['a first volta of two bars', 'a 1.b c]:| 2.d e', '1 2 3 1 4 5'],
  ['a volta for two passes', '|:a 1,2.b]:| 3.c]', '1 2 1 2 1 3'],
  ['three voltas', '|:a 1.b]:| 2.c]:| 3.d]', '1 2 1 3 1 4'],
  ['Da Capo al Fine', 'a bF c dDC', '1 2 3 4 1 2'],
  ['Da Capo without Fine goes to the end', 'a b cDC', '1 2 3 1 2 3'],
  ['Dal Segno al Fine', 'a Sb cF dDS', '1 2 3 4 2 3'],
  ['Dal Segno al Coda', 'a Sb c> dDS @e f', '1 2 3 4 2 3 5 6'],
  ['a minuet: repeats are not taken after Da Capo', '|:a b:| |:c dF:| |:e f:|DC', '1 2 1 2 3 4 3 4 5 6 5 6 1 2 3 4'],
  ['the last volta after Da Capo', '|:a 1.b]:| 2.cF] dDC', '1 2 1 3 4 1 3'],
  ['repeats inside the coda are taken', 'a> bDC @|:c:|', '1 2 1 3 3'],
])('%s', (_, text, expected) => expect(played(text)).toBe(expected));

test('signs that lead nowhere are said, and the music goes on', () => {
  expect(playedOrder(bars('a bDS c'))).toMatchObject({ order: [0, 1, 2], doubts: [{ barIndex: 1 }] });
  expect(playedOrder(bars('a> bDC c'))).toMatchObject({ order: [0, 1, 0, 1, 2], doubts: [{ barIndex: 0 }] });
  expect(playedOrder([])).toEqual({ order: [], doubts: [] });
});

test('in words', () => {
  const labels = ['0', '1', '2', '3'].map((label) => ({ label }));
  expect(orderInWords(labels, [0, 1, 2, 1, 2, 3])).toBe('0–2, 1–3');
  expect(orderInWords(labels, [0, 1, 1])).toBe('0–1, 1');
});
