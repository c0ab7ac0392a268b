/** bin/start as a person uses it: twice, at once, with wrong settings, killed, on damaged folders, and stopped. The build is there already. */
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import path from 'node:path';
import pg from 'pg';
import { administrator, asked, got, newFolder, people, shelfOf } from '../support/data-folders';
import { answers, command, environment, freePort, isAlive, processesOf, start, stop, until } from '../support/omaggio';

test('a first start makes the data, a second one keeps them, and each stops all it started within ten seconds, whatever clients do', async () => {
  const data = newFolder();
  const port = freePort();
  const first = await start({ OMAGGIO_DATA: data, PORT: port });
  expect(first.url).toBe(`http://127.0.0.1:${port}`);
  expect(first.printed()).toContain('demo: loaded');
  const shelf = await shelfOf(first);
  expect(shelf).toContain('Mill Race Serenade');
  const desk = /\/desk\/[0-9a-f-]+/.exec(shelf)![0];

  const meanwhile = command('start', [], { OMAGGIO_DATA: data, PORT: freePort() });
  expect([meanwhile.status, meanwhile.text]).toEqual([
    1,
    expect.stringMatching(/is in use\. Omaggio runs already at http:\/\/127\.0\.0\.1:\d+[\s\S]*OMAGGIO_DATA/),
  ]);
  expect(await shelfOf(first)).toContain('Mill Race Serenade');

  // One client asks on and on, one begins a request and never ends it.
  const slow = connect(Number(port), '127.0.0.1');
  slow.on('error', () => undefined);
  slow.write('POST /api/pieces?name=x HTTP/1.1\r\nhost: 127.0.0.1\r\ncontent-length: 100000\r\n\r\nslow');
  let asking = true;
  const busy = (async () => {
    while (asking) await got(first, desk).catch(() => new Promise((resolve) => setTimeout(resolve, 20)));
  })();
  const { server, database, worker } = processesOf(first);
  expect([server.length, database.length, worker.length]).toEqual([1, 1, 1]);
  const began = Date.now();
  expect(await stop(first, 'SIGINT')).toBe(130);
  // Ten seconds are what its own deadlines come to; a busy machine may add to them.
  expect(Date.now() - began).toBeLessThan(60_000);
  asking = false;
  await busy;
  slow.destroy();
  await expect(fetch(first.url)).rejects.toThrow();
  expect([...server, ...database, ...worker].filter(isAlive)).toEqual([]);
  expect(existsSync(path.join(data, 'pg', 'postmaster.pid'))).toBe(false);

  const second = await start({ OMAGGIO_DATA: data, PORT: port });
  expect(second.printed()).not.toContain('demo: loaded');
  expect((await got(second, desk)).status).toBe(200);
  expect(await stop(second, 'SIGTERM')).toBe(143);
  expect(readFileSync(path.join(data, 'log', 'server.log'), 'utf8').match(/ready on port/g)).toHaveLength(2);
});

test('a start that fails, or is killed in the middle, takes nothing away and leaves nothing half made', async () => {
  const data = newFolder();
  const killed = spawn('bin/start', { env: environment({ OMAGGIO_DATA: data, PORT: freePort() }), stdio: 'ignore' });
  await until('tables', () => existsSync(path.join(data, 'pg', 'postmaster.pid')));
  await new Promise((resolve) => setTimeout(resolve, 2_500));
  killed.kill('SIGKILL');
  const first = await start({ OMAGGIO_DATA: data, PORT: freePort() });
  const pieces = ['Mill Race Serenade', 'Staircase', 'Evening Barge', 'The Heron', 'Low Tide'];
  const shelf = await shelfOf(first);
  expect(pieces.filter((title) => !shelf.includes(title))).toEqual([]);
  // Somebody holds the lock of the demo; who waits for it is cancelled.
  const database = `${administrator(data)}/omaggio`;
  const holder = new pg.Client({ connectionString: database });
  await holder.connect();
  await holder.query('SELECT pg_advisory_lock(700411220), pg_advisory_lock(700411221)');
  const before = await asked(
    database,
    'SELECT (SELECT count(*)::int FROM pieces) AS pieces, (SELECT count(*)::int FROM marks) AS marks, (SELECT count(*)::int FROM players) AS players',
  );
  const waits = spawn('node', ['.next/tools/prepare.mjs'], { env: environment({ DATABASE_URL: database }), stdio: 'ignore' });
  const ended = new Promise((resolve) => waits.on('exit', resolve));
  await until(
    'it waits',
    async () => (await asked<{ n: number }>(database, "SELECT count(*)::int AS n FROM pg_stat_activity WHERE wait_event = 'advisory'"))[0]!.n > 0,
  );
  await asked(database, "SELECT pg_cancel_backend(pid) FROM pg_stat_activity WHERE wait_event = 'advisory'");
  expect(await ended).toBe(1);
  await holder.end();
  expect(before).toEqual([{ pieces: 6, marks: expect.any(Number), players: 6 }]);
  expect(
    await asked(
      database,
      'SELECT (SELECT count(*)::int FROM pieces) AS pieces, (SELECT count(*)::int FROM marks) AS marks, (SELECT count(*)::int FROM players) AS players',
    ),
  ).toEqual(before);
  await stop(first, 'SIGTERM');
});

