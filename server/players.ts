/** The people of a studio: instrument, hand, level, and how they were taught. */
import type { Access } from './access';
import type { NewPlayer, PlayerChange } from '@/core/instruments/player-shape';
import { instrumentOf, type Instrument } from '@/core/instruments/instrument';
import type { Result } from '@/core/util/result';
import type { PlayerDescription } from '@/core/instruments/player';
import { db, type OfStudio } from './db';

export type PlayerRow = Omit<PlayerDescription, 'size' | 'tuning'> & { id: string; size: string; tuning: string };

export async function players(access: OfStudio): Promise<PlayerRow[]> {
  const { rows } = await db(access).query<PlayerRow>(
    `SELECT id, name, instrument, size, tuning, hand, measured, technique, level, thumb_position AS "thumbPosition"
     FROM players WHERE studio_id = $1 AND removed_at IS NULL ORDER BY name`,
    [access.studio],
  );
  return rows;
}

/** Size and tuning have to make an instrument; what is wrong is said as the core says it. */
export function asInstrument({ instrument, size, tuning }: Pick<NewPlayer, 'instrument' | 'size' | 'tuning'>): Result<Instrument> {
  return instrumentOf(instrument, size, tuning);
}

export async function addPlayer(access: Access, player: NewPlayer): Promise<string> {
  const { name, instrument, size, tuning, hand, measured, technique, level, thumbPosition } = player;
  const { rows } = await db(access).query<{ id: string }>(
    `INSERT INTO players (studio_id, name, instrument, size, tuning, hand, measured, technique, level, thumb_position)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) RETURNING id`,
    [access.studio, name, instrument, size, tuning, hand, measured ? JSON.stringify(measured) : null, JSON.stringify(technique), level, thumbPosition],
  );
  return rows[0]!.id;
}

export async function playerById(access: Access, playerId: string): Promise<PlayerRow | null> {
  const { rows } = await db(access).query<PlayerRow>(
    `SELECT id, name, instrument, size, tuning, hand, measured, technique, level, thumb_position AS "thumbPosition"
     FROM players WHERE studio_id = $1 AND id = $2`,
    [access.studio, playerId],
  );
  return rows[0] ?? null;
}

/** Changes what is said anew; the rest stays. */
export async function changePlayer(access: Access, playerId: string, change: PlayerChange): Promise<void> {
  const { name, instrument, size, tuning, hand, measured, technique, level, thumbPosition, removed } = change;
  await db(access).query(
    `UPDATE players SET
       name = COALESCE($3, name),
       instrument = COALESCE($4, instrument),
       size = COALESCE($5, size),
       tuning = COALESCE($6, tuning),
       hand = COALESCE($7, hand),
       measured = CASE WHEN $8 THEN $9::jsonb ELSE measured END,
       technique = technique || COALESCE($10::jsonb, '{}'),
       level = COALESCE($11, level),
       thumb_position = COALESCE($12, thumb_position),
       removed_at = CASE $13::boolean WHEN true THEN now() WHEN false THEN NULL ELSE removed_at END
     WHERE studio_id = $1 AND id = $2`,
    [
      access.studio,
      playerId,
      name ?? null,
      instrument ?? null,
      size ?? null,
      tuning ?? null,
      hand ?? null,
      measured !== undefined,
      measured ? JSON.stringify(measured) : null,
      technique ? JSON.stringify(technique) : null,
      level ?? null,
      thumbPosition ?? null,
      removed ?? null,
    ],
  );
}
