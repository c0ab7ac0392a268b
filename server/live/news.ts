/** What was stored of a part since somebody looked. */
import type { Access } from '../access';
import type { News } from '../../core/marking/live';
import { db } from '../db';
import { setOf, SET_COLUMNS, type SetRow } from '../markings';
import { musicVersion } from '../parts';

/** How far somebody has seen. Who writes on a part holds it (`FOR NO KEY UPDATE`), so that nothing comes to be seen before the last number that was. */
export interface Seen {
  marks: number;
  deeds: number;
}

/** Rows that are told at once; then the next ones. */
const MOST = 200;

export const seenAsText = ({ marks, deeds }: Seen): string => `${marks}.${deeds}`;

export function seenFrom(text: string | null): Seen | null {
  const [, marks, deeds] = /^(\d{1,15})\.(\d{1,15})$/.exec(text ?? '') ?? [];
  return marks === undefined ? null : { marks: Number(marks), deeds: Number(deeds) };
}

/** How far a page that is read from now on will have seen. */
export async function seenNow(access: Access, partId: string): Promise<Seen> {
  const { rows } = await db(access).query<{ marks: string; deeds: string }>(
    `SELECT coalesce((SELECT max(sequence) FROM change_sets JOIN markings ON markings.id = marking_id WHERE markings.studio_id = $1 AND part_id = $2), 0) AS marks,
            coalesce((SELECT max(sequence) FROM part_deeds WHERE studio_id = $1 AND part_id = $2), 0) AS deeds`,
    [access.studio, partId],
  );
  return { marks: Number(rows[0]!.marks), deeds: Number(rows[0]!.deeds) };
}

type Told = Pick<News, 'marks' | 'deeds' | 'music' | 'onShelf'>;

/** What there is since then, and how far one has seen with it; null where the part is not there any more. */
export async function newsSince(access: Access, partId: string, seen: Seen): Promise<{ news: Told; seen: Seen } | null> {
  const [sets, deeds, piece, music] = await Promise.all([
    db(access).query<SetRow & { marking_id: string; sequence: string }>(
      `SELECT ${SET_COLUMNS}, marking_id FROM change_sets JOIN markings ON markings.id = marking_id
        WHERE markings.studio_id = $1 AND part_id = $2 AND sequence > $3 ORDER BY sequence LIMIT $4`,
      [access.studio, partId, seen.marks, MOST],
    ),
    db(access).query<Omit<News['deeds'][number], 'at'> & { at: Date; sequence: string }>(
      `SELECT id, author, at, reason, about, before, after, undoes, sequence FROM part_deeds
        WHERE studio_id = $1 AND part_id = $2 AND sequence > $3 ORDER BY sequence LIMIT $4`,
      [access.studio, partId, seen.deeds, MOST],
    ),
    db(access).query<{ on_shelf: boolean }>(
      'SELECT removed_at IS NULL AS on_shelf FROM parts JOIN pieces ON pieces.id = piece_id WHERE parts.studio_id = $1 AND parts.id = $2',
      [access.studio, partId],
    ),
    musicVersion(access, partId),
  ]);
  if (!piece.rows[0] || music === null) return null;
  const last = (rows: ReadonlyArray<{ sequence: string }>, before: number) => Math.max(before, Number(rows.at(-1)?.sequence ?? 0));
  return {
    news: {
      marks: sets.rows.map((row) => ({ markingId: row.marking_id, author: row.author, set: setOf(row) })),
      deeds: deeds.rows.map(({ sequence: _, at, ...deed }) => ({ ...deed, at: at.toISOString() })),
      music,
      onShelf: piece.rows[0].on_shelf,
    },
    seen: { marks: last(sets.rows, seen.marks), deeds: last(deeds.rows, seen.deeds) },
  };
}
