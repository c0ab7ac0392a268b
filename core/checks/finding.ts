/** A finding: what will go wrong where, with every number behind it. Text is made from it in words.ts. */

import type { Change } from '../marking/change';
import type { HearWay } from './hear';

export const FINDING_KINDS = [
  'unplayable',
  'contradiction',
  'shift late',
  'reach',
  'out-of-tune risk',
  'colour break',
  'audible shift',
  'bow runs out',
  'bow must race back',
  'retake late',
  'stroke too quick',
  'trill too quick',
  'ornament too quick',
  'string change too quick',
  'string leap in a slur',
  'level out of reach',
  'wish not met',
  'bowed differently elsewhere',
  'repeat does not come round',
  'pizzicato change late',
  'phrase or bow?',
  'reading trap',
  'counting trap',
  'marked differently elsewhere',
] as const;
export type FindingKind = (typeof FINDING_KINDS)[number];

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

export interface Finding {
  /** Kind and first note: stable while the note exists. */
  id: string;
  kind: FindingKind;
  /** Printed label. */
  bar: string;
  barIndex: number;
  beat: number;
  noteIds: string[];
  severity: 1 | 2 | 3;
  /** All inputs of the sentence. */
  numbers: Record<string, number | string>;
  text: string;
  hearIt: string | null;
  /** Every way to hear it, the surest first. */
  hear?: HearWay[];
  remedies: Remedy[];
}

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
export const isQuiet = ({ kind }: Pick<Finding, 'kind'>): boolean => kind === 'reading trap' || kind === 'counting trap';
