/** A finding: what will go wrong where, with every number behind it. Text is made from it in words.ts. */

import type { Change } from '../marking/change';
import type { HearWay } from './hear';
import { FINDINGS } from './kinds';
import type { FindingKind, NumbersOf } from './numbers';
import type { Thresholds } from './tables';

export interface Remedy {
  text: string;
  /** The number before and after, in the finding's own unit; null where nothing is measured. */
  before: number | null;
  after: number | null;
  /** The marks that make it; none where it is no matter of marks. */
  changes?: Change[];
  /** Marks that belong into another part of the score. */
  elsewhere?: { partId: string; markingId: string; name: string; changes: Change[] };
  /** The tempo at which it is so, quarters per minute. */
  tempo?: number;
}

export interface Judged {
  by: number;
  /** To watch, a risk, will fail: from here on. */
  from: Thresholds;
  /** Cents that a mm is at this place of the string. */
  centsPerMm?: number;
}

interface Told<Kind extends FindingKind> {
  /** Kind and first note: stable while the note exists. */
  id: string;
  kind: Kind;
  /** Printed label. */
  bar: string;
  barIndex: number;
  beat: number;
  noteIds: string[];
  severity: 1 | 2 | 3;
  /** All inputs of the sentence. */
  numbers: NumbersOf[Kind];
  /** What was set against which thresholds; none where the kind alone decides. */
  judged?: Judged;
  text: string;
  hearIt: string | null;
  /** Every way to hear it, the surest first. */
  hear?: HearWay[];
  remedies: Remedy[];
}

export type FindingOf<Kind extends FindingKind> = Told<Kind>;

/** Of whatever kind: the numbers are those of its kind. */
export type Finding = { [Kind in FindingKind]: Told<Kind> }[FindingKind];

/** Tempo at which a finding begins, with the plan held as it is. */
export interface TempoLimit {
  /** Quarters per minute. */
  tempo: number;
  kind: FindingKind;
  barIndex: number;
  beat: number;
  noteIds: string[];
}

/** What a finding depends on: while this is the same, a finding that was accepted stays quiet. */
export const findingKey = ({ kind, noteIds, numbers }: Pick<Finding, 'kind' | 'noteIds' | 'numbers'>): string => JSON.stringify([kind, noteIds, numbers]);

/** Traps for the eye: they are no matter of hands or tempo, and do not count among the spots of a passage. */
export const isQuiet = ({ kind }: Pick<Finding, 'kind'>): boolean => FINDINGS[kind].counts === 'trap';

/** Something that counts against a passage. */
export const isSpot = ({ kind }: Pick<Finding, 'kind'>): boolean => FINDINGS[kind].counts === 'spot';
