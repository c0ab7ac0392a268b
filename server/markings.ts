/** Markings: the marks in force, and the change sets that led to them. */
import { z } from 'zod';
import { applyChanges, type Change, type ChangeSet, type Conflict } from '../core/marking/change';
import { LONGEST_TEXT, MARK_KINDS, markKey, valueProblem, type Mark, type MarkKind, type Marking } from '../core/marking/mark';
import { inTransaction, pool, type Queryable } from './db';

export const markShape = z.object({
  value: z.string().max(LONGEST_TEXT),
  origin: z.enum(['coach', 'suggestion']),
  why: z.string().min(1).max(300).optional(),
  off: z.literal(true).optional(),
});
const changeShape = z
  .object({
    target: z.string().min(1).max(200),
    kind: z.enum(MARK_KINDS as [MarkKind, ...MarkKind[]]),
    from: markShape.nullable(),
    to: markShape.nullable(),
  })
  .refine((change) => change.to === null || valueProblem(change.kind, change.to.value) === null, 'this value does not belong to its kind of mark');

export const changeSetShape = z.object({
  id: z.uuid(),
  at: z.iso.datetime(),
  reason: z.string().min(1).max(200),
  undoes: z.uuid().nullable(),
  changes: z.array(changeShape).min(1).max(20_000),
});

export interface StoredMarking {
  id: string;
  name: string;
  marking: Marking;
}

/** The marking of a part for everybody; there is one from the moment the part is taken in. */
export async function markingOfPart(studioId: string, partId: string): Promise<StoredMarking> {
  const { rows } = await pool().query<{ id: string; name: string }>(
    'SELECT id, name FROM markings WHERE studio_id = $1 AND part_id = $2 AND player_id IS NULL ORDER BY created_at LIMIT 1',
    [studioId, partId],
  );
  const row = rows[0];
  if (!row) throw new Error(`part ${partId} has no marking`);
  return { ...row, marking: await marksOf(pool(), studioId, row.id) };
}

interface MarkRow {
  target: string;
  kind: MarkKind;
  value: string;
  origin: Mark['origin'];
  why: string | null;
  off: boolean;
  author: string | null;
}

const markOf = ({ value, origin, why, off, author }: MarkRow): Mark => ({
  value,
  origin,
  ...(why === null ? {} : { why }),
  ...(off ? { off } : {}),
  ...(author === null ? {} : { by: author }),
});

export async function marksOf(client: Queryable, studioId: string, markingId: string): Promise<Marking> {
  const { rows } = await client.query<MarkRow>('SELECT target, kind, value, origin, why, off, author FROM marks WHERE studio_id = $1 AND marking_id = $2', [
    studioId,
    markingId,
  ]);
  return Object.fromEntries(rows.map((row) => [markKey(row.target, row.kind), markOf(row)]));
}

export type HistoryEntry = ChangeSet & { author: string };

/** The latest change sets, oldest first. */
export async function history(studioId: string, markingId: string, limit = 200): Promise<HistoryEntry[]> {
  const { rows } = await pool().query(
    `SELECT * FROM (SELECT id, author, at, reason, changes, undoes, boundary, sequence FROM change_sets WHERE studio_id = $1 AND marking_id = $2 ORDER BY sequence DESC LIMIT $3) latest ORDER BY sequence`,
    [studioId, markingId, limit],
  );
  return rows.map((row) => ({
    id: row.id,
    author: row.author,
    at: row.at.toISOString(),
    reason: row.reason,
    changes: row.changes,
    undoes: row.undoes,
    ...(row.boundary ? { boundary: true } : {}),
  }));
}

export type StoreOutcome = { ok: true } | { ok: false; conflicts: Conflict[]; marking: Marking };

/**
 * Stores change sets in order, all or none. A set that is stored already is passed over, so that sending again after
 * a lost answer does no harm. Where a mark is no longer what the change says it was, nothing is written.
 */
export async function storeChanges(studioId: string, markingId: string, author: string, sets: readonly ChangeSet[]): Promise<StoreOutcome | null> {
  return inTransaction(async (client) => {
    const owner = await client.query('SELECT id FROM markings WHERE studio_id = $1 AND id = $2 FOR UPDATE', [studioId, markingId]);
    if (owner.rowCount === 0) return null;
    const stored = await marksOf(client, studioId, markingId);
    const known = await client.query<{ id: string }>('SELECT id FROM change_sets WHERE studio_id = $1 AND id = ANY($2)', [studioId, sets.map((set) => set.id)]);
    const fresh = sets.filter((set) => !known.rows.some((row) => row.id === set.id));
    let marking = stored;
    for (const set of fresh) {
      const applied = applyChanges(marking, set.changes);
      if (applied.conflicts.length) return { ok: false, conflicts: applied.conflicts, marking: stored };
      marking = applied.marking;
    }
    for (const set of fresh) {
      await client.query('INSERT INTO change_sets (id, studio_id, marking_id, author, at, reason, changes, undoes) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)', [
        set.id,
        studioId,
        markingId,
        author,
        set.at,
        set.reason,
        JSON.stringify(set.changes),
        set.undoes,
      ]);
      await writeMarks(client, studioId, markingId, author, set.changes);
    }
    return { ok: true };
  });
}

export async function writeMarks(client: Queryable, studioId: string, markingId: string, author: string, changes: readonly Change[]): Promise<void> {
  const gone = changes.filter((change) => change.to === null);
  const set = changes.filter((change) => change.to !== null);
  if (gone.length) {
    await client.query(
      `DELETE FROM marks USING jsonb_to_recordset($3) AS row (target text, kind text)
        WHERE studio_id = $1 AND marking_id = $2 AND marks.target = row.target AND marks.kind = row.kind`,
      [studioId, markingId, JSON.stringify(gone.map(({ target, kind }) => ({ target, kind })))],
    );
  }
  if (set.length) {
    await client.query(
      `INSERT INTO marks (studio_id, marking_id, target, kind, value, origin, why, off, author)
       SELECT $1, $2, target, kind, value, origin, why, coalesce(off, false), $4
         FROM jsonb_to_recordset($3) AS row (target text, kind text, value text, origin text, why text, off boolean)
       ON CONFLICT (marking_id, target, kind)
       DO UPDATE SET value = excluded.value, origin = excluded.origin, why = excluded.why, off = excluded.off, author = excluded.author`,
      [studioId, markingId, JSON.stringify(set.map(({ target, kind, to }) => ({ target, kind, ...to! }))), author],
    );
  }
}
