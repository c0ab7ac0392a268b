/** A database as one file and back, by PostgreSQL's own commands. */
import { spawn } from 'node:child_process';
import { chmodSync, closeSync, fsyncSync, openSync, renameSync, rmSync, statSync } from 'node:fs';
import path from 'node:path';
import { Trouble } from './trouble';

/** Address and secret of a database, so that the secret stands in no list of processes. */
function environmentFor(url: string): NodeJS.ProcessEnv {
  const { hostname, port, username, password, pathname } = new URL(url);
  return {
    ...process.env,
    PGHOST: hostname,
    PGPORT: port || '5432',
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: decodeURIComponent(pathname.slice(1)),
    PGCONNECT_TIMEOUT: '10',
  };
}

/** Runs one of PostgreSQL's commands; what it says on standard error comes back. */
export function pgCommand(bin: string, command: string, args: readonly string[], url: string): Promise<{ code: number | null; said: string; out: string }> {
  return new Promise((resolve, reject) => {
    const child = spawn(path.join(bin, command), args, { env: environmentFor(url), stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    let out = '';
    child.stdout.on('data', (chunk: Buffer) => (out += chunk));
    child.stderr.on('data', (chunk: Buffer) => (said += chunk));
    child.on('error', reject);
    child.on('exit', (code) => resolve({ code, said, out }));
  });
}

/** The database as it is at this moment, whoever writes meanwhile. The file is there whole or not at all. @returns its bytes */
export async function dump(bin: string, url: string, file: string): Promise<number> {
  const beside = `${file}.part`;
  const { code, said } = await pgCommand(bin, 'pg_dump', ['--format=custom', '--no-owner', '--no-privileges', `--file=${beside}`], url).catch(
    (error: Error) => ({
      code: -1,
      said: error.message,
    }),
  );
  if (code !== 0) {
    rmSync(beside, { force: true });
    throw new Trouble(`the backup ${file} could not be written.`, said.trim().split('\n').at(-1) ?? '', 'Make room, or name a file where you may write.');
  }
  const written = openSync(beside, 'r+');
  fsyncSync(written);
  closeSync(written);
  chmodSync(beside, 0o600);
  renameSync(beside, file);
  return statSync(file).size;
}
