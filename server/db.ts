/**
 * PostgreSQL through plain SQL. One pool per process; transactions by a callback; nothing waits for ever. Every connection says for
 * which studio it asks: the database shows the rows of that one only (row security, `db/migrations/014_doors.sql`).
 */
import pg from 'pg';
import { timed } from './metrics';

export type Queryable = Pick<pg.ClientBase, 'query'>;

/** Whose rows are meant. */
export interface OfStudio {
  studio: string;
}

const holder = globalThis as unknown as { omaggioPool?: pg.Pool; omaggioPulse?: pg.Pool };

/** Milliseconds. A lock is held for a few statements only, so that who waits longer for one will not get it. */
const WAIT = { connection: 5_000, statement: 15_000, lock: 4_000, idleInTransaction: 15_000 };

/** Of one process; the database takes sixty (`tools/run/cluster.ts`). */
const CONNECTIONS = 16;

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

/** How many connections there are. */
export const connections = () => ({ open: pool().totalCount, idle: pool().idleCount, waiting: pool().waitingCount });

export function pool(): pg.Pool {
  holder.omaggioPool ??= makePool(CONNECTIONS, WAIT.connection);
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

/** The studio that a connection was last set to. */
const setTo = new WeakMap<pg.PoolClient, string>();

async function connect({ studio }: OfStudio): Promise<pg.PoolClient> {
  const client = await pool().connect();
  if (setTo.get(client) === studio) return client;
  try {
    await client.query("SELECT set_config('omaggio.studio', $1, false)", [studio]);
    setTo.set(client, studio);
    return client;
  } catch (error) {
    client.release(error as Error);
    throw error;
  }
}

/** Single queries for one studio. */
export function db(of: OfStudio): Queryable {
  const query = async (text: string, values?: unknown[]) => {
    const client = await connect(of);
    let broken: Error | undefined;
    try {
      return await timed(text, () => client.query(text, values));
    } catch (error) {
      // What the database itself refused leaves the connection whole.
      if ((error as { severity?: string }).severity !== 'ERROR') broken = error as Error;
      throw error;
    } finally {
      client.release(broken);
    }
  };
  return { query } as Queryable;
}

/** All of it or nothing, for one studio. */
export async function inTransaction<T>(of: OfStudio, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  return transaction(await connect(of), work);
}

/** Reads as everything is at one moment, however long what it yields takes to be sent. */
export async function* asOfNow<T>(of: OfStudio, read: (client: Queryable) => AsyncGenerator<T, void, undefined>): AsyncGenerator<T, void, undefined> {
  const client = await connect(of);
  let broken: Error | undefined;
  try {
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    await client.query("SET LOCAL idle_in_transaction_session_timeout = '10min'");
    yield* read(client);
  } finally {
    await client.query('ROLLBACK').catch((failed: Error) => (broken = failed));
    client.release(broken);
  }
}

/** A transaction for what belongs to no studio yet; only who owns the tables sees rows there. */
export async function inOwnersTransaction<T>(work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  return transaction(await pool().connect(), work);
}

async function transaction<T>(client: pg.PoolClient, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
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
