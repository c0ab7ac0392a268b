/** Processes that end with us: started through `setpriv`, which asks the kernel for a signal to them should we be killed. */
import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import type { Writable } from 'node:stream';
import { wait } from './trouble';

export interface ChildOptions {
  env?: NodeJS.ProcessEnv;
  cwd?: string;
  /** Where its output goes. */
  log: Writable;
  /** Signal that ends it when we are gone. */
  whenWeDie: 'TERM' | 'INT';
  /** Becomes the child's file descriptor 3. */
  folder?: number;
  /** Runs it as this user; only root can. */
  user?: string;
}

export interface Child {
  process: ChildProcess;
  /** Resolves when it has ended, with what it ended by. */
  ended: Promise<string>;
  isRunning(): boolean;
}

/** Debian's util-linux has it; without it the child is found and ended at the next start. */
const SETPRIV = ['/usr/bin/setpriv', '/bin/setpriv'].find((file) => existsSync(file));

export function startChild(command: string, args: readonly string[], { env, cwd, log, whenWeDie, folder, user }: ChildOptions): Child {
  const as = user ? [`--reuid=${user}`, `--regid=${user}`, '--init-groups'] : [];
  const through = SETPRIV ? [SETPRIV, '--pdeathsig', whenWeDie, ...as, '--', command] : [command];
  const child = spawn(through[0]!, [...through.slice(1), ...args], {
    env: env ?? process.env,
    ...(cwd === undefined ? {} : { cwd }),
    stdio: ['ignore', 'pipe', 'pipe', ...(folder === undefined ? [] : [folder])],
    // Ctrl-C in a terminal goes to the whole group: who ends what, and in which order, is ours to say.
    detached: true,
  });
  child.stdout!.pipe(log, { end: false });
  child.stderr!.pipe(log, { end: false });
  let running = true;
  const ended = new Promise<string>((resolve) => {
    const over = (how: string) => {
      running = false;
      resolve(how);
    };
    child.on('exit', (code, signal) => over(signal ?? `code ${code}`));
    child.on('error', (error) => over(error.message));
  });
  return { process: child, ended, isRunning: () => running };
}

export interface RunningChild {
  /** Its exit code; null where a signal ended it. */
  ended: Promise<number | null>;
  end(): void;
}

/** Runs a command that talks to the terminal itself, to its end or to ours. */
export function runChild(command: string, args: readonly string[], { env, cwd }: Pick<ChildOptions, 'env' | 'cwd'>): RunningChild {
  const through = SETPRIV ? [SETPRIV, '--pdeathsig', 'TERM', '--', command] : [command];
  const child = spawn(through[0]!, [...through.slice(1), ...args], {
    env: env ?? process.env,
    ...(cwd === undefined ? {} : { cwd }),
    stdio: ['ignore', 'inherit', 'inherit'],
    detached: true,
  });
  const ended = new Promise<number | null>((resolve) => {
    child.on('exit', (code) => resolve(code));
    child.on('error', () => resolve(-1));
  });
  return { ended, end: () => void child.kill('SIGTERM') };
}

/** Ends a child by one signal after the other, each with its time. */
export async function endChild({ process: child, ended, isRunning }: Child, steps: ReadonlyArray<[signal: NodeJS.Signals, ms: number]>): Promise<void> {
  for (const [signal, ms] of steps) {
    if (!isRunning()) return;
    child.kill(signal);
    await Promise.race([ended, wait(ms)]);
  }
}
