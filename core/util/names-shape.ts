/** What the coach calls a piece, its composer and its parts: one shape for the form and for the door. */
import { z } from 'zod';
import { LIMITS } from './limits';
import { cleanLine } from './text';

const nameShape = z.string().transform(cleanLine).pipe(z.string().min(1, 'needs a letter').max(LIMITS.title));

export const pieceNamesShape = z.object({
  title: nameShape,
  /** Empty where nobody is named. */
  composer: z
    .string()
    .nullable()
    .transform((said) => cleanLine(said ?? '') || null)
    .pipe(z.string().max(LIMITS.title).nullable()),
  parts: z.array(z.object({ id: z.uuid(), name: nameShape })).max(LIMITS.partsNamed),
});

export type PieceNames = z.infer<typeof pieceNamesShape>;
