/** Other editions of a part: brought in, compared, and taken in the part's place with all marks carried over. */
import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import type { Difference } from '../core/editions/differences';
import { bad, good, type Result } from '../core/util/result';
import { inTransaction, pool } from './db';
import { markingOfPart, marksOf, writeMarks } from './markings';
import { musicOf, partById, passagesOf, writePassages } from './parts';
import { keepSource } from './sources';
import { inWorker } from './workers';

export async function editionsOf(studioId: string, partId: string): Promise<Array<{ id: string; name: string }>> {
  const { rows } = await pool().query<{ id: string; name: string }>(
    'SELECT id, name FROM editions WHERE studio_id = $1 AND part_id = $2 ORDER BY created_at DESC',
    [studioId, partId],
  );
  return rows;
}

interface EditionRow {
  id: string;
  name: string;
  source_id: string;
  file_part_id: string;
  music: string;
  left_alone: string[];
}

async function editionById(studioId: string, partId: string, editionId: string): Promise<EditionRow | null> {
  if (!z.uuid().safeParse(editionId).success) return null;
  const { rows } = await pool().query<EditionRow>(
    'SELECT id, name, source_id, file_part_id, music, left_alone FROM editions WHERE studio_id = $1 AND part_id = $2 AND id = $3',
    [studioId, partId, editionId],
  );
  return rows[0] ?? null;
}

/** Takes another edition of a part in: of a score with several parts the one that is most like ours. */
export async function bringIn(studioId: string, partId: string, fileName: string, bytes: Uint8Array): Promise<Result<{ id: string }> | null> {
  const ours = await musicOf(studioId, partId);
  if (!ours) return null;
  const found = await inWorker('likestPart', { music: ours.text, bytes });
  if (!found.ok) return found;
  const { filePartId, name, music } = found.value;
  const id = await inTransaction(async (client) => {
    const sourceId = await keepSource(client, studioId, fileName, bytes);
    const { rows } = await client.query<{ id: string }>(
      `INSERT INTO editions (studio_id, part_id, source_id, file_part_id, name, music) VALUES ($1, $2, $3, $4, $5, $6)
       ON CONFLICT (part_id, source_id, file_part_id) DO UPDATE SET name = excluded.name RETURNING id`,
      [studioId, partId, sourceId, filePartId, `${fileName}, ${name}`, music],
    );
    return rows[0]!.id;
  });
  return good({ id });
}

export interface Comparison {
  id: string;
  name: string;
  differences: Difference[];
  leftAlone: string[];
  /** How many bars each edition has. */
  bars: { ours: number; theirs: number };
}

export async function compared(studioId: string, partId: string, editionId: string): Promise<Comparison | null> {
  const [ours, edition, marking] = await Promise.all([musicOf(studioId, partId), editionById(studioId, partId, editionId), markingOfPart(studioId, partId)]);
  if (!ours || !edition) return null;
  const found = await inWorker('compareEditions', { ours: ours.text, theirs: edition.music, marking: marking.marking });
  return { id: edition.id, name: edition.name, leftAlone: edition.left_alone, ...found };
}

export async function engravedEdition(studioId: string, partId: string, editionId: string, view: { fromBar: number; toBar: number; widthPx: number }) {
  const edition = await editionById(studioId, partId, editionId);
  return edition && inWorker('engravePassage', { music: edition.music, marking: {}, ...view });
}

export async function leaveAlone(studioId: string, partId: string, editionId: string, ids: readonly string[]): Promise<boolean> {
  if (!(await editionById(studioId, partId, editionId))) return false;
  await pool().query('UPDATE editions SET left_alone = $4 WHERE studio_id = $1 AND part_id = $2 AND id = $3', [
    studioId,
    partId,
    editionId,
    JSON.stringify(ids),
  ]);
  return true;
}

export interface Replaced {
  /** Marks that found no place in the new file; they are kept. */
  lost: number;
  moved: number;
}

/** Puts another edition in the place of the part's file: passages and marks are carried over, the old file is kept. */
export async function replaceFile(studioId: string, partId: string, editionId: string, author: string): Promise<Result<Replaced> | null> {
  const [part, ours, edition, passages] = await Promise.all([
    partById(studioId, partId),
    musicOf(studioId, partId),
    editionById(studioId, partId, editionId),
    passagesOf(studioId, partId),
  ]);
  if (!part || !ours || !edition) return null;
  if (edition.music === ours.text) return bad(edition.name, 'This is the file that the part has already.', 'Choose another edition.');
  const outcome = await inTransaction(async (client) => {
    const { rows: markings } = await client.query<{ id: string }>('SELECT id FROM markings WHERE studio_id = $1 AND part_id = $2 FOR UPDATE', [
      studioId,
      partId,
    ]);
    const before = await Promise.all(markings.map(async ({ id }) => ({ id, marking: await marksOf(client, studioId, id) })));
    const carried = await inWorker('carryOver', { before: ours.text, after: edition.music, markings: before.map(({ marking }) => marking), passages });
    let lost = 0;
    let moved = 0;
    for (const [i, { id }] of before.entries()) {
      const { changes, lost: without } = carried.markings[i]!;
      lost += without;
      moved += changes.filter((change) => change.to !== null).length - without;
      if (changes.length === 0) continue;
      await client.query(
        'INSERT INTO change_sets (id, studio_id, marking_id, author, at, reason, changes, undoes, boundary) VALUES ($1, $2, $3, $4, now(), $5, $6, NULL, true)',
        [randomUUID(), studioId, id, author, `New file: ${edition.name}`, JSON.stringify(changes)],
      );
      await writeMarks(client, studioId, id, author, changes);
    }
    // The file that is replaced stays at hand as an edition, so that it can be taken back.
    await client.query(
      `INSERT INTO editions (studio_id, part_id, source_id, file_part_id, name, music)
       SELECT $1, parts.id, sources.id, file_part_id, sources.file_name || ', ' || parts.name, music
         FROM parts JOIN pieces ON pieces.id = piece_id JOIN sources ON sources.id = coalesce(parts.source_id, pieces.source_id)
        WHERE parts.studio_id = $1 AND parts.id = $2 ON CONFLICT (part_id, source_id, file_part_id) DO NOTHING`,
      [studioId, partId],
    );
    await client.query(
      'UPDATE parts SET source_id = $3, file_part_id = $4, music = $5, bars = $6, notes = $7, bar_labels = $8 WHERE studio_id = $1 AND id = $2',
      [studioId, partId, edition.source_id, edition.file_part_id, edition.music, carried.bars, carried.notes, carried.barLabels],
    );
    await writePassages(client, studioId, partId, carried.passages);
    return { lost, moved };
  });
  return good(outcome);
}