test('two that are started at once find an address each', async () => {
  const two = await Promise.all([newFolder(), newFolder()].map((data) => start({ ...people(data), PORT: undefined })));
  const holders = two.map(({ url }) => new URL(url).port);
  expect(new Set(holders).size).toBe(2);
  for (const each of two) {
    expect(processesOf(each).server).toHaveLength(1);
    expect(await answers(each.url)).toBe(true);
  }
  // Each answers for itself: when one is stopped the other stays.
  await stop(two[0]!, 'SIGTERM');
  await expect(fetch(two[0]!.url)).rejects.toThrow();
  expect(await answers(two[1]!.url)).toBe(true);
  await stop(two[1]!, 'SIGTERM');
});

test('what ends by itself is started again; what outlives a killed start is ended; the next start works', async () => {
  const data = newFolder();
  const more = people(data);
  const one = await start(more);
  const { server, database } = processesOf(one);
  process.kill(database[0]!, 'SIGKILL');
  await until(
    'the database again',
    async () => processesOf(one).database[0] !== database[0] && one.printed().includes('the database runs again') && (await answers(one.url)),
  );
  process.kill(server[0]!, 'SIGKILL');
  await until('the server again', async () => processesOf(one).server[0] !== server[0] && one.printed().includes('the server runs again'));
  expect(one.printed()).toMatch(
    /the database ended \(SIGKILL\); it is started again[\s\S]*the database runs again[\s\S]*the server ended[\s\S]*the server runs again/,
  );
  const now = processesOf(one);
  await stop(one, 'SIGKILL');
  await until('all ended with it', () => [...now.server, ...now.database].filter(isAlive).length === 0);
  const two = await start(more);
  expect(await shelfOf(two)).toContain('The shelf is empty');
  await stop(two, 'SIGTERM');
});

test('a note of a process that is another one now does not keep it from starting; two first starts at once make one studio', async () => {
  const data = newFolder();
  const [a, b] = await Promise.allSettled([start(people(data)), start(people(data))]);
  const started = [a, b].filter((each) => each.status === 'fulfilled');
  const refused = [a, b].filter((each) => each.status === 'rejected');
  expect([started.length, refused.length]).toEqual([1, 1]);
  expect(String(refused[0]!.reason)).toContain('is in use');
  const url = administrator(data);
  expect(await asked(`${url}/omaggio`, 'SELECT count(*)::int AS n FROM studios')).toEqual([{ n: 1 }]);
  await stop(started[0]!.value, 'SIGTERM');
  writeFileSync(path.join(data, 'pg', 'postmaster.pid'), `${process.pid}\n${data}/pg\n1\n5432\n\n127.0.0.1\n`);
  const again = await start(people(data));
  expect(isAlive(process.pid)).toBe(true);
  await stop(again, 'SIGTERM');
});

test('the application is no administrator: it reads and writes rows of its own tables and nothing else; pages have checksums', async () => {
  const data = newFolder();
  const running = await start(people(data));
  const url = administrator(data);
  const [role] = await asked<object>(`${url}/omaggio`, "SELECT rolsuper, rolcreatedb, rolcreaterole FROM pg_roles WHERE rolname = 'omaggio_app'");
  expect(role).toEqual({ rolsuper: false, rolcreatedb: false, rolcreaterole: false });
  const environmentOf = readFileSync(`/proc/${processesOf(running).server[0]}/environ`, 'utf8').split('\0');
  const app = environmentOf.find((line) => line.startsWith('DATABASE_URL='))!.slice('DATABASE_URL='.length);
  expect(new URL(app).username).toBe('omaggio_app');
  // Not even a row that no studio was named for.
  expect(await asked(app, 'SELECT count(*)::int AS n FROM studios')).toEqual([{ n: 0 }]);
  for (const sql of [
    'CREATE TABLE mine (id int)',
    'DROP TABLE marks',
    "COPY studios TO '/tmp/omaggio-stolen'",
    "SELECT pg_read_file('/etc/passwd')",
    "COPY studios FROM PROGRAM 'id'",
    'DELETE FROM migrations',
    'CREATE ROLE other SUPERUSER',
    'CREATE TEMP TABLE here (id int)',
  ])
    await expect(asked(app, sql)).rejects.toMatchObject({ code: '42501' });
  expect(await asked(`${url}/postgres`, 'SHOW data_checksums')).toEqual([{ data_checksums: 'on' }]);
  const [database] = processesOf(running).database;
  expect(/^CapEff:\s*0+$/m.test(readFileSync(`/proc/${database}/status`, 'utf8'))).toBe(true);
  expect(statSync(path.join(data, 'password')).mode & 0o077).toBe(0);
  await stop(running, 'SIGTERM');
});

