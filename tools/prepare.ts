/** Migrates the database and loads the demo where it is empty. Called by bin/start and bin/test. */
import { existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { closePool } from '../server/db';
import { loadDemo } from '../server/demo';
import { prepareQueue } from '../server/jobs/queue';
import { bringForward } from '../server/forward';
import { migrate, NewerDatabase } from '../server/migrate';
import { stopWorkers } from '../server/workers';
import { dump } from './run/dump';
import { run, Trouble } from './run/trouble';

const root = process.cwd();

/** What the database holds is saved before its tables are changed. */
async function saveFirst(url: string, pending: readonly string[]): Promise<void> {
  const folder = process.env.OMAGGIO_BACKUPS ?? path.join(root, '.omaggio', 'backups');
  const bin = process.env.OMAGGIO_POSTGRES ?? process.env.PATH!.split(':').find((each) => existsSync(path.join(each, 'pg_dump')));
  if (!bin)
    throw new Trouble(
      'the tables have to be changed, and pg_dump is not here to save them first.',
      'An administrator must run: apt-get install postgresql-client',
    );
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const file = path.join(folder, `before-${pending[0]}-${new Date().toISOString().slice(0, 19).replaceAll(':', '')}.dump`);
  await dump(bin, url, file);
  console.log(`database: saved as it was in ${file}`);
}

function wished(): 'all' | 'people' | 'none' {
  const wish = process.env.OMAGGIO_DEMO ?? 'all';
  if (wish !== 'all' && wish !== 'people' && wish !== 'none') throw new Trouble(`OMAGGIO_DEMO is "${wish}".`, 'It may be all, people or none.');
  return wish;
}

async function prepare(url: string): Promise<void> {
  const wish = wished();
  const done = await migrate(url, path.join(root, 'db', 'migrations'), { beforeChange: (pending) => saveFirst(url, pending) });
  if (done.length) console.log(`database: ${done.length} migrations`);
  await prepareQueue(url);
  const forward = await bringForward();
  if (forward) console.log(`database: the records of ${forward} parts are brought forward`);
  if (await loadDemo(path.join(root, 'demo'), wish)) console.log(wish === 'none' ? 'an empty studio: made' : 'demo: loaded');
}

await run(async () => {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Trouble('DATABASE_URL is not set.', 'Start Omaggio with bin/start, or set it to a PostgreSQL address.');
  process.chdir(root);
  try {
    await prepare(url);
  } catch (error) {
    if (error instanceof Trouble) throw error;
    if (error instanceof NewerDatabase) {
      throw new Trouble(`${error.message}.`, 'Nothing was touched. Start the newer Omaggio, or restore a backup of the time before (bin/restore FILE).');
    }
    const { message, code } = error as Error & { code?: string };
    const own = process.env.OMAGGIO_OWN_DATABASE === 'yes';
    throw new Trouble(
      `The database could not be prepared: ${message || code}.`,
      own
        ? 'The log of the database is in the data folder, log/database.log.'
        : 'Check that DATABASE_URL is right, that the server runs, and that its user may create tables.',
    );
  } finally {
    await closePool();
    await stopWorkers();
  }
});
