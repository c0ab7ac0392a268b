/** Damaged files: whatever comes in, there is a score or a problem with a remedy, and a score that was read can be used. */
import fc from 'fast-check';
import { demoText } from '../../../tests/support/demo';
import { linesOf } from '../../score/lines';
import { automaticPassages } from '../../score/passages';
import { usualPlayer } from '../../instruments/player';
import { check } from '../../checks/check';
import { cutPart, cutPassage } from './cut';
import { readMusicXml } from './read';
import { writeMarked } from './write';

const SOURCE = demoText('low-tide');
const damage = fc.array(
  fc.oneof(
    fc.record({ kind: fc.constant('delete' as const), at: fc.nat({ max: SOURCE.length }), length: fc.integer({ min: 1, max: 400 }) }),
    fc.record({ kind: fc.constant('number' as const), nth: fc.nat({ max: 400 }), value: fc.constantFrom('0', '-1', '1e9', '3.7', '', 'NaN', '99999') }),
    fc.record({ kind: fc.constant('drop element' as const), nth: fc.nat({ max: 1500 }) }),
    fc.record({ kind: fc.constant('double element' as const), nth: fc.nat({ max: 1500 }) }),
    fc.record({
      kind: fc.constant('text' as const),
      at: fc.nat({ max: SOURCE.length }),
      text: fc.constantFrom('<', '&', '</note>', '<chord/>', '<grace/>', '\u0000', ']]>', '<tie type="start"/>'),
    }),
  ),
  { minLength: 1, maxLength: 4 },
);

function damaged(steps: typeof damage extends fc.Arbitrary<infer T> ? T : never): string {
  let text = SOURCE;
  const elements = () => [...text.matchAll(/<(\w[\w-]*)\b[^>]*>[^<]*<\/\1>|<\w[\w-]*\/>/g)];
  for (const step of steps) {
    switch (step.kind) {
      case 'delete':
        text = text.slice(0, step.at) + text.slice(step.at + step.length);
        break;
      case 'text':
        text = text.slice(0, step.at) + step.text + text.slice(step.at);
        break;
      case 'number': {
        const numbers = [...text.matchAll(/>(\d+)</g)];
        const found = numbers[step.nth % Math.max(1, numbers.length)];
        if (found) text = `${text.slice(0, found.index)}>${step.value}<${text.slice(found.index + found[0].length)}`;
        break;
      }
      default: {
        const all = elements();
        const found = all[step.nth % Math.max(1, all.length)];
        if (!found) break;
        const end = found.index + found[0].length;
        text = step.kind === 'drop element' ? text.slice(0, found.index) + text.slice(end) : text.slice(0, end) + found[0] + text.slice(end);
      }
    }
  }
  return text;
}

test('a damaged file is read or refused in words, and what is read can be planned, checked, cut and written', () => {
  let readable = 0;
  fc.assert(
    fc.property(damage, (steps) => {
      const read = readMusicXml(damaged(steps));
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
      const report = check({ score, part, marking: {}, player: usualPlayer(part.instrument ?? 'bass'), tempo: null, passages: automaticPassages(part) });
      for (const finding of report.findings) expect(finding.text).not.toMatch(/NaN|undefined|Infinity/);
      expect(readMusicXml(cutPart(document, part.id)).ok).toBe(true);
      expect(writeMarked(document, part, {})).toBe(document.text);
      expect(cutPassage(document, part, {}, { fromBar: 0, toBar: part.bars.length - 1 }).length).toBeGreaterThan(100);
    }),
    { numRuns: 150 },
  );
  expect(readable).toBeGreaterThan(10);
});
