/** A key that lets one browser in as the owner, made by whoever may open the database itself. */
import pg from 'pg';
import { digest, newToken } from '../../server/doors/token';

/** A key that nobody has used after a day opens nothing any more. */
const HOURS = 24;

/** @returns the key; null where there is no studio yet */
export async function makeKey(client: Pick<pg.Client, 'query'>): Promise<string | null> {
  const key = newToken();
  const { rowCount } = await client.query(
    `INSERT INTO keys (token_hash, studio_id, person_id, expires_at)
     SELECT $1, studio_id, people.id, now() + $2 * interval '1 hour' FROM people JOIN studios ON studios.id = studio_id
      WHERE role = 'owner' ORDER BY created_at, studio_id, since, people.id LIMIT 1`,
    [digest(key), HOURS],
  );
  return rowCount ? key : null;
}

/** The same at an address. */
export async function makeKeyAt(databaseUrl: string): Promise<string | null> {
  const client = new pg.Client({ connectionString: databaseUrl, connectionTimeoutMillis: 10_000 });
  client.on('error', () => undefined);
  await client.connect();
  try {
    return await makeKey(client);
  } finally {
    await client.end();
  }
}
