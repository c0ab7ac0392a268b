/** What was done on a part and is no mark, and what was done from its Desk to other markings: the rest of its chain of undo. */
import type { Access } from './access';
import { z } from 'zod';
import type { ChangeSet } from '../core/marking/change';
import type { Marking } from '../core/marking/mark';
import { deedShape, type PartDeed } from '../core/marking/part-deed';
import { db, type Queryable } from './db';
import { marksThere, NOT_TO_COME, setOf, SET_COLUMNS, type SetRow } from './markings';

export type Deed = z.infer<typeof deedShape>;

/** Rows that a chain of undo reaches back. */
const MOST = 200;

/** Stored once, however often it is sent; one after the other on a part, so that they are numbered as they come to be seen. */
export async function writeDeed(
  client: Queryable,
  access: Access,
  partId: string,
  { id, at, reason, undoes }: Deed,
  { about, before, after }: Pick<PartDeed, 'about' | 'before' | 'after'>,
): Promise<void> {
  await client.query('SELECT id FROM parts WHERE studio_id = $1 AND id = $2 FOR NO KEY UPDATE', [access.studio, partId]);
  await client.query(
    `INSERT INTO part_deeds (id, studio_id, part_id, author, at, reason, about, before, after, undoes)
     SELECT $1, $2, $3, $4, ${NOT_TO_COME}, $6, $7, $8, $9, $10 FROM (SELECT $5::timestamptz AS at) AS said ON CONFLICT (id) DO NOTHING`,
    [id, access.studio, partId, access.person, at, reason, about, JSON.stringify(before), JSON.stringify(after), undoes],
  );
}

/** The latest deeds, oldest first. */
export async function deedsOf(access: Access, partId: string): Promise<PartDeed[]> {
  const { rows } = await db(access).query(
    `SELECT * FROM (SELECT id, at, reason, about, before, after, undoes, sequence FROM part_deeds
                     WHERE studio_id = $1 AND part_id = $2 ORDER BY sequence DESC LIMIT $3) latest ORDER BY sequence`,
    [access.studio, partId, MOST],
  );
  return rows.map(({ id, at, reason, about, before, after, undoes }) => ({ id, at: at.toISOString(), reason, about, before, after, undoes }));
}

/** They name passages and findings of a file that is no longer the part's. */
export const forgetDeeds = (client: Queryable, access: Access, partId: string) =>
  client.query('DELETE FROM part_deeds WHERE studio_id = $1 AND part_id = $2', [access.studio, partId]);

/** Sets of a marking that is not open on a part's Desk and belong to the Desk's chain all the same. */
export interface Elsewhere {
  markingId: string;
  part: { id: string; name: string };
  /** Oldest first. */
  sets: ChangeSet[];
  /** What is stored where they wrote: what was changed there since cannot be taken back from here. */
  there: Marking;
}

/**
 * Of a part's other markings (single players'), of other parts what was done from its Desk, and whatever was done at once with
 * something that its open markings have.
 * @param open ids of the markings that the Desk holds itself
 * @param own the sets of those
 */
export async function elsewhereOf(access: Access, partId: string, open: readonly string[], own: readonly ChangeSet[]): Promise<Elsewhere[]> {
  const together = own.flatMap((set) => set.together ?? []);
  const { rows } = await db(access).query<SetRow & { marking_id: string; part_id: string; name: string }>(
    // Each of the three by an index of its own: a studio has many more sets than these.
    `WITH wanted AS (
       SELECT marking_id, change_sets.id FROM markings JOIN change_sets ON marking_id = markings.id AND change_sets.studio_id = $1
        WHERE markings.studio_id = $1 AND markings.part_id = $2 AND NOT markings.id = ANY($3)
       UNION SELECT marking_id, id FROM change_sets WHERE studio_id = $1 AND from_part = $2
       UNION SELECT marking_id, id FROM change_sets WHERE studio_id = $1 AND together = ANY($4)
     )
     SELECT * FROM (
       SELECT ${SET_COLUMNS}, marking_id, markings.part_id, parts.name || ', ' || pieces.title AS name FROM wanted
         JOIN change_sets USING (marking_id, id) JOIN markings ON markings.id = marking_id
         JOIN parts ON parts.id = markings.part_id JOIN pieces ON pieces.id = parts.piece_id
        WHERE pieces.removed_at IS NULL AND NOT marking_id = ANY($3)
          AND NOT EXISTS (SELECT 1 FROM change_sets later
                           WHERE later.studio_id = $1 AND later.marking_id = change_sets.marking_id AND later.boundary AND later.sequence >= change_sets.sequence)
        ORDER BY sequence DESC LIMIT $5) latest ORDER BY sequence`,
    [access.studio, partId, open, together, MOST],
  );
  return Promise.all(
    [...new Set(rows.map(({ marking_id: id }) => id))].map(async (markingId) => {
      const of = rows.filter(({ marking_id: id }) => id === markingId);
      const sets = of.map(setOf);
      return { markingId, part: { id: of[0]!.part_id, name: of[0]!.name }, sets, there: await marksThere(db(access), access, markingId, sets) };
    }),
  );
}
