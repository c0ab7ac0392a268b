/** What travels of hand-outs: what a coach asks for, and what a player says. */
import { z } from 'zod';
import { cleanText } from '../util/text';
import { LIMITS } from '../util/limits';
import { pencilShape } from './pencil';

const words = z
  .string()
  .transform(cleanText)
  .pipe(z.string().max(LIMITS.handoutWord, `Keep it to ${LIMITS.handoutWord} characters`));

export const handOutShape = z.object({
  word: words,
  parts: z
    .array(z.object({ partId: z.uuid(), players: z.array(z.uuid()).max(LIMITS.seats) }))
    .min(1, 'Choose a part to hand out')
    .max(LIMITS.partsNamed),
});
export type HandOutAsked = z.infer<typeof handOutShape>;

/** The first is shown before all others. */
export const ANSWER_KINDS = ['hurts', 'does not work', 'question', 'words'] as const;
export type AnswerKind = (typeof ANSWER_KINDS)[number];

const bar = z.int().min(0).max(100_000);

export const saidShape = z.object({
  opened: z.boolean().optional(),
  /** Bars of the changes that are copied, or not any more; -1 for what is about the whole part. */
  copied: z
    .array(z.object({ bar: z.int().min(-1).max(100_000), is: z.boolean() }))
    .max(LIMITS.setsInRequest)
    .optional(),
  answers: z
    .array(z.object({ id: z.uuid(), bar: bar.nullable(), kind: z.enum(ANSWER_KINDS), words, at: z.iso.datetime({ offset: true }) }))
    .max(LIMITS.setsInRequest)
    .optional(),
  pencil: z.array(pencilShape).max(LIMITS.setsInRequest).optional(),
  /** Whether who teaches may look at the pencil marks of this part. */
  showsPencil: z.boolean().optional(),
});
export type SaidByPlayer = z.infer<typeof saidShape>;
