/** Runs the SQL migrations in order, each once; two processes at the same time wait for one another. */
import { readdir } from 'node:fs/promises';
import pg from 'pg';
import { runner } from 'node-pg-migrate';
import { inTurn } from './in-turn';

/** The database knows migrations that this code does not. */
export class NewerDatabase extends Error {
  constructor(readonly migrations: readonly string[]) {
    super(`the database was changed by a newer Omaggio (${migrations.join(', ')})`);
  }
}

export interface MigrateOptions {
  /** Called before tables that hold something are changed; where it fails nothing is changed. */
  beforeChange?(pending: readonly string[]): Promise<void>;
}

/** The names of the migrations that were run now. @throws NewerDatabase where older code meets newer data */
export async function migrate(databaseUrl: string, folder: string, { beforeChange }: MigrateOptions = {}): Promise<string[]> {
  await createDatabase(databaseUrl);
  return inTurn(databaseUrl, 'tables', async (client) => {
    const known = await namesIn(folder);
    const done = await namesDone(client);
    const newer = done.filter((name) => !known.includes(name));
    if (newer.length) throw new NewerDatabase(newer);
    const pending = known.filter((name) => !done.includes(name));
    if (pending.length && done.length) await beforeChange?.(pending);
    const run = await runner({
      dbClient: client,
      dir: folder,
      direction: 'up',
      migrationsTable: 'migrations',
      noLock: true,
      singleTransaction: true,
      log: () => undefined,
      logger: QUIET,
    });
    return run.map((migration) => migration.name);
  });
}

const QUIET = { debug: () => undefined, info: () => undefined, warn: console.warn, error: console.error };

async function namesIn(folder: string): Promise<string[]> {
  return (await readdir(folder))
    .filter((file) => file.endsWith('.sql'))
    .map((file) => file.replace(/\.sql$/, ''))
    .sort();
}

/** Migrations that the database has seen; none where it is new. */
export async function namesDone(client: pg.Client): Promise<string[]> {
  const there = await client.query<{ there: boolean }>("SELECT to_regclass('public.migrations') IS NOT NULL AS there");
  if (!there.rows[0]!.there) return [];
  const { rows } = await client.query<{ name: string }>('SELECT name FROM migrations ORDER BY id');
  return rows.map(({ name }) => name);
}

/** A server of one's own starts without our database. */
async function createDatabase(databaseUrl: string): Promise<void> {
  const url = new URL(databaseUrl);
  const name = decodeURIComponent(url.pathname.slice(1));
  if (!/^[a-z_][a-z0-9_]*$/.test(name)) return;
  const there = new pg.Client({ connectionString: databaseUrl });
  try {
    await there.connect();
    return;
  } catch (error) {
    // Any other failure will be told by the migration itself.
    if ((error as { code?: string }).code !== '3D000') return;
  } finally {
    await there.end().catch(() => undefined);
  }
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
