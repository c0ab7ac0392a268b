/** The file as it came in, with the marks of one part or of all its parts. */
import type { Access } from './access';
import { zipSync } from 'fflate';
import { z } from 'zod';
import type { WriteOptions } from '../core/formats/musicxml/write';
import { db } from './db';
import { playerById } from './players';
import { markingFor } from './variants';
import { inWorker, type Asker } from './workers';

/** A mark that the file has no place for: it is not sent unsaid. */
export interface UnplacedMark {
  part: string;
  at: string;
  what: string;
}

export interface MarkedDownload {
  fileName: string;
  bytes: Uint8Array;
  type: string;
  /** Marks that are not in it. */
  unplaced?: UnplacedMark[];
}

export type MarkedOptions = WriteOptions & {
  compressed?: boolean;
  /** As this player has it, with their own marks. */
  playerId?: string;
};

interface PartOfFile {
  id: string;
  name: string;
  file_part_id: string;
  source_id: string;
  file_name: string;
}

/** One file; where parts of the piece come from files of their own, a zip of all of them. */
export async function markedScore(
  access: Access,
  pieceId: string,
  onlyPartId: string | null,
  options: MarkedOptions,
  asker: Asker,
): Promise<MarkedDownload | null> {
  if (!z.uuid().safeParse(pieceId).success || (onlyPartId !== null && !z.uuid().safeParse(onlyPartId).success)) return null;
  const { rows } = await db(access).query<PartOfFile>(
    `SELECT parts.id, parts.name, file_part_id, sources.id AS source_id, file_name
       FROM parts JOIN pieces ON pieces.id = piece_id JOIN sources ON sources.id = coalesce(parts.source_id, pieces.source_id)
      WHERE parts.studio_id = $1 AND piece_id = $2 AND ($3::uuid IS NULL OR parts.id = $3) ORDER BY position`,
    [access.studio, pieceId, onlyPartId],
  );
  const files = new Map<string, PartOfFile[]>();
  for (const part of rows) files.set(part.source_id, [...(files.get(part.source_id) ?? []), part]);
  const marked = await Promise.all([...files.values()].map((parts) => markedFile(access, parts, onlyPartId !== null || files.size > 1, options, asker)));
  const [first] = marked;
  if (!first || marked.length === 1) return first ?? null;
  const names = marked.map(({ fileName }, i) => (marked.findIndex((other) => other.fileName === fileName) === i ? fileName : `${i + 1} ${fileName}`));
  const bytes = zipSync(Object.fromEntries(marked.map((file, i) => [names[i]!, [file.bytes, { mtime: '2000-01-01T00:00:00Z' }] as const])));
  return { fileName: `${stemOf(rows[0]!.file_name)} (marked).zip`, bytes, type: 'application/zip', unplaced: marked.flatMap((file) => file.unplaced ?? []) };
}

const stemOf = (fileName: string): string => fileName.replace(/\.(musicxml|xml|mxl|abc)$/i, '');

async function markedFile(access: Access, parts: readonly PartOfFile[], named: boolean, options: MarkedOptions, asker: Asker): Promise<MarkedDownload> {
  const { source_id: sourceId, file_name: fileName } = parts[0]!;
  const source = await db(access).query<{ bytes: Buffer }>('SELECT bytes FROM sources WHERE studio_id = $1 AND id = $2', [access.studio, sourceId]);
  const markings = Object.fromEntries(
    await Promise.all(parts.map(async (part) => [part.file_part_id, await markingFor(access, part.id, options.playerId ?? null)] as const)),
  );
  const compressed = options.compressed === true || /\.mxl$/i.test(fileName);
  const player = options.playerId ? await playerById(access, options.playerId) : null;
  const suffix = `${named && parts.length === 1 ? `${parts[0]!.name}, marked` : 'marked'}${player ? ` for ${player.name}` : ''}`;
  const { bytes, unplaced } = await inWorker('markedFile', { bytes: source.rows[0]!.bytes, markings, options }, asker);
  const nameOf = (id: string) => parts.find((part) => part.file_part_id === id)!.name;
  return {
    fileName: `${stemOf(fileName)} (${suffix}).${compressed ? 'mxl' : 'musicxml'}`,
    bytes,
    unplaced: unplaced.map(({ filePartId, ...mark }) => ({ part: nameOf(filePartId), ...mark })),
    type: compressed ? 'application/vnd.recordare.musicxml' : 'application/vnd.recordare.musicxml+xml',
  };
}
