/** Pieces on the shelf: taking a file in, listing, taking off and putting back. */
import { INSTRUMENT_KINDS } from '@/core/instruments/instrument';
import type { Access } from './access';
import type { PieceNames } from '@/core/util/names-shape';
import { z } from 'zod';
import { bad, good, type Result } from '../core/util/result';
import type { ShelfGroup, ShelfOrder } from '../core/util/shelf-order';
import { LIMITS } from '../core/util/limits';
import { cleanLine, titleText } from '../core/util/text';
import type { ReadFile } from '../workers/server/tasks';
import { db, inTransaction, type Queryable } from './db';
import { writePassages } from './parts';
import { digestOf, keepSource } from './sources';
import { inWorker, type Asker } from './workers';

const instrument = z.enum(INSTRUMENT_KINDS).nullable();

const shelfRow = z.object({
  id: z.uuid(),
  title: z.string(),
  composer: z.string().nullable(),
  fileName: z.string(),
  receivedAt: z.date(),
  /** The first of them. */
  warnings: z.array(z.object({ place: z.string(), text: z.string() })),
  warningCount: z.number(),
  /** Under which heading it stands, where the shelf is grouped. */
  group: z.string().nullable(),
  parts: z.array(z.object({ id: z.uuid(), name: z.string(), instrument, bars: z.number(), notes: z.number(), marks: z.number() })),
});
export type ShelfPiece = z.infer<typeof shelfRow>;

export interface ShelfAsked {
  /** Words that all have to stand in title, composer, file name or the name of a part; whatever their case. */
  search?: string;
  /** Counted from 1. */
  page?: number;
  order?: ShelfOrder;
  group?: ShelfGroup;
}

/** How pieces are sorted. */
const ORDERS: Readonly<Record<ShelfOrder, string>> = {
  newest: 'created_at DESC',
  marked: 'changed_at DESC NULLS LAST, created_at DESC',
  title: 'title COLLATE natural_order',
  composer: 'composer COLLATE natural_order NULLS LAST, title COLLATE natural_order',
};
/** Headings that they stand under; null is "no such thing", and comes last. */
const GROUPS: Readonly<Record<ShelfGroup, string>> = {
  none: 'NULL',
  composer: 'composer',
  instrument: `(SELECT CASE WHEN count(DISTINCT coalesce(instrument, '')) > 1 THEN 'several' ELSE min(instrument) END FROM parts WHERE piece_id = pieces.id)`,
  marked: `CASE WHEN EXISTS (SELECT 1 FROM marks JOIN markings ON markings.id = marking_id JOIN parts ON parts.id = part_id WHERE piece_id = pieces.id)
                THEN 'marked' ELSE 'unmarked' END`,
};

const INSTRUMENTS_IN_ORDER = "array_position(ARRAY['violin', 'viola', 'cello', 'bass', 'several'], heading)";
const LAST_CHANGE = `(SELECT max(change_sets.at) FROM change_sets JOIN markings ON markings.id = marking_id JOIN parts ON parts.id = part_id
                 WHERE piece_id = pieces.id)`;

export interface ShelfPage {
  pieces: ShelfPiece[];
  /** Pieces that are found, on all pages. */
  found: number;
  /** The page that is shown: the last one where a later one was asked for. */
  page: number;
  pages: number;
}

export const PIECES_PER_PAGE = 24;
const LONGEST_SEARCH = 120;
const MOST_WORDS = 8;

