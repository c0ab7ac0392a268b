/**
 * Who may do what. Every route is in the table below, and each is tried by everybody: a stranger, a player, a coach, the owner, and
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
import { say } from '../../server/handouts/on-the-stand';
import { markingOfPart } from '../../server/markings';
import { players } from '../../server/players';
import { keepPaper } from '../../server/papers';
import { OURSELVES } from '../../server/workers';
import { demoText } from '../support/demo';
import { asked, closeDatabase, everything, openDatabase, tokenBy } from '../support/database';
import { bytesOf, taken } from '../support/stored';

type Who = 'nobody' | 'player' | 'coach' | 'owner';
type Handler = (request: Request, context: { params: Promise<Record<string, string>> }) => Promise<Response>;

interface Known {
  piece: string;
  part: string;
  marking: string;
  edition: string;
  paper: string;
  player: string;
  person: string;
  owner: string;
  browser: string;
  handout: string;
  answer: string;
}

interface Entry {
  /** The least role that may; open to everybody, or reached by what one holds in one's hand. */
  least: Who;
  /** What stands in the address. */
  params?: (known: Known) => Record<string, string>;
  body?: unknown;
  query?: string;
  /** What it comes to for who may, where that is not done (200 to 299). */
  comesTo?: number[];
  /** Takes away what others still need: tried last, and by the owner alone. */
  takesAway?: boolean;
}

const piece = ({ piece: id }: Known) => ({ id });
const part = ({ part: id }: Known) => ({ id });
const edition = ({ part: id, edition: editionId }: Known) => ({ id, editionId });
const PNG = Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 0]);
const view = { fromBar: 0, toBar: 1, widthPx: 700 };
const set = () => [
  {
    id: randomUUID(),
    at: new Date().toISOString(),
    reason: 'Words',
    undoes: null,
    version: 2,
    changes: [{ target: 'at-0-0', kind: 'text', from: null, to: { value: randomUUID().slice(0, 8), origin: 'coach' } }],
  },
];

