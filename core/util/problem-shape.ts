/** A problem as it travels: parsed where it arrives. */
import { z } from 'zod';
import type { Problem } from './result';

export const problemShape = z.object({ place: z.string().nullable(), what: z.string(), remedy: z.string() });
export type { Problem };
