/** Omaggio running: its database and its server watched, started again when they end, stopped within ten seconds. */
import { randomUUID } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { ask } from './ask';
import { endChild, runChild, startChild, type Child, type RunningChild } from './child';
import { commandsFor, DATABASE, freePort, isPortFree, makeCluster, mendRights, passwordOf, startCluster, stopCluster, type Database } from './cluster';
import { asAdministrator, ensureRoles, grantRows } from './roles';
import { clearRunning, dataFolder, openFolder, openLog, takeLock, writeRunning, type DataFolder } from './data-folder';
import { makeKey, makeKeyAt } from './key';
import { say, Trouble, wait } from './trouble';

const FIRST_PORT = 3000;
/** Heap of the server's main thread; what is large goes through worker threads and buffers. Measured under load: it needs about 200. */
const SERVER_HEAP_MB = 768;
/** Pauses between attempts to start again what ended, in ms; the last one goes on for ever. */
const PAUSES = [200, 1_000, 2_000, 5_000, 10_000, 30_000];
/** Who ran this long counts as having started well. */
const WELL_MS = 60_000;
/** A server that runs but does not answer is given up after this: a machine may be slow, or busy with other work. */
const ANSWERS_WITHIN_MS = 600_000;
/** How often it is said that the server is still being started. */
const PATIENCE_MS = 30_000;
/** Lines of its log that are shown when the server does not start. */
const LAST_LINES = 10;

export class Omaggio {
  private database: Database | null = null;
  private server: Child | null = null;
  private worker: Child | null = null;
  private preparing: RunningChild | null = null;
  private stopping = false;
  private readonly data: DataFolder;
  private release: () => Promise<void> = async () => undefined;
  private readonly serverLog;
  private readonly databaseLog;

  constructor(private readonly root: string) {
    this.data = dataFolder(root);
    openFolder(this.data);
    this.serverLog = openLog(this.data, 'server');
    this.databaseLog = openLog(this.data, 'database');
  }

  /** Starts everything. @returns the address, with a key that lets one browser in */
  async start(wantedPort: number | null): Promise<string> {
    const own = process.env.DATABASE_URL === undefined;
    if (wantedPort !== null && !(await isPortFree(wantedPort))) throw inUse(wantedPort);
    if (own) {
      const lock = await takeLock(this.data);
      this.release = lock.release;
      clearRunning(this.data);
      if (this.stopping) return '';
      mendRights(this.data);
      makeCluster(this.data);
      this.database = await startCluster(this.data, await freePort(), this.databaseLog);
    }
    if (this.stopping) return '';
    const appUrl = await this.prepare();
    if (this.stopping) return '';
    const port = wantedPort ?? (await this.serveSomewhere(appUrl));
    if (wantedPort !== null) await this.serve(port, appUrl);
    const url = `http://127.0.0.1:${port}`;
    if (own) writeRunning(this.data, { pid: process.pid, url, databasePort: this.database!.port, since: new Date().toISOString() });
    const key = await this.newKey();
    if (this.database) void this.watchDatabase();
    this.startWorker(appUrl);
    void this.watchServer(port, appUrl);
    void this.watchWorker(appUrl);
    return `${process.env.OMAGGIO_ORIGIN ?? url}/key/${key}`;
  }

  private async newKey(): Promise<string | null> {
    if (!this.database) return makeKeyAt(process.env.DATABASE_URL!);
    return asAdministrator(this.database.port, passwordOf(this.data), DATABASE, makeKey);
  }

  /** Serves on the first free port; another program may take it while the server starts. @returns the port */
  private async serveSomewhere(appUrl: string): Promise<number> {
    for (let attempts = 1; ; attempts++) {
      const port = await firstFreePort();
      try {
        await this.serve(port, appUrl);
        return port;
      } catch (error) {
        if (attempts === 5 || this.stopping || (await isPortFree(port))) throw error;
      }
    }
  }

  /** Migrates and fills the database; the address that the application gets. */
  private async prepare(): Promise<string> {
    const { database } = this;
    if (!database) {
      await this.runPrepare({ DATABASE_URL: process.env.DATABASE_URL! });
      return process.env.DATABASE_URL!;
    }
    const password = passwordOf(this.data);
    const urls = await ensureRoles(database.port, password);
    await this.runPrepare({
      DATABASE_URL: urls.owner,
      OMAGGIO_OWN_DATABASE: 'yes',
      OMAGGIO_BACKUPS: this.data.backups,
      OMAGGIO_POSTGRES: commandsFor(this.data),
    });
    if (!this.stopping) await asAdministrator(database.port, password, DATABASE, grantRows);
    return urls.app;
  }

  private async runPrepare(env: Record<string, string>): Promise<void> {
    this.preparing = runChild(process.execPath, [path.join('.next', 'tools', 'prepare.mjs')], {
      cwd: this.root,
      env: { ...process.env, NODE_ENV: 'production', ...env },
    });
    const status = await this.preparing.ended;
    this.preparing = null;
    if (status !== 0 && !this.stopping) throw new Trouble('nothing was started.', 'What is wrong is said above.');
  }

