import { readAbc } from '../read';
import { tunesIn } from './tunes';

const BOOK = `%abc-2.1
%%scale .9
M:4/4
L:1/4

X:1
T: The Ferry
K:G
GABc|

% between tunes
X:2
K:D
d2e2|
X:7
T:Third
T:of three
K:A
a4|`;

test('the tunes of a text, each with what is said for all', () => {
  const tunes = tunesIn(BOOK);
  expect(tunes.map(({ number, title }) => [number, title])).toEqual([
    ['1', 'The Ferry'],
    ['2', 'Tune 2'],
    ['7', 'Third'],
  ]);
  for (const [i, { text }] of tunes.entries()) {
    expect(text.match(/^X:/gm)).toHaveLength(1);
    const read = readAbc(text);
    expect(read.ok && read.value.score.parts[0]!.notes.length).toBe([4, 2, 1][i]);
  }
  expect(tunesIn('X:3\nT:Alone\nK:C\nC|')).toEqual([{ number: '3', title: 'Alone', text: 'X:3\nT:Alone\nK:C\nC|\n' }]);
  expect(tunesIn('K:C\nC|')).toEqual([]);
});
