/** Before all browser tests: one browser is let in, and all of them are this one. */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { comeIn } from '../support/come-in';
import { SESSION_FILE } from '../support/session-file';

export default async function setUp(): Promise<void> {
  const address = process.env.OMAGGIO_URL ?? 'http://127.0.0.1:3000';
  const { origin } = new URL(address);
  if (existsSync(SESSION_FILE)) {
    const kept = JSON.parse(readFileSync(SESSION_FILE, 'utf8')) as { cookies: Array<{ name: string; value: string }> };
    const cookie = kept.cookies.map(({ name, value }) => `${name}=${value}`).join('; ');
    if ((await fetch(`${origin}/players`, { headers: { cookie }, redirect: 'manual' })).status === 200) return;
  }
  const { cookie } = await comeIn(address);
  const [name, value] = cookie.split('=') as [string, string];
  mkdirSync(path.dirname(SESSION_FILE), { recursive: true });
  writeFileSync(
    SESSION_FILE,
    JSON.stringify({ cookies: [{ name, value, domain: '127.0.0.1', path: '/', expires: -1, httpOnly: true, secure: false, sameSite: 'Lax' }], origins: [] }),
    { mode: 0o600 },
  );
}
