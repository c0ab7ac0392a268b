/** How change sets travel and what is answered: parsed at both ends, so that an answer that is not ours never counts as one. */
import { z } from 'zod';
import { LIMITS } from '../util/limits';
import { problemShape } from '../util/problem-shape';
import { isClean } from '../util/text';
import { MARK_KINDS, valueProblem, type MarkKind } from './kinds';
import { RECORD_VERSION } from './versions';

const kindShape = z.enum(MARK_KINDS as [MarkKind, ...MarkKind[]]);
const words = (limit: number) => z.string().max(limit, `has more than ${limit} characters`).refine(isClean, 'has characters that no file can hold');

/** A mark as it is stored; older ones may hold what is refused today. */
export const storedMarkShape = z.object({
  value: z.string(),
  origin: z.enum(['coach', 'suggestion']),
  why: z.string().optional(),
  off: z.literal(true).optional(),
  by: z.string().optional(),
});

/** A mark that is to be stored. */
export const newMarkShape = storedMarkShape.extend({
  value: words(LIMITS.note),
  why: words(LIMITS.why).min(1).optional(),
});

export const markingShape = z.record(z.string(), storedMarkShape);

const changeShape = z
  .object({ target: words(LIMITS.target).min(1), kind: kindShape, from: storedMarkShape.nullable(), to: newMarkShape.nullable() })
  .superRefine(({ kind, to }, context) => {
    const wrong = to && valueProblem(kind, to.value);
    if (wrong) context.addIssue({ code: 'custom', path: ['to', 'value'], message: `is no ${kind}: ${wrong}` });
  });

export const changeSetShape = z.object({
  id: z.uuid(),
  version: z.int().min(1).max(RECORD_VERSION, 'was made by a newer Omaggio: reload the page').optional(),
  at: z.iso.datetime(),
  reason: words(LIMITS.reason).min(1),
  undoes: z.uuid().nullable(),
  together: z.uuid().optional(),
  fromPart: z.uuid().optional(),
  changes: z.array(changeShape).min(1).max(LIMITS.changesInSet),
});

/**
 * What became of the sets of one request, in their order: those that are stored (now or before), then at most one that could not be:
 * it is refused for good, or it clashes with what is stored. What comes after that one was not looked at.
 */
export const storeAnswerShape = z.object({
  stored: z.array(z.uuid()),
  refused: z.object({ id: z.string(), problem: problemShape }).nullable(),
  clash: z
    .object({
      id: z.uuid(),
      /** What is stored where the set expected something else. */
      conflicts: z.array(z.object({ target: z.string(), kind: kindShape, stored: storedMarkShape.nullable() })),
      /** The marking as it is stored. */
      marking: markingShape,
    })
    .nullable(),
});
export type StoreAnswer = z.infer<typeof storeAnswerShape>;
