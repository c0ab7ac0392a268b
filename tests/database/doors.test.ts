/**
 * Who may do what. Every route is in `tests/support/route-table.ts`, and each is tried by everybody: a stranger, a player, a coach, the owner, and
 * the owner of another studio with this one's ids. A route that is not in the table fails the test; so does a page that asks for nobody.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import path from 'node:path';
import pg from 'pg';
import { accessOf, type Access } from '../../server/access';
import { db, inTransaction } from '../../server/db';
import { byKey, byLink } from '../../server/doors/come-in';
import { browsersOf, keyFor, newLink, peopleOf } from '../../server/doors/people';
import { bringIn } from '../../server/editions';
import { handOut, latestOf } from '../../server/handouts/hand-out';
import { say } from '../../server/handouts/said';
import { markingOfPart } from '../../server/markings';
import { players } from '../../server/players';
import { keepPaper } from '../../server/papers';
import { OURSELVES } from '../../server/workers';
import { PNG, TABLE, type Known, type Who } from '../support/route-table';
import { asked, closeDatabase, everything, openDatabase, tokenBy } from '../support/database';
import { bytesOf, taken } from '../support/stored';

type Handler = (request: Request, context: { params: Promise<Record<string, string>> }) => Promise<Response>;

/** A coach is answered as if they were not there by what is another's. */
const AS_NOT_THERE = new Set(['POST /api/studio/people/[id]/key', 'DELETE /api/studio/browsers/[id]']);

const filesOf = (ending: string): string[] =>
  readdirSync('app', { recursive: true, encoding: 'utf8' })
    .filter((file) => path.basename(file) === ending)
    .map((file) => path.join('app', file));
const routeOf = (file: string): string => `/${path.dirname(path.relative('app', file))}`;

