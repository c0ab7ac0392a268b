/** bin/start as a person uses it: twice, with wrong settings, and stopped. The build is there already. */
import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, chmodSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

jest.setTimeout(120_000);
const data = mkdtempSync(path.join(tmpdir(), 'omaggio-start-'));
chmodSync(data, 0o755);
const running: ChildProcess[] = [];
afterAll(() => {
  running.forEach((child) => child.kill('SIGTERM'));
  rmSync(data, { recursive: true, force: true });
});

const environment = (more: Record<string, string | undefined> = {}): NodeJS.ProcessEnv => {
  const { DATABASE_URL: _url, OMAGGIO_URL: _omaggio, ...rest } = process.env;
  return { ...rest, OMAGGIO_DATA: data, ...more } as NodeJS.ProcessEnv;
};
const freePort = () =>
  execFileSync('node', ['-e', 'const s=require("net").createServer();s.listen(0,"127.0.0.1",()=>{console.log(s.address().port);s.close()})'], {
    encoding: 'utf8',
  }).trim();

/** Starts it and waits for the line with the address. */
function start(more: Record<string, string | undefined> = {}): Promise<{ child: ChildProcess; url: string; printed: () => string }> {
  const child = spawn('bin/start', { env: environment(more), stdio: ['ignore', 'pipe', 'pipe'] });
  running.push(child);
  let text = '';
  return new Promise((resolve, reject) => {
    const read = (chunk: Buffer) => {
      text += chunk;
      const url = /ready: (http:\/\/\S+)/.exec(text)?.[1];
      if (url) resolve({ child, url, printed: () => text });
    };
    child.stdout!.on('data', read);
    child.stderr!.on('data', read);
    child.on('exit', (code) => reject(new Error(`bin/start ended with ${code}: ${text}`)));
  });
}
const stop = (child: ChildProcess, signal: NodeJS.Signals) =>
  new Promise<number | null>((resolve) => {
    child.removeAllListeners('exit');
    child.on('exit', (code) => resolve(code));
    child.kill(signal);
  });

test('a first start makes the data, a second one keeps them, and each stops all it started', async () => {
  const port = freePort();
  const first = await start({ PORT: port });
  expect(first.url).toBe(`http://127.0.0.1:${port}`);
  expect(first.printed()).toContain('demo: loaded');
  const shelf = await (await fetch(first.url)).text();
  expect(shelf).toContain('Mill Race Serenade');
  const desk = /\/desk\/[0-9a-f-]+/.exec(shelf)![0];

  const meanwhile = spawnSync('bin/start', { env: environment({ PORT: freePort() }), encoding: 'utf8' });
  expect([meanwhile.status, meanwhile.stderr]).toEqual([1, expect.stringMatching(/in use: Omaggio runs already[\s\S]*OMAGGIO_DATA/)]);

  expect(await stop(first.child, 'SIGINT')).toBe(130);
  await expect(fetch(first.url)).rejects.toThrow();
  expect(existsSync(path.join(data, 'pg', 'postmaster.pid'))).toBe(false);

  const second = await start({ PORT: port });
  expect(second.printed()).not.toContain('demo: loaded');
  expect((await fetch(`${second.url}${desk}`)).status).toBe(200);
  expect(await stop(second.child, 'SIGTERM')).toBe(143);
  expect(existsSync(path.join(data, 'pg', 'postmaster.pid'))).toBe(false);
});

test.each([
  ['a port that is none', { PORT: 'http' }, /PORT is "http"[\s\S]*1 to 65535/],
  ['a database that does not answer', { DATABASE_URL: 'postgres://nobody:x@127.0.0.1:9/none' }, /could not be prepared[\s\S]*Check that DATABASE_URL/],
  ['a data folder that cannot be made', { OMAGGIO_DATA: '/dev/null/data' }, /cannot be made[\s\S]*OMAGGIO_DATA/],
])('%s: it says what to do', (_, more, message) => {
  const { status, stdout, stderr } = spawnSync('bin/start', { env: environment(more), encoding: 'utf8' });
  expect(status).toBe(1);
  expect(stdout + stderr).toMatch(message);
});

test('with DATABASE_URL it uses that server and starts none', async () => {
  const own = mkdtempSync(path.join(tmpdir(), 'omaggio-none-'));
  const url = new URL(process.env.DATABASE_URL!);
  url.pathname = '/started_with_url';
  const { child, url: address } = await start({ DATABASE_URL: url.href, OMAGGIO_DATA: own, PORT: freePort() });
  expect(await (await fetch(`${address}/api/health`)).json()).toEqual({ ok: true });
  expect(existsSync(path.join(own, 'pg'))).toBe(false);
  await stop(child, 'SIGTERM');
  rmSync(own, { recursive: true });
});