/** One page of the shelf. Parts and marks are counted for the pieces of the page only. */
export async function shelf(access: Access, { search = '', page = 1, order = 'newest', group = 'none' }: ShelfAsked = {}): Promise<ShelfPage> {
  const words = cleanLine(search).slice(0, LONGEST_SEARCH).split(' ').filter(Boolean).slice(0, MOST_WORDS);
  const patterns = words.map((word) => `%${word.replace(/[\\%_]/g, '\\$&')}%`);
  const where = `pieces.studio_id = $1 AND removed_at IS NULL AND NOT EXISTS (
      SELECT 1 FROM unnest($2::text[]) AS asked, search_form(asked) AS word WHERE NOT (
        search_form(title) LIKE word OR search_form(coalesce(composer, '')) LIKE word OR search_form(file_name) LIKE word
        OR EXISTS (SELECT 1 FROM parts WHERE piece_id = pieces.id AND search_form(name) LIKE word)))`;
  const counted = await db(access).query<{ found: number }>(
    `SELECT count(*)::int AS found FROM pieces JOIN sources ON sources.id = pieces.source_id WHERE ${where}`,
    [access.studio, patterns],
  );
  const found = counted.rows[0]!.found;
  const pages = Math.max(1, Math.ceil(found / PIECES_PER_PAGE));
  const shown = Math.min(pages, Math.max(1, Math.floor(page) || 1));
  const { rows } = await db(access).query(
    `WITH found AS (
       SELECT pieces.id, title, composer, file_name, pieces.created_at, ${GROUPS[group]} AS heading,
              jsonb_path_query_array(warnings, '$[0 to 39]') AS warnings, jsonb_array_length(warnings) AS warning_count,
              ${order === 'marked' ? LAST_CHANGE : 'NULL::timestamptz'} AS changed_at
         FROM pieces JOIN sources ON sources.id = pieces.source_id WHERE ${where}
     ), page AS (
       SELECT *, row_number() OVER (ORDER BY ${group === 'instrument' ? INSTRUMENTS_IN_ORDER : 'heading COLLATE natural_order'} NULLS LAST, ${ORDERS[order]}, title, id) AS place FROM found
        ORDER BY place LIMIT $3 OFFSET $4
     ), counted AS (
       SELECT part_id, count(*)::int AS marks
         FROM marks JOIN markings ON markings.id = marking_id JOIN parts ON parts.id = part_id JOIN page ON page.id = piece_id
        WHERE marks.studio_id = $1 GROUP BY part_id
     )
     SELECT page.id, title, composer, file_name AS "fileName", page.created_at AS "receivedAt", warnings, warning_count AS "warningCount", heading AS "group",
            json_agg(json_build_object('id', parts.id, 'name', parts.name, 'instrument', instrument, 'bars', bars, 'notes', notes,
              'marks', coalesce(marks, 0)) ORDER BY (instrument IS NULL), position) AS parts
       FROM page JOIN parts ON piece_id = page.id AND parts.studio_id = $1 LEFT JOIN counted ON part_id = parts.id
      GROUP BY page.id, title, composer, file_name, page.created_at, warnings, warning_count, heading, place ORDER BY place`,
    [access.studio, patterns, PIECES_PER_PAGE, (shown - 1) * PIECES_PER_PAGE],
  );
  return { pieces: z.array(shelfRow).parse(rows), found, page: shown, pages };
}

/** Every bowed part on the shelf, to choose one of: title and name only. */
export async function partsOnShelf(
  access: Access,
): Promise<Array<{ id: string; title: string; name: string; instrument: NonNullable<z.infer<typeof instrument>> }>> {
  const { rows } = await db(access).query(
    `SELECT parts.id, title, name, instrument FROM parts JOIN pieces ON pieces.id = piece_id
      WHERE parts.studio_id = $1 AND removed_at IS NULL AND instrument IS NOT NULL ORDER BY pieces.created_at DESC, title, position`,
    [access.studio],
  );
  return rows;
}

export interface TakenIn {
  pieceId: string;
  title: string;
  /** The same file was here before: it lies on the shelf already, or is put back with its marks. */
  known: 'new' | 'on the shelf' | 'put back';
  firstPartId: string;
  warnings: Array<{ place: string; text: string }>;
}

/** A file as it was read, with the title that it goes by. */
export type ReadPiece = ReadFile;

/** Reads a file; nothing is stored. */
export async function readPiece(fileName: string, bytes: Uint8Array, asker: Asker): Promise<Result<ReadPiece>> {
  const read = await inWorker('readFile', { bytes }, asker);
  if (!read.ok || read.value.title !== 'Untitled') return read;
  return good({ ...read.value, title: titleText(fileName.replace(/\.(musicxml|xml|mxl|abc)$/i, ''), LIMITS.title) || 'Untitled' });
}

/** Stores a file that was read, with its parts, their markings and passages. */
export async function storePiece(
  client: Queryable,
  access: Access,
  fileName: string,
  bytes: Uint8Array,
  { title, composer, warnings, parts }: ReadPiece,
): Promise<{ pieceId: string; parts: Array<{ id: string; name: string; markingId: string }> }> {
  const sourceId = await keepSource(client, access, fileName, bytes);
  const { rows } = await client.query<{ id: string }>(
    'INSERT INTO pieces (studio_id, source_id, title, composer, warnings) VALUES ($1, $2, $3, $4, $5) RETURNING id',
    [access.studio, sourceId, title, composer, JSON.stringify(warnings)],
  );
  const pieceId = rows[0]!.id;
  const stored: Array<{ id: string; name: string; markingId: string }> = [];
  for (const [position, part] of parts.entries()) {
    const made = await client.query<{ id: string }>(
      'INSERT INTO parts (studio_id, piece_id, position, file_part_id, name, instrument, bars, notes, bar_labels, music) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) RETURNING id',
      [access.studio, pieceId, position, part.filePartId, part.name, part.instrument, part.bars, part.notes, part.barLabels, part.music],
    );
    const partId = made.rows[0]!.id;
    const marking = await client.query<{ id: string }>('INSERT INTO markings (studio_id, part_id, name) VALUES ($1, $2, $3) RETURNING id', [
      access.studio,
      partId,
      'Section',
    ]);
    await writePassages(client, access, partId, part.passages);
    stored.push({ id: partId, name: part.name, markingId: marking.rows[0]!.id });
  }
  return { pieceId, parts: stored };
}

