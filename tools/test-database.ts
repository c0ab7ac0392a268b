/** A database server for tests, in a folder of its own: prints the administrator's address and runs until it is ended. */
import { administratorUrl, freePort, makeCluster, passwordOf, startCluster, stopCluster } from './run/cluster';
import { dataFolder, openFolder, openLog, takeLock } from './run/data-folder';
import { run, say } from './run/trouble';

await run(async () => {
  const data = dataFolder(process.cwd());
  openFolder(data);
  await takeLock(data);
  makeCluster(data);
  const database = await startCluster(data, await freePort(), openLog(data, 'database'));
  say(administratorUrl(database.port, passwordOf(data), 'omaggio'));
  await new Promise((resolve) => {
    process.on('SIGTERM', resolve);
    process.on('SIGINT', resolve);
  });
  await stopCluster(database);
});
process.exit();
