/** The time line of every test score and of real ones, against the engraving library's own time map and against a second reader. */
import { execFileSync } from 'node:child_process';
import path from 'node:path';
import fc from 'fast-check';
import { runs } from '@/core/testing/runs';
import { readScoreBytes } from '../core/formats/read';
import { midiOf } from '../core/score/pitch';
import { playedOrder } from '../core/score/played';
import type { Score } from '../core/score/score';
import { quartersOf } from '../core/score/ticks';
import type { EngraverFound } from '../tests/support/engraver-notes';
import { testScores } from '../tests/support/everything';
import { randomScore } from '../tests/support/random-score';
import { realScores } from '../tests/support/real-scores';
import { secondReading } from '../tests/support/second-reader';

const encode = (text: string) => new TextEncoder().encode(text);
const all = [...Object.entries(testScores()).map(([name, text]) => [name, encode(text)] as const), ...realScores()];
const read = (bytes: Uint8Array): { score: Score; text: string } => {
  const found = readScoreBytes(bytes);
  if (!found.ok) throw new Error(found.problem.what);
  return { score: found.value.score, text: found.value.document.text };
};

const engraver = JSON.parse(
  execFileSync(path.join('node_modules', '.bin', 'tsx'), ['tests/support/engraver-notes.ts'], {
    encoding: 'utf8',
    maxBuffer: 64 * 1_048_576,
    stdio: ['ignore', 'pipe', 'ignore'],
  }),
) as Record<string, EngraverFound>;

/**
 * Bars that the engraver makes longer than the file says, by their labels: it takes a rest for the whole bar in every part for a whole
 * note, and measured tremolos of percussion for as many notes. The second reader agrees with us there.
 */
const ITS_OWN: Readonly<Record<string, readonly string[]>> = {
  'ActorPreludeSample.xml': ['27', '28', '33', '34', '35', '36', '37', '38', '39', '40', '41'],
  'DebuMandSample.xml': ['1'],
  'Telemann.xml': ['13', '14', '16', '18', '19', '31', '32'],
};
/** It sounds notes of tablature as another instrument would. */
const TABLATURE = new Set(['BrookeWestSample.xml']);

test.each(all)('%s: bars as they are played, and every note, as in the engraver’s time map', (name, bytes) => {
  const { score } = read(bytes);
  const theirs = engraver[name]!;
  const { bars } = score.timeLine;
  const { order } = playedOrder(bars);
  expect(theirs.measures).toHaveLength(order.length);
  const odd = order.flatMap((index, i) => {
    const next = theirs.measures[i + 1];
    return next === undefined || Math.abs(next - theirs.measures[i]! - quartersOf(bars[index]!.ticks)) < 1e-4 ? [] : [bars[index]!.label];
  });
  expect(odd.filter((label) => !ITS_OWN[name]?.includes(label))).toEqual([]);
  const wrong: string[] = [];
  let compared = 0;
  for (const part of score.parts) {
    const known = new Map(theirs.parts[part.id]!.map(([id, ...values]) => [id, values]));
    // Grace notes take their time from a neighbour, and rolled chords theirs from the beat: how much is the player's matter.
    const beside = new Set(part.notes.filter((note) => note.grace || note.chordSign?.startsWith('arpeggio')).map((note) => note.onset));
    for (const note of part.notes) {
      const found = known.get(note.id);
      if (!found) wrong.push(`${note.id} is not there`);
      if (!found || beside.has(note.onset) || ITS_OWN[name]?.includes(bars[note.barIndex]!.label)) continue;
      compared++;
      const [onset, duration, midi] = found as [number, number, number];
      const at = onset - theirs.measures[order.indexOf(note.barIndex)]!;
      const same = Math.abs(at - quartersOf(note.tick)) < 1e-4 && Math.abs(duration - quartersOf(note.duration)) < 1e-4;
      if (!same || (midi !== midiOf(note.pitch) && !TABLATURE.has(name))) wrong.push(`${part.name} ${note.id}: ${at}+${duration} ${midi}`);
    }
  }
  expect(wrong).toEqual([]);
  expect(compared).toBeGreaterThanOrEqual(20);
});

/** Onset, length and pitch of every note and the length of every bar, by the second reader. */
function agrees(bytes: Uint8Array): void {
  const { score, text } = read(bytes);
  const second = secondReading(text);
  score.timeLine.bars.forEach((bar, i) => {
    const length = second.measures[i];
    if (length !== null) expect([i, quartersOf(bar.ticks)]).toEqual([i, expect.closeTo(length!, 5)]);
  });
  for (const part of score.parts) {
    const ours = [...part.notes].sort((a, b) => a.source - b.source);
    const theirs = second.notes.filter((note) => note.part === part.id);
    expect(ours).toHaveLength(theirs.length);
    const differing = ours.filter((note, i) => {
      const other = theirs[i]!;
      const near = (a: number, b: number) => Math.abs(a - b) < 1e-5;
      const begins = quartersOf(note.onset - score.timeLine.bars[note.barIndex]!.onset);
      return (
        note.barIndex !== other.measure || !near(begins, other.at) || !near(quartersOf(note.duration), other.length) || midiOf(note.written) !== other.midi
      );
    });
    expect(differing.map(({ id }) => id)).toEqual([]);
  }
}

test.each(all.filter(([, bytes]) => !new TextDecoder().decode(bytes).includes('score-timewise')))('%s: as a second reader reads it', (_, bytes) =>
  agrees(bytes),
);

test('scores made by chance, as a second reader reads them', () => {
  fc.assert(
    fc.property(fc.nat(), (seed) => agrees(encode(randomScore(seed)))),
    { numRuns: runs(100) },
  );
});
