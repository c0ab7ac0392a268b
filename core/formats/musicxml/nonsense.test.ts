/** Damaged files: whatever comes in, there is a score or a problem with a remedy, and a score that was read can be used. */
import fc from 'fast-check';
import { runs } from '../../testing/runs';
import { damage, damaged } from '../../../tests/support/damage';
import { demoText } from '../../../tests/support/demo';
import { linesOf } from '../../instruments/lines';
import { automaticPassages } from '../../score/passages';
import { usualPlayer } from '../../instruments/player';
import { check } from '../../checks/check';
import { cutPart, cutPassage } from './cut';
import { readMusicXml } from './read';
import { writeMarked } from './write';

const SOURCE = demoText('low-tide');

test('a damaged file is read or refused in words, and what is read can be planned, checked, cut and written', () => {
  let readable = 0;
  fc.assert(
    fc.property(damage(SOURCE.length), (steps) => {
      const read = readMusicXml(damaged(SOURCE, steps));
      if (!read.ok) {
        expect(read.problem.what).toMatch(/\w/);
        expect(read.problem.remedy).toMatch(/\w/);
        return;
      }
      readable++;
      const { score, document } = read.value;
      const part = score.parts[0]!;
      expect(new Set(part.notes.map((note) => note.id)).size).toBe(part.notes.length);
      for (const note of part.notes) expect(Number.isFinite(note.onset) && Number.isInteger(note.duration) && note.duration >= 0).toBe(true);
      for (const line of linesOf(part)) line.events.forEach((event) => expect(event.end).toBeGreaterThanOrEqual(event.onset));
      const report = check({ part, marking: {}, player: usualPlayer(part.instrument ?? 'bass'), tempo: null, passages: automaticPassages(part) });
      for (const finding of report.findings) expect(finding.text).not.toMatch(/NaN|undefined|Infinity/);
      expect(readMusicXml(cutPart(document, part.id)).ok).toBe(true);
      expect(writeMarked(document, part, {})).toBe(document.text);
      expect(cutPassage(document, part, {}, { fromBar: 0, toBar: part.bars.length - 1 }).length).toBeGreaterThan(100);
    }),
    { numRuns: runs(150) },
  );
  expect(readable).toBeGreaterThan(runs(150) / 15);
});

test('two hundred staves and five thousand bars are read', () => {
  const bar = (number: number, first: string) =>
    `<measure number="${number}">${first}<note><pitch><step>A</step><octave>4</octave></pitch><duration>4</duration><voice>1</voice></note></measure>`;
  const start = '<attributes><divisions>1</divisions></attributes>';
  const score = (parts: number, bars: number) =>
    `<score-partwise><part-list>${Array.from({ length: parts }, (_, p) => `<score-part id="P${p}"><part-name>Violin ${p}</part-name></score-part>`).join('')}</part-list>${Array.from(
      { length: parts },
      (_, p) => `<part id="P${p}">${Array.from({ length: bars }, (__, i) => bar(i + 1, i ? '' : start)).join('')}</part>`,
    ).join('')}</score-partwise>`;
  const wide = readMusicXml(score(200, 4));
  expect(wide.ok && wide.value.score.parts).toHaveLength(200);
  const long = readMusicXml(score(1, 5000));
  expect(long.ok && long.value.score.parts[0]!.bars).toHaveLength(5000);
});
