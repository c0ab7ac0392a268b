/**
 * Every kind of finding, and all that depends on the kind alone. A kind without an entry is a type error; one with an entry is
 * filtered, drawn, weighed, said and tried everywhere.
 */

import { speedRatioOf } from '../bow-arm/stroke';
import type { FindingKind, NumbersOf } from './numbers';

export type { FindingKind } from './numbers';

/** Outlines in the track of risks. */
export type Shape = 'diamond' | 'triangle up' | 'triangle down' | 'square' | 'bar' | 'cross' | 'dot';

/** Units in which a burden is said. */
export type Unit = '%' | '× the time' | '× the speed' | '× as fast' | '× the bow' | '% of the limit' | 'mm' | 'cm' | 'bows' | 'words';

interface Entry<Numbers> {
  /** Whose matter it is. */
  side: 'left hand' | 'bow' | 'music';
  shape: Shape;
  /** `spot`: it counts against a passage or player; `aside`: it is told of; `trap`: for the eye, no matter of hands or tempo. */
  counts: 'spot' | 'aside' | 'trap';
  /** Done here and not elsewhere: no reason against what is tried. */
  likeness: boolean;
  /** Only the whole part tells: a passage by itself does not know of it. */
  ofTheWhole: boolean;
  /** What is tried against it. */
  tries: {
    fingers: boolean;
    bow: boolean;
    /** Also fingers of the note before: the way between them is the trouble. */ noteBefore: boolean;
    /** An earlier move of the hand. */ earlier: boolean;
  };
  /** Worth marks of their own for one player even where it is only to be watched: what this hand, this bow arm may not do. */
  ofThePlayer: boolean;
  /** On which side a tempo is limited by it: too quick is the usual trouble. */
  limits: 'above' | 'below';
  unit: Unit;
  /** The number that it is about, the greater the worse; null where only the severity says it. */
  burden(numbers: Numbers): number | null;
  /** At its place in the track, in two or three words. */
  label(numbers: Numbers): string;
}

const NOTHING = { fingers: false, bow: false, noteBefore: false, earlier: false };
const FINGERS = { ...NOTHING, fingers: true, noteBefore: true };
const BOW = { ...NOTHING, bow: true };

const bySeverity = { unit: 'words' as const, burden: () => null };

const USUAL = { counts: 'spot' as const, likeness: false, ofTheWhole: false, ofThePlayer: false, limits: 'above' as const };
const LEFT = { ...USUAL, side: 'left hand' as const, tries: FINGERS };
const ARM = { ...USUAL, side: 'bow' as const, shape: 'triangle down' as const, tries: BOW };
const MUSIC = { ...USUAL, side: 'music' as const, shape: 'dot' as const, tries: NOTHING, ...bySeverity };

