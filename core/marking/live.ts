/** What a page is told while it is open: what others stored on its part, and who else is there. */
import { z } from 'zod';
import { MARK_KINDS, type MarkKind } from './kinds';
import { storedMarkShape } from './wire';

const changeShape = z.object({
  target: z.string(),
  kind: z.enum(MARK_KINDS as [MarkKind, ...MarkKind[]]),
  from: storedMarkShape.nullable(),
  to: storedMarkShape.nullable(),
});

export const newsShape = z.object({
  /** Oldest first; some of them may be known. */
  marks: z.array(
    z.object({
      markingId: z.string(),
      author: z.string(),
      set: z.object({
        id: z.string(),
        at: z.string(),
        reason: z.string(),
        changes: z.array(changeShape),
        undoes: z.string().nullable(),
        together: z.string().optional(),
        fromPart: z.string().optional(),
        boundary: z.literal(true).optional(),
      }),
    }),
  ),
  deeds: z.array(
    z.object({
      id: z.string(),
      author: z.string(),
      at: z.string(),
      reason: z.string(),
      about: z.enum(['passages', 'settings']),
      before: z.unknown(),
      after: z.unknown(),
      undoes: z.string().nullable(),
    }),
  ),
  /** Version of the part's file: another one than the page has means that it was replaced. */
  music: z.string(),
  onShelf: z.boolean(),
  /** Names of those who have the part open elsewhere; `you` where it is oneself. */
  here: z.array(z.string()),
});
export type News = z.infer<typeof newsShape>;
