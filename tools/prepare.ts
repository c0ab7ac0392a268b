/** Migrates the database and loads the demo where it is empty. Called by bin/start and bin/test. */
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { closePool } from '../server/db';
import { loadDemo } from '../server/demo';
import { migrate } from '../server/migrate';
import { stopWorkers } from '../server/workers';

const root = path.join(path.dirname(fileURLToPath(import.meta.url)), '..');
const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set');
process.chdir(root);
try {
  const done = await migrate(url, path.join(root, 'db', 'migrations'));
  if (done.length) console.log(`database: ${done.length} migrations`);
  const wish = process.env.OMAGGIO_DEMO ?? 'all';
  if (wish !== 'all' && wish !== 'people' && wish !== 'none') throw new Error(`OMAGGIO_DEMO is "${wish}"; it may be all, people or none`);
  if (await loadDemo(path.join(root, 'demo'), wish)) console.log(wish === 'none' ? 'an empty studio: made' : 'demo: loaded');
} catch (error) {
  const { message, code } = error as Error & { code?: string };
  console.error(`The database could not be prepared: ${message || code}.`);
  console.error(
    process.env.OMAGGIO_OWN_DATABASE === 'yes'
      ? 'The log of the database is in the data folder, pg.log.'
      : 'Check that DATABASE_URL is right, that the server runs, and that its user may create tables.',
  );
  process.exitCode = 1;
} finally {
  await closePool();
  await stopWorkers();
}
