/** What players pencil into their parts: kept with the hand-out that they have, and taken along to the next one. */
import { pencilMoved, type PencilMark } from '../../core/handout/pencil';
import { LIMITS } from '../../core/util/limits';
import { bad, good, type Result } from '../../core/util/result';
import { db, inTransaction, type OfStudio, type Queryable } from '../db';
import { inWorker, type Asker } from '../workers';
import { readAs, givenOf, type StandSheet } from './on-the-stand';

interface Row {
  handoutId: string;
  target: string;
  kind: PencilMark['kind'];
  value: string | null;
  where: string;
  at: Date;
}

const markOf = ({ target, kind, value, where, at }: Row): PencilMark => ({ target, kind, value, where, at: at.toISOString() });

/** What stands in the part of one player; what was written into earlier hand-outs is brought to the latest first. */
export async function pencilOf(access: OfStudio, partId: string, playerId: string, sheet: StandSheet, asker: Asker): Promise<PencilMark[]> {
  const rows = await rowsOf(db(access), access, partId, playerId);
  const latest = sheet.given.id;
  if (rows.some(({ handoutId }) => handoutId !== latest)) return broughtAlong(access, partId, playerId, sheet, asker);
  return rows.filter(({ value }) => value !== null).map(markOf);
}

async function rowsOf(client: Queryable, { studio }: OfStudio, partId: string, playerId: string): Promise<Row[]> {
  const { rows } = await client.query<Row>(
    `SELECT handout_id AS "handoutId", target, kind, value, place AS "where", pencil.at FROM pencil JOIN handouts ON handouts.id = handout_id
      WHERE pencil.studio_id = $1 AND part_id = $2 AND player_id = $3 ORDER BY number, pencil.at, target, kind`,
    [studio, partId, playerId],
  );
  return rows;
}

async function broughtAlong(access: OfStudio, partId: string, playerId: string, { given, frozen }: StandSheet, asker: Asker): Promise<PencilMark[]> {
  // Worked out before the rows are held: it takes a moment.
  const moves = new Map<string, Map<string, string | null>>();
  const [after, before] = await Promise.all([readAs(access, frozen), rowsOf(db(access), access, partId, playerId)]);
  for (const id of new Set(before.map(({ handoutId }) => handoutId))) {
    if (id === given.id) continue;
    const earlier = await givenOf(access, id, playerId);
    const targets = before.filter(({ handoutId }) => handoutId === id).map(({ target }) => target);
    const moved = earlier && (await inWorker('targetsOnNext', { before: await readAs(access, earlier), after, targets }, asker));
    moves.set(id, new Map(moved ?? []));
  }
  return inTransaction(access, async (client) => {
    await held(client, access, given.id, playerId);
    const rows = await rowsOf(client, access, partId, playerId);
    for (const row of rows) {
      const of = moves.get(row.handoutId);
      // What was written a moment ago comes along the next time.
      if (!of?.has(row.target)) continue;
      await client.query('DELETE FROM pencil WHERE studio_id = $1 AND handout_id = $2 AND player_id = $3 AND target = $4 AND kind = $5', [
        access.studio,
        row.handoutId,
        playerId,
        row.target,
        row.kind,
      ]);
      await put(client, access, given.id, playerId, pencilMoved([markOf(row)], of));
    }
    const now = await rowsOf(client, access, partId, playerId);
    return now.filter(({ handoutId, value }) => handoutId === given.id && value !== null).map(markOf);
  });
}

/** Of two writers one waits for the other. */
async function held(client: Queryable, { studio }: OfStudio, handoutId: string, playerId: string): Promise<void> {
  await client.query('SELECT 1 FROM handout_players WHERE studio_id = $1 AND handout_id = $2 AND player_id = $3 FOR UPDATE', [studio, handoutId, playerId]);
}

/** Writes; of each sign at each note the latest stays. A clock that is ahead is not believed. */
async function put(client: Queryable, { studio }: OfStudio, handoutId: string, playerId: string, marks: readonly PencilMark[]): Promise<void> {
  for (const { target, kind, value, where, at } of marks)
    await client.query(
      `INSERT INTO pencil (handout_id, studio_id, player_id, target, kind, value, place, at) VALUES ($1, $2, $3, $4, $5, $6, $7, least($8::timestamptz, now()))
       ON CONFLICT (handout_id, player_id, target, kind) DO UPDATE SET value = excluded.value, place = excluded.place, at = excluded.at WHERE excluded.at >= pencil.at`,
      [handoutId, studio, playerId, target, kind, value, where, at],
    );
}

/** Called by who holds the row of this player. */
export async function writePencil(
  client: Queryable,
  access: OfStudio,
  handoutId: string,
  playerId: string,
  marks: readonly PencilMark[],
): Promise<Result<null>> {
  const { rows } = await client.query<{ n: number }>('SELECT count(*)::int AS n FROM pencil WHERE studio_id = $1 AND handout_id = $2 AND player_id = $3', [
    access.studio,
    handoutId,
    playerId,
  ]);
  if (rows[0]!.n + marks.length > LIMITS.pencil)
    return bad(null, 'There is no room left for more pencil in this part.', 'Rub out what you do not need any more.');
  await put(client, access, handoutId, playerId, marks);
  return good(null);
}

/** Whether the coach may look at it: what the player said last, with this hand-out or one before it. */
export async function showsPencil(access: OfStudio, partId: string, playerId: string): Promise<boolean> {
  const { rows } = await db(access).query<{ shows: boolean }>(
    `SELECT shows_pencil AS shows FROM handout_players JOIN handouts ON handouts.id = handout_id
      WHERE handout_players.studio_id = $1 AND part_id = $2 AND player_id = $3 AND shows_pencil IS NOT NULL ORDER BY number DESC LIMIT 1`,
    [access.studio, partId, playerId],
  );
  return rows[0]?.shows ?? false;
}
