/** The doors of an Omaggio that bin/start has started: what comes in, who comes in, and what goes out. */
import { spawn } from 'node:child_process';
import { connect } from 'node:net';
import { got, newFolder, people, shelfOf } from '../support/data-folders';
import { command, environment, start, stop, until } from '../support/omaggio';

const TUNE = 'X:1\nT:Somebody else\nM:4/4\nL:1/4\nK:D\nV:1 name="Violin"\nD E F G |]\n';

test('what is no page is refused before it is one, and what is not ours does not come in', async () => {
  const running = await start(people(newFolder()));
  const port = Number(new URL(running.url).port);
  const raw = (text: string) =>
    new Promise<string>((resolve) => {
      const socket = connect(port, '127.0.0.1');
      let answer = '';
      socket.on('data', (chunk) => (answer += String(chunk)));
      socket.on('close', () => resolve(answer));
      socket.on('error', () => resolve(answer));
      socket.write(text);
      setTimeout(() => socket.destroy(), 3_000);
    });
  expect(await raw('TRACE / HTTP/1.1\r\nhost: x\r\n\r\n')).toMatch(/^HTTP\/1\.1 405/);
  const statusOf = async (url: string, options: RequestInit = {}) => (await got(running, url, options)).status;
  expect(await statusOf('/desk/not-an-id')).toBe(404);
  expect(await statusOf('/desk/%00')).toBe(404);
  expect(await statusOf('/api/parts/not-an-id/music')).toBe(404);
  expect(await statusOf('/api/players/not-an-id', { method: 'PUT', body: '{}' })).toBe(404);
  expect(await statusOf('/api/markings/not-an-id/changes', { method: 'POST', body: '[]' })).toBe(404);
  expect(await statusOf('/?find=%00%F0%9F&page=1e99')).toBe(200);
  expect(await statusOf('/api/pieces?name=%00', { method: 'POST', body: 'x' })).toBe(422);

  // Under another's name, or from a page of another port, nothing is read and nothing is written; and it is said what to do.
  expect(await raw(`GET / HTTP/1.1\r\nhost: rebound.example.com:${port}\r\n\r\n`)).toMatch(/^HTTP\/1\.1 421[\s\S]*OMAGGIO_ORIGIN/);
  const sent = (name: string, headers: Record<string, string>) => statusOf(`/api/pieces?name=${name}.abc`, { method: 'POST', body: TUNE, headers });
  expect(await sent('foreign', { origin: 'http://127.0.0.1:1' })).toBe(403);
  expect(await sent('foreign', { origin: 'null' })).toBe(403);
  expect(await shelfOf(running)).not.toContain('Somebody else');
  expect(await sent('own', { origin: running.url })).toBe(201);
  const shelf = await shelfOf(running);
  expect(shelf).toContain('Somebody else');

  // What goes out runs nothing and is framed by nobody; a page runs what carries its nonce, another one each time.
  const policyOf = async (url: string) => (await got(running, url)).headers.get('content-security-policy')!;
  const desk = /\/desk\/([0-9a-f-]+)/.exec(shelf)!;
  const [first, second] = [await policyOf(desk[0]), await policyOf(desk[0])];
  expect(first).toMatch(/'nonce-[\w+/]{22}=='/);
  expect(second).not.toBe(first);
  const page = await (await got(running, desk[0])).text();
  expect(page.match(/<script(?![^>]* nonce=")[^>]*>/g)).toBeNull();
  const music = await got(running, `/api/parts/${desk[1]}/music`);
  expect(music.headers.get('content-security-policy')).toMatch(/sandbox$/);
  expect(music.headers.get('content-disposition')).toMatch(/^attachment/);
  for (const answer of [music, await fetch(running.url)])
    expect([answer.headers.get('x-content-type-options'), answer.headers.get('x-frame-options')]).toEqual(['nosniff', 'DENY']);
  await stop(running, 'SIGTERM');
});

test('at home the first browser is let in and told so; the next one needs a key, which bin/key or one that is in makes; a player’s link opens the Stand alone', async () => {
  const data = newFolder();
  const more = people(data);
  const child = spawn('bin/start', { env: environment(more), stdio: ['ignore', 'pipe', 'ignore'] });
  let printed = '';
  child.stdout.on('data', (chunk) => (printed += String(chunk)));
  await until('the address', () => /ready: (\S+)\n/.test(printed));
  const url = `http://127.0.0.1:${more.PORT}`;
  const visit = (address: string, cookie = '') => fetch(`${url}${address}`, { redirect: 'manual', headers: { cookie } });
  const cookieOf = (answer: Response) => answer.headers.get('set-cookie')?.split(';')[0] ?? '';
  const leadsTo = async (address: string, cookie = '') => (await visit(address, cookie)).headers.get('location');

  expect(await leadsTo('/desk/x?bars=3-4')).toBe('/enter?to=%2Fdesk%2Fx%3Fbars%3D3-4');
  expect(await leadsTo('/')).toBe('/enter');
  expect(await leadsTo('/enter')).toBe('/first');
  const entered = await visit('/first');
  expect([entered.headers.get('location'), entered.headers.get('set-cookie')]).toEqual([
    '/?first=yes',
    expect.stringMatching(new RegExp(`^session-${more.PORT}=[\\w-]{43}; Path=/; Max-Age=2592000; HttpOnly; SameSite=Lax$`)),
  ]);
  const owner = cookieOf(entered);
  expect(await (await visit('/?first=yes', owner)).text()).toContain('first browser here');

  // The next one, whatever it asks for.
  expect(await leadsTo('/first')).toBe('/enter?why=first');
  const words = await (await visit('/enter')).text();
  expect(words).toContain('This browser needs a key');
  expect(words).toContain('bin/key');
  expect((await visit('/api/studio/everything')).status).toBe(401);
  const [, made] = /(http:\S+)/.exec(command('key', [], { OMAGGIO_DATA: data }).text)!;
  expect(made!.startsWith(`${url}/key/`)).toBe(true);
  const key = made!.slice(url.length);
  expect((await fetch(made!, { method: 'HEAD' })).status).toBe(405);
  const second = cookieOf(await visit(key));
  expect((await visit('/studio', second)).status).toBe(200);
  expect(await leadsTo(key)).toBe('/enter?why=key');
  // The one that bin/start printed lets one in, too, and after that none.
  const first = /ready: http:\/\/[^/]+(\/key\/\S+)/.exec(printed)![1]!;
  expect(cookieOf(await visit(first))).not.toBe('');
  expect(await leadsTo(first)).toBe('/enter?why=key');

  const player = /"id\\":\\"([0-9a-f-]{36})\\",\\"name\\":\\"Ines/.exec(await (await visit('/players', owner)).text())![1]!;
  const told = await fetch(`${url}/api/players/${player}/link`, { method: 'POST', headers: { cookie: owner }, body: '{"days":null}' });
  const link = ((await told.json()) as { url: string }).url.slice(url.length);
  const opened = await visit(link);
  expect(opened.headers.get('location')).toBe('/stand');
  const ines = cookieOf(opened);
  expect(await (await visit('/stand', ines)).text()).toContain('Nothing has been handed out to you yet');
  for (const page of ['/', '/players', '/studio', '/desk/x', '/desk/x/check', '/desk/x/edition/y', '/score/x', '/score/x/rehearsal']) {
    expect([page, await leadsTo(page)]).toEqual([page, expect.stringMatching(/^\/enter/)]);
    expect([page, await leadsTo(page, ines)]).toEqual([page, '/stand']);
  }
  expect((await visit('/api/studio/everything', ines)).status).toBe(403);

  // What is counted is for this machine; every answer has the name that the log knows it by.
  expect(await (await visit('/metrics')).text()).toMatch(/omaggio_request_seconds_count\{method="GET",route="\/stand",status="200"\} \d/);
  expect((await fetch(`${url}/metrics`, { headers: { 'x-forwarded-for': '203.0.113.7' } })).status).toBe(403);
  expect((await visit('/api/health')).headers.get('x-request-id')).toMatch(/^[0-9a-f-]{36}$/);

  // Out is out.
  expect((await fetch(`${url}/api/session`, { method: 'DELETE', headers: { cookie: second } })).status).toBe(200);
  expect(await leadsTo('/studio', second)).toBe('/enter?to=%2Fstudio');
  await stop({ child }, 'SIGTERM');
});

test('served to others nobody is let in as the first; the cookie is for https alone', async () => {
  const more = { ...people(newFolder()), OMAGGIO_ORIGIN: 'https://music.example.org' };
  const child = spawn('bin/start', { env: environment(more), stdio: ['ignore', 'pipe', 'ignore'] });
  let printed = '';
  child.stdout.on('data', (chunk) => (printed += String(chunk)));
  await until('the address', () => /ready: (\S+)\n/.test(printed));
  const visit = (address: string) => fetch(`http://127.0.0.1:${more.PORT}${address}`, { redirect: 'manual' });
  expect((await visit('/first')).headers.get('location')).toBe('/enter?why=first');
  expect((await visit('/enter')).status).toBe(200);
  const key = /ready: https:\/\/music\.example\.org(\/key\/\S+)/.exec(printed)![1]!;
  expect((await visit(key)).headers.get('set-cookie')).toMatch(/; Secure$/);
  await stop({ child }, 'SIGTERM');
});