const entries: { [Kind in FindingKind]: Entry<NumbersOf[Kind]> } = {
  unplayable: { ...LEFT, ...bySeverity, shape: 'cross', tries: NOTHING, label: () => 'unplayable' },
  contradiction: { ...MUSIC, shape: 'cross', tries: { ...NOTHING, fingers: true }, label: () => 'contradiction' },
  'shift late': {
    ...LEFT,
    shape: 'diamond',
    tries: { ...FINGERS, earlier: true },
    ofThePlayer: true,
    unit: '× the time',
    burden: (n) => n.load,
    label: (n) => `${Math.round(n.mm)} mm too quick`,
  },
  reach: {
    ...LEFT,
    shape: 'triangle up',
    ofThePlayer: true,
    unit: '% of the limit',
    burden: (n) => n.mm / n.limitMm,
    label: () => 'reach',
  },
  'out-of-tune risk': {
    ...LEFT,
    shape: 'dot',
    tries: { ...FINGERS, noteBefore: false, earlier: true },
    ofThePlayer: true,
    unit: '%',
    burden: (n) => n.chance,
    label: (n) => `${Math.round(n.chance * 100)} % ${n.cause}`,
  },
  'colour break': { ...LEFT, ...bySeverity, shape: 'dot', label: () => 'colour break' },
  'audible shift': { ...LEFT, shape: 'dot', unit: 'mm', burden: (n) => n.mm, label: () => 'audible shift' },
  'bow runs out': { ...ARM, limits: 'below', unit: 'bows', burden: (n) => n.neededCm / n.hairCm, label: () => 'bow runs out' },
  'bow must race back': {
    ...ARM,
    unit: '× as fast',
    burden: (n) => speedRatioOf(n.surplusDb),
    label: (n) => `${(n.cmPerS / n.beforeCmPerS).toFixed(1)} × as fast`,
  },
  'retake late': { ...ARM, ofThePlayer: true, unit: '× the time', burden: (n) => n.neededS / n.freeS, label: () => 'retake late' },
  'stroke too quick': {
    ...ARM,
    ofThePlayer: true,
    unit: '× the speed',
    burden: (n) => n.strokesPerS / n.playerStrokesPerS,
    label: () => 'stroke too quick',
  },
  'trill too quick': {
    ...LEFT,
    shape: 'dot',
    tries: NOTHING,
    unit: '× the speed',
    burden: (n) => n.notesPerS / n.playerNotesPerS,
    label: () => 'trill too quick',
  },
  'ornament too quick': { ...LEFT, ...bySeverity, shape: 'dot', tries: NOTHING, label: () => 'ornament too quick' },
  'string change too quick': {
    ...ARM,
    tries: { ...FINGERS, bow: true },
    ofThePlayer: true,
    unit: '× the speed',
    burden: (n) => n.crossingsPerS / n.playerCrossingsPerS,
    label: (n) => `${n.crossingsPerS.toFixed(0)} crossings/s`,
  },
  'string leap in a slur': { ...ARM, ...bySeverity, tries: { ...FINGERS, bow: true }, label: () => 'leap in the slur' },
  'level out of reach': {
    ...ARM,
    unit: '× the bow',
    burden: (n) => speedRatioOf(Math.abs(n.missingDb)),
    label: (n) => (n.missingDb < 0 ? 'too soft' : 'too loud'),
  },
  'single notes vanish': {
    ...ARM,
    ofThePlayer: true,
    unit: '% of the limit',
    burden: (n) => n.notesPerS / n.playerStrokesPerS,
    label: () => 'single notes',
  },
  'rhythm under one bow': { ...ARM, ofTheWhole: true, ...bySeverity, label: () => 'even bow' },
  'held to the wrong end': { ...ARM, unit: 'cm', burden: (n) => n.awayCm, label: () => 'wrong end' },
  'wish not met': { ...ARM, ...bySeverity, label: () => 'wish not met' },
  'bowed differently elsewhere': { ...ARM, ofTheWhole: true, ...bySeverity, shape: 'bar', likeness: true, label: () => 'bowed otherwise' },
  'repeat does not come round': { ...ARM, ofTheWhole: true, ...bySeverity, label: () => 'repeat' },
  'pizzicato change late': { ...ARM, ...bySeverity, tries: NOTHING, label: () => 'no time to pluck' },
  'phrase or bow?': { ...MUSIC, shape: 'bar', label: () => 'phrase or bow?' },
  'reading trap': { ...MUSIC, ofTheWhole: true, counts: 'trap', label: () => 'reading trap' },
  'counting trap': { ...MUSIC, ofTheWhole: true, counts: 'trap', label: () => 'counting trap' },
  'marked differently elsewhere': { ...MUSIC, ofTheWhole: true, counts: 'aside', likeness: true, label: () => 'marked differently elsewhere' },
};

/** What depends on the kind alone, without what is made of a finding's numbers. */
export const FINDINGS: Readonly<Record<FindingKind, Omit<Entry<never>, 'burden' | 'label'>>> = entries;
export const FINDING_KINDS = Object.keys(entries) as FindingKind[];

/** A burden in its unit; `severity` says it where nothing is measured. */
export function inUnit(kind: FindingKind, value: number): string {
  switch (FINDINGS[kind].unit) {
    case '%':
      return `${Math.round(value * 100)} %`;
    case '% of the limit':
      return `${Math.round(value * 100)} % of the limit`;
    case '× the time':
      return `${value.toFixed(1)} × the time`;
    case '× the speed':
      return `${value.toFixed(1)} × the speed`;
    case '× as fast':
      return `${value.toFixed(1)} × as fast`;
    case '× the bow':
      return `${value.toFixed(1)} × the bow`;
    case 'cm':
      return `${Math.round(value)} cm`;
    case 'mm':
      return `${Math.round(value)} mm`;
    case 'bows':
      return `${value.toFixed(1)} bows`;
    case 'words':
      return ['solved', 'watch', 'risk', 'will fail'][Math.round(value)] ?? '';
  }
}

interface Numbered {
  kind: FindingKind;
  numbers: NumbersOf[FindingKind];
}

// The numbers of a finding are those of its kind (`Finding`), which the index of a table cannot say.
const entryOf = (kind: FindingKind) => entries[kind] as unknown as Entry<NumbersOf[FindingKind]>;

/** The number that a finding is about, the greater the worse; null where only its severity says it. */
export const burdenOf = ({ kind, numbers }: Numbered): number | null => entryOf(kind).burden(numbers);

/** At its place in the track of risks, in two or three words. */
export const labelOf = ({ kind, numbers }: Numbered): string => entryOf(kind).label(numbers);
