/**
 * What is done on a part and is no mark: its passages, and what it is checked for. As change sets do, a deed says what was there
 * before and after, so that it can be taken back after a reload as well.
 */
import { z } from 'zod';
import { LIMITS } from '../util/limits';
import { isClean } from '../util/text';
import { takingBack, type Logged } from './history';

/** Of a deed all but what it is about, as it travels beside that. */
export const deedShape = z.object({
  id: z.uuid(),
  at: z.iso.datetime(),
  reason: z.string().min(1).max(LIMITS.reason).refine(isClean, 'has characters that no file can hold'),
  undoes: z.uuid().nullable(),
});

export interface PartDeed<Said = unknown> extends Logged {
  about: 'passages' | 'settings';
  before: Said;
  after: Said;
}

/** The deed that takes another one back. */
export const undoingDeed = <T extends PartDeed>(deed: T, id: string, at: string): T => ({
  ...takingBack(deed, id, at),
  before: deed.after,
  after: deed.before,
});
