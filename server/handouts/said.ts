/** What a player says about the hand-outs that they have. */
import type { AnswerKind, SaidByPlayer } from '../../core/handout/shapes';
import { LIMITS } from '../../core/util/limits';
import { bad, good, type Result } from '../../core/util/result';
import type { Access } from '../access';
import { db, inTransaction, type OfStudio } from '../db';
import { isId } from '../id';
import { writePencil } from './pencil';

export interface AnswerRow {
  id: string;
  bar: number | null;
  kind: AnswerKind;
  words: string;
  at: Date;
  settledAt: Date | null;
}

/** A player's own answers to the hand-outs of a part. */
export async function answersBy(access: OfStudio, partId: string, playerId: string): Promise<AnswerRow[]> {
  const { rows } = await db(access).query<AnswerRow>(
    `SELECT answers.id, bar, kind, words, at, settled_at AS "settledAt" FROM answers JOIN handouts ON handouts.id = handout_id
      WHERE answers.studio_id = $1 AND part_id = $2 AND player_id = $3 ORDER BY at, answers.id`,
    [access.studio, partId, playerId],
  );
  return rows;
}

/** What a player says about the hand-out they have: once, however often it is sent. Null where they have none. */
export async function say(
  access: Access,
  handoutId: string,
  playerId: string,
  { opened, copied = [], answers = [], pencil = [], showsPencil }: SaidByPlayer,
): Promise<Result<null> | null> {
  if (!isId(handoutId)) return null;
  return inTransaction(access, async (client) => {
    const { rows } = await client.query<{ copied: number[] }>(
      'SELECT copied FROM handout_players WHERE studio_id = $1 AND handout_id = $2 AND player_id = $3 FOR UPDATE',
      [access.studio, handoutId, playerId],
    );
    const there = rows[0];
    if (!there) return null;
    const known = await client.query<{ n: number }>('SELECT count(*)::int AS n FROM answers WHERE studio_id = $1 AND handout_id = $2 AND player_id = $3', [
      access.studio,
      handoutId,
      playerId,
    ]);
    if (answers.length > 0 && known.rows[0]!.n + answers.length > LIMITS.answers)
      return bad(null, 'You have said a great deal about this part already.', 'Speak with your coach; what you said before has arrived.');
    const ticked = new Set(there.copied);
    for (const { bar, is } of copied)
      if (is) ticked.add(bar);
      else ticked.delete(bar);
    await client.query(
      `UPDATE handout_players SET opened_at = CASE WHEN $4 THEN coalesce(opened_at, now()) ELSE opened_at END, copied = $5, shows_pencil = coalesce($6, shows_pencil)
        WHERE studio_id = $1 AND handout_id = $2 AND player_id = $3`,
      [access.studio, handoutId, playerId, opened ?? false, [...ticked].sort((a, b) => a - b), showsPencil ?? null],
    );
    if (pencil.length > 0) {
      const written = await writePencil(client, access, handoutId, playerId, pencil);
      if (!written.ok) return written;
    }
    for (const { id, bar, kind, words, at } of answers)
      await client.query(
        `INSERT INTO answers (id, studio_id, handout_id, player_id, bar, kind, words, at) VALUES ($1, $2, $3, $4, $5, $6, $7, $8) ON CONFLICT (id) DO NOTHING`,
        [id, access.studio, handoutId, playerId, bar, kind, words, at],
      );
    return good(null);
  });
}
