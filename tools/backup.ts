/** bin/backup FILE: the whole studio as one file, as it is at this moment, whether Omaggio runs or not. */
import { existsSync } from 'node:fs';
import path from 'node:path';
import { administratorUrl, DATABASE } from './run/cluster';
import { asAdministrator } from './run/roles';
import { contentsOf, contentsText, megabytes } from './run/contents';
import { dataFolder } from './run/data-folder';
import { dump } from './run/dump';
import { run, say, Trouble } from './run/trouble';
import { withDatabase } from './run/with-database';

const root = process.cwd();

await run(async () => {
  const [name, ...more] = process.argv.slice(2);
  if (!name || more.length) throw new Trouble('name one file for the backup.', 'bin/backup FILE');
  const file = path.resolve(process.env.OMAGGIO_FROM ?? '.', name);
  if (existsSync(file)) throw new Trouble(`${file} is there already.`, 'A backup writes over nothing: name another file, or move that one away.');
  if (!existsSync(path.dirname(file))) throw new Trouble(`the folder ${path.dirname(file)} is not there.`, 'Make it, or name a file in another one.');
  await withDatabase(dataFolder(root), async ({ port, password, bin, running }) => {
    const bytes = await dump(bin, administratorUrl(port, password, DATABASE), file);
    const contents = await asAdministrator(port, password, DATABASE, contentsOf);
    say(`saved in ${file} (${megabytes(bytes)}): ${contents ? contentsText(contents) : 'an empty database'}.${running ? ' Omaggio ran on meanwhile.' : ''}`);
  });
});
process.exit();
