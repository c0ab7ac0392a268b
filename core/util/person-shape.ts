/** People who teach, and players' links, as they are sent. */
import { z } from 'zod';
import { LIMITS } from './limits';
import { cleanLine } from './text';

const name = z.string().transform(cleanLine).pipe(z.string().min(1, 'A name is missing').max(LIMITS.name));
const role = z.enum(['owner', 'coach']);
const phrase = z.string().min(1, 'A pass phrase is missing').max(1_000);

export const newPersonShape = z.object({ name, role });
export const ownChangeShape = z.object({ name, signIn: name, phrase, current: phrase }).partial();
export const personChangeShape = z.object({ name, role, signIn: name, phrase }).partial();
/** Days after which it opens nothing any more; null where it is to last. */
export const newLinkShape = z.object({ days: z.int().min(1, 'A link lasts a day at least').max(3_660, 'A link lasts ten years at most').nullable() });
