/** Ids as the database has them. */
import { z } from 'zod';

const shape = z.uuid();

/** Whether it could be one: PostgreSQL refuses anything else with an error. */
export const isId = (text: string | null): text is string => shape.safeParse(text).success;
