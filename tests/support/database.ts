/**
 * A database of its own for a test file, on the server that bin/test started, with the migrations run. The tests use it as the
 * application does, through a role that row security binds; `everything` sees it as its administrator.
 */
import { execFileSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import path from 'node:path';
import pg from 'pg';
import { accessOf, type Access } from '../../server/access';
import { closePool } from '../../server/db';
import { byKey, type Entry } from '../../server/doors/come-in';
import { closeQueue } from '../../server/jobs/queue';
import { closeChannel } from '../../server/live/channel';
import { stopWorkers } from '../../server/workers';
import { grantRows } from '../../tools/run/roles';
import { makeKey } from '../../tools/run/key';

export const prepare = (url: string, demo: 'people' | 'all' = 'people'): string =>
  execFileSync(process.execPath, [path.join('.next', 'tools', 'prepare.mjs')], {
    encoding: 'utf8',
    env: { ...process.env, DATABASE_URL: url, OMAGGIO_DEMO: demo },
  });

const base = process.env.DATABASE_URL;

export function freshUrl(): string {
  if (!base) throw new Error('DATABASE_URL is not set: run bin/test, which starts a server for these tests');
  const url = new URL(base);
  url.pathname = `/test_${randomBytes(6).toString('hex')}`;
  return url.href;
}

/** As the administrator sees it. */
export let everything: pg.Pool;
let token = '';

/** Of the browser that was let in as the owner. */
export const ownersToken = (): string => token;

/** @returns the owner, as whom a browser was let in */
export async function openDatabase(demo: 'people' | 'all' = 'people'): Promise<Access> {
  const url = freshUrl();
  prepare(url, demo);
  everything = new pg.Pool({ connectionString: url, max: 2 });
  process.env.DATABASE_URL = await asApplication(url);
  token = await newToken();
  return (await accessOf(token))!;
}

/** Lets a browser in as the owner of the first studio. */
const newToken = async (): Promise<string> => tokenBy(byKey((await makeKey(everything))!, { address: 'tests', agent: '' }));

/** What the cookie of a browser that was let in says. */
export async function tokenBy(entry: Promise<Entry>): Promise<string> {
  const entered = await entry;
  if ('why' in entered) throw new Error(entered.why);
  return entered.token;
}

/** The address with the role that reads and writes rows. */
async function asApplication(url: string): Promise<string> {
  const secret = 'of-the-tests';
  await everything.query(`DO $$ BEGIN CREATE ROLE omaggio_app LOGIN NOBYPASSRLS PASSWORD '${secret}'; EXCEPTION WHEN duplicate_object THEN NULL; END $$`);
  await grantRows(everything);
  const app = new URL(url);
  app.username = 'omaggio_app';
  app.password = secret;
  return app.href;
}

/** A request of the browser that was let in, or of another one. */
export function asked(address: string, init: RequestInit = {}, of: string | null = token): Request {
  const headers = new Headers(init.headers);
  if (of !== null) headers.set('cookie', `session=${of}`);
  return new Request(address, { ...init, headers });
}

export async function closeDatabase(): Promise<void> {
  await closeChannel();
  await closeQueue();
  await closePool();
  await everything?.end();
  await stopWorkers();
}
