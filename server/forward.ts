/** Brings records of earlier versions forward, all of them or none. */
import { changesForward, markForward, namesForward, RECORD_VERSION, resolutionBefore } from '../core/marking/versions';
import type { Change } from '../core/marking/change';
import type { MarkKind } from '../core/marking/kinds';
import { partDocument } from '../core/formats/musicxml/part-document';
import { readScoreBytes } from '../core/formats/read';
import { inOwnersTransaction, pool, type Queryable } from './db';

/** @returns how many parts had something to bring forward */
export async function bringForward(): Promise<number> {
  const parts = await recordsForward();
  await documentsForward('parts', 'coalesce(parts.source_id, pieces.source_id)');
  await documentsForward('editions', 'editions.source_id');
  return parts;
}

/** Cuts the documents of parts anew that do not say how their score counts; a file at a time. */
async function documentsForward(table: 'parts' | 'editions', sourceId: string): Promise<void> {
  const from = table === 'parts' ? 'parts JOIN pieces ON pieces.id = piece_id' : 'editions';
  const { rows } = await pool().query<{ source: string; ids: string[]; names: string[] }>(
    `SELECT ${sourceId} AS source, array_agg(${table}.id) AS ids, array_agg(file_part_id) AS names FROM ${from} WHERE ${table}.version < $1 GROUP BY 1`,
    [RECORD_VERSION],
  );
  for (const { source, ids, names } of rows) {
    const { rows: files } = await pool().query<{ bytes: Buffer }>('SELECT bytes FROM sources WHERE id = $1', [source]);
    const read = readScoreBytes(files[0]!.bytes);
    if (!read.ok) {
      console.warn(`a stored file cannot be read any more, its parts stay as they are: ${read.problem.what}`);
      continue;
    }
    const { document, score } = read.value;
    await inOwnersTransaction(async (client) => {
      for (const [i, id] of ids.entries()) {
        const part = score.parts.find((each) => each.id === names[i]);
        if (!part) continue;
        const music = partDocument(document, part.id, score.timeLine);
        await client.query(`UPDATE ${table} SET music = $2, version = $3 WHERE id = $1`, [id, music, RECORD_VERSION]);
        if (table === 'parts') await client.query('UPDATE parts SET bar_labels = $2 WHERE id = $1', [id, part.bars.map((bar) => bar.label)]);
      }
    });
  }
}

async function recordsForward(): Promise<number> {
  return inOwnersTransaction(async (client) => {
    // Two starts at once: the second one finds nothing left to do.
    await client.query('LOCK TABLE markings IN SHARE ROW EXCLUSIVE MODE');
    const { rows } = await client.query<{ id: string }>(
      `SELECT id FROM parts WHERE EXISTS (SELECT 1 FROM markings WHERE part_id = parts.id AND version < $1)
          OR EXISTS (SELECT 1 FROM editions WHERE part_id = parts.id AND version < $1)
          OR EXISTS (SELECT 1 FROM settings WHERE scope = 'part' AND scope_id = parts.id AND key = 'accepted'
                      AND jsonb_path_exists(value, '$[*] ? (!exists(@.version))')) ORDER BY id`,
      [RECORD_VERSION],
    );
    for (const { id } of rows) await partForward(client, id);
    return rows.length;
  });
}

async function partForward(client: Queryable, partId: string): Promise<void> {
  const resolution = await resolutionOf(client, partId);
  const markings = await client.query<{ id: string }>('SELECT id FROM markings WHERE part_id = $1 AND version < $2', [partId, RECORD_VERSION]);
  for (const { id } of markings.rows) await markingRowForward(client, id, resolution);
  await acceptedForward(client, partId, resolution);
  const editions = await client.query<{ id: string; left_alone: string[] }>('SELECT id, left_alone FROM editions WHERE part_id = $1 AND version < $2', [
    partId,
    RECORD_VERSION,
  ]);
  for (const { id, left_alone: left } of editions.rows) {
    const forward = left.map((each) => namesForward(each, resolution));
    await client.query('UPDATE editions SET left_alone = $2 WHERE id = $1', [id, JSON.stringify(forward)]);
  }
}

/** Ticks to a quarter that a part of the first version was read with. */
export async function resolutionOf(client: Queryable, partId: string): Promise<number> {
  const { rows } = await client.query<{ music: string }>('SELECT music FROM parts WHERE id = $1', [partId]);
  return resolutionBefore(rows[0]?.music ?? '');
}

async function markingRowForward(client: Queryable, markingId: string, resolution: number): Promise<void> {
  const marks = await client.query<{ target: string; kind: MarkKind; value: string }>('SELECT target, kind, value FROM marks WHERE marking_id = $1', [
    markingId,
  ]);
  const forward = marks.rows.map(({ target, kind, value }) => ({
    before: target,
    kind,
    target: namesForward(target, resolution),
    value: markForward(kind, { value }, resolution).value,
  }));
  // By way of a name that no mark has: the new name of one may be the old name of another.
  await client.query(
    `UPDATE marks SET target = '~' || row.target, value = row.value
       FROM jsonb_to_recordset($2) AS row (before text, kind text, target text, value text)
      WHERE marking_id = $1 AND marks.target = row.before AND marks.kind = row.kind`,
    [markingId, JSON.stringify(forward)],
  );
  await client.query("UPDATE marks SET target = substr(target, 2) WHERE marking_id = $1 AND target LIKE '~%'", [markingId]);
  const sets = await client.query<{ id: string; changes: Change[] }>('SELECT id, changes FROM change_sets WHERE marking_id = $1', [markingId]);
  await client.query(
    `UPDATE change_sets SET changes = row.changes FROM jsonb_to_recordset($2) AS row (id uuid, changes jsonb)
      WHERE marking_id = $1 AND change_sets.id = row.id`,
    [markingId, JSON.stringify(sets.rows.map(({ id, changes }) => ({ id, changes: changesForward(changes, resolution) })))],
  );
  await client.query('UPDATE markings SET version = $2 WHERE id = $1', [markingId, RECORD_VERSION]);
}

async function acceptedForward(client: Queryable, partId: string, resolution: number): Promise<void> {
  const { rows } = await client.query<{ value: Array<{ id: string; key: string; version?: number }> }>(
    "SELECT value FROM settings WHERE scope = 'part' AND scope_id = $1 AND key = 'accepted'",
    [partId],
  );
  for (const { value } of rows) {
    const forward = value.map((each) => acceptedFindingForward(each, resolution));
    await client.query("UPDATE settings SET value = $2 WHERE scope = 'part' AND scope_id = $1 AND key = 'accepted'", [partId, JSON.stringify(forward)]);
  }
}

/** A finding that was accepted, with the names that its notes have today. */
export const acceptedFindingForward = <T extends { id: string; key: string; version?: number | undefined }>(accepted: T, resolution: number): T =>
  accepted.version === undefined
    ? { ...accepted, id: namesForward(accepted.id, resolution), key: namesForward(accepted.key, resolution), version: RECORD_VERSION }
    : accepted;
