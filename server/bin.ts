/** What was taken away and can be put back for a while, and what is erased for good. */
import type { Access } from './access';
import { db, inTransaction } from './db';
import { dropUnusedFrozen } from './handouts/frozen';
import { isId } from './id';
import { dropUnusedSources } from './sources';
import { noteDoing } from './doors/doings';

/** Days that something lies in the bin (judgement). */
export const BIN_DAYS = 30;

export interface BinRow {
  kind: 'piece' | 'player';
  id: string;
  name: string;
  removedAt: Date;
}

/** What lies there, the latest first. */
export async function binOf(access: Access): Promise<BinRow[]> {
  const { rows } = await db(access).query<BinRow>(
    `SELECT 'piece' AS kind, id, title AS name, removed_at AS "removedAt" FROM pieces WHERE studio_id = $1 AND removed_at IS NOT NULL
     UNION ALL SELECT 'player', id, name, removed_at FROM players WHERE studio_id = $1 AND removed_at IS NOT NULL ORDER BY "removedAt" DESC, id`,
    [access.studio],
  );
  return rows;
}

/** Erases a piece that lies in the bin, with its parts, marks and sheets. False where it does not lie there. */
export async function erasePiece(access: Access, id: string): Promise<boolean> {
  if (!isId(id)) return false;
  return inTransaction(access, async (client) => {
    const { rows } = await client.query<{ title: string }>('SELECT title FROM pieces WHERE studio_id = $1 AND id = $2 AND removed_at IS NOT NULL FOR UPDATE', [
      access.studio,
      id,
    ]);
    if (!rows[0]) return false;
    await client.query(
      "DELETE FROM settings WHERE studio_id = $1 AND scope = 'part' AND scope_id IN (SELECT id FROM parts WHERE studio_id = $1 AND piece_id = $2)",
      [access.studio, id],
    );
    await client.query('DELETE FROM pieces WHERE studio_id = $1 AND id = $2', [access.studio, id]);
    await dropUnusedSources(client, access);
    await dropUnusedFrozen(client, access);
    await noteDoing(client, access, 'erased', rows[0].title);
    return true;
  });
}

/**
 * Erases a player who lies in the bin: own marks, links, browsers, seats, and the name where it was noted. False where they do not lie
 * there.
 */
export async function erasePlayer(access: Access, id: string): Promise<boolean> {
  if (!isId(id)) return false;
  return inTransaction(access, async (client) => {
    const { rows } = await client.query<{ name: string }>('DELETE FROM players WHERE studio_id = $1 AND id = $2 AND removed_at IS NOT NULL RETURNING name', [
      access.studio,
      id,
    ]);
    if (!rows[0]) return false;
    const { name } = rows[0];
    await client.query("DELETE FROM settings WHERE studio_id = $1 AND (scope_id = $2 OR (key = 'playerId' AND value = to_jsonb($2::text)))", [
      access.studio,
      id,
    ]);
    await client.query("UPDATE settings SET value = value - $2::text WHERE studio_id = $1 AND key IN ('seats', 'divisi') AND value ? $2::text", [
      access.studio,
      id,
    ]);
    // What could be taken back names them.
    await client.query('DELETE FROM part_deeds WHERE studio_id = $1 AND (before::text LIKE $2 OR after::text LIKE $2)', [access.studio, `%${id}%`]);
    await client.query("UPDATE doings SET about = 'somebody who was erased' WHERE studio_id = $1 AND about = $2", [access.studio, name]);
    await client.query("UPDATE doings SET person = 'somebody who was erased' WHERE studio_id = $1 AND person = $2 AND what = 'came in by their link'", [
      access.studio,
      name,
    ]);
    await noteDoing(client, access, 'erased', 'a player');
    return true;
  });
}

/** Erases what has lain in the bin for its time. @returns how many pieces and players */
export async function emptyBin(access: Access): Promise<number> {
  const old = (await binOf(access)).filter(({ removedAt }) => removedAt.getTime() < Date.now() - BIN_DAYS * 86_400_000);
  let erased = 0;
  for (const { kind, id } of old) if (await (kind === 'piece' ? erasePiece : erasePlayer)(access, id)) erased++;
  return erased;
}

/** Everything that is kept about a player, to be handed to them. Null where there is no such player. */
export async function aboutPlayer(access: Access, id: string): Promise<{ name: string; about: object } | null> {
  if (!isId(id)) return null;
  const of = [access.studio, id];
  const many = async (sql: string): Promise<object[]> => (await db(access).query<object>(sql, of)).rows;
  const [player] = (await many(
    `SELECT name, instrument, size, tuning, hand, measured, technique, level, thumb_position AS "thumbPosition", created_at AS since FROM players WHERE studio_id = $1 AND id = $2`,
  )) as Array<{ name: string }>;
  if (!player) return null;
  const where = 'FROM markings JOIN parts ON parts.id = part_id JOIN pieces ON pieces.id = piece_id';
  const handed = 'JOIN handouts ON handouts.id = handout_id JOIN parts ON parts.id = part_id JOIN pieces ON pieces.id = piece_id';
  const [marks, history, seats, links, browsers, settings, handOuts, pencil, answers] = await Promise.all([
    many(`SELECT title AS piece, parts.name AS part, target, kind, value, why, author ${where} JOIN marks ON marking_id = markings.id
           WHERE markings.studio_id = $1 AND player_id = $2 ORDER BY title, position, target, kind`),
    many(`SELECT title AS piece, parts.name AS part, at, author, reason, changes ${where} JOIN change_sets ON marking_id = markings.id
           WHERE markings.studio_id = $1 AND player_id = $2 ORDER BY sequence`),
    many(`SELECT title AS piece, parts.name AS part FROM settings JOIN parts ON parts.id = scope_id JOIN pieces ON pieces.id = piece_id
           WHERE settings.studio_id = $1 AND key = 'seats' AND value ? $2::text ORDER BY title, position`),
    many(
      `SELECT made_at AS made, made_by AS by, expires_at AS expires, revoked_at AS ended, used_at AS used FROM links WHERE studio_id = $1 AND player_id = $2 ORDER BY made_at`,
    ),
    many(
      `SELECT device, sessions.made_at AS since, seen_at AS seen FROM sessions JOIN links ON links.id = link_id WHERE sessions.studio_id = $1 AND player_id = $2 ORDER BY since`,
    ),
    many(`SELECT title AS piece, parts.name AS part FROM settings JOIN parts ON parts.id = scope_id JOIN pieces ON pieces.id = piece_id
           WHERE settings.studio_id = $1 AND key = 'playerId' AND value = to_jsonb($2::text) ORDER BY title, position`),
    many(`SELECT title AS piece, parts.name AS part, number, made_at AS made, own, line, opened_at AS opened, copied FROM handout_players ${handed}
           WHERE handout_players.studio_id = $1 AND player_id = $2 ORDER BY made_at`),
    many(`SELECT title AS piece, parts.name AS part, number, place, kind, value, at FROM pencil ${handed}
           WHERE pencil.studio_id = $1 AND player_id = $2 AND value IS NOT NULL ORDER BY at`),
    many(`SELECT title AS piece, parts.name AS part, number, bar_labels[bar + 1] AS bar, kind, words, at, settled_at AS settled FROM answers ${handed}
           WHERE answers.studio_id = $1 AND player_id = $2 ORDER BY received_at`),
  ]);
  return { name: player.name, about: { player, ownMarks: marks, history, sitsIn: seats, checkedFor: settings, handOuts, pencil, answers, links, browsers } };
}
