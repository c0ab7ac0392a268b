/** Which drills answer a finding, the first to be tried first (common practice). */
import type { FindingKind } from '../checks/kinds';
import { DRILL_NAMES, drillOf, type Drill, type DrillName, type DrillOptions } from './drill';
import type { Passage } from './passage';

const HAND: readonly DrillName[] = ['shift', 'skeleton', 'chain'];
const QUICK: readonly DrillName[] = ['groups', 'rhythms', 'chain'];
const CROSSING: readonly DrillName[] = ['open strings', 'blocked', 'groups'];
const BOW: readonly DrillName[] = ['bow alone', 'stroke alone', 'slurs swapped'];

/** Nothing where no practice helps: there the marking is to be changed. */
export const DRILLS_FOR: Readonly<Record<FindingKind, readonly DrillName[]>> = {
  unplayable: [],
  contradiction: [],
  'shift late': HAND,
  reach: ['blocked', 'one voice'],
  'out-of-tune risk': ['find the note', 'shift', 'octave below', 'scale', 'one voice'],
  'colour break': ['shift', 'slurs swapped'],
  'audible shift': HAND,
  'bow runs out': BOW,
  'bow must race back': ['bow alone', 'stroke alone'],
  'retake late': ['stroke alone', 'bow alone'],
  'stroke too quick': [...QUICK, 'stroke alone'],
  'trill too quick': ['trill from its end', 'bare'],
  'ornament too quick': ['bare', 'trill from its end'],
  'string change too quick': CROSSING,
  'string leap in a slur': CROSSING,
  'level out of reach': ['stroke alone', 'bow alone'],
  'single notes vanish': ['slurs swapped', 'filled'],
  'rhythm under one bow': ['bow alone', 'filled'],
  'held to the wrong end': ['bow alone', 'stroke alone'],
  'wish not met': ['stroke alone'],
  'bowed differently elsewhere': ['stroke alone', 'slurs swapped'],
  'repeat does not come round': ['chain'],
  'pizzicato change late': [],
  'reading trap': ['skeleton', 'chain'],
  'counting trap': ['filled', 'bare'],
  'marked differently elsewhere': [],
  'phrase or bow?': [],
};

/** The drills of a finding that fit its passage, then the others that fit. */
export function drillsAnswering(kind: FindingKind, passage: Passage, options: DrillOptions): { first: Drill[]; others: Drill[] } {
  const own = DRILLS_FOR[kind];
  const made = (names: readonly DrillName[]) => names.flatMap((name) => drillOf(name, passage, options) ?? []);
  return { first: made(own), others: made(DRILL_NAMES.filter((name) => !own.includes(name))) };
}
