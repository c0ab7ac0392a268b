import { cumulativeStdNormalProbability } from 'simple-statistics';
import { demoScore } from '../../tests/support/demo';
import { usualPlayer } from '../instruments/player';
import type { Level } from '../instruments/player';
import { makeScore } from '../testing/make';
import { calculationOf } from './calculation';
import { checked } from './check';
import type { Finding, Judged } from './finding';
import { FINDINGS } from './kinds';
import type { FindingKind } from './numbers';
import { severityOf } from './tables';

const UNITS = /(?<=[\d.] )(mm|cm\/s|cm|s|bits\/s|bits|cents\/mm|cents|dB|notes|a second|times)(?=[ )]|$)/g;

/** What an expression comes to, by the arithmetic of the language; the integral of the normal distribution is the package's table. */
function valueOf(expression: string): number {
  const script = expression
    .replace(UNITS, '')
    .replace(/([\d.]+)²/g, '($1 ** 2)')
    .replaceAll('√', 'Math.sqrt')
    .replaceAll('log₂', 'Math.log2')
    .replaceAll('log₁₀', 'Math.log10')
    .replaceAll('Φ', 'phi')
    .replaceAll('×', '*')
    .replaceAll('÷', '/')
    .replaceAll('−', '-')
    .replaceAll('^', '**');
  expect(script).toMatch(/^([-+*/(). \d]|Math\.(sqrt|log2|log10)|phi)+$/);
  return (new Function('phi', `return ${script}`) as (phi: (x: number) => number) => number)(cumulativeStdNormalProbability);
}

type Worked = [kind: FindingKind, numbers: Record<string, number | string>, judged: Judged, sums: string[]];

/** Done by hand. */
const WORKED: Worked[] = [
  [
    'bow runs out',
    { neededCm: 90, hairCm: 60, seconds: 30, slowestCmPerS: 3 },
    { by: 1.5, from: [1, 1.2, 1.6] },
    ['3 cm/s × 30 s = 90 cm', '90 cm ÷ 60 cm = 1.5', '1.5: from 1 to watch, from 1.2 a risk, from 1.6 will fail'],
  ],
  [
    'bow must race back',
    { beforeCmPerS: 10, cmPerS: 30, stepDb: 9.54, surplusDb: 7.54, steadySpeedRatio: 3, steadyStepDb: 9.54 },
    { by: 7.54, from: [6, 9, 12] },
    ['30 cm/s ÷ 10 cm/s = 3', '20 × log₁₀(3) = 9.54 dB', '9.54 − 2 = 7.54 dB', '7.54 dB: from 6 to watch, from 9 a risk, from 12 will fail'],
  ],
  [
    'retake late',
    { neededS: 0.3, freeS: 0.2 },
    { by: 1.5, from: [1, 1.2, 1.6] },
    ['0.3 s ÷ 0.2 s = 1.5', '1.5: from 1 to watch, from 1.2 a risk, from 1.6 will fail'],
  ],
  [
    'stroke too quick',
    { strokesPerS: 12, playerStrokesPerS: 10, bounced: 'no' },
    { by: 1.2, from: [1, 1.3, 1.7] },
    ['12 ÷ 10 = 1.2', '1.2: from 1 to watch, from 1.3 a risk, from 1.7 will fail'],
  ],
  [
    'trill too quick',
    { seconds: 0.25, notes: 4, notesPerS: 16, playerNotesPerS: 10, written: '' },
    { by: 1.6, from: [1, 1.3, 1.7] },
    ['4 notes ÷ 0.25 s = 16 a second', '16 ÷ 10 = 1.6', '1.6: from 1 to watch, from 1.3 a risk, from 1.7 will fail'],
  ],
  [
    'ornament too quick',
    { ornament: 'turn', seconds: 0.3, neededS: 0.4, mainS: 0.1, playerNotesPerS: 10 },
    { by: 2, from: [1, 1.3, 1.7] },
    ['0.4 s ÷ 0.2 s = 2', '2: from 1 to watch, from 1.3 a risk, from 1.7 will fail'],
  ],
  [
    'string change too quick',
    { crossingsPerS: 14, playerCrossingsPerS: 7, handTravelCm: 3 },
    { by: 2, from: [1, 1.3, 1.7] },
    ['14 ÷ 7 = 2', '2: from 1 to watch, from 1.3 a risk, from 1.7 will fail'],
  ],
  [
    'string leap in a slur',
    { strings: 2, seconds: 0.2 },
    { by: 1.8, from: [1, 1.3, 1.7] },
    ['0.18 s × 2 ÷ 0.2 s = 1.8', '1.8: from 1 to watch, from 1.3 a risk, from 1.7 will fail'],
  ],
  [
    'level out of reach',
    { level: 'ff', cm: 20, cmPerS: 20, contact: 0.1, missingDb: -6 },
    { by: 6, from: [3, 6, 9] },
    ['10^(6 ÷ 20) = 2', '6 dB: from 3 to watch, from 6 a risk, from 9 will fail'],
  ],
  [
    'single notes vanish',
    { notesPerS: 6, playerStrokesPerS: 10, slurCm: 20, singleCm: 5, singles: 4 },
    { by: 0.6, from: [0.5, 0.8, 1.3] },
    ['6 ÷ 10 = 0.6', '0.6: from 0.5 to watch, from 0.8 a risk, from 1.3 will fail'],
  ],
  [
    'held to the wrong end',
    { endsAt: 0.9, awayCm: 13 },
    { by: 0.2, from: [0.12, 0.3, 0.5] },
    ['13 cm ÷ 65 cm = 0.2', '0.2: from 0.12 to watch, from 0.3 a risk, from 0.5 will fail'],
  ],
  [
    'reach',
    { mm: 60, comfortableMm: 50, limitMm: 70, hand: 'small' },
    { by: 0.7, from: [0.35, 0.7, 1] },
    ['(60 − 50) ÷ (70 − 50) = 0.5', '0.5 + 0.2 = 0.7', '0.7: from 0.35 to watch, from 0.7 a risk, from 1 will fail'],
  ],
  [
    'audible shift',
    { mm: 33, seconds: 0.15, shareOfString: 0.1 },
    { by: 0.1, from: [0.06, 0.14, 0.24] },
    ['33 mm ÷ 330 mm = 0.1', '0.1: from 0.06 to watch, from 0.14 a risk, from 0.24 will fail'],
  ],
];

