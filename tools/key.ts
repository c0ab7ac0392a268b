/** bin/key: an address that lets one browser in as the owner, once. Whoever may use the data folder may make one. */
import { DATABASE } from './run/cluster';
import { asAdministrator } from './run/roles';
import { dataFolder, readRunning } from './run/data-folder';
import { makeKey, makeKeyAt } from './run/key';
import { run, say, Trouble } from './run/trouble';
import { withDatabase } from './run/with-database';

const root = process.cwd();
const NO_STUDIO = new Trouble('there is no studio yet.', 'bin/start makes one.');

await run(async () => {
  const databaseUrl = process.env.DATABASE_URL;
  if (databaseUrl) {
    const key = await makeKeyAt(databaseUrl);
    if (!key) throw NO_STUDIO;
    return say(`${process.env.OMAGGIO_ORIGIN ?? 'http://127.0.0.1:3000'}/key/${key}`);
  }
  const data = dataFolder(root);
  const key = await withDatabase(data, ({ port, password }) => asAdministrator(port, password, DATABASE, makeKey));
  if (!key) throw NO_STUDIO;
  const url = process.env.OMAGGIO_ORIGIN ?? readRunning(data)?.url;
  say(url ? `${url}/key/${key}` : `/key/${key}    (Omaggio does not run: put its address before this once it does)`);
});
process.exit();
