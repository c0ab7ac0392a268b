/** A finding: what will go wrong where, with every number behind it. Text is made from it in words.ts. */

export const FINDING_KINDS = [
  'unplayable',
  'contradiction',
  'shift late',
  'reach',
  'out-of-tune risk',
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
] as const;
export type FindingKind = (typeof FINDING_KINDS)[number];

export interface Remedy {
  text: string;
  /** The number before and after, in the finding's own unit; null where nothing is measured. */
  before: number | null;
  after: number | null;
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
