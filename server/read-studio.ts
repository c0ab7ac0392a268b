/** Reads a studio's file in: all of it or nothing, beside what is here. */
import { randomUUID } from 'node:crypto';
import { unzipSync, type UnzipFileInfo } from 'fflate';
import { z } from 'zod';
import { bad, good, type Result } from '../core/util/result';
import type { Access } from './access';
import { db, inTransaction, type Queryable } from './db';
import { noteDoing } from './doors/doings';
import { partSettingsShape } from './parts';
import { digestOf } from './sources';
import { SINCE, STUDIO_FORMAT, STUDIO_VERSION, TABLE_NAMES, TABLES, type Table } from './studio-file';
import { REFERS, ROW_SHAPES, type Row } from './studio-rows';

/** A file, packed and unpacked; what is larger goes by bin/backup and bin/restore. */
export const STUDIO_LIMITS = { packed: 256 * 1024 * 1024, unpacked: 1024 * 1024 * 1024 };

export interface ReadIn {
  pieces: number;
  players: number;
  marks: number;
}

interface Contents {
  rows: Record<Table, Row[]>;
  /** By digest. */
  files: Map<string, Uint8Array>;
}

const headShape = z.object({ format: z.literal(STUDIO_FORMAT), version: z.int(), name: z.string() });
const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

const noFile = (what: string, place: string | null = null): Result<never> =>
  bad(place, what, 'Nothing was read in. Choose the file that “Take everything out” gave you.');

/** Adds everything in the file to this studio. A piece whose file lies on the shelf already is not taken in twice: then nothing is read in. */
export async function readStudio(access: Access, bytes: Uint8Array): Promise<Result<ReadIn>> {
  const contents = contentsOf(bytes);
  if (!contents.ok) return contents;
  const { rows, files } = contents.value;
  const twice = await onShelfAlready(access, rows);
  if (twice.length)
    return bad(twice.slice(0, 3).join(', '), 'The shelf has this already.', 'Nothing was read in. Take it off the shelf, then read the file in again.');
  const { sources, ...others } = rows;
  try {
    await inTransaction(access, (client) => writeAll(client, access, sources, others, files, new Map()));
  } catch (error) {
    if ((error as { code?: string }).code !== '23505') throw error;
    // Some of it is here by the same names, perhaps in the bin: what is read in gets names of its own.
    const fresh = new Map(TABLE_NAMES.flatMap((table) => rows[table]).flatMap(({ id }) => (typeof id === 'string' ? [[id, randomUUID()] as const] : [])));
    await inTransaction(access, (client) => writeAll(client, access, sources, others, files, fresh));
  }
  return good({ pieces: rows.pieces.length, players: rows.players.length, marks: rows.marks.length });
}

/** What is in the file, every row as it has to be. */
function contentsOf(bytes: Uint8Array): Result<Contents> {
  const unzipped = unpacked(bytes);
  if (!unzipped.ok) return unzipped;
  const entries = unzipped.value;
  const head = headShape.safeParse(jsonOf(entries['studio.json']));
  if (!head.success) return noFile('This is no file of a studio.');
  if (head.data.version > STUDIO_VERSION)
    return bad(null, 'This file was made by a newer Omaggio.', 'Nothing was read in. Read it in there, or bring this one up to date.');
  const rows = {} as Record<Table, Row[]>;
  for (const table of TABLE_NAMES) {
    // What an older file cannot have is none.
    const read = (SINCE[table] ?? 1) > head.data.version ? good<Row[]>([]) : rowsIn(table, entries[`rows/${table}.ndjson`]);
    if (!read.ok) return read;
    rows[table] = read.value;
  }
  const files = new Map<string, Uint8Array>();
  for (const { sha256, file_name: name } of rows.sources as Array<{ sha256: string; file_name: string }>) {
    const file = entries[`sources/${sha256}`];
    if (!file || digestOf(file) !== sha256) return noFile('This file is missing in it, or was changed.', name);
    files.set(sha256, file);
  }
  return leadsAstray(rows) ?? good({ rows, files });
}

function unpacked(bytes: Uint8Array): Result<Record<string, Uint8Array>> {
  let total = 0;
  const filter = ({ originalSize }: UnzipFileInfo) => (total += originalSize) <= STUDIO_LIMITS.unpacked;
  try {
    const entries = unzipSync(bytes, { filter });
    return total > STUDIO_LIMITS.unpacked
      ? bad(null, 'Unpacked the file is larger than 1 GB.', 'Nothing was read in. Use bin/backup and bin/restore.')
      : good(entries);
  } catch {
    return noFile('This file cannot be unpacked.');
  }
}

function jsonOf(bytes: Uint8Array | undefined): unknown {
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    return undefined;
  }
}