  private async serve(port: number, appUrl: string): Promise<void> {
    const run = randomUUID();
    this.server = startChild(process.execPath, [`--max-old-space-size=${SERVER_HEAP_MB}`, path.join('.next', 'tools', 'serve.mjs')], {
      cwd: this.root,
      env: {
        ...process.env,
        NODE_ENV: 'production',
        NEXT_TELEMETRY_DISABLED: '1',
        MALLOC_ARENA_MAX: '2',
        PORT: String(port),
        OMAGGIO_RUN: run,
        DATABASE_URL: appUrl,
        ...(this.database ? { OMAGGIO_DATA_FOLDER: this.data.path } : {}),
      },
      log: this.serverLog,
      whenWeDie: 'TERM',
    });
    const since = Date.now();
    for (let told = since; Date.now() - since < ANSWERS_WITHIN_MS && this.server.isRunning(); await wait(100)) {
      if ((await runAt(port)) === run) return;
      if (Date.now() - told < PATIENCE_MS) continue;
      told = Date.now();
      say(`omaggio: the server is being started; ${Math.round((told - since) / 1000)} seconds so far.`);
    }
    await endChild(this.server, [['SIGKILL', 1_000]]);
    const log = path.join(this.data.log, 'server.log');
    throw new Trouble('the server did not start.', ...lastLines(log), `The log is ${log}.`);
  }

  /** What does the heavy work that nobody waits for on a page. */
  private startWorker(appUrl: string): void {
    this.worker = startChild(process.execPath, [`--max-old-space-size=${SERVER_HEAP_MB}`, path.join('.next', 'tools', 'work.mjs')], {
      cwd: this.root,
      env: { ...process.env, NODE_ENV: 'production', MALLOC_ARENA_MAX: '2', DATABASE_URL: appUrl },
      log: this.serverLog,
      whenWeDie: 'TERM',
    });
  }

  private async watchWorker(appUrl: string): Promise<void> {
    await this.watch(
      'the worker',
      () => this.worker!,
      async () => this.startWorker(appUrl),
    );
  }

  private async watchDatabase(): Promise<void> {
    await this.watch(
      'the database',
      () => this.database!.child,
      async () => {
        this.database = await startCluster(this.data, this.database!.port, this.databaseLog);
      },
    );
  }

  private async watchServer(port: number, appUrl: string): Promise<void> {
    await this.watch(
      'the server',
      () => this.server!,
      () => this.serve(port, appUrl),
    );
  }

  /** Waits until a child ends, then starts it again, with growing pauses while that does not go well. */
  private async watch(name: string, child: () => Child, again: () => Promise<void>): Promise<void> {
    for (let failures = 0; ;) {
      const since = Date.now();
      const how = await child().ended;
      if (this.stopping) return;
      if (Date.now() - since > WELL_MS) failures = 0;
      say(`omaggio: ${name} ended (${how}); it is started again. What was saved is safe.`);
      for (let started = false; !started;) {
        await wait(PAUSES[Math.min(failures++, PAUSES.length - 1)]!);
        if (this.stopping) return;
        try {
          await again();
          started = true;
          say(`omaggio: ${name} runs again.`);
        } catch (error) {
          if (error instanceof Trouble) say(`omaggio: ${error.message} ${error.remedies.join(' ')} It is tried again.`);
          else console.error(error);
        }
      }
    }
  }

  /** Stops the server, then the database; each is ended the hard way where it takes too long. */
  async stop(): Promise<void> {
    this.stopping = true;
    this.preparing?.end();
    const gently: Parameters<typeof endChild>[1] = [
      ['SIGTERM', 3_000],
      ['SIGKILL', 1_000],
    ];
    await Promise.all([this.server, this.worker].flatMap((child) => (child ? [endChild(child, gently)] : [])));
    if (this.database) await stopCluster(this.database);
    clearRunning(this.data);
    await this.release();
    this.serverLog.end();
    this.databaseLog.end();
  }
}

const inUse = (port: number): Trouble => new Trouble(`port ${port} is in use.`, 'Set PORT to another one.');

/** Which run answers there that all is well: another program may hold the port, another Omaggio even. */
async function runAt(port: number): Promise<string | null> {
  try {
    const { ok, text } = await ask(`http://127.0.0.1:${port}/api/health`, { within: 10_000 });
    return ok ? (JSON.parse(text) as { run: string }).run : null;
  } catch {
    return null;
  }
}

async function firstFreePort(): Promise<number> {
  for (let port = FIRST_PORT; port < FIRST_PORT + 500; port++) if (await isPortFree(port)) return port;
  return freePort();
}

function lastLines(file: string): string[] {
  if (!existsSync(file)) return [];
  return readFileSync(file, 'utf8').trimEnd().split('\n').slice(-LAST_LINES);
}
