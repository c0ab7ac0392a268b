/** What was done that is no mark: who came in, who let whom in, what was taken away. */
import type { Access } from '../access';
import { db, type Queryable } from '../db';

/** As it is told: "Ines came in (Firefox on Linux)". */
export interface Doing {
  at: Date;
  person: string;
  what: string;
  about: string;
}

const SHOWN = 200;

export async function noteDoing(client: Queryable, { studio, person }: Pick<Access, 'studio' | 'person'>, what: string, about = ''): Promise<void> {
  await client.query('INSERT INTO doings (studio_id, person, what, about) VALUES ($1, $2, $3, $4)', [studio, person, what, about.slice(0, 300)]);
}

/** The latest first. */
export async function doingsOf(access: Access): Promise<Doing[]> {
  const { rows } = await db(access).query<Doing>('SELECT at, person, what, about FROM doings WHERE studio_id = $1 ORDER BY sequence DESC LIMIT $2', [
    access.studio,
    SHOWN,
  ]);
  return rows;
}
