/** Data folders of their own for tests that start Omaggio; they go with everything in them once the tests of a file are done. */
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import pg from 'pg';
import type { Inside } from './come-in';
import { freePort, stopAll } from './omaggio';

const folders: string[] = [];
afterAll(() => {
  stopAll();
  folders.forEach((folder) => rmSync(folder, { recursive: true, force: true }));
});

export function newFolder(): string {
  const folder = mkdtempSync(path.join(tmpdir(), 'omaggio-start-'));
  folders.push(folder);
  return path.join(folder, 'data');
}

/** As the browser that was let in gets it. */
export const got = ({ url, cookie }: Inside, address: string, init: RequestInit = {}): Promise<Response> =>
  fetch(`${url}${address}`, { ...init, headers: { ...init.headers, cookie } });

export const shelfOf = async (inside: Inside) => (await got(inside, '/')).text();

/** A first start without music, which is quick. */
export const people = (data: string, more: Record<string, string> = {}) => ({ OMAGGIO_DATA: data, PORT: freePort(), OMAGGIO_DEMO: 'people', ...more });

/** The address of the database as its owner has it, without its name. */
export const administrator = (data: string) => {
  const { databasePort } = JSON.parse(readFileSync(path.join(data, 'running.json'), 'utf8')) as { databasePort: number };
  return `postgres://omaggio:${readFileSync(path.join(data, 'password'), 'utf8')}@127.0.0.1:${databasePort}`;
};

export async function asked<T extends object>(url: string, sql: string): Promise<T[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query<T>(sql)).rows;
  } finally {
    await client.end();
  }
}
