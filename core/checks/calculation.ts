/**
 * The whole calculation behind a finding, as sums that anybody can do again: each line is an arithmetic expression and what it
 * comes to. The last line sets it against the thresholds.
 */
import { speedRatioOf } from '../bow-arm/stroke';
import { rounded } from '../util/round';
import type { Finding, FindingOf } from './finding';
import type { FindingKind } from './numbers';
import { HELD_TOGETHER, LEAP_S } from './tables';

export interface Sum {
  what: string;
  /** @example "5.05 bits ÷ 0.35 s = 14.43 bits/s" */
  sum: string;
  /** Where the formula comes from. */
  from?: string;
}

const figure = (value: number): string => String(rounded(value, Math.abs(value) < 0.1 ? 3 : 2));
const said = (value: number, unit = ''): string => (unit ? `${figure(value)} ${unit}` : figure(value));
const over = (what: string, [a, unit]: readonly [number, string?], [b, other = unit]: readonly [number, string?], is: number, gives = ''): Sum => ({
  what,
  sum: `${said(a, unit)} ÷ ${said(b, other)} = ${said(is, gives)}`,
});

const LOADS = 'against what this level manages';

type Summed = { readonly [Kind in FindingKind]?: (finding: FindingOf<Kind>) => Sum[] };

const SUMS: Summed = {
  'shift late': ({ numbers: n }) => {
    const width = (2 * n.mm) / 2 ** n.bits;
    return [
      {
        what: 'difficulty of the move',
        sum: `log₂(2 × ${said(n.mm, 'mm')} ÷ ${said(width, 'mm')}) = ${said(n.bits, 'bits')}`,
        from: 'Fitts 1954; the width is ±10 cents there',
      },
      over('asked of the hand', [n.bits, 'bits'], [n.gapMs / 1000, 's'], n.bitsPerS, 'bits/s'),
      over(LOADS, [n.bitsPerS, 'bits/s'], [n.playerBitsPerS], n.load),
    ];
  },
  reach: ({ numbers: n, judged }) => {
    const share = (n.mm - n.comfortableMm) / (n.limitMm - n.comfortableMm);
    const more = (judged?.by ?? share) - share;
    return [
      {
        what: 'from comfortable (0) to the limit (1)',
        sum: `(${figure(n.mm)} − ${figure(n.comfortableMm)}) ÷ (${figure(n.limitMm)} − ${figure(n.comfortableMm)}) = ${figure(share)}`,
      },
      ...(more > HELD_TOGETHER / 2
        ? [{ what: 'held together, nothing gives way', sum: `${figure(share)} + ${figure(HELD_TOGETHER)} = ${figure(share + HELD_TOGETHER)}` }]
        : []),
    ];
  },
  'out-of-tune risk': ({ numbers: n, judged }) => {
    const causes = Object.entries(n).flatMap(([name, value]) => (name.endsWith(' cents') ? [Number(value)] : []));
    const perMm = judged?.centsPerMm;
    const shift = n['shift cents'];
    return [
      ...(perMm
        ? [
            {
              what: 'placing the finger',
              sum: `${said((n['placement cents'] ?? 0) / perMm, 'mm')} × ${said(perMm, 'cents/mm')} = ${said(n['placement cents'] ?? 0, 'cents')}`,
            },
          ]
        : []),
      ...(perMm && shift && n.mm && n.gapMs
        ? [
            {
              what: 'landing after the shift',
              sum: `${said((shift * n.gapMs) / 1000 / n.mm / perMm, 's')} × ${said(n.mm, 'mm')} ÷ ${said(n.gapMs / 1000, 's')} × ${said(perMm, 'cents/mm')} = ${said(shift, 'cents')}`,
              from: 'spread grows with the way and with the haste',
            },
          ]
        : []),
      {
        what: 'all causes together',
        sum: `√(${causes.map((cents) => `${figure(cents)}²`).join(' + ')}) = ${said(n.errorCents, 'cents')}`,
        from: 'independent causes add as squares',
      },
      {
        what: 'chance of being further off',
        sum: `2 × (1 − Φ(${figure(n.toleranceCents)} ÷ ${figure(n.errorCents)})) = ${figure(n.chance)}`,
        from: 'normal distribution',
      },
    ];
  },
  'audible shift': ({ numbers: n }) => [
    { what: 'as a share of the string', sum: `${said(n.mm, 'mm')} ÷ ${said(n.mm / n.shareOfString, 'mm')} = ${figure(n.shareOfString)}` },
  ],
  'bow runs out': ({ numbers: n }) => [
    { what: 'bow that is needed', sum: `${said(n.slowestCmPerS, 'cm/s')} × ${said(n.seconds, 's')} = ${said(n.neededCm, 'cm')}` },
    over('against the bow that there is', [n.neededCm, 'cm'], [n.hairCm], n.neededCm / n.hairCm),
  ],
  'bow must race back': ({ numbers: n }) => [
    over('as fast as the stroke before', [n.cmPerS, 'cm/s'], [n.beforeCmPerS], n.cmPerS / n.beforeCmPerS),
    { what: 'louder by speed alone', sum: `20 × log₁₀(${figure(n.cmPerS / n.beforeCmPerS)}) = ${said(n.stepDb, 'dB')}`, from: 'Schelleng 1973' },
    { what: 'more than the dynamics ask for', sum: `${figure(n.stepDb)} − ${figure(n.stepDb - n.surplusDb)} = ${said(n.surplusDb, 'dB')}` },
  ],
  'retake late': ({ numbers: n }) => [over('needed against what there is', [n.neededS, 's'], [n.freeS], n.neededS / n.freeS)],
  'stroke too quick': ({ numbers: n }) => [over(LOADS, [n.strokesPerS], [n.playerStrokesPerS], n.strokesPerS / n.playerStrokesPerS)],
  'trill too quick': ({ numbers: n }) => [
    over('notes a second', [n.notes, 'notes'], [n.seconds, 's'], n.notesPerS, 'a second'),
    over(LOADS, [n.notesPerS], [n.playerNotesPerS], n.notesPerS / n.playerNotesPerS),
  ],
  'ornament too quick': ({ numbers: n }) => [
    over('needed against what it can have', [n.neededS, 's'], [n.seconds - n.mainS, 's'], n.neededS / (n.seconds - n.mainS)),
  ],
  'string change too quick': ({ numbers: n }) => [over(LOADS, [n.crossingsPerS], [n.playerCrossingsPerS], n.crossingsPerS / n.playerCrossingsPerS)],
  'string leap in a slur': ({ numbers: n }) => [
    {
      what: 'needed against what there is',
      sum: `${said(LEAP_S, 's')} × ${n.strings} ÷ ${said(n.seconds, 's')} = ${figure((LEAP_S * n.strings) / n.seconds)}`,
    },
  ],
  'level out of reach': ({ numbers: n }) => [
    {
      what: n.missingDb < 0 ? 'as much bow as it would take' : 'of the bow that would be soft enough',
      sum: `10^(${figure(-n.missingDb)} ÷ 20) = ${figure(speedRatioOf(-n.missingDb))}`,
      from: 'amplitude grows with the speed of the bow (Schelleng 1973)',
    },
  ],
  'single notes vanish': ({ numbers: n }) => [over(LOADS, [n.notesPerS], [n.playerStrokesPerS], n.notesPerS / n.playerStrokesPerS)],
  'held to the wrong end': ({ numbers: n, judged }) => (judged ? [over('missing of the bow', [n.awayCm, 'cm'], [n.awayCm / judged.by], judged.by)] : []),
  'pizzicato change late': ({ numbers: n }) => [over('needed against what there is', [n.neededS, 's'], [n.seconds], n.neededS / n.seconds)],
};

/** Of what is set against the thresholds, where it is no ratio. */
const UNITS: { readonly [Kind in FindingKind]?: string } = { 'bow must race back': 'dB', 'level out of reach': 'dB' };
const SAID = ['to watch', 'a risk', 'will fail'] as const;

/** Every sum behind a finding, in the order in which it is done; empty where the kind alone decides. */
export function calculationOf(finding: Finding): Sum[] {
  const sums = (SUMS[finding.kind] as ((finding: Finding) => Sum[]) | undefined)?.(finding) ?? [];
  const { judged } = finding;
  if (!judged || sums.length === 0) return sums;
  const steps = judged.from.map((from, i) => `from ${figure(from)} ${SAID[i]}`).join(', ');
  return [...sums, { what: 'what that means', sum: `${said(judged.by, UNITS[finding.kind])}: ${steps}` }];
}
