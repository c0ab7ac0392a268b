import { burdenOf, FINDING_KINDS, FINDINGS, inUnit, labelOf, type FindingKind } from './kinds';
import type { NumbersOf } from './numbers';

test.each<[FindingKind, Record<string, number | string>, number | null, string, string]>([
  ['shift late', { load: 1.42, mm: 103.4 }, 1.42, '1.4 × the time', '103 mm too quick'],
  ['reach', { mm: 90, limitMm: 75 }, 1.2, '120 % of the limit', 'reach'],
  ['out-of-tune risk', { chance: 0.344, cause: 'shift' }, 0.344, '34 %', '34 % shift'],
  ['audible shift', { mm: 41.6 }, 41.6, '42 mm', 'audible shift'],
  ['bow runs out', { neededCm: 130, hairCm: 65 }, 2, '2.0 bows', 'bow runs out'],
  ['bow must race back', { surplusDb: 6.04, stepDb: 4.4, beforeCmPerS: 20, cmPerS: 34 }, 10 ** (6.04 / 20), '2.0 × as fast', '1.7 × as fast'],
  ['retake late', { neededS: 0.3, freeS: 0.2 }, 0.3 / 0.2, '1.5 × the time', 'retake late'],
  ['stroke too quick', { strokesPerS: 9, playerStrokesPerS: 6 }, 1.5, '1.5 × the speed', 'stroke too quick'],
  ['trill too quick', { notesPerS: 12, playerNotesPerS: 8 }, 1.5, '1.5 × the speed', 'trill too quick'],
  ['string change too quick', { crossingsPerS: 7.6, playerCrossingsPerS: 4 }, 1.9, '1.9 × the speed', '8 crossings/s'],
  ['level out of reach', { missingDb: -7.2 }, 10 ** (7.2 / 20), '2.3 × the bow', 'too soft'],
  ['single notes vanish', { notesPerS: 5, playerStrokesPerS: 10 }, 0.5, '50 % of the limit', 'single notes'],
  ['held to the wrong end', { awayCm: 12.4 }, 12.4, '12 cm', 'wrong end'],
])('%s: what it is about, in its unit, and its label', (kind, numbers, burden, said, label) => {
  const finding = { kind, numbers: numbers as unknown as NumbersOf[FindingKind] };
  expect([burdenOf(finding), inUnit(kind, burdenOf(finding)!), labelOf(finding)]).toEqual([burden, said, label]);
});

test('what is not measured is said by its severity', () => {
  const unmeasured = FINDING_KINDS.filter((kind) => FINDINGS[kind].unit === 'words');
  expect(unmeasured.map((kind) => burdenOf({ kind, numbers: { bows: 2 } }))).toEqual(unmeasured.map(() => null));
  expect([0, 1, 2, 3, 4].map((severity) => inUnit('unplayable', severity))).toEqual(['solved', 'watch', 'risk', 'will fail', '']);
});

test('whose matter each is, what is tried, what counts, what limits a tempo from below', () => {
  const with_ = (is: (entry: (typeof FINDINGS)[FindingKind]) => boolean) => FINDING_KINDS.filter((kind) => is(FINDINGS[kind]));
  expect(with_(({ side }) => side === 'left hand')).toEqual([
    'unplayable',
    'shift late',
    'reach',
    'out-of-tune risk',
    'colour break',
    'audible shift',
    'trill too quick',
    'ornament too quick',
  ]);
  expect(with_(({ side }) => side === 'music')).toEqual(['contradiction', 'phrase or bow?', 'reading trap', 'counting trap', 'marked differently elsewhere']);
  expect(with_(({ counts }) => counts !== 'spot')).toEqual(['reading trap', 'counting trap', 'marked differently elsewhere']);
  expect(with_(({ likeness }) => likeness)).toEqual(['bowed differently elsewhere', 'marked differently elsewhere']);
  expect(with_(({ limits }) => limits === 'below')).toEqual(['bow runs out']);
  expect(with_(({ tries }) => tries.fingers && tries.bow)).toEqual(['string change too quick', 'string leap in a slur']);
  expect(with_(({ tries }) => tries.earlier)).toEqual(['shift late', 'out-of-tune risk']);
  expect(with_(({ tries }) => tries.fingers && !tries.noteBefore)).toEqual(['contradiction', 'out-of-tune risk']);
  expect(with_(({ tries }) => !tries.fingers && !tries.bow)).toEqual([
    'unplayable',
    'trill too quick',
    'ornament too quick',
    'pizzicato change late',
    'phrase or bow?',
    'reading trap',
    'counting trap',
    'marked differently elsewhere',
  ]);
  expect(with_(({ ofThePlayer }) => ofThePlayer)).toEqual([
    'shift late',
    'reach',
    'out-of-tune risk',
    'retake late',
    'stroke too quick',
    'string change too quick',
    'single notes vanish',
  ]);
  expect(new Set(FINDING_KINDS.map((kind) => FINDINGS[kind].shape))).toEqual(new Set(['cross', 'diamond', 'triangle up', 'triangle down', 'bar', 'dot']));
});
