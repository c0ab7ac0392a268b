/** PostgreSQL through plain SQL. One pool per process; transactions by a callback; nothing waits for ever. */
import pg from 'pg';

export type Queryable = Pick<pg.ClientBase, 'query'>;

const holder = globalThis as unknown as { omaggioPool?: pg.Pool; omaggioPulse?: pg.Pool };

/** Milliseconds. A lock is held for a few statements only, so that who waits longer for one will not get it. */
const WAIT = { connection: 5_000, statement: 15_000, lock: 4_000, idleInTransaction: 15_000 };

function makePool(max: number, connectionMs: number): pg.Pool {
  const connectionString = process.env.DATABASE_URL;
  if (!connectionString) throw new Error('DATABASE_URL is not set: start Omaggio with bin/start, or set it to a PostgreSQL address.');
  const made = new pg.Pool({
    connectionString,
    max,
    connectionTimeoutMillis: connectionMs,
    statement_timeout: WAIT.statement,
    query_timeout: WAIT.statement + 2_000,
    lock_timeout: WAIT.lock,
    idle_in_transaction_session_timeout: WAIT.idleInTransaction,
    application_name: 'omaggio',
    keepAlive: true,
  });
  made.on('error', (error) => console.error('database connection lost:', error.message));
  return made;
}

export function pool(): pg.Pool {
  holder.omaggioPool ??= makePool(10, WAIT.connection);
  return holder.omaggioPool;
}

/** One connection that nothing else uses: whether the database answers can be told while all others are busy. */
export function pulse(): pg.Pool {
  holder.omaggioPulse ??= makePool(1, 2_000);
  return holder.omaggioPulse;
}

export async function closePool(): Promise<void> {
  await Promise.all([holder.omaggioPool?.end(), holder.omaggioPulse?.end()]);
  delete holder.omaggioPool;
  delete holder.omaggioPulse;
}

export async function inTransaction<T>(work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await pool().connect();
  let broken: Error | undefined;
  try {
    await client.query('BEGIN');
    const result = await work(client);
    await client.query('COMMIT');
    return result;
  } catch (error) {
    await client.query('ROLLBACK').catch((failed: Error) => (broken = failed));
    throw error;
  } finally {
    // A connection that could not even be rolled back is not used again.
    client.release(broken);
  }
}
