/** What is said about a player: one shape for the form and for the door. */
import { z } from 'zod';
import { LIMITS } from '../util/limits';
import { cleanLine } from '../util/text';
import { INSTRUMENT_KINDS } from './instrument';
import { HAND_SIZES, LEVELS, measuredShape, techniqueShape } from './player';

const said = {
  name: z.string().transform(cleanLine).pipe(z.string().min(1, 'A player needs a name').max(LIMITS.name)),
  instrument: z.enum(INSTRUMENT_KINDS),
  size: z.string().transform(cleanLine).pipe(z.string().min(1).max(20)),
  tuning: z.string().transform(cleanLine).pipe(z.string().min(1).max(60)),
  hand: z.enum(HAND_SIZES),
  measured: measuredShape.nullable(),
  technique: techniqueShape.partial(),
  level: z.enum(LEVELS),
  thumbPosition: z.boolean(),
};

export const newPlayerShape = z.object(said);
export type NewPlayer = z.infer<typeof newPlayerShape>;

/** What can be said anew about a player; out of the list, and back. */
export const playerChangeShape = z.object({ ...said, removed: z.boolean() }).partial();
export type PlayerChange = z.infer<typeof playerChangeShape>;
