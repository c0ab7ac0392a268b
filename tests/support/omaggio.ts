/** bin/start and the other commands in bin/, as tests and scripts run them: on folders and ports of their own. */
import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { readFileSync, readdirSync } from 'node:fs';
import { ask } from '../../tools/run/ask';
import { comeIn, type Inside } from './come-in';

/** Without what the surroundings say about databases and addresses. */
export function environment(more: Record<string, string | undefined> = {}): NodeJS.ProcessEnv {
  const { DATABASE_URL: _url, OMAGGIO_URL: _omaggio, OMAGGIO_DATA: _data, PORT: _port, ...rest } = process.env;
  return { ...rest, ...more } as NodeJS.ProcessEnv;
}

export const freePort = (): string =>
  execFileSync('node', ['-e', 'const s=require("net").createServer();s.listen(0,"127.0.0.1",()=>{console.log(s.address().port);s.close()})'], {
    encoding: 'utf8',
  }).trim();

export interface Started extends Inside {
  child: ChildProcess;
  printed(): string;
}

const running = new Set<ChildProcess>();

/** Starts it, waits for the line with the address, and comes in by the key in it. */
export function start(more: Record<string, string | undefined>): Promise<Started> {
  const child = spawn('bin/start', { env: environment(more), stdio: ['ignore', 'pipe', 'pipe'] });
  running.add(child);
  let text = '';
  let isIn: Promise<void> | undefined;
  return new Promise((resolve, reject) => {
    const read = (chunk: Buffer) => {
      text += chunk;
      const address = /ready: (http:\/\/\S+)\n/.exec(text)?.[1];
      if (address && !isIn) isIn = comeIn(address).then((inside) => resolve({ child, ...inside, printed: () => text }), reject);
    };
    child.stdout!.on('data', read);
    child.stderr!.on('data', read);
    child.on('exit', (code, signal) => {
      running.delete(child);
      reject(new Error(`bin/start ended with ${code ?? signal}: ${text}`));
    });
  });
}

export function stop({ child }: Pick<Started, 'child'>, signal: NodeJS.Signals): Promise<number | null> {
  return new Promise((resolve) => {
    if (child.exitCode !== null || child.signalCode !== null) return resolve(child.exitCode);
    child.removeAllListeners('exit');
    child.on('exit', (code) => {
      running.delete(child);
      resolve(code);
    });
    child.kill(signal);
  });
}

export const stopAll = (): void => running.forEach((child) => child.kill('SIGKILL'));

const workers: ChildProcess[] = [];

/** A worker for the queue of the database that a test file has opened; killed with `killWorkers`. */
export function startWorker(): ChildProcess {
  const worker = spawn('node', ['.next/tools/work.mjs'], {
    env: environment({ DATABASE_URL: process.env.DATABASE_URL, OMAGGIO_SLOWNESS: '20' }),
    stdio: 'inherit',
  });
  workers.push(worker);
  return worker;
}

export const killWorkers = (): void => workers.splice(0).forEach((worker) => worker.kill('SIGKILL'));

/** A command in bin/ to its end. */
export function command(name: string, args: readonly string[], more: Record<string, string | undefined>): { status: number | null; text: string } {
  const { status, stdout, stderr } = spawnSync(`bin/${name}`, args, { env: environment(more), encoding: 'utf8' });
  return { status, text: stdout + stderr };
}

/** Processes of one Omaggio, by what they are and by the parent that started them. */
export function processesOf({ child }: Pick<Started, 'child'>): { server: number[]; database: number[]; worker: number[] } {
  const children = readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((name) => {
      try {
        const parent = Number(/^PPid:\s*(\d+)/m.exec(readFileSync(`/proc/${name}/status`, 'utf8'))?.[1]);
        return parent === child.pid ? [{ pid: Number(name), line: readFileSync(`/proc/${name}/cmdline`, 'utf8') }] : [];
      } catch {
        return [];
      }
    });
  const of = (part: string) => children.filter(({ line }) => line.includes(part)).map(({ pid }) => pid);
  return { server: of('serve.mjs'), database: of('/postgres\0'), worker: of('work.mjs') };
}

export const isAlive = (pid: number): boolean => {
  try {
    return !/^State:\s*Z/m.test(readFileSync(`/proc/${pid}/status`, 'utf8'));
  } catch {
    return false;
  }
};

export async function until(what: string, true_: () => boolean | Promise<boolean>, ms = 600_000): Promise<void> {
  for (const end = Date.now() + ms; Date.now() < end; await new Promise((resolve) => setTimeout(resolve, 100))) if (await true_()) return;
  throw new Error(`waited ${ms} ms in vain: ${what}`);
}

export const answers = async (url: string): Promise<boolean> => (await ask(`${url}/api/health`, { within: 10_000 }).catch(() => null))?.ok ?? false;
