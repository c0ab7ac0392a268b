/** A database of its own for a test file, on the server that bin/test started, with the migrations run. */
import { execFileSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import path from 'node:path';
import { ownerOf, type Access } from '../../server/access';
import { closePool, pool } from '../../server/db';
import { stopWorkers } from '../../server/workers';

export const prepare = (url: string, demo: 'people' | 'all' = 'people'): string =>
  execFileSync(process.execPath, [path.join('.next', 'tools', 'prepare.mjs')], {
    encoding: 'utf8',
    env: { ...process.env, DATABASE_URL: url, OMAGGIO_DEMO: demo },
  });

export function freshUrl(): string {
  const base = process.env.DATABASE_URL;
  if (!base) throw new Error('DATABASE_URL is not set: run bin/test, which starts a server for these tests');
  const url = new URL(base);
  url.pathname = `/test_${randomBytes(6).toString('hex')}`;
  return url.href;
}

export async function openDatabase(): Promise<Access> {
  const url = freshUrl();
  prepare(url);
  process.env.DATABASE_URL = url;
  const { rows } = await pool().query<{ id: string }>('SELECT id FROM studios');
  return ownerOf(rows[0]!.id);
}

export async function closeDatabase(): Promise<void> {
  await closePool();
  await stopWorkers();
}
