/**
 * A studio as one file that another Omaggio reads in completely (docs/studio-file.md): a zip with `studio.json`, a list of rows for
 * each kind of thing, and every file as it was received.
 */
import { Zip, ZipDeflate } from 'fflate';
import type { Access } from './access';
import { asOfNow, type Queryable } from './db';

export const STUDIO_FORMAT = 'omaggio-studio';
export const STUDIO_VERSION = 2;

/** What is kept, each after what it refers to; columns that are left out are the studio's own or made anew. */
export const TABLES = {
  sources: { order: 'sha256', without: ['bytes'] },
  players: { order: 'created_at, id', without: [] },
  pieces: { order: 'created_at, id', without: [] },
  parts: { order: 'piece_id, position', without: [] },
  passages: { order: 'part_id, position', without: ['id'] },
  settings: { order: 'scope, scope_id, key', without: [] },
  markings: { order: 'created_at, id', without: [] },
  marks: { order: 'marking_id, target, kind', without: [] },
  change_sets: { order: 'sequence', without: ['sequence'] },
  editions: { order: 'created_at, id', without: [] },
  part_deeds: { order: 'sequence', without: ['sequence'] },
  papers: { order: 'created_at, id', without: [] },
  frozen: { order: 'sha256', without: [] },
  handouts: { order: 'made_at, id', without: [] },
  handout_players: { order: 'handout_id, player_id', without: [] },
  answers: { order: 'received_at, id', without: [] },
  pencil: { order: 'handout_id, player_id, target, kind', without: [] },
} as const;
export type Table = keyof typeof TABLES;
/** Since which version a kind of row is in the file; the others always were. */
export const SINCE: Readonly<Partial<Record<Table, number>>> = { frozen: 2, handouts: 2, handout_players: 2, answers: 2, pencil: 2 };
export const TABLE_NAMES = Object.keys(TABLES) as Table[];

const ROWS_AT_ONCE = 500;
/** A fixed day, so that the same studio is the same file. */
const MTIME = '2000-01-01T00:00:00Z';

/** The file, a piece at a time: it may be larger than memory. */
export function studioFile(access: Access): ReadableStream<Uint8Array> {
  const chunks = asOfNow(access, (client) => zipped(client, access));
  return new ReadableStream({
    async pull(controller) {
      const { value, done } = await chunks.next();
      if (done) controller.close();
      else controller.enqueue(value);
    },
    async cancel() {
      await chunks.return(undefined);
    },
  });
}

async function* zipped(client: Queryable, access: Access): AsyncGenerator<Uint8Array, void, undefined> {
  const ready: Uint8Array[] = [];
  const zip = new Zip((error, chunk) => {
    if (error) throw error;
    ready.push(chunk);
  });
  for await (const { name, parts } of entries(client, access)) {
    const file = new ZipDeflate(name, { level: 6 });
    file.mtime = MTIME;
    zip.add(file);
    for await (const part of parts) {
      file.push(part);
      yield* ready.splice(0);
    }
    file.push(new Uint8Array(), true);
    yield* ready.splice(0);
  }
  zip.end();
  yield* ready.splice(0);
}

interface Entry {
  name: string;
  parts: AsyncIterable<Uint8Array> | Iterable<Uint8Array>;
}

const utf8 = new TextEncoder();

async function* entries(client: Queryable, access: Access): AsyncGenerator<Entry, void, undefined> {
  const { rows } = await client.query<{ name: string }>('SELECT name FROM studios WHERE id = $1', [access.studio]);
  yield { name: 'studio.json', parts: [utf8.encode(JSON.stringify({ format: STUDIO_FORMAT, version: STUDIO_VERSION, name: rows[0]!.name }))] };
  for (const table of TABLE_NAMES) yield { name: `rows/${table}.ndjson`, parts: rowsOf(client, access, table) };
  const { rows: sources } = await client.query<{ sha256: string }>('SELECT sha256 FROM sources WHERE studio_id = $1 ORDER BY sha256', [access.studio]);
  for (const { sha256 } of sources) yield { name: `sources/${sha256}`, parts: sourceOf(client, access, sha256) };
}

/** A line of JSON for each. */
async function* rowsOf(client: Queryable, access: Access, table: Table): AsyncGenerator<Uint8Array, void, undefined> {
  const { order, without } = TABLES[table];
  for (let from = 0; ; from += ROWS_AT_ONCE) {
    const { rows } = await client.query<{ line: string }>(
      `SELECT (to_jsonb(row) - $2::text[])::text AS line FROM ${table} AS row WHERE studio_id = $1 ORDER BY ${order} LIMIT $3 OFFSET $4`,
      [access.studio, ['studio_id', ...without], ROWS_AT_ONCE, from],
    );
    if (rows.length) yield utf8.encode(rows.map(({ line }) => `${line}\n`).join(''));
    if (rows.length < ROWS_AT_ONCE) return;
  }
}

async function* sourceOf(client: Queryable, access: Access, sha256: string): AsyncGenerator<Uint8Array, void, undefined> {
  const { rows } = await client.query<{ bytes: Buffer }>('SELECT bytes FROM sources WHERE studio_id = $1 AND sha256 = $2', [access.studio, sha256]);
  yield new Uint8Array(rows[0]!.bytes);
}
