/** PostgreSQL through plain SQL. One pool per process; transactions by a callback. */
import pg from 'pg';

export type Queryable = Pick<pg.ClientBase, 'query'>;

const holder = globalThis as unknown as { omaggioPool?: pg.Pool };

export function pool(): pg.Pool {
  if (!holder.omaggioPool) {
    const connectionString = process.env.DATABASE_URL;
    if (!connectionString) throw new Error('DATABASE_URL is not set: start Omaggio with bin/start, or set it to a PostgreSQL address.');
    holder.omaggioPool = new pg.Pool({ connectionString, max: 8 });
    holder.omaggioPool.on('error', (error) => console.error('database connection lost:', error.message));
  }
  return holder.omaggioPool;
}

export async function closePool(): Promise<void> {
  await holder.omaggioPool?.end();
  holder.omaggioPool = undefined;
}

export async function inTransaction<T>(work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await pool().connect();
  try {
    await client.query('BEGIN');
    const result = await work(client);
    await client.query('COMMIT');
    return result;
  } catch (error) {
    await client.query('ROLLBACK');
    throw error;
  } finally {
    client.release();
  }
}
