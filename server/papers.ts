/** Sheets that a passage was typed from: kept with its piece, looked at, never read. */
import type { Access } from './access';
import { paperProblem, paperType, type PaperType } from '../core/formats/paper';
import { LIMITS } from '../core/util/limits';
import { bad, good, type Result } from '../core/util/result';
import { titleText } from '../core/util/text';
import { db, inTransaction, type Queryable } from './db';
import { isId } from './id';
import { dropUnusedSources, keepSource } from './sources';

export interface PaperRow {
  id: string;
  name: string;
  type: PaperType;
}

/** In the order in which they were laid there. */
export async function papersOf(access: Access, pieceId: string): Promise<PaperRow[]> {
  if (!isId(pieceId)) return [];
  const { rows } = await db(access).query<PaperRow>('SELECT id, name, type FROM papers WHERE studio_id = $1 AND piece_id = $2 ORDER BY created_at, id', [
    access.studio,
    pieceId,
  ]);
  return rows;
}

/** Lays a sheet to a piece, as it came; the same sheet again is there once. Null where there is no such piece. */
export async function keepPaper(access: Access, pieceId: string, fileName: string, bytes: Uint8Array): Promise<Result<PaperRow> | null> {
  if (!isId(pieceId)) return null;
  const problem = paperProblem(fileName, bytes);
  if (problem) return { ok: false, problem };
  return inTransaction(access, async (client) => {
    const piece = await client.query('SELECT id FROM pieces WHERE studio_id = $1 AND id = $2 FOR UPDATE', [access.studio, pieceId]);
    if (piece.rowCount === 0) return null;
    const there = await client.query<{ n: number }>('SELECT count(*)::int AS n FROM papers WHERE studio_id = $1 AND piece_id = $2', [access.studio, pieceId]);
    if (there.rows[0]!.n >= LIMITS.papers) return bad(fileName, `A passage can have ${LIMITS.papers} sheets.`, 'Take one away, then lay this one there.');
    return good(await writePaper(client, access, pieceId, fileName, bytes));
  });
}

/** The same inside a transaction, of a sheet that is one. */
export async function writePaper(client: Queryable, access: Access, pieceId: string, fileName: string, bytes: Uint8Array): Promise<PaperRow> {
  const sourceId = await keepSource(client, access, fileName, bytes);
  const { rows } = await client.query<PaperRow>(
    `INSERT INTO papers (studio_id, piece_id, source_id, name, type) VALUES ($1, $2, $3, $4, $5)
     ON CONFLICT (piece_id, source_id) DO UPDATE SET name = excluded.name RETURNING id, name, type`,
    [access.studio, pieceId, sourceId, titleText(fileName, LIMITS.fileName) || 'Sheet', paperType(bytes)],
  );
  return rows[0]!;
}

export async function paperBytes(access: Access, id: string): Promise<{ bytes: Uint8Array; type: PaperType } | null> {
  if (!isId(id)) return null;
  const { rows } = await db(access).query<{ bytes: Uint8Array; type: PaperType }>(
    'SELECT bytes, type FROM papers JOIN sources ON sources.id = source_id WHERE papers.studio_id = $1 AND papers.id = $2',
    [access.studio, id],
  );
  return rows[0] ?? null;
}

/** Takes a sheet away; its file goes with it where nothing else needs it. False where it is not there. */
export async function dropPaper(access: Access, id: string): Promise<boolean> {
  if (!isId(id)) return false;
  return inTransaction(access, async (client) => {
    const { rowCount } = await client.query('DELETE FROM papers WHERE studio_id = $1 AND id = $2', [access.studio, id]);
    if (!rowCount) return false;
    await dropUnusedSources(client, access);
    return true;
  });
}
