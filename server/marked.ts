/** The file as it came in, with the marks of one part or of all its parts. */
import { z } from 'zod';
import type { WriteOptions } from '../core/formats/musicxml/write';
import { pool } from './db';
import { markingOfPart } from './markings';
import { inWorker } from './workers';

export interface MarkedDownload {
  fileName: string;
  bytes: Uint8Array;
  type: string;
}

export async function markedScore(studioId: string, pieceId: string, onlyPartId: string | null, options: WriteOptions = {}): Promise<MarkedDownload | null> {
  if (!z.uuid().safeParse(pieceId).success || (onlyPartId !== null && !z.uuid().safeParse(onlyPartId).success)) return null;
  const source = await pool().query<{ bytes: Buffer; file_name: string }>(
    'SELECT bytes, file_name FROM sources JOIN pieces ON sources.id = source_id WHERE pieces.studio_id = $1 AND pieces.id = $2',
    [studioId, pieceId],
  );
  const parts = await pool().query<{ id: string; name: string; file_part_id: string }>(
    'SELECT id, name, file_part_id FROM parts WHERE studio_id = $1 AND piece_id = $2 AND ($3::uuid IS NULL OR id = $3)',
    [studioId, pieceId, onlyPartId],
  );
  const file = source.rows[0];
  if (!file || parts.rows.length === 0) return null;
  const markings = Object.fromEntries(
    await Promise.all(parts.rows.map(async (part) => [part.file_part_id, (await markingOfPart(studioId, part.id)).marking] as const)),
  );
  const compressed = /\.mxl$/i.test(file.file_name);
  const stem = file.file_name.replace(/\.(musicxml|xml|mxl|abc)$/i, '');
  const suffix = onlyPartId === null ? 'marked' : `${parts.rows[0]!.name}, marked`;
  return {
    fileName: `${stem} (${suffix}).${compressed ? 'mxl' : 'musicxml'}`,
    bytes: await inWorker('markedFile', { bytes: file.bytes, markings, options }),
    type: compressed ? 'application/vnd.recordare.musicxml' : 'application/vnd.recordare.musicxml+xml',
  };
}