function rowsIn(table: Table, bytes: Uint8Array | undefined): Result<Row[]> {
  if (!bytes) return noFile('Something is missing in it.', table);
  const rows: Row[] = [];
  for (const [i, line] of new TextDecoder().decode(bytes).split('\n').entries()) {
    if (line === '') continue;
    const parsed = ROW_SHAPES[table].safeParse(jsonOf(new TextEncoder().encode(line)));
    if (!parsed.success) return noFile(`${parsed.error.issues[0]!.path.join('.')}: ${parsed.error.issues[0]!.message}.`, `${table}, line ${i + 1}`);
    const row = parsed.data as Row;
    // Of a setting the shape depends on its name.
    const setting = table === 'settings' && partSettingsShape.partial().safeParse({ [row.key as string]: row.value });
    if (setting && !setting.success) return noFile(`${row.key as string}: ${setting.error.issues[0]!.message}.`, `${table}, line ${i + 1}`);
    rows.push(row);
  }
  return good(rows);
}

/** Every reference leads to something in the file itself. */
function leadsAstray(rows: Record<Table, Row[]>): Result<never> | null {
  const ids = Object.fromEntries(
    TABLE_NAMES.map((table) => [table, new Set(rows[table].map(({ id, sha256 }) => (table === 'frozen' ? sha256 : id)))]),
  ) as Record<Table, Set<unknown>>;
  for (const table of TABLE_NAMES)
    for (const [column, to] of Object.entries(REFERS[table])) {
      const at = rows[table].findIndex((row) => row[column] !== null && !ids[to].has(row[column]));
      if (at >= 0) return noFile(`${column} leads to nothing in this file.`, `${table}, line ${at + 1}`);
    }
  return null;
}

async function onShelfAlready(access: Access, { pieces, sources }: Contents['rows']): Promise<string[]> {
  const shown = new Set(pieces.filter(({ removed_at: removed }) => removed === null).map(({ source_id: source }) => source));
  const digests = sources.filter(({ id }) => shown.has(id as string)).map(({ sha256 }) => sha256);
  const { rows } = await db(access).query<{ title: string }>(
    'SELECT title FROM pieces JOIN sources ON sources.id = source_id WHERE pieces.studio_id = $1 AND removed_at IS NULL AND sha256 = ANY($2) ORDER BY title',
    [access.studio, digests],
  );
  return rows.map(({ title }) => title);
}

/** @param named other names for ids in the file; what is not in it keeps its own */
async function writeAll(
  client: Queryable,
  access: Access,
  sources: readonly Row[],
  others: Omit<Record<Table, Row[]>, 'sources'>,
  files: Contents['files'],
  named: ReadonlyMap<string, string>,
): Promise<void> {
  const names = new Map(named);
  for (const { id, sha256, file_name: name, received_at: at } of sources as Array<Record<string, string>>) {
    const { rows } = await client.query<{ id: string }>(
      `INSERT INTO sources (id, studio_id, sha256, file_name, received_at, bytes) VALUES ($1, $2, $3, $4, $5, $6)
       ON CONFLICT (studio_id, sha256) DO UPDATE SET file_name = sources.file_name RETURNING id`,
      [names.get(id!) ?? id, access.studio, sha256, name, at, Buffer.from(files.get(sha256!)!)],
    );
    names.set(id!, rows[0]!.id);
  }
  for (const table of TABLE_NAMES) if (table !== 'sources') await writeRows(client, access, table, others[table], names);
  await noteDoing(client, access, 'read a studio in', `${others.pieces.length} pieces, ${others.players.length} players`);
}

/** Rows that are sent at once: documents of parts are large. */
const ROWS_AT_ONCE = 200;

async function writeRows(client: Queryable, access: Access, table: Table, rows: readonly Row[], names: ReadonlyMap<string, string>): Promise<void> {
  const { without } = TABLES[table];
  const columns = Object.keys(ROW_SHAPES[table].shape);
  if (columns.some((column) => (without as readonly string[]).includes(column))) throw new Error(`${table} takes in what it leaves out`);
  const list = columns.join(', ');
  for (let from = 0; from < rows.length; from += ROWS_AT_ONCE) {
    const text = JSON.stringify(rows.slice(from, from + ROWS_AT_ONCE)).replace(UUID, (id) => names.get(id) ?? id);
    await client.query(
      `INSERT INTO ${table} (studio_id, ${list}) SELECT $1, ${list} FROM jsonb_array_elements($2::jsonb) WITH ORDINALITY AS sent (sent_row, sent_place),
         LATERAL jsonb_populate_record(NULL::${table}, sent_row) ORDER BY sent_place${table === 'frozen' ? ' ON CONFLICT DO NOTHING' : ''}`,
      [access.studio, text],
    );
  }
}
