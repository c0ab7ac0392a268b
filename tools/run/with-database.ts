/** The database of the data folder for a command in bin/: the one that runs, or one started for as long as the command takes. */
import { commandsFor, freePort, makeCluster, mendRights, passwordOf, startCluster, stopCluster, versionOf } from './cluster';
import { openFolder, openLog, readRunning, takeLock, type DataFolder, type Lock } from './data-folder';
import { Trouble } from './trouble';

export interface OpenDatabase {
  port: number;
  password: string;
  /** Folder of PostgreSQL's commands. */
  bin: string;
  /** Omaggio runs with it at this moment. */
  running: boolean;
}

/** Works with the database whether Omaggio runs or not. */
export async function withDatabase<T>(data: DataFolder, work: (database: OpenDatabase) => Promise<T>): Promise<T> {
  if (versionOf(data) === null)
    throw new Trouble(`there are no data in ${data.path}.`, 'Set OMAGGIO_DATA to the folder of the data, or make them with bin/start.');
  openFolder(data);
  const lock = await takeLock(data).catch((error: unknown) => error as Trouble);
  if (!(lock instanceof Error)) return startedFor(data, lock, work);
  const port = readRunning(data)?.databasePort;
  if (!port) throw lock;
  return work({ port, password: passwordOf(data), bin: commandsFor(data), running: true });
}

/** Works with the database alone; Omaggio must not run. The cluster is made where there is none. */
export async function aloneWithDatabase<T>(data: DataFolder, work: (database: OpenDatabase) => Promise<T>): Promise<T> {
  openFolder(data);
  const lock = await takeLock(data);
  try {
    makeCluster(data);
  } catch (error) {
    await lock.release();
    throw error;
  }
  return startedFor(data, lock, work);
}

async function startedFor<T>(data: DataFolder, lock: Lock, work: (database: OpenDatabase) => Promise<T>): Promise<T> {
  const log = openLog(data, 'database');
  try {
    mendRights(data);
    const database = await startCluster(data, await freePort(), log);
    try {
      return await work({ port: database.port, password: passwordOf(data), bin: commandsFor(data), running: false });
    } finally {
      await stopCluster(database);
    }
  } finally {
    await lock.release();
    log.end();
  }
}
