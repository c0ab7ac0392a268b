/** Runs the SQL migrations in order, each once; two processes at the same time wait for one another. */
import pg from 'pg';
import { runner } from 'node-pg-migrate';

/** Any number will do, as long as all processes use the same. */
const LOCK = 700_411_220;

export async function migrate(databaseUrl: string, folder: string): Promise<string[]> {
  await createDatabase(databaseUrl);
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    await client.query('SELECT pg_advisory_lock($1)', [LOCK]);
    const done = await runner({
      dbClient: client,
      dir: folder,
      direction: 'up',
      migrationsTable: 'migrations',
      noLock: true,
      singleTransaction: true,
      log: () => undefined,
      logger: QUIET,
    });
    return done.map((migration) => migration.name);
  } finally {
    await client.end();
  }
}

const QUIET = { debug: () => undefined, info: () => undefined, warn: console.warn, error: console.error };

/** A private cluster starts without our database. */
async function createDatabase(databaseUrl: string): Promise<void> {
  const url = new URL(databaseUrl);
  const name = decodeURIComponent(url.pathname.slice(1));
  if (!/^[a-z_][a-z0-9_]*$/.test(name)) return;
  url.pathname = '/postgres';
  const client = new pg.Client({ connectionString: url.href });
  try {
    await client.connect();
    const found = await client.query('SELECT 1 FROM pg_database WHERE datname = $1', [name]);
    if (found.rowCount === 0) await client.query(`CREATE DATABASE ${name}`);
  } catch (error) {
    // Made by another process in between (23505, 42P04), or a server where this user may not look: the migration itself will tell.
    if (!['23505', '42P04', '42501', '3D000', '28000'].includes((error as { code?: string }).code ?? '')) throw error;
  } finally {
    await client.end();
  }
}
