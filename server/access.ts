/**
 * For whom something is done: every query takes it and filters by its studio. It is made anew for each request and kept nowhere.
 * Until there are accounts whoever reaches Omaggio is the coach of its one studio.
 */
import { pool } from './db';

export type Role = 'owner';

export interface Access {
  /** Id of the studio. */
  studio: string;
  /** Whose name stands under what is done. */
  person: string;
  role: Role;
}

/** The name that changes are signed with until there are accounts. */
const COACH = 'coach';

/** @throws Error where the database has no studio */
export async function accessNow(): Promise<Access> {
  const { rows } = await pool().query<{ id: string }>('SELECT id FROM studios ORDER BY created_at, id LIMIT 1');
  if (!rows[0]) throw new Error('The database has no studio: bin/start prepares it.');
  return ownerOf(rows[0].id);
}

/** The coach of a studio, as the demo and the tests need it. */
export const ownerOf = (studio: string): Access => ({ studio, person: COACH, role: 'owner' });

/** Its name, as the shelf shows it. */
export async function studioName({ studio }: Access): Promise<string> {
  const { rows } = await pool().query<{ name: string }>('SELECT name FROM studios WHERE id = $1', [studio]);
  return rows[0]?.name ?? '';
}
