/** Processes that start at the same time on one database do what must not be done twice one after the other. */
import pg from 'pg';

/** Any numbers will do, as long as all processes use the same. */
const LOCKS = { tables: 700_411_220, queue: 700_411_222 };

/** @param work done with the connection that holds the lock, which nobody else does meanwhile */
export async function inTurn<T>(databaseUrl: string, what: keyof typeof LOCKS, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: databaseUrl });
  client.on('error', (error) => console.error('database connection lost:', error.message));
  await client.connect();
  try {
    await client.query('SELECT pg_advisory_lock($1)', [LOCKS[what]]);
    return await work(client);
  } finally {
    await client.end();
  }
}
