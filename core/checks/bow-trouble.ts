/** Something that is wrong with the bow at one place, before it becomes a finding. */
import { rounded } from '../util/round';
import type { StringOf } from '../bow-arm/crossings';
import type { LineContext } from './context';
import type { FindingKind, NumbersOf } from './numbers';
import type { Remedy, TempoLimit } from './finding';
import type { Thresholds } from './tables';

export interface BowContext extends LineContext {
  stringOf: StringOf;
}

/** Load, numbers, sentence and remedies of one kind at one stroke; null where there is nothing to say. */
interface TroubleOf<Kind extends FindingKind> {
  kind: Kind;
  noteId?: string;
  load: number;
  from: Thresholds;
  numbers: NumbersOf[Kind];
  text: string;
  hearIt?: string;
  remedies: Remedy[];
}

export type Trouble = { [Kind in FindingKind]: TroubleOf<Kind> }[FindingKind];

export type Limit = Pick<TempoLimit, 'kind' | 'tempo' | 'noteIds'>;

/** A tempo at which it is over, with the plan held as it is. */
export const atTempo = (now: number, then: number) => ({ before: Math.round(now), after: then, tempo: then });

export const round = (value: number): number => rounded(value, 2);