const TABLE: Readonly<Record<string, Entry>> = {
  'GET /api/health': { least: 'nobody' },
  'GET /pdf-tools/[folder]/[file]': { least: 'nobody', params: () => ({ folder: 'wasm', file: 'none.wasm' }), comesTo: [404] },
  'GET /stand/worker': { least: 'nobody' },
  'GET /stand/manifest': { least: 'nobody' },
  'GET /stand/icon': { least: 'nobody' },
  'GET /first': { least: 'nobody', comesTo: [303] },
  'GET /key/[key]': { least: 'nobody', params: () => ({ key: 'wrong' }), comesTo: [303] },
  'GET /link/[token]': { least: 'nobody', params: () => ({ token: 'wrong' }), comesTo: [303] },
  'POST /api/session': { least: 'nobody', body: { name: 'nobody', phrase: 'wrong' }, comesTo: [401] },
  'DELETE /api/session': { least: 'player', takesAway: true },

  'GET /api/shelf/check': { least: 'coach' },
  'POST /api/shelf/check': { least: 'coach', body: {} },
  'DELETE /api/shelf/check': { least: 'coach', takesAway: true },

  'POST /api/typed': { least: 'coach', body: { abc: 'X:1\nK:D\nD|]\n', widthPx: 600 } },
  'POST /api/pieces': { least: 'coach', query: '?name=again.musicxml', body: demoText('low-tide') },
  'PATCH /api/pieces/[id]': { least: 'coach', params: piece, body: { onShelf: true } },
  'DELETE /api/pieces/[id]': { least: 'owner', params: piece, comesTo: [404] },
  'PUT /api/pieces/[id]/names': { least: 'coach', params: piece, body: { title: 'Named', composer: null, parts: [] } },
  'GET /api/pieces/[id]/marked': { least: 'coach', params: piece, query: '?without=yes' },
  'GET /api/pieces/[id]/score': { least: 'coach', params: piece },
  'GET /api/pieces/[id]/papers': { least: 'coach', params: piece },
  'POST /api/pieces/[id]/papers': { least: 'coach', params: piece, query: '?name=sheet.png', body: PNG },
  'GET /api/papers/[id]': { least: 'coach', params: ({ paper: id }) => ({ id }) },
  'DELETE /api/papers/[id]': { least: 'coach', params: ({ paper: id }) => ({ id }), takesAway: true },
  'GET /api/parts/[id]/music': { least: 'coach', params: part },
  'GET /api/parts/[id]/marks': { least: 'coach', params: part },
  'GET /api/parts/[id]/midi': { least: 'coach', params: part },
  'GET /api/parts/[id]/others': { least: 'coach', params: part },
  'GET /api/parts/[id]/live': { least: 'coach', params: part, query: '?since=0.0&page=of-the-tests&once=yes' },
  'GET /api/parts/[id]/answers': { least: 'coach', params: part },
  'GET /api/pieces/[id]/hand-outs': { least: 'coach', params: piece },
  'GET /api/pieces/[id]/hand-outs/paper': { least: 'coach', params: piece },
  'GET /api/stand/parts/[id]/paper': { least: 'player', params: part, comesTo: [200, 404] },
  'POST /api/hand-outs': { least: 'coach', body: { word: '', parts: [{ partId: randomUUID(), players: [] }] }, comesTo: [422] },
  'PUT /api/answers/[id]': { least: 'coach', params: ({ answer: id }) => ({ id }), body: { settled: true } },
  'GET /api/stand/parts/[id]/music': { least: 'player', params: part, query: '?width=600', comesTo: [200, 404] },
  // Players say something of their own hand-outs; who teaches has none.
  'POST /api/stand/hand-outs/[id]/said': { least: 'player', params: ({ handout: id }) => ({ id }), body: { opened: true }, comesTo: [200, 404] },
  'GET /api/parts/[id]/typed': { least: 'coach', params: part, comesTo: [422] },
  'POST /api/parts/[id]/engraving': { least: 'coach', params: part, body: { ...view, marking: {} } },
  'PUT /api/parts/[id]/passages': { least: 'coach', params: part, body: { from: null, to: [{ name: 'A', fromBar: 0, toBar: 1 }] } },
  'PUT /api/parts/[id]/settings': { least: 'coach', params: part, body: { tempo: 72 } },
  'POST /api/parts/[id]/editions': { least: 'coach', params: part, query: '?name=other.musicxml', body: demoText('low-tide') },
  'PUT /api/parts/[id]/variants/[playerId]': { least: 'coach', params: ({ part: id, player: playerId }) => ({ id, playerId }), body: {} },
  'POST /api/parts/[id]/editions/[editionId]/engraving': { least: 'coach', params: edition, body: view },
  'PUT /api/parts/[id]/editions/[editionId]/left': { least: 'coach', params: edition, body: [] },
  'POST /api/parts/[id]/editions/[editionId]/replace': { least: 'coach', params: edition, body: {}, comesTo: [200, 422] },
  'POST /api/markings/[id]/changes': { least: 'coach', params: ({ marking: id }) => ({ id }), body: set() },
  'POST /api/players': {
    least: 'coach',
    body: {
      name: 'Fern',
      instrument: 'violin',
      size: '4/4',
      tuning: 'orchestral',
      hand: 'medium',
      measured: null,
      technique: {},
      level: 'advanced',
      thumbPosition: false,
    },
  },
  'PUT /api/players/[id]': { least: 'coach', params: ({ player: id }) => ({ id }), body: { level: 'advanced' } },
  'DELETE /api/players/[id]': { least: 'owner', params: ({ player: id }) => ({ id }), comesTo: [404] },
  'GET /api/players/[id]/everything': { least: 'coach', params: ({ player: id }) => ({ id }) },
  'POST /api/players/[id]/link': { least: 'coach', params: ({ player: id }) => ({ id }), body: { days: null }, takesAway: true },
  'DELETE /api/players/[id]/link': { least: 'coach', params: ({ player: id }) => ({ id }), takesAway: true },

  'PUT /api/studio/me': { least: 'coach', body: {} },
  'POST /api/studio/people': { least: 'owner', body: { name: 'Else', role: 'coach' } },
  'PUT /api/studio/people/[id]': { least: 'owner', params: ({ person: id }) => ({ id }), body: { name: 'Corin' } },
  'POST /api/studio/people/[id]/key': { least: 'owner', params: ({ owner: id }) => ({ id }) },
  'DELETE /api/studio/people/[id]': { least: 'owner', params: ({ person: id }) => ({ id }), takesAway: true },
  'DELETE /api/studio/browsers/[id]': { least: 'owner', params: ({ browser: id }) => ({ id }), takesAway: true },
  'GET /api/studio/everything': { least: 'owner' },
  'POST /api/studio/everything': { least: 'owner', body: 'no file of a studio', comesTo: [422] },
};

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
