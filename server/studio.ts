/** The studio that a request works for. Until there are accounts there is one. */
import { pool } from './db';

let studioId: string | null = null;

export async function currentStudio(): Promise<string> {
  if (studioId === null) {
    const { rows } = await pool().query<{ id: string }>('SELECT id FROM studios ORDER BY created_at, id LIMIT 1');
    if (!rows[0]) throw new Error('The database has no studio: bin/start prepares it.');
    studioId = rows[0].id;
  }
  return studioId;
}

/** Its name, as the shelf shows it. */
export async function studioName(id: string): Promise<string> {
  const { rows } = await pool().query<{ name: string }>('SELECT name FROM studios WHERE id = $1', [id]);
  return rows[0]?.name ?? '';
}

/** The name that changes are signed with until there are accounts. */
export const AUTHOR = 'coach';
