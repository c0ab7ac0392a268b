/** Pieces on the shelf: taking a file in, listing, taking off and putting back. */
import { z } from 'zod';
import { bad, good, type Result } from '../core/util/result';
import { inTransaction, pool } from './db';
import { writePassages } from './parts';
import { digestOf, keepSource } from './sources';
import { inWorker } from './workers';

const instrument = z.enum(['violin', 'viola', 'cello', 'bass']).nullable();

const shelfRow = z.object({
  id: z.uuid(),
  title: z.string(),
  composer: z.string().nullable(),
  fileName: z.string(),
  receivedAt: z.date(),
  warnings: z.array(z.object({ place: z.string(), text: z.string() })),
  parts: z.array(
    z.object({ id: z.uuid(), name: z.string(), instrument, bars: z.number(), notes: z.number(), marks: z.number(), changedAt: z.string().nullable() }),
  ),
});
export type ShelfPiece = z.infer<typeof shelfRow>;

/** Pieces with their parts, the latest first. */
export async function shelf(studioId: string): Promise<ShelfPiece[]> {
  const { rows } = await pool().query(
    `SELECT pieces.id, title, composer, file_name AS "fileName", pieces.created_at AS "receivedAt", warnings,
            (SELECT json_agg(json_build_object(
               'id', parts.id, 'name', parts.name, 'instrument', instrument, 'bars', bars, 'notes', notes,
               'marks', (SELECT count(*)::int FROM marks JOIN markings ON markings.id = marking_id WHERE part_id = parts.id AND markings.studio_id = $1),
               'changedAt', (SELECT max(at) FROM change_sets JOIN markings ON markings.id = marking_id WHERE part_id = parts.id AND markings.studio_id = $1)
             ) ORDER BY position) FROM parts WHERE piece_id = pieces.id AND parts.studio_id = $1) AS parts
       FROM pieces JOIN sources ON sources.id = pieces.source_id
      WHERE pieces.studio_id = $1 AND removed_at IS NULL
      ORDER BY pieces.created_at DESC, title`,
    [studioId],
  );
  return z.array(shelfRow).parse(rows);
}

export interface TakenIn {
  pieceId: string;
  title: string;
  /** The same file was here before: it lies on the shelf already, or is put back with its marks. */
  known: 'new' | 'on the shelf' | 'put back';
  firstPartId: string;
  warnings: Array<{ place: string; text: string }>;
}

/** Reads a file and puts it on the shelf; with a problem nothing is stored. */
export async function takeIn(studioId: string, fileName: string, bytes: Uint8Array): Promise<Result<TakenIn>> {
  const sha256 = digestOf(bytes);
  const known = await knownPiece(studioId, sha256);
  if (known) return good(known);
  const read = await inWorker('readFile', { bytes });
  if (!read.ok) return read;
  const { title, composer, warnings, parts } = read.value;
  const name = title === 'Untitled' ? fileName.replace(/\.(musicxml|xml|mxl|abc)$/i, '') : title;
  try {
    const pieceId = await inTransaction(async (client) => {
      const sourceId = await keepSource(client, studioId, fileName, bytes);
      const { rows } = await client.query<{ id: string }>(
        'INSERT INTO pieces (studio_id, source_id, title, composer, warnings) VALUES ($1, $2, $3, $4, $5) RETURNING id',
        [studioId, sourceId, name, composer, JSON.stringify(warnings)],
      );
      const piece = rows[0]!.id;
      for (const [position, part] of parts.entries()) {
        const stored = await client.query<{ id: string }>(
          'INSERT INTO parts (studio_id, piece_id, position, file_part_id, name, instrument, bars, notes, bar_labels, music) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) RETURNING id',
          [studioId, piece, position, part.filePartId, part.name, part.instrument, part.bars, part.notes, part.barLabels, part.music],
        );
        const partId = stored.rows[0]!.id;
        await client.query('INSERT INTO markings (studio_id, part_id, name) VALUES ($1, $2, $3)', [studioId, partId, 'Section']);
        await writePassages(client, studioId, partId, part.passages);
      }
      return piece;
    });
    return good({ pieceId, title: name, known: 'new', warnings, firstPartId: await firstPart(studioId, pieceId) });
  } catch (error) {
    // The same file taken in twice at the same moment: the first one counts.
    if ((error as { constraint?: string }).constraint === 'pieces_on_shelf') {
      const there = await knownPiece(studioId, sha256);
      if (there) return good(there);
    }
    throw error;
  }
}

/** The piece that was made of this file, back on the shelf if it had been taken off: its marks are what the coach looks for. */
async function knownPiece(studioId: string, sha256: string): Promise<TakenIn | null> {
  const { rows } = await pool().query<{ id: string; title: string; removed: boolean }>(
    `SELECT pieces.id, title, removed_at IS NOT NULL AS removed FROM pieces JOIN sources ON sources.id = pieces.source_id
      WHERE pieces.studio_id = $1 AND sha256 = $2 ORDER BY removed_at DESC NULLS FIRST LIMIT 1`,
    [studioId, sha256],
  );
  const piece = rows[0];
  if (!piece) return null;
  if (piece.removed) await setOnShelf(studioId, piece.id, true);
  return {
    pieceId: piece.id,
    title: piece.title,
    known: piece.removed ? 'put back' : 'on the shelf',
    warnings: [],
    firstPartId: await firstPart(studioId, piece.id),
  };
}

async function firstPart(studioId: string, pieceId: string): Promise<string> {
  const { rows } = await pool().query<{ id: string }>(
    'SELECT id FROM parts WHERE studio_id = $1 AND piece_id = $2 ORDER BY (instrument IS NULL), position LIMIT 1',
    [studioId, pieceId],
  );
  return rows[0]!.id;
}

/** Takes a piece off the shelf, or puts it back; its marks stay where they are. */
export async function setOnShelf(studioId: string, pieceId: string, onShelf: boolean): Promise<Result<null>> {
  try {
    const { rowCount } = await pool().query('UPDATE pieces SET removed_at = CASE WHEN $3 THEN NULL ELSE now() END WHERE studio_id = $1 AND id = $2', [
      studioId,
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