describe('a clear word and nothing touched', () => {
  test.each([
    ['a port that is none', { PORT: 'http', OMAGGIO_DATA: '/tmp/omaggio-never' }, /PORT is "http"[\s\S]*1 to 65535/],
    ['a database that does not answer', { DATABASE_URL: 'postgres://nobody:x@127.0.0.1:9/none' }, /could not be prepared[\s\S]*Check that DATABASE_URL/],
    ['a data folder that cannot be made', { OMAGGIO_DATA: '/dev/null/data' }, /cannot be made[\s\S]*OMAGGIO_DATA/],
    ['a data folder where nothing can be written', { OMAGGIO_DATA: '/proc/omaggio' }, /cannot be made[\s\S]*OMAGGIO_DATA/],
    ['a data folder that is read-only', { OMAGGIO_DATA: '/sys/kernel' }, /cannot be (made|written)[\s\S]*OMAGGIO_DATA/],
    ['a demo that is none', { OMAGGIO_DEMO: 'some', DATABASE_URL: 'postgres://nobody:x@127.0.0.1:9/none' }, /OMAGGIO_DEMO is "some"/],
  ])('%s', (_, more, message) => {
    const { status, text } = command('start', [], more);
    expect(status).toBe(1);
    expect(text).toMatch(message);
    expect(text.split('\n').length).toBeLessThan(8);
  });
  test('data of another PostgreSQL, data of a newer Omaggio, a foreign folder, a lost password', async () => {
    const data = newFolder();
    const first = await start(people(data));
    await stop(first, 'SIGTERM');
    const version = path.join(data, 'pg', 'PG_VERSION');
    const real = readFileSync(version);
    writeFileSync(version, '99\n');
    expect(command('start', [], people(data)).text).toMatch(/were made by PostgreSQL 99[\s\S]*apt-get install postgresql-99/);
    writeFileSync(version, real);

    rmSync(path.join(data, 'password'));
    const mended = await start(people(data));
    await asked(`${administrator(data)}/omaggio`, "INSERT INTO migrations (name, run_on) VALUES ('999_from-the-future', now())");
    await stop(mended, 'SIGTERM');
    expect(command('start', [], people(data)).text).toMatch(/changed by a newer Omaggio \(999_from-the-future\)[\s\S]*Nothing was touched/);

    const foreign = newFolder();
    mkdirSync(path.join(foreign, 'pg'), { recursive: true });
    writeFileSync(path.join(foreign, 'pg', 'letter.txt'), 'dear');
    expect(command('start', [], people(foreign)).text).toMatch(/is no database of ours and is not empty/);
    expect(readFileSync(path.join(foreign, 'pg', 'letter.txt'), 'utf8')).toBe('dear');
  });
  test('little room is said on the screen', async () => {
    const running = await start(people(newFolder(), { OMAGGIO_LOW_DISK_BYTES: '900000000000000' }));
    expect(await shelfOf(running)).toMatch(/Only (<!-- -->)?\d+(<!-- -->)? MB are left on the disk/);
    await stop(running, 'SIGTERM');
  });
});

test('what the database holds is saved before its tables are changed', async () => {
  const data = newFolder();
  const first = await start(people(data));
  const latest = readdirSync('db/migrations').sort().at(-1)!;
  const [, takenBack] = readFileSync(path.join('db/migrations', latest), 'utf8').split('-- Down Migration');
  await asked(`${administrator(data)}/omaggio`, `${takenBack}; DELETE FROM migrations WHERE name = '${latest.replace('.sql', '')}'`);
  await stop(first, 'SIGTERM');
  const second = await start(people(data));
  expect(second.printed()).toMatch(new RegExp(`saved as it was in .*before-${latest.replace('.sql', '')}-.*\\.dump`));
  const [saved] = readdirSync(path.join(data, 'backups'));
  expect(
    readFileSync(path.join(data, 'backups', saved!))
      .subarray(0, 5)
      .toString(),
  ).toBe('PGDMP');
  await stop(second, 'SIGTERM');
});

test('with DATABASE_URL it uses that server and starts none', async () => {
  const own = newFolder();
  const url = new URL(process.env.DATABASE_URL!);
  url.pathname = '/started_with_url';
  const running = await start({ DATABASE_URL: url.href, OMAGGIO_DATA: own, PORT: freePort() });
  expect(await (await fetch(`${running.url}/api/health`)).json()).toMatchObject({ ok: true });
  expect(existsSync(path.join(own, 'pg'))).toBe(false);
  await stop(running, 'SIGTERM');
});
