import fc from 'fast-check';
import { runs } from '../../testing/runs';
import { realScores } from '../../../tests/support/real-scores';
import { randomScore } from '../../../tests/support/random-score';
import { readScoreBytes } from '../read';
import { cutPart } from './cut';
import { hasTimeLine, partDocument, readPartDocument } from './part-document';
import { readMusicXml } from './read';

/** Without what a part says of where its signs stand in its file: that is the same, since its measures are. */
function same(bytes: Uint8Array): void {
  const whole = readScoreBytes(bytes);
  if (!whole.ok) throw new Error(whole.problem.what);
  const { document, score } = whole.value;
  for (const part of score.parts) {
    // A part of percussion alone is no part that can be marked.
    if (part.notes.length === 0) continue;
    const text = partDocument(document, part.id, score.timeLine);
    const alone = readPartDocument(text);
    if (!alone.ok) throw new Error(alone.problem.what);
    expect(alone.value.score.parts[0]).toEqual(part);
    expect(alone.value.score.timeLine).toEqual(score.timeLine);
    expect([hasTimeLine(text), readMusicXml(text).ok]).toEqual([true, true]);
  }
}

test.each(realScores())('%s: each part alone is the part in its score', (_, bytes) => same(bytes));

test('so it is with scores made by chance', () => {
  fc.assert(
    fc.property(fc.nat(), (seed) => same(new TextEncoder().encode(randomScore(seed)))),
    { numRuns: runs(60) },
  );
});

test('a document without a time line is read on its own, one with nonsense is refused', () => {
  const read = readMusicXml(randomScore(5));
  if (!read.ok) throw new Error(read.problem.what);
  const { document, score } = read.value;
  const plain = cutPart(document, 'P1');
  const made = partDocument(document, 'P1', score.timeLine);
  expect([hasTimeLine(plain), readPartDocument(plain)]).toEqual([false, readMusicXml(plain)]);
  expect(readPartDocument(made.replace(/<\?time-line .*?\?>/, '<?time-line {"bars":[]}?>'))).toMatchObject({
    ok: false,
    problem: { remedy: 'Bring the file in again.' },
  });
  // What a score says between signs of ours stays text.
  const odd = partDocument(document, 'P1', { ...score.timeLine, words: [{ tick: 0, text: 'presto ?> --> <b>' }] });
  const again = readPartDocument(odd);
  expect(again.ok && again.value.score.timeLine.words).toEqual([{ tick: 0, text: 'presto ?> --> <b>' }]);
});
