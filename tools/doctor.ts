/** bin/omaggio doctor: says what is wrong with data folder, database, versions and space, and what to do. */
import { existsSync, readdirSync, statSync, statfsSync } from 'node:fs';
import path from 'node:path';
import { namesDone } from '../server/migrate';
import { commandsFor, DATABASE, installedVersions, versionOf } from './run/cluster';
import { asAdministrator } from './run/roles';
import { contentsOf, contentsText, megabytes } from './run/contents';
import { dataFolder, openFolder, readRunning } from './run/data-folder';
import { run, say, Trouble } from './run/trouble';
import { withDatabase, type OpenDatabase } from './run/with-database';

const root = process.cwd();
const data = dataFolder(root);
const LOW_BYTES = 1024 * 1_048_576;
let wrong = 0;

const fine = (text: string) => say(`  fine    ${text}`);
function bad(text: string, remedy: string): void {
  wrong++;
  say(`  WRONG   ${text}\n          ${remedy}`);
}

/** One question; trouble that it meets is an answer too. */
async function look(work: () => void | Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    if (error instanceof Trouble) bad(error.message, error.remedies.join('\n          '));
    else bad(`This could not be looked at: ${(error as Error).message}`, 'Look into the logs in the data folder.');
  }
}

function theMachine(): void {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
  if (major > 20 || (major === 20 && minor >= 9)) fine(`Node.js ${process.versions.node}`);
  else bad(`Node.js ${process.versions.node} is too old.`, 'Install 20.9 or newer.');
  if (existsSync(path.join(root, '.next', 'BUILD_ID'))) fine('the build is there');
  else bad('Omaggio is not built.', 'bin/start builds it.');
  const versions = installedVersions();
  if (versions.length) fine(`PostgreSQL ${versions.join(', ')} on this machine`);
}

function theFolder(): void {
  openFolder(data);
  const running = readRunning(data);
  fine(`data folder ${data.path}${running?.url ? `, last started at ${running.url}` : ''}`);
  const { bavail, bsize } = statfsSync(data.path);
  const free = bavail * bsize;
  if (free < LOW_BYTES) bad(`only ${megabytes(free)} are free where the data lie.`, 'Make room before it is full: marks cannot be stored on a full disk.');
  else fine(`${megabytes(free)} free`);
  const version = versionOf(data);
  if (version === null) return bad('there is no database yet.', 'bin/start makes one.');
  commandsFor(data);
  fine(`data of PostgreSQL ${version}`);
  if (existsSync(data.password)) {
    if ((statSync(data.password).mode & 0o077) === 0) fine('the password of the database can be read by its owner alone');
    else bad('others can read the password of the database.', `chmod 600 ${data.password}`);
  } else bad('the password of the database is lost.', 'The next start makes a new one.');
  const backups = existsSync(data.backups) ? readdirSync(data.backups) : [];
  if (backups.length) fine(`saved before changes of the tables: ${backups.sort().join(', ')}`);
}

async function theDatabase({ port, password, running }: OpenDatabase): Promise<void> {
  fine(running ? 'Omaggio runs, and its database answers' : 'Omaggio does not run; the database was started for this look');
  await asAdministrator(port, password, 'postgres', async (client) => {
    const { rows } = await client.query<{ checksums: string; broken: number; superuser: boolean | null }>(
      `SELECT current_setting('data_checksums') AS checksums, (SELECT coalesce(sum(checksum_failures), 0)::int FROM pg_stat_database) AS broken,
              (SELECT rolsuper FROM pg_roles WHERE rolname = 'omaggio_app') AS superuser`,
    );
    const { checksums, broken, superuser } = rows[0]!;
    if (checksums !== 'on')
      bad('the data have no checksums: a failing disk is noticed late.', 'Make a backup and restore it into a new folder, which has them.');
    else if (broken) bad(`${broken} pages of the database are damaged.`, 'Stop Omaggio, restore the latest backup into a new folder, and check the disk.');
    else fine('checksums are on, no page is damaged');
    if (superuser) bad('the application is an administrator of the database.', 'Start Omaggio again: that mends it.');
    else fine('the application may read and write rows only');
    const kept = await client.query<{ datname: string; size: string }>(
      "SELECT datname, pg_database_size(datname) AS size FROM pg_database WHERE datname LIKE 'omaggio_before_%' ORDER BY 1",
    );
    for (const { datname, size } of kept.rows) fine(`kept from before a restore: ${datname} (${megabytes(Number(size))})`);
  });
  await asAdministrator(port, password, DATABASE, async (client) => {
    const known = readdirSync(path.join(root, 'db', 'migrations')).map((file) => file.replace(/\.sql$/, ''));
    const done = await namesDone(client);
    const newer = done.filter((name) => !known.includes(name));
    const missing = known.filter((name) => !done.includes(name));
    if (newer.length) bad(`the database is newer than this Omaggio (${newer.join(', ')}).`, 'Start the newer Omaggio, or restore a backup of the time before.');
    else if (missing.length) fine(`${missing.length} migrations are to come; the next start runs them`);
    else fine(`the tables are those of this Omaggio (${done.at(-1)})`);
    const contents = await contentsOf(client);
    if (!contents) return;
    if (contents.studios === 0) bad('there is no studio.', 'The next start makes one.');
    else fine(contentsText(contents));
  });
}

await run(async () => {
  if (process.env.DATABASE_URL)
    throw new Trouble('DATABASE_URL is set: the doctor looks after the data folder of Omaggio only.', 'Unset it, or ask those who look after that server.');
  await look(theMachine);
  await look(theFolder);
  if (versionOf(data) !== null) await look(() => withDatabase(data, theDatabase));
  say(wrong === 0 ? 'Nothing is wrong.' : `${wrong} ${wrong === 1 ? 'thing is' : 'things are'} wrong.`);
  if (wrong) process.exitCode = 1;
});
process.exit();