const handlers = new Map<string, Handler>();
const tokens = {} as Record<Exclude<Who, 'nobody'> | 'other', string>;
let studio: Access;
let other: Access;
let ours: Known;
let playerIds: string[];
const CALLER = { address: 'tests', agent: 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0' };

async function knownIn(access: Access, person: string): Promise<Known> {
  const { firstPartId, pieceId } = await taken(access, 'low-tide');
  const edited = await bringIn(access, firstPartId, 'edition.musicxml', bytesOf('low-tide'), OURSELVES);
  const paper = await keepPaper(access, pieceId, 'sheet.png', PNG);
  const people = await players(access);
  const [player] = people;
  const out = await handOut(access, { word: '', parts: [{ partId: firstPartId, players: people.slice(0, 2).map(({ id }) => id) }] });
  if (!edited?.ok || !paper?.ok || !out.ok) throw new Error('the stage is not set');
  const handout = (await latestOf(access, [firstPartId])).get(firstPartId)!.id;
  const answer = { id: randomUUID(), bar: 0, kind: 'question' as const, words: 'down?', at: new Date().toISOString() };
  await say(access, handout, player!.id, { answers: [answer] });
  return {
    piece: pieceId,
    part: firstPartId,
    marking: (await markingOfPart(access, firstPartId)).id,
    edition: edited.value.id,
    paper: paper.value.id,
    player: player!.id,
    person,
    owner: access.personId!,
    browser: (await browsersOf(access)).find(({ isPlayer }) => isPlayer)?.id ?? randomUUID(),
    handout,
    answer: answer.id,
  };
}

beforeAll(async () => {
  studio = await openDatabase();
  const corin = (await peopleOf(studio)).find(({ role }) => role === 'coach')!;
  playerIds = (await players(studio)).map(({ id }) => id);
  tokens.owner = await tokenBy(byKey((await keyFor(studio, studio.personId!))!, CALLER));
  tokens.coach = await tokenBy(byKey((await keyFor(studio, corin.id))!, CALLER));
  tokens.player = await tokenBy(byLink((await newLink(studio, playerIds[1]!, null))!, CALLER));
  ours = await knownIn(studio, corin.id);

  const { rows } = await everything.query<{ id: string }>("INSERT INTO studios (name) VALUES ('Another') RETURNING id");
  const owner = await everything.query<{ id: string }>("INSERT INTO people (studio_id, name, role) VALUES ($1, 'Rhoswen', 'owner') RETURNING id", [
    rows[0]!.id,
  ]);
  const first = { ...studio, studio: rows[0]!.id, person: 'Rhoswen', personId: owner.rows[0]!.id };
  tokens.other = await tokenBy(byKey((await keyFor(first, owner.rows[0]!.id))!, CALLER));
  other = (await accessOf(tokens.other))!;

  for (const file of filesOf('route.ts'))
    for (const [method, handler] of Object.entries((await import(path.resolve(file))) as Record<string, unknown>))
      if (/^(GET|HEAD|POST|PUT|PATCH|DELETE|OPTIONS)$/.test(method)) handlers.set(`${method} ${routeOf(file)}`, handler as Handler);
});
afterAll(closeDatabase);

async function ask(name: string, token: string | null, known: Known): Promise<Response> {
  const { params, body, query = '' } = TABLE[name]!;
  const [method] = name.split(' ') as [string];
  const sent = body === undefined ? undefined : typeof body === 'string' || body instanceof Uint8Array ? body : JSON.stringify(body);
  const request = asked(`http://127.0.0.1/${query}`, { method, ...(sent === undefined ? {} : { body: sent as BodyInit }) }, token);
  const response = await handlers.get(name)!(request, { params: Promise.resolve(params?.(known) ?? {}) });
  // Nothing stays open behind an answer that nobody reads.
  if (response.ok) await response.body?.cancel();
  return response;
}

/** Everything that is stored of a studio, but when a browser was last seen. */
async function digestOf(id: string): Promise<string> {
  const tables = await everything.query<{ table_name: string }>(
    "SELECT table_name FROM information_schema.columns WHERE table_schema = 'public' AND column_name = 'studio_id' ORDER BY 1",
  );
  const sums = await Promise.all(
    tables.rows.map(async ({ table_name: table }) => {
      const { rows } = await everything.query<{ sum: string }>(
        `SELECT coalesce(md5(string_agg((to_jsonb(t) - 'seen_at' - 'expires_at')::text, ',' ORDER BY to_jsonb(t)::text)), '') AS sum FROM ${table} t WHERE studio_id = $1`,
        [id],
      );
      return `${table} ${rows[0]!.sum}`;
    }),
  );
  return sums.join('\n');
}

const RANK: readonly Who[] = ['nobody', 'player', 'coach', 'owner'];
const names = Object.keys(TABLE);

test('every route is in the table, every page asks who it is, and there are no server actions', () => {
  expect([...handlers.keys()].sort()).toEqual([...names].sort());
  const pages = filesOf('page.tsx');
  expect(pages.length).toBeGreaterThan(7);
  const asksNobody = pages.filter((file) => !/await pageAccess\(/.test(readFileSync(file, 'utf8')));
  expect(asksNobody).toEqual(['app/enter/page.tsx']);
  const stand = pages.filter((file) => /pageAccess\('stand'\)/.test(readFileSync(file, 'utf8')));
  expect(stand.sort()).toEqual(['app/stand/[partId]/page.tsx', 'app/stand/page.tsx']);
  const everyFile = ['app', 'ui', 'server'].flatMap((room) => readdirSync(room, { recursive: true, encoding: 'utf8' }).map((file) => path.join(room, file)));
  expect(everyFile.filter((file) => /\.tsx?$/.test(file) && /^\s*['"]use server['"]/m.test(readFileSync(file, 'utf8')))).toEqual([]);
});

describe('who is let in no further is told so, and nothing is changed', () => {
  test.each(names)('%s', async (name) => {
    const least = RANK.indexOf(TABLE[name]!.least);
    const before = await digestOf(studio.studio);
    for (const who of RANK.slice(0, least)) {
      const response = await ask(name, who === 'nobody' ? null : tokens[who], ours);
      const status = who === 'nobody' ? 401 : AS_NOT_THERE.has(name) && who === 'coach' ? 404 : 403;
      expect([who, response.status]).toEqual([who, status]);
      const { problem } = (await response.json()) as { problem: { remedy: string } };
      expect(problem.remedy).not.toBe('');
    }
    expect((await ask(name, 'f'.repeat(43), ours)).status).toBe(least === 0 ? (await ask(name, null, ours)).status : 401);
    expect(await digestOf(studio.studio)).toBe(before);
  });
});

describe('another studio’s owner finds nothing by our ids, and changes nothing', () => {
  test.each(names.filter((name) => TABLE[name]!.params && TABLE[name]!.least !== 'nobody'))('%s', async (name) => {
    const before = await digestOf(studio.studio);
    const response = await ask(name, tokens.other, ours);
    // What lies beside a piece is a list, and of a piece that is not there it is empty.
    if (name !== 'GET /api/pieces/[id]/papers') expect([response.status, name]).toEqual([name === 'PATCH /api/pieces/[id]' ? 422 : 404, name]);
    expect(await digestOf(studio.studio)).toBe(before);
  });
});

describe('who may, does', () => {
  const may = names.filter((name) => TABLE[name]!.least !== 'nobody');
  test.each(may.filter((name) => !TABLE[name]!.takesAway))('%s', async (name) => {
    const { least, comesTo } = TABLE[name]!;
    for (const who of RANK.slice(RANK.indexOf(least)) as Array<Exclude<Who, 'nobody'>>) {
      const { status } = await ask(name, tokens[who], ours);
      expect([who, comesTo ? comesTo.includes(status) : status >= 200 && status < 300, status]).toEqual([who, true, status]);
    }
  });
  let coachIsIn = true;
  test.each(may.filter((name) => TABLE[name]!.takesAway))('%s', async (name) => {
    const goesOut = name === 'DELETE /api/session';
    const { status } = await ask(name, goesOut ? tokens.coach : tokens.owner, ours);
    expect(status >= 200 && status < 300).toBe(true);
    expect([await accessOf(tokens.coach), await accessOf(tokens.owner)].map((access) => access !== null)).toEqual([coachIsIn && !goesOut, true]);
    coachIsIn = coachIsIn && !goesOut;
  });
});

describe('behind the routes the database holds the studios apart itself', () => {
  const tables = async () =>
    (
      await everything.query<{ table_name: string; is_studio: boolean }>(
        `SELECT relname AS table_name, EXISTS (SELECT 1 FROM pg_attribute WHERE attrelid = pg_class.oid AND attname = 'studio_id') AS is_studio, relrowsecurity AS walled
         FROM pg_class WHERE relnamespace = 'public'::regnamespace AND relkind = 'r' ORDER BY 1`,
      )
    ).rows as Array<{ table_name: string; is_studio: boolean; walled: boolean }>;

  test('every table has its wall, but what is nobody’s', async () => {
    expect((await tables()).filter(({ walled }) => !walled).map((row) => row.table_name)).toEqual(['knocks', 'migrations']);
  });
  test('a query that forgets its studio sees one studio; one that says none sees nothing; nobody writes into another', async () => {
    for (const { table_name: table, is_studio: isStudio, walled } of await tables()) {
      if (!walled) continue;
      const column = isStudio ? 'studio_id' : 'id';
      const { rows } = await db(other).query<{ studio: string }>(`SELECT DISTINCT ${column} AS studio FROM ${table}`);
      expect([table, rows.filter((row) => row.studio !== other.studio)]).toEqual([table, []]);
      const client = new pg.Client({ connectionString: process.env.DATABASE_URL! });
      await client.connect();
      expect([table, (await client.query(`SELECT 1 FROM ${table} LIMIT 1`)).rowCount]).toEqual([table, 0]);
      await client.end();
      expect([table, (await db(other).query(`UPDATE ${table} SET ${column} = ${column} WHERE ${column} = $1`, [studio.studio])).rowCount]).toEqual([table, 0]);
      expect([table, (await db(other).query(`DELETE FROM ${table} WHERE ${column} = $1`, [studio.studio])).rowCount]).toEqual([table, 0]);
    }
    await expect(
      db(other).query("INSERT INTO players (studio_id, name, instrument, size, hand, level) VALUES ($1, 'x', 'violin', '4/4', 'small', 'beginner')", [
        studio.studio,
      ]),
    ).rejects.toMatchObject({ code: '42501' });
    await expect(db(other).query('UPDATE studios SET id = $1', [studio.studio])).rejects.toMatchObject({ code: '42501' });
  });
  test('a connection that served one studio serves the next one only; also after a transaction that failed', async () => {
    await expect(
      inTransaction(studio, async (client) => {
        await client.query('SELECT 1');
        throw new Error('in the middle');
      }),
    ).rejects.toThrow('in the middle');
    const seen = await Promise.all(
      Array.from({ length: 60 }, async (_, i) => {
        const access = i % 2 ? studio : other;
        const { rows } = await db(access).query<{ id: string }>('SELECT id FROM studios');
        return rows.length === 1 && rows[0]!.id === access.studio;
      }),
    );
    expect(seen.every(Boolean)).toBe(true);
  });
});