const LEVELS: readonly Level[] = ['beginner', 'advanced'];

/** Findings of the demo and of small pieces, for two levels at three tempi. */
function everyFinding(): Finding[] {
  const small = [makeScore('violin', 'A4/4 B4/4', { tempo: 20, dynamic: 'f' }).part, makeScore('violin', '(G3/1 E5/1 G3/1 E5/1)', { tempo: 120 }).part];
  const parts = [...demoScore('mill-race-serenade').score.parts.filter(({ instrument }) => instrument), ...small];
  return parts.flatMap((part) =>
    LEVELS.flatMap((level) =>
      [50, 150].flatMap((tempo) => {
        const player = { ...usualPlayer(part.instrument!), level };
        return checked({ part, marking: {}, player, tempo, passages: [] }).report.findings;
      }),
    ),
  );
}

describe('the calculation behind a finding', () => {
  const all = everyFinding();
  const kinds = new Set(all.map(({ kind }) => kind));

  test('every sum comes to what it says, within what rounding does', () => {
    for (const finding of all) {
      const sums = calculationOf(finding);
      for (const { sum } of finding.judged ? sums.slice(0, -1) : sums) {
        const [left, right, ...more] = sum.split(' = ');
        expect(more).toEqual([]);
        const [is, says] = [valueOf(left!), valueOf(right!)];
        const off = Math.abs(is - says);
        if (off > Math.max(0.06, Math.abs(says) * 0.06)) throw new Error(`${finding.kind}: ${sum} comes to ${is}`);
      }
    }
  });
  test('it ends at the thresholds that make the severity', () => {
    for (const finding of all) {
      const { judged } = finding;
      if (!judged || calculationOf(finding).length === 0) continue;
      expect(calculationOf(finding).at(-1)!.sum).toMatch(/^-?[\d.]+( dB)?: from .* to watch, from .* a risk, from .* will fail$/);
      const near = [judged.by - 0.006, judged.by + 0.006].map((by) => severityOf(by, judged.from));
      // A shift that is only heard is never worse than a risk.
      const most = finding.kind === 'audible shift' ? 2 : 3;
      expect(near.map((each) => Math.min(most, each))).toContain(finding.severity);
    }
  });
  test('there is one wherever a kind has a number that it is about', () => {
    const measured = (Object.keys(FINDINGS) as FindingKind[]).filter((kind) => FINDINGS[kind].unit !== 'words');
    const known = new Set([...kinds, ...WORKED.map(([kind]) => kind)]);
    expect(measured.filter((kind) => !known.has(kind))).toEqual([]);
    for (const kind of measured.filter((each) => kinds.has(each)))
      expect([kind, calculationOf(all.find((finding) => finding.kind === kind)!).length > 0]).toEqual([kind, true]);
  });
  test.each(WORKED)('%s, written out by hand', (kind, numbers, judged, sums) => {
    const finding = { kind, numbers, judged } as unknown as Finding;
    expect(calculationOf(finding).map(({ sum }) => sum)).toEqual(sums);
    for (const sum of sums.slice(0, -1)) expect(valueOf(sum.split(' = ')[0]!)).toBeCloseTo(valueOf(sum.split(' = ')[1]!), 1);
  });
  test('what the desks of a section change in turn is told whatever it comes to: no threshold is said', () => {
    const { part } = makeScore('violin', 'A4/32 B4/1', { tempo: 60, dynamic: 'p', beats: 32 });
    const held = (section: boolean) => {
      const { findings } = checked({ part: { ...part, section }, marking: {}, player: usualPlayer('violin'), tempo: 60, passages: [] }).report;
      return calculationOf(findings.find(({ kind }) => kind === 'bow runs out')!).map(({ what }) => what);
    };
    expect(held(false)).toEqual(['bow that is needed', 'against the bow that there is', 'what that means']);
    expect(held(true)).toEqual(['bow that is needed', 'against the bow that there is']);
  });
  test('a shift, written out', () => {
    const shift = all.find(({ kind }) => kind === 'shift late')!;
    expect(calculationOf(shift).map(({ what, from }) => [what, from ?? ''])).toEqual([
      ['difficulty of the move', 'Fitts 1954; the width is ±10 cents there'],
      ['asked of the hand', ''],
      ['against what this level manages', ''],
      ['what that means', ''],
    ]);
  });
});