/** Reads a file and puts it on the shelf; with a problem nothing is stored. */
export async function takeIn(access: Access, fileName: string, bytes: Uint8Array, asker: Asker): Promise<Result<TakenIn>> {
  const sha256 = digestOf(bytes);
  const known = await knownPiece(access, sha256);
  if (known) return good(known);
  const read = await readPiece(fileName, bytes, asker);
  if (!read.ok) return read;
  try {
    const { pieceId } = await inTransaction(access, (client) => storePiece(client, access, fileName, bytes, read.value));
    return good({ pieceId, title: read.value.title, known: 'new', warnings: read.value.warnings, firstPartId: await firstPart(access, pieceId) });
  } catch (error) {
    // The same file taken in twice at the same moment: the first one counts.
    if ((error as { constraint?: string }).constraint === 'pieces_on_shelf') {
      const there = await knownPiece(access, sha256);
      if (there) return good(there);
    }
    throw error;
  }
}

/** The piece that was made of this file, back on the shelf if it had been taken off: its marks are what the coach looks for. */
async function knownPiece(access: Access, sha256: string): Promise<TakenIn | null> {
  const { rows } = await db(access).query<{ id: string; title: string; removed: boolean }>(
    `SELECT pieces.id, title, removed_at IS NOT NULL AS removed FROM pieces JOIN sources ON sources.id = pieces.source_id
      WHERE pieces.studio_id = $1 AND sha256 = $2 ORDER BY removed_at DESC NULLS FIRST LIMIT 1`,
    [access.studio, sha256],
  );
  const piece = rows[0];
  if (!piece) return null;
  if (piece.removed) await setOnShelf(access, piece.id, true);
  return {
    pieceId: piece.id,
    title: piece.title,
    known: piece.removed ? 'put back' : 'on the shelf',
    warnings: [],
    firstPartId: await firstPart(access, piece.id),
  };
}

async function firstPart(access: Access, pieceId: string): Promise<string> {
  const { rows } = await db(access).query<{ id: string }>(
    'SELECT id FROM parts WHERE studio_id = $1 AND piece_id = $2 ORDER BY (instrument IS NULL), position LIMIT 1',
    [access.studio, pieceId],
  );
  return rows[0]!.id;
}

/** Calls a piece and parts of it otherwise, all of them or none. False where there is no such piece, or a part of it is not there. */
export async function rename(access: Access, pieceId: string, { title, composer, parts }: PieceNames): Promise<boolean> {
  return inTransaction(access, async (client) => {
    const piece = await client.query('UPDATE pieces SET title = $3, composer = $4 WHERE studio_id = $1 AND id = $2', [access.studio, pieceId, title, composer]);
    if (!piece.rowCount) return false;
    const named = await client.query(
      `UPDATE parts SET name = row.name FROM jsonb_to_recordset($3) AS row (id uuid, name text)
        WHERE studio_id = $1 AND piece_id = $2 AND parts.id = row.id`,
      [access.studio, pieceId, JSON.stringify(parts)],
    );
    if (named.rowCount !== parts.length) throw new NotThere();
    return true;
  }).catch((error) => {
    if (error instanceof NotThere) return false;
    throw error;
  });
}

class NotThere extends Error {}

/** Takes a piece off the shelf, or puts it back; its marks stay where they are. */
export async function setOnShelf(access: Access, pieceId: string, onShelf: boolean): Promise<Result<null>> {
  try {
    const { rowCount } = await db(access).query('UPDATE pieces SET removed_at = CASE WHEN $3 THEN NULL ELSE now() END WHERE studio_id = $1 AND id = $2', [
      access.studio,
      pieceId,
      onShelf,
    ]);
    return rowCount ? good(null) : bad(null, 'This piece is no longer there.', 'Reload the shelf.');
  } catch (error) {
    if ((error as { constraint?: string }).constraint === 'pieces_on_shelf')
      return bad(null, 'The same file has been put on the shelf again meanwhile.', 'Take that one off first.');
    throw error;
  }
}
