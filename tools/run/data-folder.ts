/**
 * The folder of the data: who may use it, and where things lie in it.
 *
 *     lock            held while somebody works with the folder
 *     running.json    address and ports of the Omaggio that runs
 *     password        of the database's administrator, for the commands in bin/
 *     pg/             the database cluster
 *     backups/        what was saved before the database was changed in kind
 *     log/            what server and database said
 */
import { spawn } from 'node:child_process';
import { accessSync, chmodSync, constants, existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { z } from 'zod';
import { Log } from './log';
import { Trouble } from './trouble';

const runningShape = z.object({ pid: z.int(), url: z.string().nullable(), databasePort: z.int().nullable(), since: z.string() });
export type Running = z.infer<typeof runningShape>;

export interface DataFolder {
  path: string;
  cluster: string;
  password: string;
  backups: string;
  log: string;
  lock: string;
  running: string;
}

export function dataFolder(root: string): DataFolder {
  const folder = path.resolve(root, process.env.OMAGGIO_DATA ?? path.join('.omaggio', 'data'));
  const at = (name: string) => path.join(folder, name);
  return { path: folder, cluster: at('pg'), password: at('password'), backups: at('backups'), log: at('log'), lock: at('lock'), running: at('running.json') };
}

const OTHER_FOLDER = 'Set OMAGGIO_DATA to a folder where you may write.';

/** Makes what is missing and makes sure that we may write there. */
export function openFolder(data: DataFolder): void {
  const deeper = path.join(data.path, 'log');
  try {
    makeFolder(deeper);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === 'ENOSPC') throw new Trouble(`the disk is full: the data folder ${data.path} cannot be made.`, 'Make room, then start again.');
    throw new Trouble(`the data folder ${data.path} cannot be made (${code}).`, OTHER_FOLDER);
  }
  mayWrite(data.path);
  mayWrite(deeper);
  if (!existsSync(data.backups)) mkdirSync(data.backups, { mode: 0o700 });
}

/** One folder after the other: where a file system makes none, Node's own way of making several at once never ends. */
function makeFolder(folder: string): void {
  if (existsSync(folder)) return;
  makeFolder(path.dirname(folder));
  mkdirSync(folder);
}

function mayWrite(folder: string): void {
  try {
    accessSync(folder, constants.W_OK | constants.X_OK);
    // Root may write anywhere except on a file system that is read-only: only trying tells.
    const probe = path.join(folder, `.probe-${process.pid}`);
    writeFileSync(probe, 'x');
    rmSync(probe);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === 'ENOSPC') throw new Trouble(`the disk is full: nothing can be written to ${folder}.`, 'Make room, then start again. What is stored is safe.');
    throw new Trouble(`the data folder ${folder} cannot be written to (${code}).`, OTHER_FOLDER);
  }
}

export interface Lock {
  release(): Promise<void>;
}

/**
 * Takes the folder for this process. The lock is the kernel's (flock), held by a helper that ends with us however we end: a lock
 * file that lies there says nothing, and no number of a process is trusted.
 */
export async function takeLock(data: DataFolder): Promise<Lock> {
  const helper = spawn('flock', ['--nonblock', '--close', '--conflict-exit-code', '75', data.lock, 'cat'], {
    stdio: ['pipe', 'pipe', 'ignore'],
    detached: true,
  });
  const held = await new Promise<boolean>((resolve, reject) => {
    helper.on('error', () => reject(new Trouble('the command flock is missing.', 'An administrator must run: apt-get install util-linux')));
    helper.on('exit', (code) => (code === 75 ? resolve(false) : reject(new Trouble(`the lock ${data.lock} cannot be taken.`, OTHER_FOLDER))));
    helper.stdout.once('data', () => resolve(true));
    helper.stdin.on('error', () => undefined);
    helper.stdin.write('held\n');
  });
  if (!held) throw inUse(data);
  helper.removeAllListeners('exit');
  const gone = new Promise<void>((resolve) => helper.on('exit', () => resolve()));
  // The helper alone does not keep us alive.
  helper.unref();
  (helper.stdin as unknown as { unref?(): void }).unref?.();
  (helper.stdout as unknown as { unref?(): void }).unref?.();
  return {
    release: async () => {
      helper.ref();
      helper.stdin.end();
      await gone;
    },
  };
}

function inUse(data: DataFolder): Trouble {
  const running = readRunning(data);
  const where = running?.url
    ? `Omaggio runs already at ${running.url} (process ${running.pid}).`
    : 'Omaggio is being started there, or one of its commands works with it.';
  return new Trouble(`the data in ${data.path} is in use. ${where}`, 'Use that one, stop it with Ctrl-C, or set OMAGGIO_DATA to another folder.');
}

/** What runs with this folder, if somebody holds its lock. */
export function readRunning(data: DataFolder): Running | null {
  try {
    const parsed = runningShape.safeParse(JSON.parse(readFileSync(data.running, 'utf8')));
    return parsed.success ? parsed.data : null;
  } catch {
    return null;
  }
}

/** Written whole or not at all, readable by us alone. */
export function writePrivate(file: string, text: string): void {
  const beside = `${file}.new`;
  writeFileSync(beside, text, { mode: 0o600 });
  chmodSync(beside, 0o600);
  renameSync(beside, file);
}

export const writeRunning = (data: DataFolder, running: Running): void => writePrivate(data.running, JSON.stringify(running));
export const clearRunning = (data: DataFolder): void => rmSync(data.running, { force: true });

export const openLog = (data: DataFolder, name: string): Log => new Log(data.log, name);
