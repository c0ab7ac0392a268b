/** bin/restore FILE: puts a backup in the place of the studio. What was there before is kept in the database under another name. */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { namesDone } from '../server/migrate';
import { administratorUrl, DATABASE } from './run/cluster';
import { asAdministrator } from './run/roles';
import { contentsOf, contentsText } from './run/contents';
import { dataFolder } from './run/data-folder';
import { pgCommand } from './run/dump';
import { run, say, Trouble } from './run/trouble';
import { aloneWithDatabase, type OpenDatabase } from './run/with-database';

const root = process.cwd();
/** Where a backup is unpacked before it is put in its place. */
const UNPACKED = 'omaggio_unpacked';

function backupFile(): string {
  const [name, ...more] = process.argv.slice(2);
  if (!name || more.length) throw new Trouble('name the backup.', 'bin/restore FILE');
  const file = path.resolve(process.env.OMAGGIO_FROM ?? '.', name);
  try {
    if (readFileSync(file).subarray(0, 5).toString('latin1') === 'PGDMP') return file;
  } catch {
    throw new Trouble(`${file} cannot be read.`, 'Name a file that bin/backup has written.');
  }
  throw new Trouble(`${file} is no backup of Omaggio.`, 'Name a file that bin/backup has written.');
}

async function unpack({ port, password, bin }: OpenDatabase, file: string): Promise<void> {
  await asAdministrator(port, password, 'postgres', async (client) => {
    await client.query(`DROP DATABASE IF EXISTS ${UNPACKED}`);
    await client.query(`CREATE DATABASE ${UNPACKED}`);
  });
  const { code, said } = await pgCommand(
    bin,
    'pg_restore',
    ['--no-owner', '--no-privileges', '--exit-on-error', '--single-transaction', `--dbname=${UNPACKED}`, file],
    administratorUrl(port, password, UNPACKED),
  );
  if (code !== 0)
    throw new Trouble(`${file} could not be restored.`, said.trim().split('\n').slice(-2).join(' '), 'Nothing was changed; the file may be cut off.');
}

/** A backup of a newer Omaggio, or of something else, is not put in place. */
async function mustFit({ port, password }: OpenDatabase, file: string): Promise<void> {
  const known = readdirSync(path.join(root, 'db', 'migrations')).map((each) => each.replace(/\.sql$/, ''));
  const done = await asAdministrator(port, password, UNPACKED, namesDone);
  if (done.length === 0) throw new Trouble(`${file} is no backup of Omaggio.`, 'Nothing was changed.');
  const newer = done.filter((name) => !known.includes(name));
  if (newer.length) throw new Trouble(`${file} was made by a newer Omaggio (${newer.join(', ')}).`, 'Nothing was changed. Restore it with that version.');
}

/** The backup takes the place; what was there gets a name with the time. */
const putInPlace = ({ port, password }: OpenDatabase): Promise<string | null> =>
  asAdministrator(port, password, 'postgres', async (client) => {
    const { rowCount } = await client.query('SELECT 1 FROM pg_database WHERE datname = $1', [DATABASE]);
    const kept = rowCount ? `${DATABASE}_before_${new Date().toISOString().slice(0, 19).replace(/\D/g, '')}` : null;
    if (kept) await client.query(`ALTER DATABASE ${DATABASE} RENAME TO ${kept}`);
    await client.query(`ALTER DATABASE ${UNPACKED} RENAME TO ${DATABASE}`);
    return kept;
  });

await run(async () => {
  const file = backupFile();
  const data = dataFolder(root);
  await aloneWithDatabase(data, async (database) => {
    await unpack(database, file);
    await mustFit(database, file);
    const kept = await putInPlace(database);
    const contents = await asAdministrator(database.port, database.password, DATABASE, contentsOf);
    say(`restored into ${data.path}: ${contents ? contentsText(contents) : 'an empty studio'}.`);
    if (kept) say(`What was there before is kept as the database ${kept}.`);
  });
});
process.exit();
